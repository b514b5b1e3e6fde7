"""Loaded once by the process that font readers are forked from: everything a font needs is read in ahead of time."""

from __future__ import annotations

from tinhalo.core.lettering.shipped import shipped_fonts
from tinhalo.core.lettering.vet import examine

_smallest = min(shipped_fonts(), key=lambda font: font.path.stat().st_size)
examine(_smallest.path.read_bytes(), _smallest.family)
