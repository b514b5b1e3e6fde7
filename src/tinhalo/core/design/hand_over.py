"""How a design leaves: what files say of each process, which formats there are, and how pictures are made."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.design.laying import Laying
from tinhalo.core.design.lining_up import LiningUp
from tinhalo.core.design.solids import Solids
from tinhalo.core.document.base import READABLE, Colour, Strict
from tinhalo.core.document.fields import mm, plain
from tinhalo.core.materials import Price

Process = Literal["cut", "through", "score", "draw", "engrave", "print", "carve", "guide"]
#: What the lines of a file are for: a process, or to line it up by.
Use = Process | Literal["mark"]
#: Processes by which a layer's pieces come free: cut down to the carrier of a film, or through that, too.
CUTS: frozenset[Process] = frozenset({"cut", "through"})
#: Processes that follow lines on a surface: scored by a beam or a wheel, drawn by a pen or a foil tip.
LINES: frozenset[Process] = frozenset({"score", "draw"})
Format = Literal["svg", "dxf", "dxf_r12", "pdf", "eps", "hpgl", "tiles", "png"]

#: What files hold: what can be cut of one piece of material as it lies, one layer, or all layers in register.
Kind = Literal["boards", "layers", "together"]

#: A machine follows the line itself, whatever its width; this is what is seen of it, in mm.
HAIRLINE = 0.1
#: Lasers take only lines this narrow for cuts, in mm (common practice).
LASER_LINE = 0.01


class Leaving(Strict):
    """How a layer leaves: as its outline, or as the area inside that, in a colour.

    No colour means the colour of the layer's material. Open strokes are lines whatever is said here.
    """

    draw: Literal["line", "area"] = "line"
    colour: Colour | None = None
    line_width: Annotated[float, mm("of lines", gt=0, le=100)] = HAIRLINE
    spot: Annotated[
        str,
        Field(
            max_length=40,
            pattern=r"^[ -'*-\[\]-~]*$",
            description="name of the lines' spot colour in PDF and EPS; that of the process where it is empty",
        ),
    ] = ""


#: What leaves how where nobody says otherwise. The colours are our own, and differ in lightness, too: CIE L* of 27 for
#: what is cut, 38 for what is drawn, 49 scored, 58 cut through, 68 engraved.
USUAL: dict[Process, Leaving] = {
    "cut": Leaving(draw="line", colour="#7a1648"),
    "through": Leaving(draw="line", colour="#d66f33"),
    "score": Leaving(draw="line", colour="#1d8275"),
    "draw": Leaving(draw="line", colour="#3354b0"),
    "engrave": Leaving(draw="area", colour="#d69a2d"),
    "print": Leaving(draw="area"),
    "carve": Leaving(draw="area"),
}


class Table(Strict):
    """How each process leaves; what is not said is as usual. Guides never leave."""

    cut: Leaving = USUAL["cut"]
    through: Leaving = USUAL["through"]
    score: Leaving = USUAL["score"]
    draw: Leaving = USUAL["draw"]
    engrave: Leaving = USUAL["engrave"]
    print: Leaving = USUAL["print"]
    carve: Leaving = USUAL["carve"]

    def of(self, process: Process) -> Leaving:
        """How a process leaves."""
        return Leaving() if process == "guide" else getattr(self, process)


def _preset(**changed: Leaving) -> Table:
    return Table().model_copy(update=changed)


def _lines(width: float, *processes: Process) -> dict[str, Leaving]:
    """The usual lines of some processes at another width in mm."""
    return {one: USUAL[one].model_copy(update={"draw": "line", "line_width": width}) for one in processes}


#: Tables to begin from, in general words: what is common for such machines (common practice; the colours are our own).
PRESETS: dict[str, Table] = {
    "Laser": _preset(**_lines(LASER_LINE, "cut", "through", "score", "draw")),
    "Film cutter": _preset(
        cut=Leaving(), through=USUAL["through"], engrave=USUAL["engrave"].model_copy(update={"draw": "line"})
    ),
    "Mill": _preset(
        **_lines(0.25, "cut", "through", "score", "draw", "engrave"), carve=Leaving(colour="#3d3a6b", line_width=0.25)
    ),
    "Printer": _preset(
        cut=Leaving(draw="area"),
        through=Leaving(draw="area"),
        score=Leaving(colour="#7d7d7d"),
        engrave=Leaving(draw="area"),
    ),
    "For sale": _preset(**dict.fromkeys(("cut", "through", "score", "draw", "engrave"), Leaving(draw="area"))),
}


class Picture(Strict):
    """How pictures are made."""

    dots_per_inch: Annotated[float, plain("dots for each inch", ge=10, le=2_400)] = 300
    background: Annotated[
        Colour | None, Field(description="colour of the ground; see-through where it is not said")
    ] = None


#: Sheets of office printers that a page is put on in tiles.
TilePaper = Literal["a4", "a3", "letter", "legal"]


class Tiling(Strict):
    """How a page is put on sheets of an office printer."""

    paper: TilePaper = "a4"
    overlap: Annotated[float, mm("of neighbouring sheets", ge=0, le=50)] = 10


class Costs(Strict):
    """What the job sheet counts with beside the prices of materials: a minute at the machine, and the currency."""

    per_minute: Price = 0
    currency: Annotated[str, Field(max_length=8), READABLE] = "€"


class HandOver(Strict):
    """What is handed over: which files, and what they say."""

    formats: Annotated[tuple[Format, ...], Field(min_length=1, max_length=8)] = ("svg",)
    files: Annotated[
        tuple[Kind, ...],
        Field(
            min_length=1,
            max_length=3,
            description="what is downloaded: boards or the sheets they are laid on; each layer; all layers in register",
        ),
    ] = ("boards",)
    dxf_unit: Annotated[
        Literal["design", "mm", "in"], Field(description="unit of DXF files: that of the design, or another")
    ] = "design"
    mirror: Annotated[
        Literal["as_material", "all", "none"],
        Field(description="which files leave swapped left for right, last of all"),
    ] = "as_material"
    overcut: Annotated[float, mm("that machines go on past the beginning of a closed cut", ge=0, le=10)] = 0
    laying: Laying | None = None
    lining_up: LiningUp = LiningUp()
    table: Table = Table()
    picture: Picture = Picture()
    tiling: Tiling = Tiling()
    solids: Solids = Solids()
    costs: Costs = Costs()
