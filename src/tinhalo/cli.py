"""The command line: ``tinhalo serve``, ``demo``, ``pack``, ``batch``, ``fonts``, ``backup`` and others."""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Callable, Iterable, Iterator, Sequence
from datetime import date
from getpass import getpass
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING

import tinhalo.core.runtime.seldom  # noqa: F401  # pyright: ignore[reportUnusedImport]
from tinhalo.api.settings import USUAL, NetworkAccess, Waits

if TYPE_CHECKING:
    from tinhalo.core.design.design import Design
    from tinhalo.core.design.hand_over import Format
    from tinhalo.core.listing.batch import Done

#: Exit code for input that cannot be used; the reason is on standard error.
BAD_INPUT = 2
#: Exit code when a layer could not be made as it is asked for; the files have the rest.
NOT_MADE = 1
#: Exit code of what was stopped by hand (128 and the number of the signal, as shells have it).
STOPPED = 130


def main(argv: Sequence[str] | None = None) -> int:
    """Run one command and return its exit code."""
    args = _parser().parse_args(argv)
    return args.run(args)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="tinhalo", description="Words into stacked, cuttable layers at true size.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    pack = commands.add_parser(
        "pack", help="write a design's cut pack: a file per layer, per board and of all of it, and a manifest"
    )
    pack.add_argument("design", type=Path, metavar="DESIGN.json")
    pack.add_argument("--out", type=Path, required=True, metavar="DIR")
    _add_own_files(pack)
    pack.add_argument("--stl", action="store_true", help="solids of all layers as STL, too")
    pack.add_argument("--3mf", dest="three_mf", action="store_true", help="solids of all layers as 3MF, too")
    pack.add_argument("--gcode", action="store_true", help="programs for the mill, of a carved design")
    pack.add_argument("--job-sheet", action="store_true", help="job-sheet.pdf, for whoever makes it")
    pack.add_argument("--proof", action="store_true", help="proof.pdf, for whoever ordered it")
    pack.set_defaults(run=_pack)

    several = commands.add_parser(
        "batch", help="write a cut pack for every row of a table: names in place of the design's words"
    )
    several.add_argument("design", type=Path, metavar="DESIGN.json")
    several.add_argument("table", type=Path, metavar="NAMES.csv", help="CSV, XLSX or ODS")
    several.add_argument("--out", type=Path, required=True, metavar="DIR")
    _add_own_files(several)
    several.add_argument("--processes", type=int, default=os.cpu_count() or 1, metavar="N", help="how many at once")
    several.add_argument(
        "--fail-on", choices=("nothing", "findings"), default="nothing", help="what makes the exit code 1"
    )
    several.add_argument("--sheets", action="store_true", help="lay all pieces on sheets, too, with a key of names")
    several.set_defaults(run=_batch)

    fonts = commands.add_parser("fonts", help="list the fonts that ship with the app")
    fonts.add_argument("--json", action="store_true", help="as JSON: id, family, style, kind, path, licence")
    fonts.set_defaults(run=_fonts)

    for name, run, text in (
        ("serve", _serve, "serve the app on 127.0.0.1"),
        ("demo", _demo, "seed the demo designs, then serve"),
    ):
        serve = commands.add_parser(name, help=text)
        serve.add_argument("--port", type=int, default=8765)
        serve.add_argument("--data", type=Path, default=None, metavar="DIR", help="where designs are kept")
        serve.add_argument("--host", default="127.0.0.1", help="the address to listen at; 0.0.0.0 for a whole network")
        serve.add_argument(
            "--name", action="append", default=[], help="what this machine is called there; may be given several times"
        )
        serve.add_argument("--tls", action="store_true", help="a proxy in front of it speaks TLS: see docs/shop.md")
        for name, default, waits_for in (
            ("head", USUAL.head, "for the head of a request"),
            ("database", USUAL.database, "for another program that holds the database"),
            ("nesting", USUAL.nesting, "for a tighter layout of each sheet"),
        ):
            serve.add_argument(
                f"--{name}-seconds", type=float, default=default, metavar="S", help=f"how long it waits {waits_for}"
            )
        serve.set_defaults(run=run)

    password = commands.add_parser("password", help="set the password that lets others on a network in")
    password.add_argument("--data", type=Path, default=None, metavar="DIR", help="where designs are kept")
    password.set_defaults(run=_password)

    backup = commands.add_parser(
        "backup", help="copy all designs, fonts and materials into a folder, also while it runs"
    )
    backup.add_argument("out", type=Path, metavar="DIR")
    backup.add_argument("--data", type=Path, default=None, metavar="DIR", help="where designs are kept")
    backup.set_defaults(run=_backup)
    restore = commands.add_parser("restore", help="put a backup back into a folder without designs")
    restore.add_argument("source", type=Path, metavar="DIR")
    restore.add_argument("--data", type=Path, default=None, metavar="DIR", help="where designs are to be kept")
    restore.set_defaults(run=_restore)

    warm = commands.add_parser("warm", help="compile the curve fitting ahead of its first use")
    warm.set_defaults(run=_warm)
    openapi = commands.add_parser("openapi", help="print the API's OpenAPI description")
    openapi.set_defaults(run=_openapi)
    return parser


def _add_own_files(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--font",
        type=Path,
        action="append",
        default=[],
        metavar="FILE",
        help="a font file of your own that the design uses; its id is told when it is added in the app",
    )
    parser.add_argument(
        "--drawing",
        type=Path,
        action="append",
        default=[],
        metavar="FILE",
        help="a drawing file that the design uses (SVG or DXF)",
    )
    parser.add_argument(
        "--formats",
        default="",
        metavar="LIST",
        help="which files, with commas between: svg, dxf, dxf_r12, pdf, eps, hpgl, tiles, png, or all; those that the "
        "design says if it is left out",
    )


def _pack(args: argparse.Namespace) -> int:
    from tinhalo.core.recipe.apart import Limits, limited

    with limited(Limits(apart=True)):
        return _packed(args)


def _packed(args: argparse.Namespace) -> int:
    from tinhalo.core.artwork.error import ArtError
    from tinhalo.core.artwork.lettering.own import OwnFiles
    from tinhalo.core.design.problem import DesignError
    from tinhalo.core.design.reading import read_design
    from tinhalo.core.engine.build import build
    from tinhalo.core.findings.causes import summary
    from tinhalo.core.findings.survey import survey
    from tinhalo.core.output import job_sheet, proof
    from tinhalo.core.output.pack import pack_files
    from tinhalo.core.runtime.memo import Memo

    try:
        formats = _formats(args.formats)
    except ValueError as error:
        return _refuse(str(error))
    try:
        fonts = {font.name: font.read_bytes() for font in args.font}
        library = OwnFiles(fonts, {one.name: one.read_bytes() for one in args.drawing})
        design = _as_asked(read_design(args.design.read_bytes()), args)
        built = build(design, library)
    except OSError as error:
        return _refuse(f"{error.filename or args.design}: {error.strerror or error}.")
    except ArtError as error:
        return _refuse(str(error))
    except DesignError as error:
        return _refuse(*[f"{args.design}: {p.sentence}" for p in error.problems])
    try:
        args.out.mkdir(parents=True, exist_ok=True)
        memo = Memo()
        pages = {"job-sheet.pdf": job_sheet.write(built, memo=memo)} if args.job_sheet else {}
        pages |= {"proof.pdf": proof.write(proof.Proof(built, 0, date.today()))} if args.proof else {}
        for name, content in (pack_files(built, memo, formats) | pages).items():
            (args.out / name).write_bytes(content)
    except OSError as error:
        return _refuse(f"{args.out} cannot be written: {error.strerror or error}.")
    for sentence in summary(survey(built, memo), design):
        print(sentence, file=sys.stderr)
    return NOT_MADE if any(layer.failures for layer in built.layers) else 0


def _as_asked(design: Design, args: argparse.Namespace) -> Design:
    """The design with the solids and programs that were asked for beside those that it says."""
    solids = design.hand_over.solids
    wanted = {*solids.formats, *(["stl"] if args.stl else []), *(["3mf"] if args.three_mf else [])}
    formats = tuple(one for one in ("3mf", "stl") if one in wanted)
    hand_over = design.hand_over.model_copy(update={"solids": solids.model_copy(update={"formats": formats})})
    carving = design.carving.model_copy(update={"gcode": True}) if design.carving and args.gcode else design.carving
    return design.model_copy(update={"hand_over": hand_over, "carving": carving})


def _formats(asked: str) -> list[Format]:
    """Formats by their names with commas between, in the usual order.

    Raises:
        ValueError: with a sentence, where there is none of such a name.
    """
    from tinhalo.core.output.formats import FORMATS

    names = dict.fromkeys(name.strip().lower() for name in asked.split(",") if name.strip())
    if "all" in names:
        return list(FORMATS)
    unknown = [name for name in names if name not in FORMATS]
    if unknown:
        raise ValueError(f"There is no format “{unknown[0]}”. Files can be written as {', '.join(FORMATS)}.")
    return [name for name in FORMATS if name in names]


def _batch(args: argparse.Namespace) -> int:
    from tinhalo.core.artwork.error import ArtError
    from tinhalo.core.design.problem import DesignError
    from tinhalo.core.design.reading import read_design
    from tinhalo.core.listing.batch import Job, batch
    from tinhalo.core.listing.columns import usual_columns
    from tinhalo.core.listing.leaving import leave
    from tinhalo.core.listing.rows import write_files
    from tinhalo.core.listing.table_file import TableError, read_table
    from tinhalo.core.recipe.apart import steps_apart
    from tinhalo.core.runtime.crew import Crew, CrewError

    try:
        formats = _formats(args.formats)
    except ValueError as error:
        return _refuse(str(error))
    try:
        design = read_design(args.design.read_bytes())
        table = read_table(args.table.read_bytes(), args.table.name)
        fonts = {font.name: font.read_bytes() for font in args.font}
        drawings = {one.name: one.read_bytes() for one in args.drawing}
    except OSError as error:
        return _refuse(f"{error.filename or args.design}: {error.strerror or error}.")
    except TableError as error:
        return _refuse(str(error))
    except DesignError as error:
        return _refuse(*[f"{args.design}: {p.sentence}" for p in error.problems])
    for sentence in table.told:
        print(sentence, file=sys.stderr)
    names = design.names
    if names is None or len(names.columns) != len(table.rows[0]):
        names = usual_columns(design, table.rows[0] if table.titled else (), table.rows[table.titled :])
    names = names.model_copy(update={"rows": table.rows[1:] if table.titled else table.rows})
    listed = design.model_copy(update={"names": names})
    crew = Crew(max(1, args.processes), steps_apart)
    try:
        with TemporaryDirectory() as kept:
            job = Job(listed, args.out, tuple(formats), write_files(Path(kept), fonts, drawings))
            done = list(_shown(batch(job, crew), len(names.rows)))
            for sentence in leave(job, done, crew, anew=args.sheets):
                print(sentence, file=sys.stderr)
    except OSError as error:
        return _refuse(f"{args.out} cannot be written: {error.strerror or error}.")
    except (ArtError, CrewError) as error:
        return _refuse(str(error))
    except KeyboardInterrupt:
        print("\nStopped. The same command goes on where it was.", file=sys.stderr)
        return STOPPED
    finally:
        crew.close()
    if any(one.failed for one in done):
        return NOT_MADE
    return NOT_MADE if args.fail_on == "findings" and any(one.open for one in done) else 0


def _shown(rows: Iterable[Done], count: int) -> Iterator[Done]:
    """Rows as they are done, each told on a line of its own, with what is open."""
    for number, one in enumerate(rows, 1):
        told = "; ".join([*one.told, *one.open]) or "nothing to look at"
        print(f"{number}/{count}  {one.row:4}  {one.name}: {told}", flush=True)
        yield one


def _fonts(args: argparse.Namespace) -> int:
    from tinhalo.core.artwork.lettering.shipped import shipped_fonts

    if args.json:
        listed = [
            {
                "id": f.id,
                "family": f.family,
                "style": f.style,
                "kind": f.kind,
                "path": str(f.path),
                "licence": str(f.licence),
            }
            for f in shipped_fonts()
        ]
        print(json.dumps(listed, ensure_ascii=False, indent=1))
    else:
        for f in shipped_fonts():
            print(f"{f.id:20} {f.family} {f.style} ({f.kind})")
    return 0


def _serve(args: argparse.Namespace) -> int:
    return _run(args, args.data or _data_dir("designs"))


def _demo(args: argparse.Namespace) -> int:
    def seeded(data: Path) -> None:
        from tinhalo.demo.seed import seed

        seed(data)

    return _run(args, args.data or _data_dir("demo"), seeded)


def _password(args: argparse.Namespace) -> int:
    from tinhalo.store.database import DataError
    from tinhalo.store.password import Password

    try:
        Password(args.data or _data_dir("designs")).set(_asked_for())
    except DataError as error:
        return _refuse(str(error))
    print("The password is set. Whoever is in has to enter it again.")
    return 0


def _asked_for() -> str:
    """A password, from the environment or typed in."""
    given = os.environ.get("TINHALO_PASSWORD", "")
    return given if given or not sys.stdin.isatty() else getpass("New password: ")


def _backup(args: argparse.Namespace) -> int:
    from tinhalo.store.backup import backup
    from tinhalo.store.database import DataError

    try:
        count = backup(args.data or _data_dir("designs"), args.out)
    except DataError as error:
        return _refuse(str(error))
    print(f"{count} designs are in {args.out}.")
    return 0


def _restore(args: argparse.Namespace) -> int:
    from tinhalo.store.backup import restore
    from tinhalo.store.database import DataError

    data = args.data or _data_dir("designs")
    try:
        count = restore(args.source, data)
    except DataError as error:
        return _refuse(str(error))
    print(f"{count} designs are in {data}.")
    return 0


def _warm(_: argparse.Namespace) -> int:
    from tinhalo.core.geometry.warm import warm

    warm()
    return 0


def _openapi(_: argparse.Namespace) -> int:
    from tinhalo.api.app import create_app

    print(json.dumps(create_app(None).openapi(), indent=1, ensure_ascii=False))
    return 0


def _access(args: argparse.Namespace, data: Path) -> NetworkAccess | None:
    """How others on a network use it; None when only this machine does.

    Raises:
        DataError: when it would be open to anybody.
    """
    from tinhalo.store.database import DataError
    from tinhalo.store.password import Password

    if args.host in ("127.0.0.1", "localhost", "::1") and not args.name and not args.tls:
        return None
    if not args.name:
        raise DataError("Say what this machine is called on the network, such as --name shop.local.")
    password = Password(data)
    if not password.is_set and sys.stdin.isatty():
        password.set(_asked_for())
    if not password.is_set:
        raise DataError("Without a password it would be open to the whole network. Set one first: tinhalo password.")
    if not args.tls:
        told = "Without TLS the password and all designs go over the network in the open."
        print(f"{told} docs/shop.md shows how to put a proxy with TLS in front.", file=sys.stderr)
    return NetworkAccess(args.name, password, args.tls)


def _run(args: argparse.Namespace, data: Path, prepare: Callable[[Path], None] = lambda _: None) -> int:
    from tinhalo.store.database import DataError
    from tinhalo.store.held import hold

    try:
        access = _access(args, data)
        held = hold(data, f"the Tin Halo at http://127.0.0.1:{args.port}/ (process {os.getpid()})")
        # All of the app takes seconds to read in: what is refused is refused before.
        from tinhalo.api.app import create_app
        from tinhalo.api.serving import serve
        from tinhalo.core.recipe.apart import steps_apart
        from tinhalo.core.runtime.elsewhere import computing_apart

        prepare(data)
        waits = Waits(args.head_seconds, args.database_seconds, args.nesting_seconds)
        app = create_app(data, access, waits)
    except DataError as error:
        print(error, file=sys.stderr)
        return 1
    steps_apart()
    name = args.name[0] if args.name else "127.0.0.1"
    address = f"https://{name}/" if args.tls else f"http://{name}:{args.port}/"
    print(f"Tin Halo is at {address}", flush=True)
    with computing_apart():
        serve(app, args.host, args.port, waits.head)
    held.close()
    return 0


def _data_dir(name: str) -> Path:
    root = os.environ.get("TINHALO_DATA") or Path.home() / ".local" / "share" / "tinhalo"
    return Path(root) / name


def _refuse(*sentences: str) -> int:
    for sentence in sentences:
        print(sentence, file=sys.stderr)
    return BAD_INPUT


if __name__ == "__main__":
    raise SystemExit(main())
