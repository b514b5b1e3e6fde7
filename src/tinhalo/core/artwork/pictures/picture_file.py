"""Read a strange picture in a process of its own: upright, in plain colours, and no larger than can be traced."""

from __future__ import annotations

import io
import logging
from functools import lru_cache

import numpy as np
from PIL import Image, ImageOps

from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.pictures.inked import Pixels
from tinhalo.core.runtime.processes import ask, judged, read_ahead

MOST_BYTES = 40_000_000
#: Of a picture as it comes, and of its longer side as it is traced.
MOST_PIXELS, MOST_SIDE = 80_000_000, 4_000
MOST_SECONDS = 8
MOST_WAITING = 30.0
MOST_MEMORY = 1_500_000_000
#: Dots larger than this, in mm, are seen at an edge or in a print (common practice: 150 to an inch).
COARSE = 0.17
#: Sides that are traced, in pixels.
_LEAST_SIDE = 4

#: First bytes of the formats that are read, and what they are called.
KINDS = {
    b"\x89PNG": "PNG",
    b"\xff\xd8\xff": "JPEG",
    b"GIF8": "GIF",
    b"II*\0": "TIFF",
    b"MM\0*": "TIFF",
    b"RIFF": "WEBP",
}

read_ahead("tinhalo.core.artwork.pictures.picture_file")


def is_picture(data: bytes) -> bool:
    """Whether a file begins as a picture does."""
    return any(data.startswith(first) for first in KINDS)


def vet(data: bytes, name: str) -> tuple[bytes, float | None]:
    """A picture as a PNG, turned upright, and its dots to an inch if it says them.

    Raises:
        DrawingError: with a sentence saying what is wrong with the file.
    """
    if len(data) > MOST_BYTES:
        raise DrawingError(f"{name} has {len(data) / 1e6:.0f} MB; {MOST_BYTES / 1e6:.0f} MB is the most of a picture.")
    try:
        answer: tuple[bytes, float | None] | str = ask(
            judged, (judge, (data,), MOST_SECONDS, MOST_MEMORY), MOST_WAITING, lambda: True
        )
    except (TimeoutError, EOFError) as error:
        raise DrawingError(f"{name} cannot be used: reading it takes too long, or too much memory.") from error
    if isinstance(answer, str):
        raise DrawingError(f"{name} cannot be used: {answer}.")
    return answer


def judge(data: bytes) -> tuple[bytes, float | None] | str:
    """A picture as it is kept, or the end of a sentence that says why it cannot be used."""
    logging.disable()
    Image.MAX_IMAGE_PIXELS = MOST_PIXELS
    try:
        with Image.open(io.BytesIO(data), formats=sorted(set(KINDS.values()))) as opened:
            width, height = opened.size
            if width * height > MOST_PIXELS:
                return f"it has {width * height / 1e6:.0f} million dots, and {MOST_PIXELS / 1e6:.0f} is the most"
            if min(width, height) < _LEAST_SIDE:
                return "it is only a few dots large"
            density = opened.info.get("dpi", (None,))[0]
            opened.draft("RGB", (MOST_SIDE, MOST_SIDE))
            opened.seek(0)
            upright = ImageOps.exif_transpose(opened).convert("RGBA")
        upright.thumbnail((MOST_SIDE, MOST_SIDE), Image.Resampling.LANCZOS)
        made = io.BytesIO()
        sharp = float(density) * upright.width / width if density and 30 <= float(density) <= 4800 else None
        said = {"dpi": (sharp, sharp)} if sharp else {}
        upright.save(made, "PNG", compress_level=3, **said)
        return made.getvalue(), sharp
    except (Image.DecompressionBombError, Image.DecompressionBombWarning):
        return "it has too many dots"
    except MemoryError:
        return "reading it takes too much memory"
    except TimeoutError:
        return "reading it takes too long"
    except Exception:
        # Damaged files make their readers raise almost anything.
        return "it is damaged, or no picture that can be read here"
    finally:
        logging.disable(logging.NOTSET)


def density_of(png: bytes) -> float | None:
    """Dots to an inch that a PNG of our own says; None where its file did not say them."""
    with Image.open(io.BytesIO(png)) as opened:
        said = opened.info.get("dpi")
    return float(said[0]) if said else None


def size_of(png: bytes) -> tuple[int, int]:
    """Columns and rows of a PNG of our own, without reading its dots."""
    with Image.open(io.BytesIO(png)) as opened:
        return opened.size


@lru_cache(maxsize=4)
def pixels(png: bytes) -> Pixels:
    """The pixels of a PNG of our own, RGBA, shape (h, w, 4)."""
    with Image.open(io.BytesIO(png)) as opened:
        return np.asarray(opened.convert("RGBA"))
