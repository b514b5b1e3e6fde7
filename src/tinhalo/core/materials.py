"""The materials that come with the app: thickness and colour.

Thicknesses are the nominal ones sheets are sold in (common practice); colours are our own, for the screen.
"""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict


class Material(BaseModel):
    """A sheet material: thickness in mm, colour as #rrggbb."""

    model_config = ConfigDict(frozen=True)

    id: str
    name: str
    thickness: float
    colour: str


MATERIALS: tuple[Material, ...] = (
    Material(id="vinyl", name="Vinyl", thickness=0.08, colour="#c8452f"),
    Material(id="vinyl-white", name="White vinyl", thickness=0.08, colour="#f4f1ea"),
    Material(id="paper", name="Paper", thickness=0.1, colour="#e9dcc1"),
    Material(id="card", name="Card 0.3 mm", thickness=0.3, colour="#d9a441"),
    Material(id="felt", name="Felt 1 mm", thickness=1.0, colour="#5b7a57"),
    Material(id="acrylic-2", name="Acrylic 2 mm", thickness=2.0, colour="#2f6d80"),
    Material(id="acrylic-3", name="Acrylic 3 mm", thickness=3.0, colour="#1f4e63"),
    Material(id="ply-3", name="Plywood 3 mm", thickness=3.0, colour="#c9a06c"),
    Material(id="ply-4", name="Plywood 4 mm", thickness=4.0, colour="#b98b54"),
)

_BY_ID = {m.id: m for m in MATERIALS}


def is_known(id: str) -> bool:
    """Whether the material is in the list."""
    return id in _BY_ID


def material(id: str) -> Material:
    """The material with that id; one that is not in the list is grey and 1 mm thick, under its own id."""
    return _BY_ID.get(id) or Material(id=id, name=id, thickness=1.0, colour="#999999")


#: What a layer is made of when its design does not say.
DEFAULT_MATERIAL = "ply-3"
