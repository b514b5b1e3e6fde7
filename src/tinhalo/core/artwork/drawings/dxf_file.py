"""Read a DXF file into what it draws: closed lines are areas, open ones lines (DXF reference; ezdxf reads it)."""

from __future__ import annotations

import io
import math
from collections import Counter
from typing import Any

import ezdxf
import ezdxf.path
import numpy as np
from ezdxf import recover, units

from tinhalo.core.artwork.drawings.chains import chained
from tinhalo.core.artwork.drawings.drawing_file import DrawingFile, Element
from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.drawings.track import Track, closed_up
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.painted import filled, stroked

#: Ends that are nearer than this, in mm, are one.
JOINED = 0.05
#: Lines have no width: where one is cut as an area it gets this, in mm.
LINE = 0.1
MOST_ENTITIES = 100_000
_DRAWN = {"LWPOLYLINE", "POLYLINE", "LINE", "ARC", "CIRCLE", "ELLIPSE", "SPLINE"}
#: What carries no outline, and is nothing that anybody misses.
_SILENT = {"VIEWPORT", "ATTDEF", "SEQEND"}
_TOLD = {
    "TEXT": "text",
    "MTEXT": "text",
    "ATTRIB": "text",
    "DIMENSION": "dimensions",
    "HATCH": "hatches",
    "IMAGE": "pictures",
    "POINT": "points",
    "LEADER": "leaders",
    "3DFACE": "faces in space",
}


def read_dxf(data: bytes) -> DrawingFile:
    """What a DXF file draws.

    Raises:
        DrawingError: with the end of a sentence, when it is none, or holds too much.
    """
    try:
        document, _ = recover.read(io.BytesIO(data))
    except (ezdxf.DXFError, OSError, ValueError) as error:
        raise DrawingError("it is no sound DXF file") from error
    unit = int(document.header.get("$INSUNITS", 0))
    known = unit in _METRES
    scale = _METRES.get(unit, 0.001) * 1000
    told: Counter[str] = Counter()
    by_layer: dict[tuple[str, str], list[Contour]] = {}
    for count, entity in enumerate(_entities(document.modelspace(), told, 0)):
        if count >= MOST_ENTITIES:
            raise DrawingError(f"it has more than {MOST_ENTITIES:,} entities")
        hidden = _hidden(document, entity.dxf.get("layer", "0"))
        for contour in _contours(entity, scale):
            by_layer.setdefault((entity.dxf.get("layer", "0"), hidden), []).append(contour)
    elements = [_element(name, hidden, contours) for (name, hidden), contours in by_layer.items()]
    sentences = [f"{number} {what} were left out." for what, number in told.items()]
    if not known:
        sentences.append("It does not say its unit: taken as millimetres. Say its size if it is another.")
    return DrawingFile(tuple(elements), None, known, tuple(sentences))


#: Metres of each $INSUNITS code (DXF reference, header variables).
_METRES = {
    1: 0.0254,
    2: 0.3048,
    4: 0.001,
    5: 0.01,
    6: 1.0,
    8: 0.0254e-6,
    9: 0.0254e-3,
    10: 0.9144,
    13: 1e-6,
    14: 0.1,
}
assert units.MM == 4


def _entities(owner: Any, told: Counter[str], depth: int) -> Any:
    """All that is drawn, blocks taken apart wherever they are put."""
    for entity in owner:
        kind = entity.dxftype()
        if kind == "INSERT" and depth < 20:
            inserts = entity.multi_insert() if entity.mcount > 1 else [entity]
            for one in inserts:
                yield from _entities(one.virtual_entities(), told, depth + 1)
        elif kind in _DRAWN:
            yield entity
        elif kind not in _SILENT:
            told[_TOLD.get(kind, f"{kind} entities")] += 1


def _hidden(document: Any, layer: str) -> str:
    if not document.layers.has_entry(layer):
        return ""
    found = document.layers.get(layer)
    return "its layer is switched off" if found.is_off() or found.is_frozen() else ""


def _contours(entity: Any, scale: float) -> list[Contour]:
    """An entity's curves in mm."""
    track = Track()
    for path in ezdxf.path.make_path(entity).sub_paths():
        points = path.control_vertices()
        if not all(math.isfinite(v) for p in points for v in (p.x, p.y)):
            continue

        def at(p: Any) -> complex:
            return complex(p.x, p.y) * scale

        track.move(at(path.start))
        for command in path.commands():
            match command.type:
                case ezdxf.path.Command.LINE_TO:
                    track.line(at(command.end))
                case ezdxf.path.Command.CURVE3_TO:
                    track.quadratic(at(command.ctrl), at(command.end))
                case _:
                    track.cubic(at(command.ctrl1), at(command.ctrl2), at(command.end))
        if path.is_closed and len(path):
            track.close()
    return [one for one in track.contours() if np.ptp(one.segments, axis=(0, 1)).max() > 0]


def _element(name: str, hidden: str, contours: list[Contour]) -> Element:
    joined = chained(contours, JOINED)
    closed = [one for one in joined if one.closed]
    enclosed = filled(closed_up(closed), "evenodd")
    painted = filled(stroked(joined, LINE, "round", "round", 4, [], 0), "nonzero")
    ends = 2 * (len(joined) - len(closed))
    called = name if name not in ("", "0") else "drawing"
    return Element(called[:60], "#000000", painted, enclosed, LINE, ends, hidden, Outline.from_contours(joined))
