"""Loaded once by the process that readers are forked from."""

from __future__ import annotations

from tinhalo.core.artwork.drawings.dxf_file import read_dxf
from tinhalo.core.artwork.drawings.svg_file import read_svg

__all__ = ["read_dxf", "read_svg"]
