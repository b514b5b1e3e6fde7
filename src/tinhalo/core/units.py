"""Lengths and areas as the maker reads them. All numbers are millimetres; only what is read knows other units."""

from __future__ import annotations

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


def area(mm2: float, unit: Unit = "mm") -> str:
    """An area in mm² with its unit, to two digits."""
    value = mm2 if unit == "mm" else mm2 / MM_PER_INCH**2
    return f"{float(f'{value:.2g}'):g} {unit}²"


def number(value: float) -> str:
    """A length with five decimals at most, without trailing zeros."""
    text = f"{value:.5f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text
