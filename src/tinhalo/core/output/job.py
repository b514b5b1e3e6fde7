"""A drawing as a machine works through it: its lines in order, how long they are, and about how long they take."""

from __future__ import annotations

from dataclasses import dataclass

from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.materials import Material
from tinhalo.core.output.drawing import Drawing, Style
from tinhalo.core.output.path_order import Stroke, ordered, travel

#: Between lines machines go this fast, in mm a second, and areas are filled with lines so far apart (common practice).
TRAVEL_SPEED = 200.0
FILL_SPEED = 300.0
FILL_STEP = 0.1


@dataclass(frozen=True)
class Job:
    """A drawing in order.

    Attributes:
        strokes: its lines, the first first.
        lengths: of each, in mm.
        speeds: of each, in mm a second.
        travel: the way between them, in mm.
    """

    strokes: tuple[Stroke, ...]
    lengths: tuple[float, ...]
    speeds: tuple[float, ...]
    travel: float

    @property
    def seconds(self) -> float:
        """About how long it takes."""
        return self.travel / TRAVEL_SPEED + sum(a / b for a, b in zip(self.lengths, self.speeds, strict=True))


def job_of(build: Build, drawing: Drawing) -> Job:
    """The job of a drawing of a built design."""
    strokes = ordered(drawing)
    speeds = {one.layer.id: one.material.limits.speed for one in build.layers}
    return Job(
        tuple(strokes),
        tuple(Outline.from_contours([one.contour]).length for one in strokes),
        tuple(speeds[one.layer] for one in strokes),
        travel(strokes, drawing.page),
    )


def time_of(material: Material, style: Style, length: float, area: float) -> float:
    """About how long a layer takes, in seconds, without the way between its lines.

    Lines go at the material's speed; areas are filled line by line.
    """
    if style.stroke:
        return length / material.limits.speed
    return area / FILL_STEP / FILL_SPEED
