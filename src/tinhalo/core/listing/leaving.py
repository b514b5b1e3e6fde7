"""What leaves of a whole list beside each row's pack: sheets with their key, a check list, quantities, a manifest."""

from __future__ import annotations

import json
import shutil
from collections.abc import Sequence
from dataclasses import asdict
from pathlib import Path

from tinhalo.core.design.laying import Laying
from tinhalo.core.listing import check_list, key_pages
from tinhalo.core.listing.batch import SHEETS, Done, Job
from tinhalo.core.listing.laid import together
from tinhalo.core.listing.quantities import as_csv, as_xlsx, table_of
from tinhalo.core.listing.rows import PICTURES, Asked, lay
from tinhalo.core.output.formats import FORMATS
from tinhalo.core.output.items import LaidBoard
from tinhalo.core.output.names import plain
from tinhalo.core.output.nesting import SECONDS
from tinhalo.core.output.sheets import Sheet, as_laid, files_of, is_current, lay_out
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.crew import Crew
from tinhalo.core.runtime.progress import part

LIST = "list.json"


def laid_list(job: Job, laying: Laying, crew: Crew) -> list[LaidBoard]:
    """What is laid of all rows, by board.

    Raises:
        CancelledError, CrewError: as ``Crew.each``.
    """
    tasks = [(Asked.of(job.design, k, job.files), laying) for k in range(len(job.names.rows))]
    return together(crew.each(lay, tasks))


def leave(
    job: Job, done: Sequence[Done], crew: Crew, *, anew: bool = False, seconds: float = SECONDS
) -> tuple[str, ...]:
    """Write it all; ``anew`` lays pieces that were not laid, or have changed since. What to know, in sentences.

    A layout of each sheet is searched for so many ``seconds`` then.

    Raises:
        ArtError: with a sentence, where something fits on no sheet.
        CancelledError, CrewError: as ``Crew.each``.
    """
    rows = sorted(done, key=lambda one: one.row)
    lines = table_of([quantity for one in rows for quantity in one.quantities])
    (job.out / "quantities.csv").write_bytes(as_csv(lines))
    (job.out / "quantities.xlsx").write_bytes(as_xlsx(lines))
    told = [[one.row, one.name, one.copies, one.folder, " ".join([*one.told, *one.open])] for one in rows]
    (job.out / "check list.csv").write_bytes(as_csv([["row", "name", "copies", "folder", "to know"], *told]))
    (job.out / "check list.pdf").write_bytes(check_list.write(job.design.name, [_line(job.out, one) for one in rows]))
    sheets, sentences = _sheets(job, crew, seconds, anew=anew)
    manifest = {
        "format": job.design.format,
        "name": job.design.name,
        "rows": [asdict(one) | {"quantities": [asdict(each) for each in one.quantities]} for one in rows],
        "sheets": sheets,
        "told": sentences,
    }
    (job.out / LIST).write_text(json.dumps(manifest, ensure_ascii=False, indent=1) + "\n", "utf-8")
    return sentences


def _line(out: Path, one: Done) -> check_list.Line:
    picture = out / PICTURES / f"{one.folder}.png"
    return check_list.Line(
        one.row, one.name, one.copies, picture.read_bytes() if picture.exists() else b"", (*one.told, *one.open)
    )


def _sheets(job: Job, crew: Crew, seconds: float, *, anew: bool) -> tuple[list[dict[str, object]], tuple[str, ...]]:
    """Sheets of what is laid of the list, in files; none, and why, where that is not what the list has now."""
    folder = job.out / SHEETS
    shutil.rmtree(folder, ignore_errors=True)
    laying = job.names.laying
    if not anew and not (laying and laying.placed):
        return [], ()
    laying = laying or job.design.hand_over.laying or Laying()
    with part(0, 0.5):
        boards = laid_list(job, laying, crew)
    if not is_current(boards, laying):
        if not anew:
            return [], ("The list has changed since it was laid on sheets: lay it out anew, or no sheets leave.",)
        with part(0.5, 0.9):
            laying = lay_out(boards, laying, seconds)
    sheets = as_laid(boards, laying)
    folder.mkdir()
    stems = _stems(sheets)
    found: list[dict[str, object]] = []
    for stem, sheet in zip(stems, sheets, strict=True):
        for after, laid in files_of(sheet).items():
            for format in job.formats or job.design.hand_over.formats:
                checkpoint()
                written = FORMATS[format].write(laid, job.design.hand_over)
                (folder / FORMATS[format].file_name(stem + after, laid)).write_bytes(written)
        on = [sheet.board.items[laying.placed[index].item].row for index in sheet.placed]
        about: dict[str, object] = {"file": stem, "material": sheet.board.board.material, "size_mm": list(sheet.size)}
        about |= {"pieces": len(on), "rows": sorted(set(on)), "used": round(sheet.used, 4), "wrong": list(sheet.wrong)}
        found.append(about)
    (folder / "key.pdf").write_bytes(key_pages.write(job.design.name, sheets, laying))
    wrong = [f"{sheet.drawing.title}: {sentence}" for sheet in sheets for sentence in sheet.wrong]
    return found, tuple(wrong)


def _stems(sheets: Sequence[Sheet]) -> list[str]:
    """File names without their endings; none twice, also where two boards are called alike."""
    found: list[str] = []
    for one in sheets:
        kind, number = one.called
        stem = f"{plain(one.board.board.title)}-{'offcut-' if kind == 'offcut' else ''}{number}"
        found.append(stem if stem not in found else f"{stem}-{len(found) + 1}")
    return found
