"""Read a strange font file in a process of its own, with limits on size, time and memory.

A damaged or hostile file may crash, hang or swell whatever reads it. Here that happens to a child process; the maker
gets a sentence, and nothing is harmed.
"""

from __future__ import annotations

import logging
from dataclasses import dataclass

from tinhalo.core.artwork.lettering.face import Face, FontError
from tinhalo.core.artwork.lettering.font_file import FontFacts, check_signature, read_faces
from tinhalo.core.runtime.processes import ask, judged, read_ahead

MOST_BYTES = 20_000_000
_MOST = f"{MOST_BYTES / 1e6:.0f} MB"
MOST_SECONDS = 2
#: A busy machine may need longer for these two seconds' work.
MOST_WAITING = 8.0
#: On top of what the process holds before it reads anything.
MOST_MEMORY = 400_000_000

#: Letters that are drawn to see that the font's outlines are sound.
_SAMPLE = (*range(0x21, 0x7F), *range(0xC0, 0x100))

read_ahead(f"{__name__}_warm")


@dataclass(frozen=True)
class VettedFont:
    """One face of a file that was read without harm: its facts, and itself as a plain font file."""

    facts: FontFacts
    data: bytes


def vet(data: bytes, name: str) -> list[VettedFont]:
    """All faces of a font file.

    Args:
        data: the file's bytes.
        name: the file's name, for messages.
    Raises:
        FontError: with a sentence saying what is wrong with the file.
    """
    if len(data) > MOST_BYTES:
        raise FontError(f"{name} has {len(data) / 1e6:.0f} MB; {_MOST} is the most that a font file may have.")
    check_signature(data, name)
    try:
        answer: list[VettedFont] | str = ask(
            judged, (judge, (data, name), MOST_SECONDS, MOST_MEMORY), MOST_WAITING, lambda: True
        )
    except TimeoutError as error:
        raise FontError(f"{name} cannot be used: reading it takes too long. The file may be damaged.") from error
    except EOFError as error:
        raise FontError(f"{name} cannot be used: the file is damaged.") from error
    if isinstance(answer, str):
        raise FontError(answer)
    return answer


def judge(data: bytes, name: str) -> list[VettedFont] | str:
    """All faces of a font file, or a sentence that says why it cannot be used."""
    # fontTools logs every oddity of a damaged file.
    logging.disable()
    try:
        return examine(data, name)
    except FontError as error:
        return str(error)
    except MemoryError:
        return f"{name} cannot be used: reading it takes too much memory. The file may be damaged."
    except TimeoutError:
        return f"{name} cannot be used: reading it takes too long. The file may be damaged."
    except BaseException:
        # Damaged tables make fontTools raise almost anything.
        return f"{name} cannot be used: the file is damaged."
    finally:
        logging.disable(logging.NOTSET)


def examine(data: bytes, name: str) -> list[VettedFont]:
    """Read all faces and draw a sample of their letters, without any limits.

    Raises:
        FontError: when a face cannot be drawn; anything else may be raised for damaged files.
    """
    found = [VettedFont(facts, plain) for facts, plain in read_faces(data, name)]
    if not found:
        raise FontError(f"{name} holds no fonts.")
    for font in found:
        if len(font.data) > MOST_BYTES:
            size = f"{len(font.data) / 1e6:.0f} MB"
            raise FontError(f"{name} cannot be used: unpacked it has {size}, {_MOST} is the most.")
        face = Face(font.data, name)
        shaped = face.shape(list(_SAMPLE), [])
        drawn = [face.glyph(g.glyph) for g in shaped if g.glyph]
        if not any(len(one.outline.segments) for one in drawn):
            raise FontError(f"{name} cannot be used: it draws no letters (fonts made of pictures cannot be cut).")
    return found
