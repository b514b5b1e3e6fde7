"""A list worked through by several processes: each row's pack in a folder of its own, and what was found.

Every row that is done is noted at once with a key of its design; a run that was ended goes on with the rows that are
not noted, or that have changed since.
"""

from __future__ import annotations

import json
import multiprocessing
import os
import shutil
from collections.abc import Callable, Iterator, Mapping, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, ProcessPoolExecutor, wait
from dataclasses import asdict, dataclass
from pathlib import Path

from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.own import OwnFiles
from tinhalo.core.design.design import Design
from tinhalo.core.design.hand_over import Format
from tinhalo.core.design.names import Column, Names
from tinhalo.core.engine.build import build
from tinhalo.core.findings.causes import causes_of
from tinhalo.core.findings.survey import survey
from tinhalo.core.listing.each import row_of
from tinhalo.core.listing.quantities import Quantity, quantities_of
from tinhalo.core.output.names import DEVICES, plain
from tinhalo.core.output.pack import pack_files
from tinhalo.core.runtime.memo import Memo, digest

#: Where rows that are done are noted.
JOURNAL = "done.jsonl"
#: Memory of results that each process keeps, in bytes, and how many rows wait for each.
_BUDGET, _AHEAD = 128 * 1024 * 1024, 2


@dataclass(frozen=True)
class Job:
    """What all rows share: the design as it is saved, the list, own files by name, where to, and which formats."""

    design: Design
    names: Names
    out: Path
    fonts: Mapping[str, bytes]
    drawings: Mapping[str, bytes]
    formats: tuple[Format, ...] = ()


@dataclass(frozen=True)
class Done:
    """A row that was made.

    Attributes:
        row: its number, from 1.
        name: what it is called.
        folder: where its pack is, in the batch's folder.
        key: of its design.
        told: what was done so that its words fit.
        open: findings that are open, by their causes, in sentences.
        failed: whether a layer could not be made as asked for.
        quantities: of its layers.
    """

    row: int
    name: str
    folder: str
    key: str
    told: tuple[str, ...]
    open: tuple[str, ...]
    failed: bool
    quantities: tuple[Quantity, ...]


def batch(job: Job, processes: int, wanted: Callable[[], bool] = lambda: True) -> Iterator[Done]:
    """Make every row; those that are done come as they are done, those of an earlier run first.

    Args:
        job: what to make.
        processes: how many at once.
        wanted: asked again and again; once it says no, all of it is given up within a second.
    """
    job.out.mkdir(parents=True, exist_ok=True)
    folders = folders_of(job.names)
    noted = _noted(job)
    waiting = [k for k in range(len(job.names.rows)) if not _stands(job, noted.get(k + 1), folders[k])]
    for index in range(len(job.names.rows)):
        if index not in waiting:
            yield noted[index + 1]
    context = multiprocessing.get_context("forkserver")
    pool = ProcessPoolExecutor(processes, context, _ready, (job,))
    try:
        with (job.out / JOURNAL).open("a", encoding="utf-8") as journal:
            going: set[Future[Done]] = set()
            while (waiting or going) and wanted():
                while waiting and len(going) < processes * _AHEAD:
                    index = waiting.pop(0)
                    going.add(pool.submit(_make, index, folders[index]))
                ended, going = wait(going, 0.2, FIRST_COMPLETED)
                for one in ended:
                    done = one.result()
                    journal.write(json.dumps(asdict(done), ensure_ascii=False) + "\n")
                    journal.flush()
                    yield done
    finally:
        _end(pool)


def _end(pool: ProcessPoolExecutor) -> None:
    """Nobody waits for it: what is under way is left as it is, and made again another time."""
    children = list((pool._processes or {}).values())  # pyright: ignore[reportPrivateUsage]
    pool.shutdown(wait=False, cancel_futures=True)
    for child in children:
        child.kill()


def folders_of(names: Names) -> list[str]:
    """A folder for each row, by the list's pattern: none differs from another only in case."""
    taken: set[str] = {*DEVICES}
    digits = len(str(len(names.rows)))
    found: list[str] = []
    for index, cells in enumerate(names.rows):
        words = [text for column, text in zip(names.columns, cells, strict=False) if column.use == "words"]
        called = names.file.replace("{n}", f"{index + 1:0{digits}}").replace("{words}", " ".join(words))
        stem, number = plain(called.replace("\n", " "), r"\w .-", "row"), 2
        name = stem
        while name.casefold() in taken:
            name, number = f"{stem}-{number}", number + 1
        taken.add(name.casefold())
        found.append(name)
    return found


def _noted(job: Job) -> dict[int, Done]:
    """What an earlier run noted; a line that breaks off was not."""
    found: dict[int, Done] = {}
    path = job.out / JOURNAL
    for line in path.read_text("utf-8").splitlines() if path.exists() else ():
        try:
            told = json.loads(line)
            told["quantities"] = tuple(Quantity(**one) for one in told["quantities"])
            done = Done(**(told | {"told": tuple(told["told"]), "open": tuple(told["open"])}))
        except (ValueError, TypeError, KeyError):
            continue
        found[done.row] = done
    return found


def _stands(job: Job, done: Done | None, folder: str) -> bool:
    """Whether a row was made from what it is now, and its files are there."""
    return (
        done is not None
        and done.folder == folder
        and done.key == _key(job, done.row - 1)
        and (job.out / folder / "manifest.json").exists()
    )


def _key(job: Job, index: int) -> str:
    """Of all that a row's files depend on."""
    shared = job.design.model_copy(update={"names": None}).model_dump_json()
    rules = job.names.model_dump_json(exclude={"rows"})
    return digest(shared, rules, json.dumps(job.names.rows[index]), ",".join(job.formats))


_job: Job | None = None
_library: OwnFiles | None = None
_memo = Memo(_BUDGET)


def _ready(job: Job) -> None:
    """In each process, once."""
    global _job, _library
    _job, _library = job, OwnFiles(job.fonts, job.drawings)


def _make(index: int, folder: str) -> Done:
    """In one of the processes: a row's pack. It gets its place all at once: a folder that is there is whole."""
    assert _job and _library
    row = row_of(_job.design, _job.names, index, _library, _memo)
    built = build(row.design, _library, memo=_memo)
    findings = survey(built, _memo)
    causes = [one for one in causes_of(findings, row.design) if not one.accepted and one.severity != "note"]
    half = _job.out / f".{os.getpid()}-{index}"
    shutil.rmtree(half, ignore_errors=True)
    half.mkdir()
    for name, content in pack_files(built, _memo, _job.formats).items():
        (half / name).write_bytes(content)
    there = _job.out / folder
    shutil.rmtree(there, ignore_errors=True)
    half.rename(there)
    return Done(
        row.number,
        row.words,
        folder,
        _key(_job, index),
        row.told,
        tuple(one.sentence for one in causes),
        any(layer.failures for layer in built.layers),
        tuple(quantities_of(row, built)),
    )


def usual_columns(design: Design, titles: Sequence[str], rows: Sequence[Sequence[str]]) -> Names:
    """Columns as they are most likely meant: by their titles, numbers as copies, the rest in order to the words."""
    blocks = [one.id for one in design.art if isinstance(one, Lettering)]
    columns: list[Column] = []
    for k in range(len(rows[0]) if rows else 0):
        title = titles[k] if k < len(titles) else ""
        are_numbers = k > 0 and all(row[k].isdecimal() for row in rows if row[k])
        if title.strip().casefold() in ("copies", "count", "number", "pieces") or (are_numbers and not title):
            columns.append(Column(title=title, use="copies"))
        elif title.strip().casefold() in ("colour way", "color way", "colours", "colors", "colour", "color"):
            columns.append(Column(title=title, use="colour_way"))
        elif blocks:
            named = title.strip() if title.strip() in blocks else blocks[0]
            blocks.remove(named)
            columns.append(Column(title=title, use="words", art=named))
        else:
            columns.append(Column(title=title))
    return Names(columns=tuple(columns))


def leftovers(out: Path) -> None:
    """Folders of rows that were under way when a run was ended."""
    for path in out.glob(".*-*"):
        if path.is_dir():
            shutil.rmtree(path, ignore_errors=True)
