"""Loaded once by the process that all others are forked from: what large steps need is read in ahead."""

from __future__ import annotations

import gc

import tinhalo.core.recipe.kinds  # noqa: F401  # pyright: ignore[reportUnusedImport]
from tinhalo.core.geometry.warm import warm

warm()
# What is there by now stays; looking through it for garbage would take each of them longer than starting does.
gc.freeze()
