"""Proofs as files that carry their design, so that they can be opened again as it was.

A PDF carries it as an attachment (ISO 32000-1, 7.11.4), a PNG in a chunk of its own (PNG specification, 14.2: private,
ancillary, and not safe to copy once the picture is changed).
"""

from __future__ import annotations

import io
import struct
import zlib
from typing import Any, cast

import pypdf
import pypdfium2  # pyright: ignore[reportMissingTypeStubs]
from PIL import Image

from tinhalo.core.runtime.processes import ask, judged, read_ahead

_NAME = "design.tinhalo.zip"
_CHUNK = b"tHDN"
_PNG = b"\x89PNG\r\n\x1a\n"
_MOST_SECONDS, _MOST_WAITING, _MOST_MEMORY = 5, 20.0, 600_000_000

read_ahead("tinhalo.core.output.proof_files")


def as_pdf(page: bytes, design: bytes) -> bytes:
    """A page of PDF with a design in one file."""
    writer = pypdf.PdfWriter(clone_from=io.BytesIO(page))
    writer.add_attachment(_NAME, design)
    made = io.BytesIO()
    writer.write(made)
    return made.getvalue()


def painted(page: bytes, dots_per_inch: float) -> bytes:
    """A page of PDF as PNG."""
    document: Any = pypdfium2.PdfDocument(page)
    picture: Image.Image = document[0].render(scale=dots_per_inch / 72).to_pil().convert("RGB")
    held = io.BytesIO()
    picture.save(held, "PNG", dpi=(dots_per_inch, dots_per_inch))
    return held.getvalue()


def as_png(page: bytes, design: bytes, dots_per_inch: float) -> bytes:
    """A page of PDF painted, with a design in one file."""
    data = painted(page, dots_per_inch)
    # Before the last chunk, which is empty.
    return data[:-12] + struct.pack(">I", len(design)) + _with_sum(_CHUNK + design) + data[-12:]


def design_in(data: bytes) -> bytes:
    """The design in one file that a proof carries; what is no proof is given back as it is.

    Raises:
        ValueError: with the end of a sentence, where a picture or page carries none.
    """
    if data.startswith(_PNG):
        found = _chunk(data)
    elif data.startswith(b"%PDF"):
        found = _attached(data)
    else:
        return data
    if found is None:
        raise ValueError("it carries no design: only proofs that were made here do")
    return found


def _with_sum(chunk: bytes) -> bytes:
    return chunk + struct.pack(">I", zlib.crc32(chunk))


def _chunk(data: bytes) -> bytes | None:
    at = len(_PNG)
    while at + 12 <= len(data):
        size = int.from_bytes(data[at : at + 4], "big")
        if data[at + 4 : at + 8] == _CHUNK:
            return data[at + 8 : at + 8 + size]
        at += size + 12
    return None


def _attached(data: bytes) -> bytes | None:
    """Strange files are read in a process of its own, with limits."""
    try:
        return ask(judged, (_read, (data,), _MOST_SECONDS, _MOST_MEMORY), _MOST_WAITING, lambda: True)
    except (TimeoutError, EOFError):
        return None


def _read(data: bytes) -> bytes | None:
    try:
        attached = cast("dict[str, list[bytes]]", pypdf.PdfReader(io.BytesIO(data)).attachments)
        return next(iter(attached.get(_NAME, [])), None)
    except Exception:
        # Damaged files make their readers raise almost anything.
        return None
