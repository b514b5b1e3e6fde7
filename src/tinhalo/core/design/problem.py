"""What is told of a design document that cannot be used."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Problem:
    """One thing that is wrong: where in the document (e.g. ``art.0.size``), and a sentence."""

    where: str
    sentence: str


class DesignError(ValueError):
    """The document cannot be built; ``problems`` says why."""

    def __init__(self, problems: Sequence[Problem]) -> None:
        super().__init__(" ".join(p.sentence for p in problems))
        self.problems = tuple(problems)

    def __reduce__(self) -> tuple[type[DesignError], tuple[tuple[Problem, ...]]]:
        """So that it comes back whole from another process."""
        return type(self), (self.problems,)
