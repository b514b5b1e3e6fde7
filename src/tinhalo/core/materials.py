"""The materials that come with the app: thickness, colour, and what can be made of them.

Thicknesses are the nominal ones sheets are sold in, and limits what makers keep to so that nothing tears, snaps or gets
lost (all common practice); colours are our own, for the screen.
"""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict


class Limits(BaseModel):
    """What a material allows.

    Attributes:
        least_width: narrowest stroke that does not tear or snap, in mm.
        least_gap: narrowest opening that the cutter can make and that stays open, in mm.
        least_area: smallest piece that can be handled, in mm².
        weeded: whether what is cut out is picked off a carrier by hand. Pieces keep their places then; where it is not
            so, a piece that is not joined to the rest falls out.
    """

    model_config = ConfigDict(frozen=True)

    least_width: float
    least_gap: float
    least_area: float
    weeded: bool = False


class Material(BaseModel):
    """A sheet material: thickness in mm, colour as #rrggbb, and its limits."""

    model_config = ConfigDict(frozen=True, json_schema_serialization_defaults_required=True)

    id: str
    name: str
    thickness: float
    colour: str
    limits: Limits


def _of(
    id: str, name: str, thickness: float, colour: str, width: float, gap: float, area: float, weeded: bool
) -> Material:
    limits = Limits(least_width=width, least_gap=gap, least_area=area, weeded=weeded)
    return Material(id=id, name=name, thickness=thickness, colour=colour, limits=limits)


# Id, name, thickness, colour; least width, gap and area; whether it is weeded.
MATERIALS: tuple[Material, ...] = (
    _of("vinyl", "Vinyl", 0.08, "#c8452f", 0.8, 0.3, 4, True),
    _of("vinyl-white", "White vinyl", 0.08, "#f4f1ea", 0.8, 0.3, 4, True),
    _of("iron-on", "Iron-on film", 0.1, "#3d3a6b", 0.8, 0.4, 4, True),
    _of("paper", "Paper", 0.1, "#e9dcc1", 1.0, 0.4, 4, False),
    _of("card", "Card 0.3 mm", 0.3, "#d9a441", 1.0, 0.4, 4, False),
    _of("felt", "Felt 1 mm", 1.0, "#5b7a57", 2.0, 0.8, 20, False),
    _of("acrylic-2", "Acrylic 2 mm", 2.0, "#2f6d80", 1.5, 0.2, 9, False),
    _of("acrylic-3", "Acrylic 3 mm", 3.0, "#1f4e63", 1.5, 0.2, 9, False),
    _of("ply-3", "Plywood 3 mm", 3.0, "#c9a06c", 1.5, 0.2, 9, False),
    _of("ply-4", "Plywood 4 mm", 4.0, "#b98b54", 2.0, 0.25, 12, False),
    _of("foam", "Foam 5 mm", 5.0, "#8fa3b5", 3.0, 1.0, 50, False),
)

_BY_ID = {m.id: m for m in MATERIALS}


def is_known(id: str) -> bool:
    """Whether the material is in the list."""
    return id in _BY_ID


def material(id: str) -> Material:
    """The material with that id; one that is not in the list is grey and 1 mm thick, under its own id."""
    return _BY_ID.get(id) or _of(id, id, 1.0, "#999999", 1.0, 0.3, 4, False)


#: What a layer is made of when its design does not say.
DEFAULT_MATERIAL = "ply-3"
