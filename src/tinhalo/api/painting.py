"""What printed layers are filled with, for the stage."""

from __future__ import annotations

from pydantic import BaseModel

from tinhalo.core.engine.built import Build, BuiltLayer
from tinhalo.core.output import svg_path
from tinhalo.core.output.paint import paint_of


class FigureReply(BaseModel):
    """Path data in a colour, in mm of its tile, which spans from 0 up to minus its height (y down)."""

    colour: str
    path: str


class PaintReply(BaseModel):
    """A tile that comes again side by side, or once: size in mm, and its map to the drawing as SVG has it (y down).

    ``file`` is the id of the picture on it, if it is one.
    """

    width_mm: float
    height_mm: float
    matrix: tuple[float, float, float, float, float, float]
    figures: list[FigureReply]
    file: str
    repeated: bool


def paint_reply(made: Build, built: BuiltLayer) -> PaintReply | None:
    """The paint of a layer; None where it is plain."""
    paint = paint_of(built.layer.printed_with, built.material.colour, built.measures.bounds, made.library)
    if paint is None:
        return None
    (a, c, e), (b, d, f) = paint.down.tolist()
    return PaintReply(
        width_mm=paint.size[0],
        height_mm=paint.size[1],
        matrix=(a, b, c, d, e, f),
        figures=[FigureReply(colour=one.colour, path=svg_path.curves(one.contours)) for one in paint.figures],
        file=paint.file,
        repeated=paint.repeated,
    )
