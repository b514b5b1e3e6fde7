"""Lengths and areas as the maker reads them. All numbers are millimetres; only what is read knows other units."""

from __future__ import annotations

import re
from typing import Literal

Unit = Literal["mm", "in"]

#: Exactly (the international inch of 1959).
MM_PER_INCH = 25.4


def length(mm: float, unit: Unit = "mm") -> str:
    """A length in mm with its unit, to a hundredth of a millimetre or a thousandth of an inch."""
    value, decimals = (mm, 2) if unit == "mm" else (mm / MM_PER_INCH, 3)
    digits = f"{value:.{decimals}f}"
    if value and not float(digits):
        digits = f"{value:.{decimals + 2}f}"
    return f"{digits.rstrip('0').rstrip('.')} {unit}"


_LENGTH = re.compile(r"\s*(\d*[.,]?\d+)\s*(mm|cm|in|inch|inches|\"|″)?\s*", re.IGNORECASE)
_IN_MM = {"mm": 1.0, "cm": 10.0}


def length_in(text: str, unit: Unit = "mm") -> float | None:
    """A length that somebody wrote, such as “30”, “1,5 cm” or “2 in”, in mm; None where it is none."""
    found = _LENGTH.fullmatch(text)
    if not found:
        return None
    said = (found[2] or unit).lower()
    return float(found[1].replace(",", ".")) * _IN_MM.get(said, MM_PER_INCH)


def area(mm2: float, unit: Unit = "mm") -> str:
    """An area in mm² with its unit, to two digits."""
    value = mm2 if unit == "mm" else mm2 / MM_PER_INCH**2
    return f"{float(f'{value:.2g}'):g} {unit}²"


def number(value: float) -> str:
    """A length with five decimals at most, without trailing zeros."""
    text = f"{value:.5f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text
