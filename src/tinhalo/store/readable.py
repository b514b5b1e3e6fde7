"""What is stored row by row, as far as it can be read: one bad row must not hide the others."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterable
from typing import TypeVar

R = TypeVar("R")
T = TypeVar("T")


def readable(rows: Iterable[R], read: Callable[[R], T], called: Callable[[R], str]) -> list[T]:
    """What ``read`` makes of each row; a row that cannot be read is left out, and told on the console.

    Args:
        rows: what is stored.
        read: makes something of a row, or raises a ``ValueError``.
        called: what a row is called there, as the beginning of a sentence.
    """
    found: list[T] = []
    for row in rows:
        try:
            found.append(read(row))
        except ValueError:
            logging.getLogger(__name__).warning("%s cannot be read and is left out.", called(row))
    return found
