"""What hangs together, found pair by pair (union-find with path halving)."""

from __future__ import annotations


class Groups:
    """Things by their index, each in a group of its own at first."""

    def __init__(self, count: int) -> None:
        self._leader = list(range(count))

    def of(self, thing: int) -> int:
        """A thing that stands for the whole group of this one."""
        leader = self._leader
        while leader[thing] != thing:
            leader[thing] = thing = leader[leader[thing]]
        return thing

    def join(self, one: int, other: int) -> bool:
        """Make the groups of two things one; whether they were two."""
        a, b = self.of(one), self.of(other)
        # The first of a group stands for it, so that it does not depend on the order of the pairs.
        self._leader[max(a, b)] = min(a, b)
        return a != b
