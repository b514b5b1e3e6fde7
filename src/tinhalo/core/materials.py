"""The materials that come with the app: thickness, colour, and what can be made of them.

Thicknesses are the nominal ones sheets are sold in, and limits what makers keep to so that nothing tears, snaps or gets
lost (all common practice); colours are our own, for the screen.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated

from pydantic import Field

from tinhalo.core.lettering.art import Identifier, Strict

#: A limit in mm that steps can be told, too.
Small = Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)]
Length = Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)]


class Limits(Strict):
    """What a material allows.

    Attributes:
        least_width: narrowest stroke that does not tear or snap, in mm.
        least_gap: narrowest opening that the cutter can make and that stays open, in mm.
        least_area: smallest piece that can be handled, in mm².
        weeded: whether what is cut out is picked off a carrier by hand. Pieces keep their places then; where it is not
            so, a piece that is not joined to the rest falls out.
        sheet_width: of a sheet or of what the machine takes, in mm; it may lie either way.
        sheet_height: the same.
        tool: diameter of the milling tool, in mm; None where a beam or a knife cuts.
    """

    least_width: Small
    least_gap: Small
    least_area: Length
    weeded: bool = False
    sheet_width: Length = 600
    sheet_height: Length = 400
    tool: Small | None = None


class Material(Strict):
    """A sheet material: thickness in mm, colour as #rrggbb, and its limits."""

    id: Identifier
    name: Annotated[str, Field(min_length=1, max_length=80)]
    thickness: Length
    colour: Annotated[str, Field(pattern="^#[0-9a-fA-F]{6}$")]
    limits: Limits


# The paper sizes are ISO 216's A3; the others are what desktop machines take and what is sold (common practice).
MATERIALS: tuple[Material, ...] = (
    Material(
        id="vinyl",
        name="Vinyl",
        thickness=0.08,
        colour="#c8452f",
        limits=Limits(least_width=0.8, least_gap=0.3, least_area=4, sheet_width=300, sheet_height=600, weeded=True),
    ),
    Material(
        id="vinyl-white",
        name="White vinyl",
        thickness=0.08,
        colour="#f4f1ea",
        limits=Limits(least_width=0.8, least_gap=0.3, least_area=4, sheet_width=300, sheet_height=600, weeded=True),
    ),
    Material(
        id="iron-on",
        name="Iron-on film",
        thickness=0.1,
        colour="#3d3a6b",
        limits=Limits(least_width=0.8, least_gap=0.4, least_area=4, sheet_width=300, sheet_height=600, weeded=True),
    ),
    Material(
        id="paper",
        name="Paper",
        thickness=0.1,
        colour="#e9dcc1",
        limits=Limits(least_width=1.0, least_gap=0.4, least_area=4, sheet_width=297, sheet_height=420),
    ),
    Material(
        id="card",
        name="Card 0.3 mm",
        thickness=0.3,
        colour="#d9a441",
        limits=Limits(least_width=1.0, least_gap=0.4, least_area=4, sheet_width=297, sheet_height=420),
    ),
    Material(
        id="felt",
        name="Felt 1 mm",
        thickness=1.0,
        colour="#5b7a57",
        limits=Limits(least_width=2.0, least_gap=0.8, least_area=20, sheet_width=300, sheet_height=450),
    ),
    Material(
        id="acrylic-2",
        name="Acrylic 2 mm",
        thickness=2.0,
        colour="#2f6d80",
        limits=Limits(least_width=1.5, least_gap=0.2, least_area=9, sheet_width=600, sheet_height=400),
    ),
    Material(
        id="acrylic-3",
        name="Acrylic 3 mm",
        thickness=3.0,
        colour="#1f4e63",
        limits=Limits(least_width=1.5, least_gap=0.2, least_area=9, sheet_width=600, sheet_height=400),
    ),
    Material(
        id="ply-3",
        name="Plywood 3 mm",
        thickness=3.0,
        colour="#c9a06c",
        limits=Limits(least_width=1.5, least_gap=0.2, least_area=9, sheet_width=600, sheet_height=400),
    ),
    Material(
        id="ply-4",
        name="Plywood 4 mm",
        thickness=4.0,
        colour="#b98b54",
        limits=Limits(least_width=2.0, least_gap=0.25, least_area=12, sheet_width=600, sheet_height=400),
    ),
    Material(
        id="foam",
        name="Foam 5 mm",
        thickness=5.0,
        colour="#8fa3b5",
        limits=Limits(least_width=3.0, least_gap=1.0, least_area=50, sheet_width=700, sheet_height=500),
    ),
    Material(
        id="board-12",
        name="Sign board 12 mm, milled",
        thickness=12.0,
        colour="#a9825a",
        limits=Limits(least_width=4.0, least_gap=3.2, least_area=80, sheet_width=1200, sheet_height=600, tool=3),
    ),
)

#: Of a material that is not known.
_USUAL = Limits(least_width=1.0, least_gap=0.3, least_area=4)

_BY_ID = {m.id: m for m in MATERIALS}


def is_shipped(id: str) -> bool:
    """Whether a material with that id comes with the app."""
    return id in _BY_ID


def find_material(id: str, own: Iterable[Material] = ()) -> Material | None:
    """The material with that id: one's own, or one that comes with the app."""
    return next((one for one in own if one.id == id), None) or _BY_ID.get(id)


def unknown_material(id: str) -> Material:
    """What stands for a material that is in no list: grey and 1 mm thick, under its own id."""
    return Material.model_construct(id=id, name=id, thickness=1.0, colour="#999999", limits=_USUAL)


#: What a layer is made of when its design does not say.
DEFAULT_MATERIAL = "ply-3"
