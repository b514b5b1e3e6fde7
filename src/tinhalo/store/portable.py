"""One file that holds a design with all that it is drawn with: a zip, described in docs/one-file.md.

``design.json`` is the document; ``files/`` holds drawings and pictures as they came, ``fonts/`` added fonts. Whatever
comes in is vetted as if it were brought in by itself, and gets its id from its content.
"""

from __future__ import annotations

import io
import zipfile

from pydantic import BaseModel

from tinhalo.core.artwork.drawings import vet as drawings
from tinhalo.core.artwork.drawings.drawing_file import OWN_FILE
from tinhalo.core.artwork.lettering.face import OWN
from tinhalo.core.artwork.lettering.vet import vet as vet_font
from tinhalo.core.artwork.pictures import picture_file
from tinhalo.core.artwork.pictures.picture_file import is_picture
from tinhalo.core.design.design import Design
from tinhalo.core.design.problem import DesignError, Problem
from tinhalo.core.design.reading import read_design
from tinhalo.core.output.archive import write_zip
from tinhalo.store.files import Files
from tinhalo.store.fonts import Fonts

DOCUMENT = "design.json"
#: Of the file, of each part of it unpacked, of all of them together, and how many there may be.
MOST_BYTES, MOST_PART, MOST_TOGETHER, MOST_PARTS = 60_000_000, 40_000_000, 200_000_000, 300
_SAID = "This file cannot be opened: "


def packed(design: Design, fonts: Fonts, files: Files) -> bytes:
    """A design as one file; what is not here any more is left out of it, as it is of the design."""
    held = io.BytesIO()
    parts: dict[str, bytes] = {DOCUMENT: design.model_dump_json(by_alias=True, indent=1).encode()}
    own_fonts, own_files = own_of(design, fonts, files)
    parts |= {f"fonts/{font}": data for font, data in own_fonts.items()}
    # Their names are in the document.
    parts |= {f"files/{file}": data for file, data in own_files.items()}
    write_zip(held, parts.items())
    return held.getvalue()


def own_of(design: Design, fonts: Fonts, files: Files) -> tuple[dict[str, bytes], dict[str, bytes]]:
    """Own fonts, and own drawings and pictures, that a design is drawn with, by id; without those that are gone."""
    drawn = _drawn_with(design)
    ids = [str(getattr(one, field, "")) for one in drawn for field in ("font", "file")]
    own_fonts: dict[str, bytes] = {}
    own_files: dict[str, bytes] = {}
    for id in [*ids, *_named_by_rows(design)]:
        if id.startswith(OWN) and (found := fonts.data(id)):
            own_fonts[id] = found[0]
        if id.startswith(OWN_FILE) and (brought := files.original(id)):
            own_files[id] = brought[1]
    return own_fonts, own_files


def unpacked(data: bytes, fonts: Fonts, files: Files) -> Design:
    """The design of such a file, or of a plain JSON document; its fonts and files are kept.

    Raises:
        DesignError: when it is none, or holds too much.
        ArtError: when a font, drawing or picture in it cannot be used.
    """
    if not data.startswith(b"PK"):
        return read_design(data)
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            parts = _read(archive)
    except DesignError:
        # It says more than that the zip is damaged.
        raise
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, EOFError, OSError, ValueError) as error:
        raise _refused("it is a damaged zip.") from error
    if DOCUMENT not in parts:
        raise _refused(f"there is no {DOCUMENT} in it.")
    design = read_design(parts.pop(DOCUMENT))
    names = {str(getattr(one, "file", "")): str(getattr(one, "name", "")) for one in _drawn_with(design)}
    for path, content in parts.items():
        folder, _, id = path.partition("/")
        name = names.get(id) or id
        if folder == "fonts":
            keep_font(content, name, fonts)
        else:
            keep_file(content, name, files)
    return design


def keep_font(content: bytes, name: str, fonts: Fonts) -> None:
    """Vet a font and keep it.

    Raises:
        ArtError: when it cannot be used.
    """
    fonts.add(name, vet_font(content, name))


def keep_file(content: bytes, name: str, files: Files) -> None:
    """Vet a drawing or a picture and keep it.

    Raises:
        ArtError: when it cannot be used.
    """
    if is_picture(content):
        files.add(name, "picture", content, picture_file.vet(content, name)[0])
    else:
        files.add(name, "drawing", content, drawings.vet(content, name).to_bytes())


def _drawn_with(design: Design) -> list[BaseModel]:
    """All that names fonts or files: art, what outlines were made of (they can go back to it), and prints."""
    originals = [getattr(art, "made_of", None) for art in design.art]
    fills = [one.fill for one in (*design.layers, *(dress for way in design.colour_ways for dress in way.layers))]
    return [*design.art, *(one for one in (*originals, *fills) if one is not None)]


def _named_by_rows(design: Design) -> list[str]:
    """Fonts and files that only single names of its list are drawn with."""
    own = design.names.own if design.names else ()
    return [change.value for one in own for change in one.changes if isinstance(change.value, str)]


def _read(archive: zipfile.ZipFile) -> dict[str, bytes]:
    infos = [one for one in archive.infolist() if not one.is_dir()]
    wanted = [one for one in infos if one.filename == DOCUMENT or one.filename.startswith(("files/", "fonts/"))]
    if len(wanted) > MOST_PARTS:
        raise _refused(f"there are more than {MOST_PARTS} files in it.")
    parts: dict[str, bytes] = {}
    left = MOST_TOGETHER
    for info in wanted:
        with archive.open(info) as part:
            # What a zip says of its sizes need not be so.
            content = part.read(min(MOST_PART, left) + 1)
        if len(content) > min(MOST_PART, left):
            raise _refused("unpacked it is too large.")
        left -= len(content)
        parts[info.filename] = content
    return parts


def _refused(why: str) -> DesignError:
    return DesignError([Problem("", _SAID + why)])
