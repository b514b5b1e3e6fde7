"""A small picture of a design for the shelf."""

from __future__ import annotations

from tinhalo.core.build import Build
from tinhalo.core.materials import material
from tinhalo.core.output import svg_path
from tinhalo.core.output.svg_path import number


def thumbnail(built: Build) -> str:
    """SVG of everything that leaves, the bottom of the stack first; an empty picture when there is nothing."""
    x0, y0, x1, y1 = built.bounds or (0.0, 0.0, 1.0, 1.0)
    margin = 0.04 * max(x1 - x0, y1 - y0)
    box = [x0 - margin, -y1 - margin, x1 - x0 + 2 * margin, y1 - y0 + 2 * margin]
    # A hairline in a darker tone keeps pale layers apart from the paper.
    stroke = number(max(box[2], box[3]) / 400)
    paths = "".join(
        f'<path d="{svg_path.polygons(b.region.area.geoms, 2)}" fill="{material(b.layer.material).colour}"/>'
        + (f'<path d="{svg_path.marks(b.region.marks)}" stroke="#00000090"/>' if len(b.region.marks) else "")
        for b in reversed(built.leaving())
        if not b.region.is_empty
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{" ".join(number(v) for v in box)}">'
        f'<g fill-rule="evenodd" stroke="#00000040" stroke-width="{stroke}">{paths}</g></svg>'
    )
