"""Finding a place for a knockout, against full searches that share nothing with it, and by erosion."""

from __future__ import annotations

import unittest
from typing import Any

import cv2
import numpy as np
import shapely
from shapely import MultiPolygon, Polygon, box
from shapely.affinity import rotate

from tests.sampling import sampled
from tests.support import LIBRARY, lettering
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.seeking import Patience
from tinhalo.core.findings.mends.changes import mended
from tinhalo.core.findings.mends.mend import FindPlace, Mend, ScaleArt, SetStep
from tinhalo.core.findings.mends.placing import GoOn, Looking, Placed, find_place
from tinhalo.core.findings.survey import findings_of
from tinhalo.core.geometry.curves.precision import EXACT, SCREEN
from tinhalo.core.geometry.placement.clearance import clearance_inside, clearance_outside
from tinhalo.core.geometry.placement.cut_pieces import faults_at, parts_of
from tinhalo.core.geometry.placement.place_search import Pose
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.runtime.memo import Memo

#: However busy the machine is.
LONG = Patience(60, 60)
FIND = FindPlace(layer="word", step=0, least_area=6, least_width=1)


def falls(area: MultiPolygon, by: float) -> int:
    """How many more parts pieces fall into once ``by`` mm is taken off all edges."""
    parts = [[one for one in shapely.get_parts(piece.buffer(-by)) if one.area > 1e-3] for piece in area.geoms]
    return sum(max(0, len(one) - 1) for one in parts)


def words(id: str, text: str, font: str, size: float, **more: Any) -> dict[str, Any]:
    return {"id": id, "kind": "lettering", "text": text, "font": font, "size": size, **more}


def cut(*names: str, by: float = 1.5) -> dict[str, Any]:
    return {"op": "subtract", "operand": {"from": list(names), "steps": [{"op": "offset", "by": by}]}}


def document(steps: list[dict[str, Any]] | None = None, *art: dict[str, Any], **name: Any) -> dict[str, Any]:
    first = words("name", "Fenna", "pacifico", 20, place={"y": 12}) | name
    return {
        "format": "tin-halo/1",
        "art": [words("block", "KITES", "anton", 60), first, *art],
        "layers": [{"id": "word", "material": "vinyl", "recipe": {"from": ["block"], "steps": steps or [cut("name")]}}],
    }


def seek(data: dict[str, Any], go_on: GoOn | None = None, **find: Any) -> Placed:
    change = FIND.model_copy(update=find)
    *_, last = find_place(parse_design(data), change, LIBRARY, Memo(), go_on, LONG)
    assert isinstance(last, Placed)
    return last


class Samples(unittest.TestCase):
    def test_slivers_and_necks_on_samples_are_those_of_labelled_pictures(self) -> None:
        """Against OpenCV's labels of the same samples, at places drawn at random; each number told once."""
        letters = list(lettering("Bo&8", "alfa-slab-one", 40, SCREEN).area.geoms)
        channel = offset(lettering("Wim", "allura", 24, SCREEN), 1.2, SCREEN).area
        fields, away = [clearance_inside(one, 0.25) for one in letters], clearance_outside(channel, 0.25, 1)
        chance = np.random.default_rng(7)
        for stride, half, least in ((1, 0.5, 96.0), (2, 0.75, 15.0)):
            frames, begin = list[tuple[int, ...]](), 0
            for one in fields:
                own = parts_of(one.values, stride, half)
                frames.append((begin, *one.values.shape, one.row, one.column, own))
                begin += one.values.size
            places = chance.integers(-120, 240, (200, 2))
            samples = np.concatenate([one.values.ravel() for one in fields])
            corner = np.array([away.row, away.column])
            counts = faults_at(samples, np.array(frames), away.values, corner, places, stride, half, least, 1_000)
            for place, count in zip(places, counts[:, 0], strict=True):
                expected = sum(
                    self.labelled(one.values, (one.row, one.column) - corner - place, away.values, stride, half, least)
                    for one in fields
                )
                self.assertEqual(count, expected)

    def labelled(
        self, letter: np.ndarray, shift: np.ndarray, away: np.ndarray, stride: int, half: float, least: float
    ) -> int:
        rows, columns = (np.arange(0, side, stride) for side in letter.shape)
        r, c = rows[:, None] + shift[0], columns[None] + shift[1]
        within = (r >= 0) & (r < away.shape[0]) & (c >= 0) & (c < away.shape[1])
        free = np.where(within, away[np.clip(r, 0, away.shape[0] - 1), np.clip(c, 0, away.shape[1] - 1)], np.inf)
        own = letter[::stride, ::stride]
        left = np.minimum(own, free)
        if (left == own).all():
            return 0
        count, pieces = labels(left > 0)
        slivers, parts = 0, 0
        for piece in range(1, count + 1):
            of = pieces == piece
            if of.sum() < least or left[of].max() < np.float32(half):
                slivers += 1
            else:
                parts += labels(of & (left >= np.float32(half)))[0] - 1
        return slivers + max(0, parts - max(0, labels(own >= np.float32(half))[0] - 1))

    def test_clearances_are_distances(self) -> None:
        """To a tenth of a millimetre, by the distances of GEOS."""
        area = Polygon(box(0.1, 0.2, 20.3, 14.7).exterior, [box(6, 5, 9.4, 9).exterior])
        for field, inside in ((clearance_inside(area, 0.5), True), (clearance_outside(area, 0.5, 3), False)):
            rows, columns = field.values.shape
            x, y = np.meshgrid(0.5 * (field.column + np.arange(columns)), 0.5 * (field.row + np.arange(rows)))
            points = shapely.points(x, y)
            true = np.where(
                shapely.contains(area, points) == inside,
                shapely.distance(points, area.boundary if inside else area),
                0,
            )
            self.assertLess(np.abs(field.values - true).max(), 0.15)


class Places(unittest.TestCase):
    def test_what_is_clean_is_so_at_the_outlines_that_leave(self) -> None:
        """By erosion: no piece is too small, vanishes, or falls apart that did not before it was cut."""
        cases = (
            ("anton", "kaushan-script", "Fenna"),
            ("bevan", "pacifico", "Fenna"),
            ("anton", "allura", "Fenna"),
            ("bevan", "dancing-script", "Merle"),
            ("work-sans", "courgette", "Ingrid"),
            ("baloo-2", "pacifico", "Ottoline"),
            ("alfa-slab-one", "lobster", "Idris"),
        )
        for block, font, text in sampled(cases, 2 / 7):
            data = document(font=font, text=text)
            data["art"][0]["font"] = block
            placed = seek(data, least_area=4, least_width=0.8)
            with self.subTest(block=block, font=font):
                self.assertEqual(placed.faults, 0, placed.sentence)
                design = placed.design or parse_design(data)
                made = build(design, LIBRARY, exact=False, precision=EXACT)
                (cut,), letters = [one.region.area for one in made.layers], made.art[0].region.area
                self.assertGreater(min(piece.area for piece in cut.geoms), 4)
                self.assertFalse([piece for piece in cut.geoms if piece.buffer(-0.38).is_empty])
                self.assertLessEqual(falls(cut, 0.38), falls(letters, 0.38))
                told = findings_of(design, LIBRARY, Memo())
                self.assertFalse([one.sentence for one in told if one.layer == "word" and one.kind != "tight_gap"])

    def test_it_is_turned_only_where_no_straight_place_is_clean(self) -> None:
        """A bar that slants by 10°, and a name that leaves one large piece only where it is turned."""
        find: dict[str, Any] = {"least_area": 450, "least_width": 1.5}
        slanting, level = (barred(rotate(box(-50, -5, 50, 5), turn), height=5, text=20 * "H", y=0) for turn in (10, 0))
        self.assertGreater(seek(slanting, turn=0, **find).faults, 0)
        turned = seek(slanting, turn=12, **find)
        self.assertEqual(turned.faults, 0, turned.sentence)
        self.assertRegex(turned.sentence, r"turned by \d+°")
        straight = seek(level, turn=12, **find)
        self.assertEqual(straight.faults, 0, straight.sentence)
        self.assertNotIn("turned", straight.sentence)

    def test_what_does_not_turn_with_its_art_is_not_turned(self) -> None:
        """A plate around the name stays upright."""
        plate = {"op": "plate", "shape": "rectangle", "margin": 1}
        data = barred(rotate(box(-50, -5, 50, 5), 10), height=5, text=20 * "H", y=0)
        data["layers"][0]["recipe"]["steps"][0]["operand"]["steps"] = [plate]
        placed = seek(data, turn=12, least_area=450)
        self.assertNotIn("turned", placed.sentence)

    def test_pressed_again_it_gives_another_place(self) -> None:
        data, go_on, places = document(), None, list[Pose]()
        for _ in range(3):
            placed = seek(data, go_on)
            go_on = placed.go_on
            self.assertEqual(placed.faults, 0, placed.sentence)
            assert go_on
            places.append(go_on.avoid[-1])
        for k, place in enumerate(places):
            self.assertFalse([other for other in places[:k] if place.same_as(other)])

    def test_what_is_clean_stays(self) -> None:
        placed = seek(document())
        assert placed.design
        again = seek(placed.design.model_dump(mode="json", by_alias=True))
        self.assertIsNone(again.design)
        self.assertIn("stands well", again.sentence)

    def test_where_none_is_clean_the_best_is_told_with_what_helps(self) -> None:
        """Bars 9 mm high, 0.5 mm apart, of which 2 mm have to stay: 14.5 mm is the most that can be cut across two."""
        find: dict[str, Any] = {"least_width": 2, "least_area": 300, "turn": 0}
        data = barred(BARS, height=15.2)
        placed = seek(data, **find)
        self.assertGreater(placed.faults, 0)
        self.assertIn("too tall", placed.sentence)
        (smaller,) = placed.offers
        self.assertIsInstance(smaller.changes[0], ScaleArt)
        self.assertRegex(smaller.title, r"^(0\.9|[12](\.[0-9])?) mm smaller$")
        scaled = mended(parse_design(data), Mend(title="", changes=smaller.changes[:-1]), LIBRARY, Memo())
        self.assertEqual(seek(scaled.model_dump(mode="json", by_alias=True), **find).faults, 0)

    def test_a_channel_too_wide_is_offered_narrower(self) -> None:
        """The same bars, and a name 7.2 mm high in a channel 4 mm wide on either side."""
        data = barred(BARS, height=7.2, by=4)
        placed = seek(data, least_width=2, least_area=490, turn=0)
        self.assertGreater(placed.faults, 0)
        self.assertIn("the channel is too wide", placed.sentence)
        (narrower,) = [one for one in placed.offers if isinstance(one.changes[0], SetStep)]
        self.assertEqual(narrower.title, "Channel 0.8 mm narrower")

    def test_several_names_are_placed_together_and_apart(self) -> None:
        other = words("other", "Bram", "pacifico", 18, place={"y": 12})
        data = document([cut("name"), cut("other")], other, size=18)
        data["art"][0] |= {"text": "OSTREL", "size": 80}
        placed = seek(data, together=True, least_area=4, least_width=0.8)
        self.assertEqual(placed.faults, 0, placed.sentence)
        assert placed.design
        made = build(placed.design, LIBRARY, exact=False)
        name, more = (one.region.area.buffer(1.5) for one in made.art[1:])
        self.assertFalse(name.intersects(more))

    def test_names_of_one_step_have_places_of_their_own(self) -> None:
        """Also where it takes them from another layer, which stays as it is."""
        other = words("other", "Bram", "pacifico", 18, place={"y": 12})
        data = document([cut("names")], other, size=18)
        data["art"][0] |= {"text": "OSTREL", "size": 80}
        names = {"id": "names", "recipe": {"from": ["name", "other"], "steps": [{"op": "thicken", "to": 0.9}]}}
        data["layers"].append(names)
        placed = seek(data, least_area=4, least_width=0.8)
        self.assertEqual(placed.faults, 0, placed.sentence)
        assert placed.design
        self.assertEqual([layer.id for layer in placed.design.layers], ["word", "names"])
        name, more = (one.region.area.buffer(1.5) for one in build(placed.design, LIBRARY, exact=False).art[1:])
        self.assertFalse(name.intersects(more))

    def test_what_is_no_words_goes_with_the_name(self) -> None:
        dash = {"id": "dash", "kind": "shape", "shape": "rectangle", "width": 30, "height": 2, "place": {"y": 4}}
        data = document([cut("name", "dash")], dash)
        placed = seek(data, least_area=4, least_width=0.8)
        assert placed.design
        at = {one.id: np.array((one.place.x, one.place.y)) for one in placed.design.art}
        self.assertAlmostEqual(float(np.hypot(*(at["name"] - at["dash"]))), 8, places=3)

    def test_what_it_looks_at_is_told(self) -> None:
        """Each batch says where it looks, and the map shows the art there."""
        data = document(text="Ottoline", font="lobster")
        data["art"][0] |= {"font": "bebas-neue"}
        steps = list(find_place(parse_design(data), FIND.model_copy(update={"least_area": 400}), LIBRARY, Memo()))
        looks = [one for one in steps if isinstance(one, Looking)]
        self.assertGreater(len(looks), 2)
        self.assertEqual({one.art for one in looks}, {("name",)})
        self.assertGreater(len({tuple(one.shown.ravel().tolist()) for one in looks}), 2)
        self.assertFalse([one for one in looks if not 0 <= one.share <= 1])

    def test_what_cannot_be_placed_is_told(self) -> None:
        for data, step, said in (
            (document([cut("block")]), 0, "the same art"),
            (document([{"op": "offset", "by": 1}]), 0, "cut away"),
            (document(), 3, "no step number 4"),
            (document(against={"art": "block"}), 0, "set by other art"),
            (document(text=" "), 0, "nothing to cut"),
        ):
            with self.assertRaises(DesignError) as caught:
                seek(data, step=step)
            self.assertIn(said, str(caught.exception))


def labels(mask: np.ndarray) -> tuple[int, np.ndarray]:
    """How many parts hang together by their sides, and which each dot is of."""
    count, of = cv2.connectedComponents(mask.astype(np.uint8), connectivity=4)
    return count - 1, of


BARS = shapely.union_all([box(-40, y, 40, y + 9) for y in (0, 9.5, 19)])


def barred(
    letters: shapely.Geometry, height: float, by: float = 0, text: str = "HHHHHH", y: float = 10
) -> dict[str, Any]:
    """A document that cuts a rectangle as high as asked around some words, grown by so much, out of an area."""
    _, y0, _, y1 = lettering("HHH", "anton", 100, EXACT).area.bounds
    steps: list[dict[str, Any]] = [{"op": "close_gaps", "up_to": 20}]
    steps += [{"op": "offset", "by": by, "corners": "miter"}] if by else []
    rings = [part.exterior.coords[:-1] for part in shapely.get_parts(shapely.orient_polygons(letters))]
    path = " ".join("M" + " L".join(f"{x} {y}" for x, y in ring) + " Z" for ring in rings)
    block = {"id": "block", "kind": "outline", "path": path}
    name = words("name", text, "anton", 100 * height / (y1 - y0), place={"y": y})
    cut = {"op": "subtract", "operand": {"from": ["name"], "steps": steps}}
    return {
        "format": "tin-halo/1",
        "art": [block, name],
        "layers": [{"id": "word", "material": "vinyl", "recipe": {"from": ["block"], "steps": [cut]}}],
    }
