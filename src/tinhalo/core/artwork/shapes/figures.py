"""Figures: heart, cloud, banner, speech bubble, tag."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal, Self

from pydantic import model_validator

from tinhalo.core.artwork.shapes.plain import rounded_box
from tinhalo.core.artwork.shapes.shape import Shape
from tinhalo.core.document.fields import mm, plain
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.sketch import Sketch, fitted, polygon


class Heart(Shape):
    """A heart: a pointed tip, a notch, round lobes."""

    called: ClassVar[str] = "heart"

    shape: Literal["heart"] = "heart"
    height: Annotated[float, mm("from tip to lobes", gt=0, le=10_000)] = 52

    def outline(self) -> Outline:
        """Three cubics for either half, smooth but for tip and notch."""
        sketch = Sketch().start(0, 0)
        sketch.curve((10, 8), (30, 20), (30, 38)).curve((30, 46), (24, 52), (16, 52)).curve((9, 52), (3, 48), (0, 41))
        sketch.curve((-3, 48), (-9, 52), (-16, 52)).curve((-24, 52), (-30, 46), (-30, 38))
        sketch.curve((-30, 20), (-10, 8), (0, 0))
        return fitted(sketch.close().outline(), self.width, self.height)


class Cloud(Shape):
    """A cloud: round bumps over a flat foot."""

    called: ClassVar[str] = "cloud"

    shape: Literal["cloud"] = "cloud"

    def outline(self) -> Outline:
        """A circle's arc for every bump, with a corner between each two, drawn on 100 by 60."""
        sketch = Sketch().start(20, 0).line(80, 0)
        # Where each bump ends, and how high it rises over the straight line there.
        for to, height in (((88, 34), 14.0), ((66, 52), 8.0), ((34, 50), 9.0), ((13, 33), 7.0), ((20, 0), 13.0)):
            sketch.bulge(to, height)
        return fitted(sketch.close().outline(), self.width, self.height)


class Banner(Shape):
    """A ribbon with a notch in either end."""

    called: ClassVar[str] = "banner"

    shape: Literal["banner"] = "banner"
    width: Annotated[float, mm("from side to side", gt=0, le=10_000)] = 90
    height: Annotated[float, mm("from foot to top", gt=0, le=10_000)] = 24
    notch: Annotated[float, mm("how deep its ends are notched", ge=0)] = 8

    @model_validator(mode="after")
    def _some_middle(self) -> Self:
        if 2 * self.notch >= self.width:
            raise ValueError("a banner's notches must be less deep than half its width")
        return self

    def outline(self) -> Outline:
        """Six lines."""
        x, y = self.width / 2, self.height / 2
        return polygon([(-x, -y), (x, -y), (x - self.notch, 0), (x, y), (-x, y), (-x + self.notch, 0)])


class SpeechBubble(Shape):
    """A rounded rectangle with a pointed tail at its foot; the height counts with the tail."""

    called: ClassVar[str] = "speech bubble"

    shape: Literal["speech_bubble"] = "speech_bubble"
    height: Annotated[float, mm("from the tail's tip to the top", gt=0, le=10_000)] = 45
    corner_radius: Annotated[float, mm("of its corners", ge=0)] = 10
    tail: Annotated[float, mm("how far the tail sticks out", ge=0)] = 10
    tail_width: Annotated[float, mm("of the tail where it begins", gt=0)] = 10
    tail_at: Annotated[float, plain("where it begins, as a share of the foot from left to right", ge=0, le=1)] = 0.25

    @model_validator(mode="after")
    def _some_body(self) -> Self:
        if self.tail >= self.height:
            raise ValueError("a speech bubble's tail must be shorter than all of it")
        if self.tail and self.tail_width > self._straight():
            raise ValueError("a speech bubble's tail must fit on the straight part of its foot")
        return self

    def _straight(self) -> float:
        """How long the foot is between its corners, in mm."""
        return self.width - 2 * min(self.corner_radius, self.width / 2, (self.height - self.tail) / 2)

    def outline(self) -> Outline:
        """The rectangle, and the tail drawn into its foot."""
        body, top = self.height - self.tail, self.height / 2
        if not self.tail:
            return rounded_box(Sketch(), self.width, body, self.corner_radius).outline()
        r = min(self.corner_radius, self.width / 2, body / 2)
        foot, right = top - body, self.width / 2
        begin = -self._straight() / 2 + (self._straight() - self.tail_width) * self.tail_at
        sketch = Sketch().start(begin, foot).line(begin, -top).line(begin + self.tail_width, foot)
        sketch.line(right - r, foot).arc((right - r, foot + r), (r, r), -90, 0)
        sketch.line(right, top - r).arc((right - r, top - r), (r, r), 0, 90)
        sketch.line(-right + r, top).arc((-right + r, top - r), (r, r), 90, 180)
        sketch.line(-right, foot + r).arc((-right + r, foot + r), (r, r), 180, 270)
        return sketch.close().outline()


class Tag(Shape):
    """A luggage tag: two corners cut off, and a hole between them."""

    called: ClassVar[str] = "tag"

    shape: Literal["tag"] = "tag"
    width: Annotated[float, mm("from side to side", gt=0, le=10_000)] = 70
    height: Annotated[float, mm("from foot to top", gt=0, le=10_000)] = 36
    cut: Annotated[float, mm("how far the corners are cut off", ge=0)] = 9
    hole: Annotated[float, mm("diameter of the hole; none where it is 0", ge=0)] = 5
    inset: Annotated[float, mm("from the end to the hole's middle", gt=0)] = 9

    @model_validator(mode="after")
    def _holds(self) -> Self:
        if 2 * self.cut > self.height or self.cut >= self.width:
            raise ValueError("a tag's corners can be cut off by half its height at most")
        if self.hole and (self.hole / 2 >= self.inset or self.inset + self.hole / 2 >= self.width):
            raise ValueError("a tag's hole must lie inside it")
        if self.hole >= self.height - 2 * max(0.0, self.cut - self.inset):
            raise ValueError("a tag's hole must be smaller than the tag is there")
        return self

    def outline(self) -> Outline:
        """Six lines, and a circle the other way round."""
        x, y, c, r = self.width / 2, self.height / 2, self.cut, self.hole / 2
        sketch = Sketch().start(-x + c, -y).line(x, -y).line(x, y).line(-x + c, y).line(-x, y - c).line(-x, -y + c)
        sketch.close()
        if r:
            sketch.start(-x + self.inset + r, 0).arc((-x + self.inset, 0.0), (r, r), 0, -360).close()
        return sketch.outline()
