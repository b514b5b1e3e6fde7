"""Plain shapes: rectangle, ellipse, polygon, star, arch, ring."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field, model_validator

from tinhalo.core.artwork.shapes.shape import Shape, points_about
from tinhalo.core.document.fields import mm, plain
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.sketch import Sketch, fitted, polygon


class Rectangle(Shape):
    """A rectangle, its corners rounded by a radius of at most half the shorter side."""

    called: ClassVar[str] = "rectangle"

    shape: Literal["rectangle"] = "rectangle"
    corner_radius: Annotated[float, mm("of its corners", ge=0)] = 0

    def outline(self) -> Outline:
        """Lines, and quarters of circles at the corners."""
        return rounded_box(Sketch(), self.width, self.height, self.corner_radius).outline()


class Ellipse(Shape):
    """An ellipse; a circle where both sides are equal."""

    called: ClassVar[str] = "ellipse"

    shape: Literal["ellipse"] = "ellipse"

    def outline(self) -> Outline:
        """Eight arcs."""
        return _ellipse(Sketch(), self.width / 2, self.height / 2).outline()


class Polygon(Shape):
    """A regular polygon with a corner at its top, stretched to its width and height."""

    called: ClassVar[str] = "polygon"

    shape: Literal["polygon"] = "polygon"
    sides: Annotated[int, Field(ge=3, le=100, description="number of sides")] = 6

    def outline(self) -> Outline:
        """Its sides."""
        return fitted(polygon(points_about(self.sides, [1])), self.width, self.height)


class Star(Shape):
    """A star with a point at its top, stretched to its width and height."""

    called: ClassVar[str] = "star"

    shape: Literal["star"] = "star"
    points: Annotated[int, Field(ge=3, le=100, description="number of points")] = 5
    inner: Annotated[float, plain("how far its inner corners are from the middle, as a share", ge=0.05, le=1)] = 0.45

    def outline(self) -> Outline:
        """Two lines for each point."""
        return fitted(polygon(points_about(2 * self.points, [1, self.inner])), self.width, self.height)


class Arch(Shape):
    """A rectangle with a round top: half a circle, or half an ellipse where it is too low for that."""

    called: ClassVar[str] = "arch"

    shape: Literal["arch"] = "arch"
    height: Annotated[float, mm("from foot to top", gt=0, le=10_000)] = 80

    def outline(self) -> Outline:
        """Foot, sides, and the top's arcs."""
        half, foot = self.width / 2, -self.height / 2
        rise = min(half, self.height)
        middle = (0.0, self.height / 2 - rise)
        return Sketch().start(-half, foot).line(half, foot).arc(middle, (half, rise), 0, 180).close().outline()


class Ring(Shape):
    """An ellipse with an opening, so that a band of one thickness is left at its sides, top and foot."""

    called: ClassVar[str] = "ring"

    shape: Literal["ring"] = "ring"
    height: Annotated[float, mm("from foot to top", gt=0, le=10_000)] = 60
    thickness: Annotated[float, mm("of the band", gt=0)] = 5

    @model_validator(mode="after")
    def _some_opening(self) -> Self:
        if 2 * self.thickness >= min(self.width, self.height):
            raise ValueError("a ring's band must be thinner than half its width and half its height")
        return self

    def outline(self) -> Outline:
        """Eight arcs outside, and eight the other way round inside."""
        sketch = _ellipse(Sketch(), self.width / 2, self.height / 2)
        return _ellipse(sketch, self.width / 2 - self.thickness, self.height / 2 - self.thickness, -1).outline()


def _ellipse(sketch: Sketch, rx: float, ry: float, way: int = 1) -> Sketch:
    return sketch.start(rx, 0).arc((0.0, 0.0), (rx, ry), 0, 360 * way).close()


def rounded_box(sketch: Sketch, width: float, height: float, radius: float, y: float = 0.0) -> Sketch:
    """A rectangle about (0, y) with corners rounded by a radius of at most half the shorter side."""
    r = min(radius, width / 2, height / 2)
    right, top = width / 2 - r, height / 2 - r
    if not r:
        return sketch.start(-right, y - top).line(right, y - top).line(right, y + top).line(-right, y + top).close()
    sketch.start(-right, y - top - r)
    for number, (cx, cy) in enumerate(((right, -top), (right, top), (-right, top), (-right, -top))):
        begin = -90 + 90 * number
        sketch.arc((cx, y + cy), (r, r), begin, begin + 90)
    return sketch.close()
