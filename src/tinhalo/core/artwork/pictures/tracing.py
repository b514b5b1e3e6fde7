"""A picture traced: the plain outline of its ink, and what was found on the way."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np
from pydantic import Field

from tinhalo.core.artwork.pictures.contouring import contours_at
from tinhalo.core.artwork.pictures.inked import Pixels, blurred, darkness, inked, noise
from tinhalo.core.document.base import Colour, Strict
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.painted import filled

#: Less than this, in square pixels, is of the way curves are fitted, and nothing that was drawn.
_CRUMB = 2.0
#: Stair steps of a picture without greys are evened out over so many pixels at least.
_STEPS = 1.5
#: Edges of a clean picture are evened out over so many pixels, and over this much more where the noise's standard
#: deviation is this share of what parts ink from paper. Noise of more than ``_QUIET`` is blurred before, by so many
#: pixels for each part of it, and by this many at most. Measured on noisy pictures of known outlines, see
#: ``tests/core/test_tracing.py``.
_CLEAN, _MORE, _NOISY = 0.5, 1.0, 0.06
_QUIET, _BLUR, _MOST_BLUR = 0.02, 15.0, 1.5


class Tracing(Strict):
    """How a picture is traced.

    ``threshold`` is how dark ink is, from 0 for paper to 1, and ``smooth`` how far edges are evened out; both are found
    by themselves where they are not said, the latter from the picture's noise. ``background`` are colours that are
    paper, whatever they are like. Ink and holes of less than ``specks`` and ``holes`` pixels are left
    out. With several ``tones`` it is everything at least as dark as ``tone``, of which 1 is the lightest.
    ``outer_only`` leaves no line inside another one.
    """

    threshold: Annotated[float | None, Field(ge=0.02, le=0.98, allow_inf_nan=False)] = None
    background: Annotated[tuple[Colour, ...], Field(max_length=8)] = ()
    smooth: Annotated[float | None, Field(ge=0, le=10, allow_inf_nan=False, description="in pixels")] = None
    specks: Annotated[float, Field(ge=0, le=1e7, allow_inf_nan=False, description="in square pixels")] = 20
    holes: Annotated[float, Field(ge=0, le=1e7, allow_inf_nan=False, description="in square pixels")] = 12
    invert: bool = False
    tones: Annotated[int, Field(ge=1, le=6)] = 1
    tone: Annotated[int, Field(ge=1, le=6)] = 1
    outer_only: bool = False


@dataclass(frozen=True)
class Traced:
    """What tracing gives.

    Attributes:
        outline: the plain outline of the ink in pixels, y up, with the middle of the picture at the origin.
        threshold: how dark its edge is.
        smooth: how far its edges were evened out, in pixels.
        specks: how many specks were left out.
        filled: how many holes were.
        two_valued: whether the picture has no greys at its edges, and was blurred before.
    """

    outline: Outline
    threshold: float
    smooth: float
    specks: int
    filled: int
    two_valued: bool

    @property
    def nbytes(self) -> int:
        """Memory held, in bytes."""
        return self.outline.nbytes + 200


def traced(picture: Pixels, how: Tracing) -> Traced:
    """Trace a picture, RGBA, shape (h, w, 4)."""
    ink = darkness(picture, how.background, invert=how.invert)
    smooth = how.smooth
    if smooth is None:
        share = noise(ink)
        smooth = _CLEAN + _MORE * min(1.0, share / _NOISY)
        if share > _QUIET:
            ink = blurred(ink, min(_MOST_BLUR, _BLUR * share))
    cleaned = inked(ink, how.threshold, how.tones, how.specks, how.holes)
    level = cleaned.levels[min(how.tone, len(cleaned.levels)) - 1]
    smooth = max(smooth, _STEPS) if cleaned.two_valued else smooth
    height, width = ink.shape
    up = np.array([[1.0, 0, -width / 2], [0, -1.0, height / 2]])
    drawn = Outline.from_contours(contours_at(cleaned.ink, level, smooth)).transformed(up)
    plain = filled(drawn, "evenodd")
    areas = plain.areas
    kept = [one for one, area in zip(plain.contours(), areas, strict=True) if abs(area) >= _CRUMB]
    if how.outer_only:
        shells = [one for one, area in zip(plain.contours(), areas, strict=True) if area >= _CRUMB]
        kept = filled(Outline.from_contours(shells), "nonzero").contours()
    return Traced(
        Outline.from_contours(kept), level, round(smooth, 2), cleaned.specks, cleaned.filled, cleaned.two_valued
    )
