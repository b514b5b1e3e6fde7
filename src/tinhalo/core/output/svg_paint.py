"""What a printed layer is filled with, in SVG: tiles side by side, seen through the outline.

A tile is defined once and used for a row, the row for all of them. The ``pattern`` element would say the same in fewer
words, but many readers paint each of its tiles apart, and fine lines show between them.
"""

from __future__ import annotations

import base64
from collections.abc import Sequence

from tinhalo.core.geometry.arrays import Box
from tinhalo.core.output.paint import Paint
from tinhalo.core.output.svg_path import curves
from tinhalo.core.units import number


def painted(paint: Paint, id: str, outlines: Sequence[str], box: Box) -> str:
    """Elements that fill outlines (path data) with a paint; ids of theirs begin with ``id``, ``box`` is around them."""
    columns, rows = paint.tiles_over(box)
    if not columns or not rows:
        return ""
    width, height = paint.size
    (a, c, e), (b, d, f) = paint.down.tolist()
    moved = " ".join(f"{value:.9g}" for value in (a, b, c, d, e, f))
    clips = "".join(f'<path d="{one}" clip-rule="evenodd"/>' for one in outlines)
    row = "".join(_use(f"{id}-tile", k * width, 0) for k in columns)
    return (
        f'<defs><clipPath id="{id}-clip">{clips}</clipPath><g id="{id}-tile">{_tile(paint)}</g>'
        f'<g id="{id}-row">{row}</g></defs>\n'
        f'<g clip-path="url(#{id}-clip)" stroke="none"><g transform="matrix({moved})">'
        f"{''.join(_use(f'{id}-row', 0, -k * height) for k in rows)}</g></g>"
    )


def _use(id: str, x: float, y: float) -> str:
    link = f'xmlns:xlink="http://www.w3.org/1999/xlink" xlink:href="#{id}"'
    return f'<use {link} x="{number(x)}" y="{number(y)}"/>'


def _tile(paint: Paint) -> str:
    inside = [f'<path d="{curves(one.contours)}" fill="{one.colour}"/>' for one in paint.figures]
    if paint.own:
        width, height = (number(side) for side in paint.picture_size)
        data = base64.b64encode(paint.picture).decode()
        link = f'xmlns:xlink="http://www.w3.org/1999/xlink" xlink:href="data:image/png;base64,{data}"'
        top = number(-paint.picture_size[1])
        inside.append(f'<image y="{top}" width="{width}" height="{height}" preserveAspectRatio="none" {link}/>')
    return "".join(inside)
