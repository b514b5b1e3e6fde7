"""Read a strange drawing file in a process of its own, with limits on size, time and memory.

Whatever a file does to its reader happens to a child process; the maker gets a sentence, and nothing is harmed.
"""

from __future__ import annotations

import logging
import zlib

from tinhalo.core.artwork.drawings.drawing_file import DrawingFile
from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.runtime.processes import ask, judged, read_ahead

MOST_BYTES = 20_000_000
MOST_SECONDS = 8
MOST_WAITING = 30.0
MOST_MEMORY = 1_000_000_000

read_ahead(f"{__name__}_warm")


def vet(data: bytes, name: str) -> DrawingFile:
    """What a drawing file paints.

    Args:
        data: the file's bytes.
        name: the file's name, for messages.
    Raises:
        DrawingError: with a sentence saying what is wrong with the file.
    """
    if len(data) > MOST_BYTES:
        raise DrawingError(f"{name} has {len(data) / 1e6:.0f} MB; {MOST_BYTES / 1e6:.0f} MB is the most of a drawing.")
    try:
        answer: bytes | str = ask(judged, (judge, (data,), MOST_SECONDS, MOST_MEMORY), MOST_WAITING, lambda: True)
    except (TimeoutError, EOFError) as error:
        raise DrawingError(f"{name} cannot be used: reading it takes too long, or too much memory.") from error
    if isinstance(answer, str):
        raise DrawingError(f"{name} cannot be used: {answer}.")
    return DrawingFile.from_bytes(answer)


def judge(data: bytes) -> bytes | str:
    """A drawing as it is kept, or the end of a sentence that says why it cannot be used."""
    logging.disable()
    try:
        read = examine(data)
        return read.to_bytes() if read.elements or read.pictures else "there is nothing in it that can be cut"
    except DrawingError as error:
        return str(error)
    except MemoryError:
        return "reading it takes too much memory"
    except TimeoutError:
        return "reading it takes too long"
    except Exception:
        # Damaged files make their readers raise almost anything.
        return "it is damaged"
    finally:
        logging.disable(logging.NOTSET)


def examine(data: bytes) -> DrawingFile:
    """Read a file by what its first bytes say it is, without any limits.

    Raises:
        DrawingError: with the end of a sentence; anything else may be raised for damaged files.
    """
    from tinhalo.core.artwork.drawings.svg_file import read_svg

    if data[:2] == b"\x1f\x8b":
        data = _unpacked(data)
    begin = data[:4096].lstrip(b"\xef\xbb\xbf\xff\xfe \t\r\n\0")
    if begin[:1] == b"<":
        return read_svg(data)
    if begin[:18] == b"AutoCAD Binary DXF" or b"SECTION" in data[:200_000]:
        from tinhalo.core.artwork.drawings.dxf_file import read_dxf

        return read_dxf(data)
    raise DrawingError("it is neither an SVG nor a DXF drawing")


def _unpacked(data: bytes) -> bytes:
    unpacker = zlib.decompressobj(31)
    made = unpacker.decompress(data, MOST_BYTES)
    if unpacker.unconsumed_tail:
        raise DrawingError(f"unpacked it has more than {MOST_BYTES / 1e6:.0f} MB")
    return made
