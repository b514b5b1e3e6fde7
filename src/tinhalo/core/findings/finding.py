"""What a check reports."""

from __future__ import annotations

from typing import Literal

import numpy as np
import shapely
from pydantic import BaseModel, ConfigDict
from shapely import MultiPolygon, Polygon

from tinhalo.core.document.anchor import Anchor
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.geometry.arrays import XY

Kind = Literal[
    "missing_character",
    "empty_words",
    "text_too_long",
    "cannot_touch",
    "not_held",
    "line_too_short",
    "unknown_font",
    "unknown_file",
    "unknown_material",
    "nothing_cuts_it",
    "cuts_nothing",
    "not_made",
    "not_checked",
    "nothing_left",
    "no_source",
    "drop_out",
    "loose_piece",
    "sliver",
    "thin_spot",
    "tight_gap",
    "overhang",
    "closed_hole",
    "hole_near_edge",
    "sharp_corner",
    "too_big",
    "off_sheet",
    "hairline",
    "doubled_line",
    "out_of_register",
    "in_no_layer",
    "running_together",
    "coarse_print",
]

#: Outlines of places are shown, not cut: this close, in mm.
_SHOWN_WITHIN = 0.03


class Finding(BaseModel):
    """One thing to look at.

    Attributes:
        kind: which check reports it.
        severity: ``error`` when the layer cannot be made as it is, ``warning`` when it can but is likely to go wrong,
            ``note`` when it is only good to know.
        layer: id of the layer concerned, or None when it concerns art alone.
        art: id of the art block concerned, if any.
        sentence: what is the matter and what helps, for the maker.
        at: where it is, in mm (y up).
        where: the part it is at, “the e”; empty where none is near.
        outline: rings around the place, in mm (y up).
        measure: what was measured, in ``unit``.
        limit: what it should be at least, or at most for an overhang.
        unit: of both.
        mends: changes that each mend it.
        spot: the place as it stays with a part of some art; what an acceptance refers to.
        accepted: the note that it was accepted with; None while it is open.
    """

    model_config = ConfigDict(frozen=True, json_schema_serialization_defaults_required=True)

    kind: Kind
    severity: Literal["error", "warning", "note"]
    layer: str | None = None
    art: str | None = None
    sentence: str
    at: XY | None = None
    where: str = ""
    outline: tuple[tuple[XY, ...], ...] = ()
    measure: float | None = None
    limit: float | None = None
    unit: Literal["mm", "mm2"] | None = None
    mends: tuple[Mend, ...] = ()
    spot: Anchor | None = None
    accepted: str | None = None

    @property
    def open(self) -> bool:
        """Whether it still asks for something."""
        return self.accepted is None and self.severity != "note"

    @property
    def cause(self) -> str:
        """What findings have in common that have one cause: kind, layer or art, and whether they are still open."""
        state = "let be" if self.accepted is not None else "note" if self.severity == "note" else "open"
        own = self.sentence if self.layer is None else ""
        return "|".join((self.kind, self.layer or "", self.art or "", state, own))


def outline_of(area: Polygon | MultiPolygon) -> tuple[tuple[XY, ...], ...]:
    """The rings of an area, as a finding shows them."""
    # Quicker by far without a look at the topology; what would vanish is shown as it is.
    parts = shapely.get_parts(area)
    simple = shapely.simplify(parts, _SHOWN_WITHIN, preserve_topology=False)
    shown = [
        made if isinstance(made, Polygon) and not made.is_empty else part
        for made, part in zip(simple, parts, strict=True)
    ]
    rings = [ring for part in shown if isinstance(part, Polygon) for ring in (part.exterior, *part.interiors)]
    places = [np.round(shapely.get_coordinates(ring)[:-1], 3).tolist() for ring in rings]
    return tuple(tuple((x, y) for x, y in ring) for ring in places)


def rounded(point: shapely.Point | XY) -> XY:
    """A place to a thousandth of a millimetre: the same on every machine."""
    x, y = (point.x, point.y) if isinstance(point, shapely.Point) else point
    return (round(x, 3) + 0.0, round(y, 3) + 0.0)


def beginning(name: str) -> str:
    """A name as a sentence begins with it."""
    return name[:1].upper() + name[1:]
