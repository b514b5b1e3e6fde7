"""The command line: ``tinhalo serve``, ``demo``, ``pack``, ``fonts``, ``warm``, ``openapi``."""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from fastapi import FastAPI

#: Exit code for input that cannot be used; the reason is on standard error.
BAD_INPUT = 2


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
    pack.add_argument(
        "--font",
        type=Path,
        action="append",
        default=[],
        metavar="FILE",
        help="a font file of your own that the design uses; its id is told when it is added in the app",
    )
    pack.add_argument(
        "--formats",
        default="",
        metavar="LIST",
        help="which files, with commas between: svg, dxf, dxf_r12, png; those that the design says if it is left out",
    )
    pack.set_defaults(run=_pack)

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
        serve.set_defaults(run=run)

    warm = commands.add_parser("warm", help="compile the curve fitting ahead of its first use")
    warm.set_defaults(run=_warm)
    openapi = commands.add_parser("openapi", help="print the API's OpenAPI description")
    openapi.set_defaults(run=_openapi)
    return parser


def _pack(args: argparse.Namespace) -> int:
    from tinhalo.core.artwork.error import ArtError
    from tinhalo.core.artwork.lettering.own import OwnFiles
    from tinhalo.core.design.problem import DesignError
    from tinhalo.core.design.reading import read_design
    from tinhalo.core.engine.build import build
    from tinhalo.core.findings.causes import summary
    from tinhalo.core.findings.survey import survey
    from tinhalo.core.output.formats import FORMATS
    from tinhalo.core.output.pack import pack_files
    from tinhalo.core.runtime.memo import Memo

    asked = dict.fromkeys(name.strip().lower() for name in args.formats.split(",") if name.strip())
    unknown = [name for name in asked if name not in FORMATS]
    if unknown:
        return _refuse(f"There is no format “{unknown[0]}”. Files can be written as {', '.join(FORMATS)}.")
    try:
        library = OwnFiles({font.name: font.read_bytes() for font in args.font})
        design = read_design(args.design.read_bytes())
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
        for name, content in pack_files(built, memo, [name for name in FORMATS if name in asked]).items():
            (args.out / name).write_bytes(content)
    except OSError as error:
        return _refuse(f"{args.out} cannot be written: {error.strerror or error}.")
    for sentence in summary(survey(built, memo), design):
        print(sentence, file=sys.stderr)
    return 0


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
    _run(_app(args.data or _data_dir("designs")), args.port)
    return 0


def _demo(args: argparse.Namespace) -> int:
    from tinhalo.demo.seed import seed

    data = args.data or _data_dir("demo")
    seed(data)
    _run(_app(data), args.port)
    return 0


def _warm(_: argparse.Namespace) -> int:
    from tinhalo.core.geometry.warm import warm

    warm()
    return 0


def _openapi(_: argparse.Namespace) -> int:
    from tinhalo.api.app import create_app

    print(json.dumps(create_app(None).openapi(), indent=1, ensure_ascii=False))
    return 0


def _app(data: Path) -> FastAPI:
    from tinhalo.api.app import create_app

    return create_app(data)


def _run(app: FastAPI, port: int) -> None:
    import uvicorn

    from tinhalo.core.geometry.strokes.voronoi import compute_apart

    compute_apart()
    print(f"Tin Halo is at http://127.0.0.1:{port}/", flush=True)
    uvicorn.run(app, host="127.0.0.1", port=port, log_level="warning")


def _data_dir(name: str) -> Path:
    root = os.environ.get("TINHALO_DATA") or Path.home() / ".local" / "share" / "tinhalo"
    return Path(root) / name


def _refuse(*sentences: str) -> int:
    for sentence in sentences:
        print(sentence, file=sys.stderr)
    return BAD_INPUT


if __name__ == "__main__":
    raise SystemExit(main())
