"""A list worked through by several processes: each row's pack in a folder of its own, and what was found.

Every row that is done is noted at once with a key of its design; a run that was ended goes on with the rows that are
not noted, or that have changed since.
"""

from __future__ import annotations

import json
import shutil
from collections.abc import Iterator
from dataclasses import asdict, dataclass
from pathlib import Path

from tinhalo.core.design.design import Design
from tinhalo.core.design.hand_over import Format
from tinhalo.core.design.names import Names
from tinhalo.core.listing.each import called
from tinhalo.core.listing.quantities import Quantity
from tinhalo.core.listing.rows import PICTURES, Asked, Packed, pack
from tinhalo.core.output.names import DEVICES, plain
from tinhalo.core.runtime.crew import Crew
from tinhalo.core.runtime.memo import digest

#: Where rows that are done are noted.
JOURNAL = "done.jsonl"
#: Folders beside those of the rows.
SHEETS = "sheets"
_OURS = (SHEETS, PICTURES)


@dataclass(frozen=True)
class Job:
    """What all rows share: the design with its list, where to, which formats, and where own files are (``rows``)."""

    design: Design
    out: Path
    formats: tuple[Format, ...] = ()
    files: str = ""

    @property
    def names(self) -> Names:
        """The list."""
        return self.design.names or Names()


@dataclass(frozen=True)
class Done:
    """A row that was made.

    Attributes:
        row: its number, from 1.
        name: what it is called.
        copies: how many of it are made.
        folder: where its pack is, in the batch's folder.
        key: of its design.
        told: what was done so that its words fit.
        open: findings that are open, by their causes, in sentences.
        failed: whether a layer could not be made as asked for.
        quantities: of its layers.
    """

    row: int
    name: str
    copies: int
    folder: str
    key: str
    told: tuple[str, ...]
    open: tuple[str, ...]
    failed: bool
    quantities: tuple[Quantity, ...]


def batch(job: Job, crew: Crew) -> Iterator[Done]:
    """Make every row; those that are done come as they are done, those of an earlier run first.

    Raises:
        CancelledError: within a second after nobody waits for it any more.
        CrewError: when a process ended.
    """
    job.out.mkdir(parents=True, exist_ok=True)
    # What was under way when a run was ended.
    for path in job.out.glob(".*-*"):
        if path.is_dir():
            shutil.rmtree(path, ignore_errors=True)
    folders = folders_of(job.names)
    noted = _noted(job)
    keys = _keys(job)
    count = len(folders)
    waiting = [k for k in range(count) if not _stands(job, noted.get(k + 1), folders[k], keys[k])]
    for index in sorted(set(range(count)).difference(waiting)):
        yield noted[index + 1]
    tasks = [(Asked.of(job.design, k, job.files), str(job.out / folders[k]), job.formats) for k in waiting]
    with (job.out / JOURNAL).open("a", encoding="utf-8") as journal:
        for made in crew.each(pack, tasks):
            index = made.row.number - 1
            done = _done(made, folders[index], keys[index])
            journal.write(json.dumps(asdict(done), ensure_ascii=False) + "\n")
            journal.flush()
            yield done


def _done(made: Packed, folder: str, key: str) -> Done:
    row = made.row
    sentences = tuple(one.sentence for one in made.causes)
    return Done(row.number, row.words, row.copies, folder, key, row.told, sentences, made.failed, made.quantities)


def folders_of(names: Names) -> list[str]:
    """A folder for each row, by the list's pattern: none differs from another only in case."""
    taken: set[str] = {*DEVICES, *_OURS}
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


def _stands(job: Job, done: Done | None, folder: str, key: str) -> bool:
    """Whether a row was made from what it is now, and its files are there."""
    return (
        done is not None and done.folder == folder and done.key == key and (job.out / folder / "manifest.json").exists()
    )


def _keys(job: Job) -> list[str]:
    """Of all that each row's files depend on."""
    shared = job.design.model_copy(update={"names": None}).model_dump_json()
    rules = job.names.model_dump_json(exclude={"rows", "own", "laying", "file"})
    own = {one.words: one.model_dump_json() for one in job.names.own}
    return [
        digest(shared, rules, json.dumps(row), own.get(called(job.names, index), ""), ",".join(job.formats))
        for index, row in enumerate(job.names.rows)
    ]
