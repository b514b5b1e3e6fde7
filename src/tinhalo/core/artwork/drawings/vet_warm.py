"""Loaded once by the process that readers are forked from."""

from __future__ import annotations

import tinhalo.core.artwork.drawings.dxf_file
import tinhalo.core.artwork.drawings.svg_file  # noqa: F401  # pyright: ignore[reportUnusedImport]
