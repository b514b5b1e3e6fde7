"""Curves that lines of words stand on."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Protocol

import numpy as np


class Baseline(Protocol):
    """A curve that letters stand on."""

    @property
    def length(self) -> float:
        """Its whole length in mm; infinite where it goes on."""
        ...

    def at(self, s: float) -> tuple[float, float, float]:
        """The point (x, y) in mm that is ``s`` mm along it from its middle, and its direction there in degrees."""
        ...


@dataclass(frozen=True)
class ArcBaseline:
    """A circle's arc: over its top, or through its foot.

    Attributes:
        radius: of the circle in mm.
        middle: height of the circle's middle in mm.
        below: whether the line runs through the circle's foot.
    """

    radius: float
    middle: float
    below: bool

    @property
    def length(self) -> float:
        """The circle's circumference."""
        return 2 * math.pi * self.radius

    def at(self, s: float) -> tuple[float, float, float]:
        """See ``Baseline``."""
        angle = s / self.radius
        x, y = self.radius * math.sin(angle), self.radius * math.cos(angle)
        if self.below:
            return x, self.middle - y, math.degrees(angle)
        return x, self.middle + y, -math.degrees(angle)


class WaveBaseline:
    """A sine wave that rises from its middle.

    Args:
        height: from trough to crest, in mm.
        length: from crest to crest, in mm.
        below: how far below the block's origin its middle line is, in mm.
    """

    length = math.inf

    def __init__(self, height: float, length: float, below: float) -> None:
        self._half, self._wave, self._below = height / 2, length, below
        x = np.linspace(0, length, 513)
        points = np.stack([x, self._half * np.sin(2 * np.pi * x / length)], axis=1)
        self._x = x
        self._along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])

    def at(self, s: float) -> tuple[float, float, float]:
        """See ``Baseline``."""
        turns, rest = divmod(s, float(self._along[-1]))
        x = turns * self._wave + float(np.interp(rest, self._along, self._x))
        phase = 2 * math.pi * x / self._wave
        slope = self._half * 2 * math.pi / self._wave * math.cos(phase)
        return x, self._half * math.sin(phase) - self._below, math.degrees(math.atan(slope))
