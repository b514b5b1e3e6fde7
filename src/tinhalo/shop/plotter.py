"""HP-GL as a plotter understands it (HP 7475A interfacing and programming manual): what its tool does, move by move."""

from __future__ import annotations

import re

from tinhalo.shop.program import Move, Program, ProgramError

#: Furthest from the origin, in units: the range of numbers of the language.
MOST_FAR = 2**22
MOST_MOVES = 2_000_000
_COMMAND = re.compile(r"\s*(?:CO\s*\"([^\"]*)\"|([A-Z]{2})([^;A-Z\"]*));?", re.S)
#: Understood, and of no consequence here.
_SILENT = {"IN", "PA", "DF", "SC", "IP"}
_OUTPUT = {"OS", "OE", "OA", "OI"}
#: Error numbers of the language: unknown instruction, wrong number of parameters, parameter out of range.
UNKNOWN, PARAMETERS, RANGE = 1, 2, 3


def understood(text: str) -> Program:
    """What a text of HP-GL asks for.

    Raises:
        ProgramError: where it is not understood.
    """
    at, pen, down, comment = 0, 0, False, ""
    speed: float | None = None
    moves: list[Move] = []
    asked: list[str] = []
    text = text.strip()
    while at < len(text):
        found = _COMMAND.match(text, at)
        if not found or found.end() == at:
            raise ProgramError(UNKNOWN)
        at = found.end()
        said, name, given = found.groups()
        if name is None:
            comment = said
            continue
        if name in _OUTPUT:
            asked.append(name)
        elif name in ("SP", "PU", "PD", "PA", "VS"):
            numbers = _numbers(given)
            if name == "SP":
                pen = round(numbers[0]) if numbers else 0
                continue
            if name == "VS":
                # In cm a second; as fast as it can where nothing is said.
                speed = 10.0 * numbers[0] if numbers and numbers[0] > 0 else None
                continue
            if len(numbers) % 2:
                raise ProgramError(PARAMETERS)
            down = name == "PD" if name != "PA" else down
            points = zip(map(round, numbers[::2]), map(round, numbers[1::2]), strict=True)
            moves += [Move(x, y, down, pen, speed=speed if down else None) for x, y in points]
            if len(moves) > MOST_MOVES:
                raise ProgramError(RANGE)
        elif name not in _SILENT:
            raise ProgramError(UNKNOWN)
    return Program(comment, tuple(moves), tuple(asked))


def _numbers(given: str) -> list[float]:
    try:
        numbers = [float(one) for one in given.replace(",", " ").split()]
    except (ValueError, OverflowError) as error:
        raise ProgramError(PARAMETERS) from error
    if any(abs(one) > MOST_FAR for one in numbers):
        raise ProgramError(RANGE)
    return numbers
