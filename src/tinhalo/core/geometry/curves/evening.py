"""Lines of many points, spaced evenly and evened out."""

from __future__ import annotations

import numpy as np

from tinhalo.core.geometry.arrays import Floats

#: Points of a closed line at least.
_FEWEST = 8


def resampled(line: Floats, step: float, *, closed: bool) -> Floats:
    """Points about ``step`` apart along a line, shape (n, 2); the first of a closed one is not repeated at its end."""
    whole = np.vstack([line, line[:1]]) if closed else line
    along = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(whole, axis=0).T))])
    count = max(_FEWEST, round(along[-1] / step)) if closed else max(1, round(along[-1] / step)) + 1
    at: Floats = np.linspace(0, float(along[-1]), count, endpoint=not closed)
    return np.stack([np.interp(at, along, whole[:, k]) for k in (0, 1)], axis=1)


def evened(points: Floats, sigma: float, *, closed: bool) -> Floats:
    """Points evened out along their line, each by those within about ``sigma`` points.

    Ends stay, and bends do not shrink (G. Taubin, "A signal processing approach to fair surface design", 1995: smooth,
    then back).
    """
    if sigma <= 0 or len(points) < 5:
        return points
    reach = min(int(3 * sigma + 0.5), len(points) - 2)
    weights = np.exp(-0.5 * (np.arange(-reach, reach + 1) / sigma) ** 2)
    weights /= weights.sum()

    def blurred(line: Floats) -> Floats:
        if closed:
            wide = np.concatenate([line[-reach:], line, line[:reach]])
        else:
            # Turned about the ends: a straight stays straight, and the ends where they are.
            wide = np.concatenate([2 * line[0] - line[reach:0:-1], line, 2 * line[-1] - line[-2 : -reach - 2 : -1]])
        return np.asarray(np.stack([np.convolve(wide[:, k], weights, "valid") for k in (0, 1)], axis=1), float)

    once = blurred(points)
    return 2 * once - blurred(once)
