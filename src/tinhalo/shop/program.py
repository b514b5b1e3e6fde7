"""What a text asks of a machine, whatever language it is in."""

from __future__ import annotations

from dataclasses import dataclass

#: Plotter units to a mm: what machines count places in.
UNITS = 40


@dataclass(frozen=True)
class Move:
    """The tool goes to (x, y) in plotter units, lifted or down, with a pen; a mill's tip to a height ``z`` in mm.

    ``speed`` is in mm a second, where the text says one.
    """

    x: float
    y: float
    down: bool
    pen: int
    z: float = 0.0
    speed: float | None = None


@dataclass(frozen=True)
class Program:
    """What a text asks for: its comment, the moves, and what it wants to be told."""

    comment: str
    moves: tuple[Move, ...]
    asked: tuple[str, ...]


class ProgramError(ValueError):
    """A text is not understood; ``number`` is the error's in the plotters' language."""

    def __init__(self, number: int, sentence: str = "") -> None:
        super().__init__(sentence or str(number))
        self.number = number
