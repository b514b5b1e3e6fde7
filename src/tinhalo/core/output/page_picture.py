"""Pages of PDF as pictures."""

from __future__ import annotations

import io
from typing import Any

import pypdfium2  # pyright: ignore[reportMissingTypeStubs]
from PIL import Image


def painted(page: bytes, dots_per_inch: float) -> bytes:
    """The first page of a PDF as PNG."""
    document: Any = pypdfium2.PdfDocument(page)
    picture: Image.Image = document[0].render(scale=dots_per_inch / 72).to_pil().convert("RGB")
    held = io.BytesIO()
    picture.save(held, "PNG", dpi=(dots_per_inch, dots_per_inch))
    return held.getvalue()
