"""The materials that come with the app: thickness, colour, and what can be made of them.

Thicknesses are the nominal ones sheets are sold in, and limits what makers keep to so that nothing tears, snaps or gets
lost (all common practice); colours are our own, for the screen.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.document.base import READABLE, Colour, Identifier, Strict
from tinhalo.core.document.fields import LEAST

#: A limit in mm that steps can be told, too.
Small = Annotated[float, Field(ge=LEAST, le=100, allow_inf_nan=False)]
Length = Annotated[float, Field(ge=LEAST, le=10_000, allow_inf_nan=False)]


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
        margin: how far inside the edge of what it lies on a layer's own edge has to stay, in mm.
        bleed: how far a print on it has to reach over the edge that is cut, in mm; 0 where nobody minds.
        mirrored: whether it is cut from behind, as what is ironed on is: its files leave mirrored.
        kerf: how wide what cuts takes away, in mm: cut lines leave half of it outside of parts, and inside of holes.
        usual_kerf: what a desktop laser takes away of it, in mm, to offer where the kerf is set; 0 where none cuts it.
        speed: at which it is cut, in mm a second.
        tool: diameter of the milling tool, in mm; None where a beam or a knife cuts.
    """

    least_width: Small
    least_gap: Small
    least_area: Length
    weeded: bool = False
    sheet_width: Length = 600
    sheet_height: Length = 400
    margin: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] = 0
    bleed: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] = 1
    mirrored: bool = False
    kerf: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)] = 0
    usual_kerf: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)] = 0
    speed: Annotated[float, Field(ge=0.1, le=2_000, allow_inf_nan=False)] = 20
    tool: Small | None = None

    @property
    def opening(self) -> float:
        """Width in mm from which an opening can be cut and stays open: a milling tool has to get in, too."""
        return max(self.least_gap, self.tool or 0)


#: In the maker's own currency.
Price = Annotated[float, Field(ge=0, le=1_000_000, allow_inf_nan=False)]
#: What its surface is like, to look at.
Surface = Literal["matt", "gloss", "mirror", "wood", "felt", "paper", "metal"]


class Material(Strict):
    """A sheet material: thickness in mm, colour as #rrggbb, its limits, and what its surface is like.

    ``price`` is that of a sheet as large as its limits say, in the maker's currency; 0 where it is not known.
    """

    id: Identifier
    name: Annotated[str, Field(min_length=1, max_length=80), READABLE]
    thickness: Length
    colour: Colour
    limits: Limits
    surface: Surface = "matt"
    price: Price = 0


def _shipped(
    id: str,
    name: str,
    thickness: float,
    colour: str,
    width: float,
    gap: float,
    area: float,
    sheet: tuple[float, float],
    *,
    tool: float | None = None,
    weeded: bool = False,
    mirrored: bool = False,
    speed: float = 20,
    kerf: float = 0,
    surface: Surface = "matt",
) -> Material:
    limits = Limits(
        least_width=width,
        least_gap=gap,
        least_area=area,
        sheet_width=sheet[0],
        sheet_height=sheet[1],
        tool=tool,
        weeded=weeded,
        mirrored=mirrored,
        speed=speed,
        usual_kerf=kerf,
    )
    return Material(id=id, name=name, thickness=thickness, colour=colour, limits=limits, surface=surface)


# The paper sizes are ISO 216's A3; the others are what desktop machines take and what is sold (common practice).
# After the colour: least width, gap and area, and the sheet. Speeds are those of knives, desktop lasers, small mills;
# kerfs those of carbon dioxide lasers of 40 to 60 W (common practice, from memory): a test cut says one's own.
MATERIALS: tuple[Material, ...] = (
    _shipped("vinyl", "Vinyl", 0.08, "#c8452f", 0.8, 0.3, 4, (300, 600), weeded=True, speed=100),
    _shipped("vinyl-white", "White vinyl", 0.08, "#f4f1ea", 0.8, 0.3, 4, (300, 600), weeded=True, speed=100),
    _shipped("iron-on", "Iron-on film", 0.1, "#3d3a6b", 0.8, 0.4, 4, (300, 600), weeded=True, mirrored=True, speed=100),
    _shipped("foil", "Metal film", 0.08, "#c9a24a", 0.8, 0.3, 4, (300, 600), weeded=True, speed=80, surface="metal"),
    _shipped("print-film", "Printable film", 0.1, "#f7f5ef", 0.8, 0.3, 4, (210, 297), weeded=True, speed=60),
    _shipped("glitter", "Glitter film", 0.15, "#b06a86", 1.2, 0.5, 6, (300, 600), weeded=True, speed=50),
    _shipped("textured", "Textured film", 0.2, "#6f6a60", 1.2, 0.5, 6, (300, 600), weeded=True, speed=60),
    _shipped("paper", "Paper", 0.1, "#e9dcc1", 1.0, 0.4, 4, (297, 420), kerf=0.1, speed=100, surface="paper"),
    _shipped("card", "Card 0.3 mm", 0.3, "#d9a441", 1.0, 0.4, 4, (297, 420), kerf=0.1, speed=60, surface="paper"),
    _shipped("felt", "Felt 1 mm", 1.0, "#5b7a57", 2.0, 0.8, 20, (300, 450), speed=30, surface="felt"),
    _shipped(
        "acrylic-2", "Acrylic 2 mm", 2.0, "#2f6d80", 1.5, 0.2, 9, (600, 400), kerf=0.15, speed=15, surface="gloss"
    ),
    _shipped(
        "acrylic-3", "Acrylic 3 mm", 3.0, "#1f4e63", 1.5, 0.2, 9, (600, 400), kerf=0.18, speed=10, surface="gloss"
    ),
    _shipped(
        "clear-3",
        "Clear acrylic 3 mm",
        3.0,
        "#dfe8ea",
        1.5,
        0.2,
        9,
        (600, 400),
        kerf=0.18,
        speed=10,
        surface="gloss",
    ),
    _shipped(
        "mirror-3",
        "Mirror acrylic 3 mm",
        3.0,
        "#c3c9cf",
        1.5,
        0.2,
        9,
        (600, 400),
        kerf=0.18,
        speed=10,
        surface="mirror",
    ),
    _shipped("ply-3", "Plywood 3 mm", 3.0, "#c9a06c", 1.5, 0.2, 9, (600, 400), kerf=0.2, speed=12, surface="wood"),
    _shipped("ply-4", "Plywood 4 mm", 4.0, "#b98b54", 2.0, 0.25, 12, (600, 400), kerf=0.22, speed=8, surface="wood"),
    _shipped("mdf-3", "MDF 3 mm", 3.0, "#a5855f", 1.5, 0.25, 9, (600, 400), kerf=0.2, speed=10),
    _shipped("wood-4", "Solid wood 4 mm", 4.0, "#a8744a", 2.5, 0.3, 15, (300, 200), kerf=0.22, speed=8, surface="wood"),
    _shipped("cork-3", "Cork 3 mm", 3.0, "#b98a5e", 2.5, 0.5, 20, (600, 300), kerf=0.25, speed=20),
    _shipped("leather-15", "Leather 1.5 mm", 1.5, "#7a4a32", 2.0, 0.4, 15, (300, 200), kerf=0.2, speed=20),
    _shipped("foam", "Foam 5 mm", 5.0, "#8fa3b5", 3.0, 1.0, 50, (700, 500), speed=30),
    # Two lines of the usual nozzle, 0.4 mm wide, on a bed of the usual size.
    _shipped("print-3", "Printed plastic 3 mm", 3.0, "#e0a13c", 0.8, 0.4, 4, (220, 220), speed=40),
    _shipped("print-12", "Printed plastic 12 mm", 12.0, "#e0a13c", 0.8, 0.4, 4, (220, 220), speed=40),
    _shipped(
        "board-12",
        "Sign board 12 mm, milled",
        12.0,
        "#a9825a",
        4.0,
        3.2,
        80,
        (1200, 600),
        tool=3,
        speed=15,
        surface="wood",
    ),
    _shipped(
        "board-18", "Carving board 18 mm", 18.0, "#c99f63", 4.0, 3.2, 80, (1200, 600), tool=3, speed=15, surface="wood"
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
