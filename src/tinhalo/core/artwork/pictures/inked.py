"""How dark each place of a picture is, cleaned of what is too small to be meant."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from tinhalo.core.geometry.arrays import Floats

Pixels = NDArray[np.uint8]

#: Pixels at an edge that are neither dark nor light, as a share of those at it: less is a picture of two values only.
_GREY_SHARE = 0.25
#: Stair steps of such a picture are blurred by this many pixels.
_STEPS = 0.9
#: A picture's own 255 steps of grey are parted by so many where pixels are counted.
_PARTS = 16
_LAST = 255 * _PARTS
#: What surrounds a speck that is taken out is painted over, too, so many pixels wide.
_FRINGE = 2
_SMALL, _LARGE = 1, 2
#: The difference of two Laplacians.
_LAPLACIANS = np.array([[1, -2, 1], [-2, 4, -2], [1, -2, 1]], float)
#: Two colours that are further apart than this in CIE L*a*b* are not the same background.
LIKENESS = 14.0
_MOST_TONES = 6


@dataclass(frozen=True)
class Inked:
    """A picture as it is traced.

    Attributes:
        ink: 1 where it is dark, 0 where it is paper, shape (h, w).
        levels: the darkness that each tone begins at, the lightest first.
        specks: how many specks were taken out.
        filled: how many holes were filled.
        two_valued: whether it has no greys at its edges.
    """

    ink: Floats
    levels: tuple[float, ...]
    specks: int
    filled: int
    two_valued: bool


def darkness(picture: Pixels, background: tuple[str, ...], *, invert: bool) -> Floats:
    """How dark each pixel is, 0 to 1, shape (h, w), of a picture in RGBA; what is see-through is paper.

    With colours of a background, how far a pixel is from the nearest of them: half where the likeness ends.
    """
    if not background and int(picture[..., 3].min()) == 255:
        grey = 1 - np.asarray(cv2.cvtColor(picture, cv2.COLOR_RGBA2GRAY), float) / 255
        return 1 - grey if invert else grey
    alpha = picture[..., 3:].astype(np.float32) / 255
    colour = picture[..., :3].astype(np.float32) / 255 * alpha + (1 - alpha)
    if background:
        lab = cv2.cvtColor(colour, cv2.COLOR_RGB2LAB)
        away = np.full(lab.shape[:2], np.inf, np.float32)
        for one in background:
            rgb = np.array([[[int(one[i : i + 2], 16) for i in (1, 3, 5)]]], np.float32) / 255
            away = np.minimum(away, np.linalg.norm(lab - cv2.cvtColor(rgb, cv2.COLOR_RGB2LAB), axis=2))
        ink = np.asarray(np.clip(away / (2 * LIKENESS), 0, 1), float)
    else:
        ink = 1 - np.asarray(cv2.cvtColor(colour, cv2.COLOR_RGB2GRAY), float)
    return 1 - ink if invert else ink


def noise(ink: Floats) -> float:
    """The standard deviation of a picture's noise as a share of what parts its lightest from its darkest places.

    From differences that neither slopes nor edges have (J. Immerkær, "Fast noise variance estimation", 1996), by their
    median, so that corners and texture in a part of the picture do not count.
    """
    low, high = np.quantile(ink, (0.02, 0.98))
    if high - low < 1e-3 or min(ink.shape) < _LAPLACIANS.shape[0]:
        return 0.0
    found = cv2.filter2D(ink, -1, _LAPLACIANS, borderType=cv2.BORDER_REFLECT)
    # Of normally distributed differences the median of sizes is 0.6745 of the standard deviation; the mask adds up to
    # six times that of the pixels.
    return float(np.median(np.abs(found))) / 0.6745 / 6 / float(high - low)


def blurred(ink: Floats, by: float) -> Floats:
    """A picture's darkness blurred, with a standard deviation of ``by`` pixels."""
    return np.asarray(cv2.GaussianBlur(ink, (0, 0), by), float)


def inked(ink: Floats, threshold: float | None, tones: int, specks: float, holes: float) -> Inked:
    """A picture's darkness with specks and holes of less than so many square pixels taken out.

    Args:
        ink: darkness, shape (h, w).
        threshold: darkness from which on something is ink; found by itself where it is None.
        tones: how many tones it is parted into; more than one have thresholds of their own.
        specks: ink of a smaller area is taken out.
        holes: paper of a smaller area inside ink is filled.
    """
    count = _counted(ink)
    if tones > 1:
        levels = _levels(ink, min(tones, _MOST_TONES))
    else:
        levels = (_parting(ink, count) if threshold is None else threshold,)
    two_valued = _is_two_valued(ink, levels[0], count)
    if two_valued:
        ink = blurred(ink, _STEPS)
    dropped = filled = 0
    low, high = float(ink.min()), float(ink.max())
    if specks > 0:
        ink, dropped = _without_small(ink, ink >= levels[0], specks, low)
    if holes > 0:
        ink, filled = _without_small(ink, ink < levels[0], holes, high)
    return Inked(ink, levels, dropped, filled, two_valued)


def _parting(ink: Floats, count: NDArray[np.int64]) -> float:
    """Halfway between ink and paper: Otsu's threshold tells them apart, their middles lie on either side of it.

    (N. Otsu, "A threshold selection method from gray-level histograms", 1979.)
    """
    grey = np.clip(ink * 255, 0, 255).astype(np.uint8)
    between, _ = cv2.threshold(grey, 0, 255, cv2.THRESH_BINARY | cv2.THRESH_OTSU)
    parted = int((between + 1) * _PARTS)
    light, dark = count[:parted], count[parted:]
    if not dark.any() or not light.any():
        return 0.5
    return (_quantile(light, 0.5) + _quantile(dark, 0.5) + parted / _LAST) / 2


def _counted(ink: Floats) -> NDArray[np.int64]:
    """How many pixels there are of each darkness, in steps as fine as ``_PARTS`` says: sorting takes far longer."""
    return np.bincount((np.clip(ink, 0, 1) * _LAST + 0.5).astype(np.uint16).ravel(), minlength=_LAST + 1)


def _quantile(count: NDArray[np.int64], share: float) -> float:
    """The darkness that this share of the pixels stays under, above that of the first."""
    upto = np.cumsum(count)
    rank = share * (int(upto[-1]) - 1)
    # Between two of them it is the mean, as far as it is from either.
    below, above = (int(np.searchsorted(upto, k + 1)) for k in (math.floor(rank), math.ceil(rank)))
    return (below + (above - below) * (rank % 1)) / _LAST


def _levels(ink: Floats, tones: int) -> tuple[float, ...]:
    """Where the tones of a picture part: halfway between the means of as many clusters and paper."""
    values = ink.astype(np.float32).reshape(-1, 1)
    if len(values) > 100_000:
        values = values[:: len(values) // 100_000]
    stop = (cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_MAX_ITER, 30, 1e-3)
    cv2.setRNGSeed(1)
    start: Any = None
    _, _, means = cv2.kmeans(values, tones + 1, start, stop, 3, cv2.KMEANS_PP_CENTERS)
    middles = np.sort(means.ravel())
    return tuple(((middles[:-1] + middles[1:]) / 2).tolist())


def _is_two_valued(ink: Floats, level: float, count: NDArray[np.int64]) -> bool:
    dark = (ink >= level).astype(np.uint8)
    edge = cv2.morphologyEx(dark, cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8)).astype(bool)
    if not edge.any():
        return False
    low, high = _quantile(count, 0.02), _quantile(count, 0.98)
    if high - low < 1e-3:
        low, high = float(ink.min()), float(ink.max())
    at = (ink[edge] - low) / max(float(high - low), 1e-6)
    return float(((at > 0.12) & (at < 0.88)).mean()) < _GREY_SHARE


def _without_small(ink: Floats, there: NDArray[np.bool_], least: float, instead: float) -> tuple[Floats, int]:
    """Without the parts of less than so many square pixels, and how many these were."""
    _, labels, stats, _ = cv2.connectedComponentsWithStats(there.astype(np.uint8), connectivity=8)
    small: NDArray[np.bool_] = np.asarray(stats)[:, cv2.CC_STAT_AREA] < least
    small[0] = False
    if not small.any():
        return ink, 0
    kind = np.where(small, _SMALL, _LARGE).astype(np.uint8)
    kind[0] = 0
    kinds: Pixels = kind[np.asarray(labels, np.int32)]
    side = np.ones((2 * _FRINGE + 1, 2 * _FRINGE + 1), np.uint8)
    over = cv2.dilate((kinds == _SMALL).astype(np.uint8), side).astype(bool)
    # What is meant keeps its edge.
    over &= ~cv2.dilate((kinds == _LARGE).astype(np.uint8), np.ones((3, 3), np.uint8)).astype(bool)
    return np.where(over, instead, ink), int(small.sum())
