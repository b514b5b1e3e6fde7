"""All that makers saved as a folder of plain files, which can be read without the app, and back from it.

Designs as they stand are ``designs/ID.json``, saved starters ``starters/ID.json``; ``fonts/ID.font`` and ``files/ID``
are as they came, and ``names.json`` says by kind and id what starters, fonts and files are called, and in which folder
of the shelf designs are. Own materials, tables and tools are a JSON object each, by id or name.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tinhalo.core.artwork.error import ArtError
from tinhalo.core.design.hand_over import Table
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import in_range, read_design, read_stored
from tinhalo.core.materials import Material
from tinhalo.store.database import DamagedError
from tinhalo.store.designs import LONGEST_FOLDER, Designs, NotFoundError
from tinhalo.store.files import Files
from tinhalo.store.fonts import Fonts
from tinhalo.store.materials import OwnMaterials
from tinhalo.store.models import FileRow, FontRow, MaterialRow, StarterRow, TableRow, ToolRow
from tinhalo.store.portable import keep_file, keep_font
from tinhalo.store.readable import readable
from tinhalo.store.starters import Starters
from tinhalo.store.tables import OwnTable, OwnTables
from tinhalo.store.tools import OwnTools, read_tool

_NAMES = "names.json"
_OBJECT = TypeAdapter(dict[str, Any])


def write_plain(engine: Engine, out: Path) -> Iterator[str]:
    """Write all of it into a folder that is there; a sentence for each thing that cannot be read.

    Raises:
        OSError: when the folder cannot be written.
    """
    for kind in ("designs", "files", "fonts", "starters"):
        (out / kind).mkdir(exist_ok=True)
    designs = Designs(engine)
    names: dict[str, dict[str, str]] = {"fonts": {}, "files": {}, "starters": {}, "folders": {}}
    for one in designs.list():
        try:
            _, document = designs.current(one.id)
        except (DamagedError, DesignError):
            yield f"“{one.name}” cannot be read: it is only in the copy of the database, as it is."
            continue
        (out / "designs" / f"{one.id}.json").write_text(document.model_dump_json(by_alias=True, indent=1), "utf-8")
        if one.folder:
            names["folders"][one.id] = one.folder
    with Session(engine) as session:
        for font in session.scalars(select(FontRow)):
            (out / "fonts" / f"{font.id}.font").write_bytes(font.data)
            names["fonts"][font.id] = font.file
        for file in session.scalars(select(FileRow)):
            (out / "files" / file.id).write_bytes(file.data)
            names["files"][file.id] = file.name
        for starter in session.scalars(select(StarterRow)):
            (out / "starters" / f"{starter.id}.json").write_text(starter.document, "utf-8")
            names["starters"][starter.id] = starter.title
        own: dict[str, list[tuple[str, str]]] = {
            "materials": [(row.id, row.material) for row in session.scalars(select(MaterialRow))],
            "tables": [(row.name, row.table) for row in session.scalars(select(TableRow))],
            "tools": [(row.name, row.tool) for row in session.scalars(select(ToolRow))],
        }
    for kind, rows in own.items():
        _write(out / f"{kind}.json", dict(readable(rows, _as_json, lambda row: f"{row[0]!r}")))
    _write(out / _NAMES, names)


def read_plain(source: Path, engine: Engine) -> Iterator[str]:
    """Bring over what of such a folder is not there yet; a sentence for each thing that cannot be read.

    Whatever is drawn with is vetted as if it were brought in by itself.
    """
    fonts, files, designs, starters = Fonts(engine), Files(engine), Designs(engine), Starters(engine)
    names: dict[str, Any] = {}
    yield from _told(source / _NAMES, "what things are called", partial(_read_into, names, source / _NAMES))

    def name(kind: str, id: str, otherwise: str) -> str:
        known = names.get(kind)
        return str(known[id]) if isinstance(known, dict) and id in known else otherwise

    def design(path: Path) -> None:
        try:
            designs.current(path.stem)
        except NotFoundError:
            folder = name("folders", path.stem, "").strip()[:LONGEST_FOLDER]
            designs.create(read_design(path.read_bytes()), path.stem[:32], folder)

    def font(path: Path) -> None:
        if fonts.data(path.stem) is None:
            keep_font(path.read_bytes(), name("fonts", path.stem, path.stem), fonts)

    def file(path: Path) -> None:
        if files.listed(path.name) is None:
            keep_file(path.read_bytes(), name("files", path.name, path.name), files)

    known = {one.id for one in starters.list()}

    def starter(path: Path) -> None:
        if path.stem not in known:
            starters.add(name("starters", path.stem, path.stem), read_stored(path.read_text("utf-8")))

    for kind, pattern, bring in (
        ("fonts", "*.font", font),
        ("files", "*", file),
        ("designs", "*.json", design),
        ("starters", "*.json", starter),
    ):
        for path in sorted((source / kind).glob(pattern)):
            yield from _told(path, path.stem, partial(bring, path))
    yield from _read_own(source, engine)


def _read_own(source: Path, engine: Engine) -> Iterator[str]:
    materials, tables, tools = OwnMaterials(engine), OwnTables(engine), OwnTools(engine)
    kinds: tuple[tuple[str, set[str], Callable[[str, str], None]], ...] = (
        ("materials", {one.id for one in materials.list()}, lambda _, text: materials.put(in_range(Material, text))),
        (
            "tables",
            {one.name for one in tables.list()},
            lambda name, text: tables.put(OwnTable(name, Table.model_validate_json(text))),
        ),
        ("tools", {one.name for one in tools.list()}, lambda _, text: tools.put(read_tool(text))),
    )
    for kind, there, put in kinds:
        path = source / f"{kind}.json"
        found: dict[str, Any] = {}
        yield from _told(path, "all of it", partial(_read_into, found, path))
        for name, value in found.items():
            if name not in there:
                yield from _told(path, name, partial(put, name, json.dumps(value)))


def _told(path: Path, name: str, bring: Callable[[], None]) -> Iterator[str]:
    try:
        bring()
    except DesignError as error:
        yield f"{path}: {error.problems[0].sentence}"
    except ArtError as error:
        yield f"{path}: {error}"
    except (ValueError, OSError):
        yield f"{path} cannot be read: {name} is left out."


def _as_json(row: tuple[str, str]) -> tuple[str, Any]:
    return row[0], json.loads(row[1])


def _write(path: Path, value: Any) -> None:
    path.write_text(json.dumps(value, ensure_ascii=False, indent=1), "utf-8")


def _read_into(held: dict[str, Any], path: Path) -> None:
    """Add what a JSON object in a file holds; nothing where there is no file.

    Raises:
        ValueError: when it is something else.
    """
    if path.exists():
        held.update(_OBJECT.validate_json(path.read_bytes()))
