"""The files that solids leave in."""

from __future__ import annotations

from dataclasses import dataclass

from tinhalo.core.engine.built import Build
from tinhalo.core.output import stl, three_mf
from tinhalo.core.output.names import Names
from tinhalo.core.output.solids import Solid, solids_of


@dataclass(frozen=True)
class SolidFile:
    """A file, and the solids in it."""

    content: bytes
    solids: tuple[Solid, ...]


def solid_files(build: Build, names: Names) -> dict[str, SolidFile]:
    """By name: a package of all solids in register, or a file of all and one for each; as the design says."""
    wanted = build.design.hand_over.solids.formats
    every = tuple(solids_of(build)) if wanted else ()
    files: dict[str, SolidFile] = {}
    if not every:
        return files
    title = build.design.name
    if "3mf" in wanted:
        files["solids.3mf"] = SolidFile(three_mf.write(title, every), every)
    if "stl" in wanted:
        files["solids.stl"] = SolidFile(stl.write(title, every), every)
        for one in every if len(every) > 1 else ():
            files[f"solid-{names.layers[one.id]}.stl"] = SolidFile(stl.write(one.title, [one]), (one,))
    return files
