"""Loaded first: Python looks for garbage less often.

Loading makes hundreds of thousands of objects that all stay, and designs are made of arrays: looking through new
objects after every 700, as is usual, takes up to a fifth of the time and finds next to nothing.
"""

from __future__ import annotations

import gc

gc.set_threshold(20_000)
