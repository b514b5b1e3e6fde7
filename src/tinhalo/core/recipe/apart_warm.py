"""Loaded once by the process that all others are forked from: what large steps need is read in ahead."""

from __future__ import annotations

import tinhalo.core.recipe.kinds  # noqa: F401  # pyright: ignore[reportUnusedImport]
from tinhalo.core.geometry.warm import warm

warm()
