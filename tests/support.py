"""What several tests need: fonts, regions, designs, distances between outlines."""

from __future__ import annotations

from typing import Any

import numpy as np
import shapely
from shapely import STRtree

from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.shipped import ShippedLibrary, shipped_fonts
from tinhalo.core.artwork.lettering.typeset import Typeset, typeset
from tinhalo.core.design.design import Design, Layer
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.survey import survey
from tinhalo.core.geometry.curves.precision import EXACT, Precision
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.runtime.memo import Memo

LIBRARY = ShippedLibrary()
#: Seconds that a layout of each sheet is searched for, in tests that are not about how tight it is.
BRIEFLY = 0.3
#: What builds of several tests have in common.
_memo = Memo()
FONTS = [font.id for font in shipped_fonts()]


_builds: dict[tuple[str, bool], Build] = {}


def build_of(design: Design, *, exact: bool = True) -> Build:
    """What comes of a design; what another test built already is not built again."""
    key = (design.model_dump_json(by_alias=True), exact)
    if key not in _builds:
        _builds[key] = build(design, LIBRARY, exact=exact, memo=_memo)
    return _builds[key]


def words(text: str, font: str = "pacifico", size: float = 24, **more: Any) -> Typeset:
    art = Lettering.model_validate({"id": "name", "text": text, "font": font, "size": size, **more})
    return typeset(art, LIBRARY.face(font))


def lettering(text: str, font: str = "pacifico", size: float = 24, precision: Precision = EXACT, **more: Any) -> Region:
    return words(text, font, size, **more).region(precision)


def hairlines(area: shapely.MultiPolygon, width: float = 2e-5) -> float:
    """How much edge there is, in mm, at slits and hairs slimmer than ``width`` mm: what closing and opening end."""
    if area.is_empty:
        return 0.0
    ended = [
        shapely.buffer(shapely.buffer(area, by, join_style="mitre"), -by, join_style="mitre")
        for by in (width / 2, -width / 2)
    ]
    return max(area.length - one.length for one in ended)


def block(design: Design, index: int = 0) -> Lettering:
    """A block of words of a design."""
    found = design.art[index]
    assert isinstance(found, Lettering)
    return found


def ops(layer: Layer) -> list[str]:
    """What the steps of a layer are."""
    return [step.model_dump()["op"] for step in layer.recipe.steps]


def told(made: Build) -> tuple[Finding, ...]:
    """What there is to look at without a look at shapes."""
    return survey(made, Memo(), shapes=False)


def document(steps: list[dict[str, Any]] | None = None, **art: Any) -> dict[str, Any]:
    """A design with a face and a backer, as plain data."""
    lettering = {"id": "name", "text": "Fenna", "font": "pacifico", "size": 24} | art
    backer = [{"op": "offset", "by": 4}, {"op": "fill_holes"}] if steps is None else steps
    return {
        "format": "tin-halo/1",
        "name": "Test",
        "art": [lettering],
        "layers": [
            {"id": "face", "name": "Face", "material": "acrylic-3", "recipe": {"from": ["name"]}},
            {"id": "backer", "name": "Backer", "recipe": {"from": ["name"], "steps": steps if steps else backer}},
        ],
    }


def design(steps: list[dict[str, Any]] | None = None, **art: Any) -> Design:
    return parse_design(document(steps, **art))


def edge_distances(points_of: list[np.ndarray], rings: list[np.ndarray]) -> np.ndarray:
    """Distance of each vertex of the first rings from the second rings' edges."""
    edges = np.concatenate([np.stack([r, np.roll(r, -1, axis=0)], axis=1) for r in rings])
    tree = STRtree(np.asarray(shapely.linestrings(edges)))
    points = shapely.points(np.concatenate(points_of))
    return tree.query_nearest(points, return_distance=True, all_matches=False)[1]


def farthest(points_of: list[np.ndarray], rings: list[np.ndarray]) -> float:
    """The greatest of those distances."""
    return float(edge_distances(points_of, rings).max())


#: What starters do of their own accord so that a first design opens without findings.
_PROTECTS = {"thicken", "tidy", "underlap", "bridge"}


def bare(design: Design) -> Design:
    """A starter's design without the steps that keep findings away."""

    def kept(step: dict[str, Any]) -> bool:
        slits = step["op"] == "close_gaps" and step["up_to"] <= 0.5
        opened = step["op"] == "offset" and abs(step["by"]) == 0.42
        return not (step["op"] in _PROTECTS or slits or opened)

    data = design.model_dump(mode="json", by_alias=True)
    for layer in data["layers"]:
        layer["recipe"]["steps"] = [step for step in layer["recipe"]["steps"] if kept(step)]
    return parse_design(data)
