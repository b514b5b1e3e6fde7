"""What a drawing file comes to, whatever its format: painted elements in order, each with plain outlines in mm."""

from __future__ import annotations

import io
import json
from base64 import b64decode
from collections.abc import Iterable
from dataclasses import asdict, dataclass, field, replace
from functools import cached_property
from itertools import pairwise
from urllib.parse import unquote_to_bytes

import numpy as np

from tinhalo.core.geometry.arrays import Degrees, Floats, Ints
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.outline import Outline

#: Ends of a line nearer than this, in mm, are one point.
_MET = 1e-6


@dataclass(frozen=True)
class Element:
    """One thing that a drawing paints: an area, or a line.

    Attributes:
        name: what the file calls it, or what it is: “wing”, “circle”.
        colour: #rrggbb of what it is painted with.
        painted: the plain outline of what is painted, in mm, y up; of a line, as wide as it is.
        enclosed: of a line, the plain outline of what it goes round.
        line: the line's width in mm; 0 of an area.
        ends: how many ends of the line lie open.
        hidden: why it is not seen (“it is switched off”); empty where it is.
        course: of a line, what it follows, where nothing is cut off it; open lines end where they end.
    """

    name: str
    colour: str
    painted: Outline
    enclosed: Outline = field(default_factory=Outline.empty)
    line: float = 0
    ends: int = 0
    hidden: str = ""
    course: Outline = field(default_factory=Outline.empty)

    @property
    def lines(self) -> list[Contour]:
        """The contours of its course: closed where one ends where it begins."""
        return [
            replace(one, closed=bool(np.abs(one.segments[0, 0] - one.segments[-1, 3]).max() < _MET))
            for one in self.course.contours()
        ]


@dataclass(frozen=True)
class Picture:
    """A picture in a drawing: its middle and width there, in mm, y up, and its ``data:`` address (RFC 2397)."""

    x: float
    y: float
    width: float
    data: str

    def bytes(self) -> bytes:
        """The picture's file; empty where its address is damaged."""
        head, _, content = self.data.partition(",")
        try:
            return b64decode(unquote_to_bytes(content)) if head.endswith(";base64") else unquote_to_bytes(content)
        except ValueError:
            return b""


#: What ids of files that the maker added begin with.
OWN_FILE = "file-"
#: All of an element but its outlines.
_FACTS = ("name", "colour", "line", "ends", "hidden")


@dataclass(frozen=True)
class DrawingFile:
    """A drawing as it was read.

    Attributes:
        elements: what it paints, the lowest first.
        page: its sheet in mm (min x, min y, max x, max y), y up; None where the format has none.
        sized: whether the file says how large it is.
        told: sentences on what was not brought in, or may surprise.
        texts: what is written in it as text, which has no outline.
        pictures: what lies in it as pictures.
    """

    elements: tuple[Element, ...]
    page: tuple[float, float, float, float] | None
    sized: bool
    told: tuple[str, ...] = ()
    texts: tuple[str, ...] = ()
    pictures: tuple[Picture, ...] = ()

    @cached_property
    def bounds(self) -> tuple[float, float, float, float]:
        """The box of everything it paints, in mm; at the origin where that is nothing."""
        boxes = np.array([one.painted.bounds() for one in self.elements if len(one.painted.segments)])
        if not len(boxes):
            return (0.0, 0.0, 0.0, 0.0)
        x0, y0, x1, y1 = [*boxes[:, :2].min(axis=0).tolist(), *boxes[:, 2:].max(axis=0).tolist()]
        return (x0, y0, x1, y1)

    @property
    def middle(self) -> tuple[float, float]:
        """The middle of that box: the origin of the art, whatever is chosen of the file."""
        x0, y0, x1, y1 = self.bounds
        return ((x0 + x1) / 2, (y0 + y1) / 2)

    def to_bytes(self) -> bytes:
        """Packed, to be kept beside the file itself."""
        outlines = [one for element in self.elements for one in (element.painted, element.enclosed, element.course)]
        facts = [{name: getattr(element, name) for name in _FACTS} for element in self.elements]
        head = {"elements": facts, "page": self.page, "sized": self.sized, "told": self.told, "texts": self.texts}
        head["pictures"] = [asdict(one) for one in self.pictures]
        made = io.BytesIO()
        joined = Outline.joined(outlines)
        counts = np.array([len(one.starts) - 1 for one in outlines], np.int64)
        np.savez_compressed(
            made,
            head=np.frombuffer(json.dumps(head).encode(), np.uint8),
            segments=joined.segments,
            degree=joined.degree,
            starts=joined.starts,
            counts=counts,
        )
        return made.getvalue()

    @staticmethod
    def from_bytes(data: bytes) -> DrawingFile:
        """What ``to_bytes`` packed."""
        with np.load(io.BytesIO(data), allow_pickle=False) as held:
            head = json.loads(held["head"].tobytes())
            segments, degree = held["segments"], held["degree"].astype(np.uint8)
            starts, counts = held["starts"].astype(np.intp), held["counts"]
        outlines = list(_split(segments, degree, starts, counts))
        # Before lines could be kept as lines, two outlines of each were packed.
        each = len(outlines) // max(len(head["elements"]), 1)
        names = ("painted", "enclosed", "course")[:each]
        elements = tuple(
            Element(**facts, **dict(zip(names, outlines[each * i : each * (i + 1)], strict=True)))
            for i, facts in enumerate(head["elements"])
        )
        pictures = tuple(Picture(**one) for one in head.get("pictures", ()))
        page = tuple(head["page"]) if head["page"] else None
        return DrawingFile(elements, page, head["sized"], tuple(head["told"]), tuple(head.get("texts", ())), pictures)


def _split(segments: Floats, degree: Degrees, starts: Ints, counts: Ints) -> Iterable[Outline]:
    ends = np.concatenate([[0], np.cumsum(counts)])
    for first, last in pairwise(ends):
        own = starts[first : last + 1]
        yield Outline(segments[own[0] : own[-1]], degree[own[0] : own[-1]], own - own[0])
