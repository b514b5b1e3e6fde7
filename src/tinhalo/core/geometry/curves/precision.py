"""How finely curves are followed, for the screen and for what leaves."""

from __future__ import annotations

import math
from dataclasses import dataclass


@dataclass(frozen=True)
class Precision:
    """Limits for flattening curves and drawing arcs.

    Attributes:
        chord: greatest distance between a chord and its curve, in mm.
        turn: greatest turn between neighbouring chords of a smooth curve, in degrees.
        arc_turn: the same for the arcs that an offset draws. These are cheap and decide how exact an offset's
            area is: inscribed chords lose a share of turn² / 6 of the area of an arc's sector.
        needless: where there are too many, vertices that are closer than this to the line between others are left out,
            in mm.
    """

    chord: float
    turn: float
    arc_turn: float
    needless: float

    def quarter_segments(self, radius: float) -> int:
        """Chords for a quarter circle of this radius (mm): pi/2 over 2 acos(1 - chord / radius)."""
        by_turn = math.ceil(90 / self.arc_turn)
        if radius <= self.chord:
            return by_turn
        return max(by_turn, math.ceil(math.pi / 2 / (2 * math.acos(1 - self.chord / radius))))


#: While something is being dragged: 0.02 mm is a tenth of a screen pixel at the usual zoom.
SCREEN = Precision(chord=0.02, turn=12.0, arc_turn=10.0, needless=0.001)

#: For measures and for what leaves.
EXACT = Precision(chord=0.0015, turn=4.0, arc_turn=1.5, needless=0.0001)
