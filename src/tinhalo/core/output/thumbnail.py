"""A small picture of a design, as on the shelf and among starters: in the colours of its materials."""

from __future__ import annotations

import io
from dataclasses import replace
from functools import lru_cache

import resvg_py
from PIL import Image

from tinhalo.core.artwork.library import Library
from tinhalo.core.engine.built import Build, BuiltLayer
from tinhalo.core.output.paint import paint_of
from tinhalo.core.output.svg_paint import painted
from tinhalo.core.output.svg_path import marks, polygons
from tinhalo.core.units import number

#: Dots of a picture's longer side.
_DOTS = 200


def thumbnail(built: Build) -> str:
    """SVG of everything that leaves, the bottom of the stack first; an empty picture when there is nothing."""
    x0, y0, x1, y1 = built.bounds or (0.0, 0.0, 1.0, 1.0)
    margin = 0.04 * max(x1 - x0, y1 - y0)
    box = [x0 - margin, -y1 - margin, x1 - x0 + 2 * margin, y1 - y0 + 2 * margin]
    # A hairline in a darker tone keeps pale layers apart from the paper.
    stroke = number(max(box[2], box[3]) / 400)
    carving = built.design.carving
    downs = {b.layer.id: carving.levels_down(b.layer.id) if carving else None for b in built.layers}
    paths = "".join(_painted(b, built.library, downs[b.layer.id]) for b in reversed(built.leaving()))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{" ".join(number(v) for v in box)}">'
        f'<g fill-rule="evenodd" stroke="#00000040" stroke-width="{stroke}">{paths}</g></svg>'
    )


def as_png(picture: str, width: int) -> bytes:
    """Such a picture, so many dots wide."""
    return bytes(resvg_py.svg_to_bytes(svg_string=picture, width=width, dpi=96, skip_system_fonts=True))


def _painted(built: BuiltLayer, library: Library, down: int | None) -> str:
    """A layer in its material's colour; what is scored as a line, what is sunk as a shade."""
    region, process = built.region, built.layer.process
    fill = f'fill="{built.material.colour}"'
    if process in ("score", "draw"):
        fill = 'fill="none" stroke="#000000a0"'
    elif down is not None:
        fill = f'fill="{_shaded(built.material.colour, down)}"'
    elif process in ("engrave", "carve"):
        fill = 'fill="#00000040"'
    areas = "" if region.area.is_empty else f'<path d="{polygons(region.area.geoms, 2)}" {fill}/>'
    paint = paint_of(built.layer.printed_with, built.material.colour, built.measures.bounds, library)
    if paint and areas and built.measures.bounds:
        small = replace(paint, own=_reduced(paint.own))
        areas += painted(small, f"of-{built.layer.id}", [polygons(region.area.geoms, 2)], built.measures.bounds)
    strokes = f'<path d="{marks(region.marks)}" stroke="#000000a0"/>' if len(region.marks) else ""
    return areas + strokes


def _shaded(colour: str, down: int) -> str:
    """A colour in the shade of so many levels over it."""
    share = min(0.14 * down, 0.8)
    parts = [(int(colour[k : k + 2], 16), dark) for k, dark in zip((1, 3, 5), (0x2A, 0x1C, 0x12), strict=True)]
    return "#" + "".join(f"{round(light + (dark - light) * share):02x}" for light, dark in parts)


@lru_cache(maxsize=16)
def _reduced(picture: bytes) -> bytes:
    """A picture with no more dots than are seen; nothing of nothing."""
    if not picture:
        return picture
    with Image.open(io.BytesIO(picture)) as opened:
        opened.thumbnail((_DOTS, _DOTS))
        held = io.BytesIO()
        opened.save(held, "PNG")
    return held.getvalue()
