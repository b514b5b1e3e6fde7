"""Put the demo designs on the shelf."""

from __future__ import annotations

from importlib.resources import files
from pathlib import Path

from tinhalo.core.design.design import Design
from tinhalo.core.design.reading import read_design
from tinhalo.store.database import open_database
from tinhalo.store.designs import Designs, NotFoundError


def demo_designs() -> dict[str, Design]:
    """The demo designs by id."""
    folder = Path(str(files("tinhalo").joinpath("demo", "designs")))
    return {path.stem: read_design(path.read_bytes()) for path in sorted(folder.glob("*.json"))}


def seed(data: Path) -> None:
    """Add the demo designs that are not on the shelf in ``data`` yet; changed ones stay as they are."""
    designs = Designs(open_database(data))
    for id, design in demo_designs().items():
        try:
            designs.restore(id)
        except NotFoundError:
            designs.create(design, id)
