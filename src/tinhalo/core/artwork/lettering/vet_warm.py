"""Loaded once by the process that font readers and diagram makers are forked from: what they need is read in ahead."""

from __future__ import annotations

import tinhalo.core.geometry.strokes.voronoi  # noqa: F401  # pyright: ignore[reportUnusedImport]
from tinhalo.core.artwork.lettering.shipped import shipped_fonts
from tinhalo.core.artwork.lettering.vet import examine

_smallest = min(shipped_fonts(), key=lambda font: font.path.stat().st_size)
examine(_smallest.path.read_bytes(), _smallest.family)
