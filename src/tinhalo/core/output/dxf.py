"""DXF files: a layer of the file for every layer, with its name and colour; from the page's lower left corner.

In mm, or in inches where the design is; the header says which ($INSUNITS).

A contour of straight lines and arcs leaves as a polyline with bulges, any other one as one cubic spline. For old
readers there is R12, which knows neither splines nor units: polylines, within ``R12_WITHIN``.
"""

from __future__ import annotations

import io
import logging
import re
from collections.abc import Callable, Sequence
from typing import TypeAlias

import ezdxf
import numpy as np
from ezdxf import units

from tinhalo.core.design.hand_over import HandOver
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.affine import shift
from tinhalo.core.geometry.curves.arcs import bulges
from tinhalo.core.geometry.curves.bezier import straight
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.output.drawing import Drawing, DrawnLayer
from tinhalo.core.output.path_order import grouped
from tinhalo.core.units import MM_PER_INCH

#: How far polylines for old readers may be off a curve, in mm.
R12_WITHIN = 0.003
#: What $INSUNITS says of inches (DXF reference, header section).
_INCHES = 1
#: The layer that every DXF file has: nothing is drawn on it.
_DEFAULT = "0"

# It warns on standard error that release 12 has no units, which is as it is.
logging.getLogger("ezdxf").addHandler(logging.NullHandler())

Drawer: TypeAlias = "Callable[[ezdxf.Modelspace, Contour, Floats, dict[str, str]], None]"


def write(drawing: Drawing, options: HandOver | None = None) -> bytes:
    """A DXF of 2007 (AC1021), the first one that holds names in any script, with arcs and splines."""
    file = ezdxf.new("R2007", setup=False)
    file.units = _INCHES if drawing.unit == "in" else units.MM
    return _written(file, drawing, _smooth)


def write_r12(drawing: Drawing, options: HandOver | None = None) -> bytes:
    """A DXF of release 12 (AC1009), with polylines."""
    return _written(ezdxf.new("R12", setup=False), drawing, _flat)


def _written(file: ezdxf.Drawing, drawing: Drawing, draw: Drawer) -> bytes:
    model = file.modelspace()
    x0, y0, _, _ = drawing.page or (0.0, 0.0, 0.0, 0.0)
    scale = 1 / MM_PER_INCH if drawing.unit == "in" else 1.0
    corner = shift(-x0 * scale, -y0 * scale, scale)
    basic = _told_apart([_rgb(layer) for layer in drawing.layers])
    taken = {_DEFAULT}
    names: dict[int, str] = {}
    for group in grouped(drawing):
        layer = group.layer
        name = names.get(id(layer))
        if name is None:
            name = names[id(layer)] = _name(layer, taken, ascii_only=file.dxfversion == "AC1009")
            added = file.layers.add(name)
            added.rgb = _rgb(layer)
            # For readers without true colours.
            added.color = basic[_rgb(layer)]
        for path in group.paths:
            for contour in path.contours:
                draw(model, contour, corner, {"layer": name})
    if drawing.page:
        width, height = (side * scale for side in drawing.size)
        file.header["$EXTMIN"], file.header["$EXTMAX"] = (0.0, 0.0, 0.0), (width, height, 0.0)
    held = io.StringIO()
    file.write(held)
    return held.getvalue().encode(file.output_encoding, errors="dxfreplace")


def _smooth(model: ezdxf.Modelspace, drawn: Contour, corner: Floats, attributes: dict[str, str]) -> None:
    """A polyline with bulges where all of it is straight or round; else one spline, in which straights are straight."""
    contour = drawn.transformed(corner)
    bulge = bulges(drawn.segments)
    if not np.isfinite(bulge).all():
        _spline(model, contour.segments, attributes)
        return
    points = _bulged(contour.segments, bulge)
    if not contour.closed:
        points.append((*contour.segments[-1, 3].tolist(), 0.0))
    model.add_lwpolyline(points, format="xyb", close=contour.closed, dxfattribs=attributes)


def _bulged(segments: Floats, bulge: Floats) -> list[tuple[float, float, float]]:
    return [(*start, b) for start, b in zip(segments[:, 0].tolist(), bulge.tolist(), strict=True)]


def _spline(model: ezdxf.Modelspace, segments: Floats, attributes: dict[str, str]) -> None:
    """Cubics in a row as one B-spline whose knots are threefold where they meet: the same curve exactly."""
    control = [segments[0, 0], *(point for segment in segments for point in segment[1:])]
    inner = [float(knot) for knot in range(1, len(segments)) for _ in range(3)]
    knots = [0.0] * 4 + inner + [float(len(segments))] * 4
    spline = model.add_spline(degree=3, dxfattribs=attributes)
    spline.control_points = [(float(x), float(y), 0.0) for x, y in control]
    spline.knots = knots
    closed = np.allclose(control[0], control[-1], atol=1e-9)
    spline.dxf.flags = 8 | (1 if closed else 0)


def _flat(model: ezdxf.Modelspace, contour: Contour, corner: Floats, attributes: dict[str, str]) -> None:
    points = Outline.from_contours([contour if contour.closed else _back(contour)]).flattened(R12_WITHIN, 10.0)[0]
    points = points @ corner[:, :2].T + corner[:, 2]
    model.add_polyline2d([tuple(p) for p in points.tolist()], close=contour.closed, dxfattribs=attributes)


def _back(contour: Contour) -> Contour:
    """An open contour with a straight way back: its last vertex is its end."""
    back = straight(contour.segments[-1:, 3], contour.segments[:1, 0])
    return Contour(np.concatenate([contour.segments, back]), np.append(contour.degree, np.uint8(1)))


def _name(layer: DrawnLayer, taken: set[str], *, ascii_only: bool) -> str:
    """The layer's title without what a DXF name must not hold; a number where it is taken."""
    kept = re.sub(r"[<>/\\\":;?*|=,`\x00-\x1f]", " ", layer.title)
    if ascii_only:
        kept = re.sub(r"[^A-Za-z0-9_$-]+", "_", kept).strip("_").upper()[:31] or re.sub(r"\W", "_", layer.id)[:31]
    stem = " ".join(kept.split())[:200] or layer.id
    name, number = stem, 2
    while name.casefold() in taken:
        name, number = f"{stem[:28] if ascii_only else stem}-{number}", number + 1
    taken.add(name.casefold())
    return name


def _rgb(layer: DrawnLayer) -> tuple[int, int, int]:
    colour = layer.style.stroke or layer.style.fill or layer.style.open_stroke
    return (int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16))


#: The colours 1 to 9 of DXF's index, as its reference gives them.
_BASIC = (
    (255, 0, 0),
    (255, 255, 0),
    (0, 255, 0),
    (0, 255, 255),
    (0, 0, 255),
    (255, 0, 255),
    (255, 255, 255),
    (128, 128, 128),
    (192, 192, 192),
)


def _told_apart(colours: Sequence[tuple[int, int, int]]) -> dict[tuple[int, int, int], int]:
    """For each colour the index of the nearest basic one that no other colour has yet; of any, once all are taken."""
    found: dict[tuple[int, int, int], int] = {}
    for rgb in dict.fromkeys(colours):
        away = np.sum((np.array(_BASIC) - np.array(rgb)) ** 2, axis=1).astype(float)
        if len(found) < len(_BASIC):
            away[[index - 1 for index in found.values()]] = np.inf
        found[rgb] = int(away.argmin()) + 1
    return found
