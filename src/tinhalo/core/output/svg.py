"""SVG files at true size.

User units are millimetres: width and height say so, and the viewBox spans the same numbers. Coordinates are the
design's own with y pointing down, so that all layers of a design lie in register. A piece is one path, filled by
the even-odd rule, its holes after its shell; a layer's open marks are one more path. Where other layers' cuts serve
some of a layer's edges, its paths are the lines that are left, without a filling. A layer is one group with its
id and its name as title.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from xml.sax.saxutils import escape

from tinhalo.core.engine.built import BuiltLayer
from tinhalo.core.output.svg_path import closed, curves, marks, number, opened

Bounds = tuple[float, float, float, float]

#: Open strokes have no area to be seen by; machines follow the line itself, whatever its width.
_HAIRLINE = 'stroke-width="0.1"'


def layer_svg(title: str, layers: Sequence[BuiltLayer], bounds: Bounds | None) -> str:
    """One SVG file with a group per layer, in painting order (the bottom of the stack first).

    Args:
        title: name of the file's content.
        layers: exactly built layers, listed from the top of the stack to the bottom.
        bounds: of the page in mm, y up; None for a page with nothing on it.
    """
    x0, y0, x1, y1 = bounds or (0.0, 0.0, 0.0, 0.0)
    width, height = number(x1 - x0), number(y1 - y0)
    groups = "\n".join(_group(built) for built in reversed(layers))
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<svg xmlns="http://www.w3.org/2000/svg" version="1.1" '
        f'width="{width}mm" height="{height}mm" viewBox="{number(x0)} {number(-y1)} {width} {height}">\n'
        f"<title>{_text(title)}</title>\n{groups}\n</svg>\n"
    )


def _group(built: BuiltLayer) -> str:
    layer = built.layer
    made_of = built.material
    if built.cut is None:
        raise ValueError("only exactly built layers can leave")
    line = f'fill="none" stroke="{made_of.colour}" {_HAIRLINE}'
    if built.cut_lines is None:
        paths = "\n".join(f'<path d="{curves(piece)}"/>' for piece in built.cut.pieces())
    else:
        # What is not closed has no inside to be filled.
        found = [*map(closed, built.cut_lines.whole), *map(opened, built.cut_lines.runs)]
        paths = "\n".join(f'<path d="{data}" {line}/>' for data in found)
    if len(built.region.marks):
        paths += f'\n<path d="{marks(built.region.marks)}" {line}/>'
    return (
        f'<g id="{_xml_id(layer.id)}" fill="{made_of.colour}" fill-rule="evenodd" stroke="none">\n'
        f"<title>{_text(layer.title)}</title>\n"
        f"<desc>{_text(f'{layer.process}, {made_of.name}')}</desc>\n{paths}\n</g>"
    )


def _xml_id(name: str) -> str:
    return name if re.match(r"[A-Za-z_]", name) else f"_{name}"


def _clean(text: str) -> str:
    """Without the control characters that XML 1.0 cannot hold."""
    return re.sub(r"[^\t\n\r\x20-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]", "", text)


def _text(text: str) -> str:
    return escape(_clean(text))
