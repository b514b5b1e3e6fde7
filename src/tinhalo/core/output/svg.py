"""SVG files at true size.

User units are millimetres: width and height say so, and the viewBox spans the same numbers. Coordinates are the
design's own with y pointing down, so that all layers of a design lie in register. A layer is one group with its id, and
its name as title. A piece is one path, its holes before its shell, filled by the even-odd rule where areas leave;
strokes that follow each other are one path. A pattern or picture comes after these, seen through the same outlines.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from xml.sax.saxutils import escape

from tinhalo.core.design.hand_over import HandOver
from tinhalo.core.output.drawing import Drawing, DrawnLayer
from tinhalo.core.output.path_order import Group, grouped
from tinhalo.core.output.svg_paint import painted
from tinhalo.core.output.svg_path import curves
from tinhalo.core.units import number


def write(drawing: Drawing, options: HandOver | None = None) -> bytes:
    """One SVG file with a group per layer, in the order of ``path_order``."""
    x0, _, _, y1 = drawing.page or (0.0, 0.0, 0.0, 0.0)
    width, height = (number(side) for side in drawing.size)
    drawn = grouped(drawing)
    ids = _ids(group.layer for group in drawn)
    groups = "\n".join(_group(group, id) for group, id in zip(drawn, ids, strict=True))
    text = (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<svg xmlns="http://www.w3.org/2000/svg" version="1.1" '
        f'width="{width}mm" height="{height}mm" viewBox="{number(x0)} {number(-y1)} {width} {height}">\n'
        f"<title>{xml_text(drawing.title)}</title>\n{groups}\n</svg>\n"
    )
    return text.encode()


def _ids(layers: Iterable[DrawnLayer]) -> list[str]:
    """An id for each: copies of a layer on a sheet are counted."""
    seen: dict[str, int] = {}
    ids: list[str] = []
    for layer in layers:
        seen[layer.id] = count = seen.get(layer.id, 0) + 1
        ids.append(_xml_id(layer.id) + (f"_{count}" if count > 1 else ""))
    return ids


def _group(group: Group, id: str) -> str:
    layer, style = group.layer, group.layer.style
    width = f'stroke-width="{number(style.line_width)}"'
    stroke = f'stroke="{style.stroke}" {width}' if style.stroke else 'stroke="none"'
    paths: list[str] = []
    for pieces, run in group.runs():
        if pieces:
            drawings = [curves(path.contours) for path in run]
            paths += [f'<path d="{one}"/>' for one in drawings]
            if layer.paint:
                paths.append(painted(layer.paint, id, drawings, layer.box))
        else:
            # Strokes have no area to be seen by.
            lines = curves([path.shell for path in run])
            paths.append(f'<path d="{lines}" fill="none" stroke="{style.open_stroke}" {width}/>')
    drawn = "\n".join(paths)
    return (
        f'<g id="{id}" fill="{style.fill or "none"}" fill-rule="evenodd" {stroke}>\n'
        f"<title>{xml_text(layer.title)}</title>\n"
        f"<desc>{xml_text(f'{layer.process}, {layer.material}')}</desc>\n{drawn}\n</g>"
    )


def _xml_id(name: str) -> str:
    return name if re.match(r"[A-Za-z_]", name) else f"_{name}"


def xml_text(text: str, *, escaped: bool = True) -> str:
    """Text as XML 1.0 can hold it: without control characters."""
    clean = re.sub(r"[^\t\n\r\x20-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]", "", text)
    return escape(clean) if escaped else clean
