"""A graded set of shapes with known faults, each with a clean twin; and mends, acceptance and order on real designs."""

from __future__ import annotations

import unittest
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field

import numpy as np
import shapely
from shapely import MultiPolygon, Point, Polygon, box
from shapely.affinity import rotate, translate
from shapely.geometry.base import BaseGeometry

from tests.sampling import FUZZ, sampled
from tests.support import FONTS, LIBRARY, build_of, lettering
from tinhalo.core.design.design import FORMAT, Design, Layer
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.mends.changes import mended
from tinhalo.core.findings.mends.mend import Mend, SetStep
from tinhalo.core.findings.survey import survey, told_of
from tinhalo.core.findings.surveyed import Called, Surveyed
from tinhalo.core.geometry.curves.precision import EXACT, SCREEN
from tinhalo.core.geometry.regions.inner_corners import inner_corners
from tinhalo.core.geometry.regions.morphology import close_gaps
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.materials import Material, find_material
from tinhalo.core.output.pack import manifest
from tinhalo.core.recipe.evaluate import Evaluator, Named
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.runtime.memo import Memo


@dataclass(frozen=True)
class Fault:
    """A shape with one fault by construction, and the same shape without it.

    Attributes:
        name: of the shape.
        material: id; its limits are those that ship.
        shape: with the fault.
        clean: without.
        kind: of the one finding.
        place: where it has to be found, in mm.
        size: what has to be measured.
        below: what the layer lies on.
        clean_below: the same for the clean twin, where it is another.
    """

    name: str
    material: str
    shape: BaseGeometry
    clean: BaseGeometry
    kind: str
    place: BaseGeometry
    size: float
    below: BaseGeometry = field(default_factory=MultiPolygon)
    clean_below: BaseGeometry | None = None


def disc(x: float, y: float, radius: float) -> Polygon:
    return Point(x, y).buffer(radius, quad_segs=64)


def look(shape: BaseGeometry, material: str | Material, below: BaseGeometry, beneath: str = "ply-4") -> list[Finding]:
    region = Region.of(shape)
    under = () if below.is_empty else ((Layer(id="under", material=beneath), Region.of(below)),)
    made_of = find_material(material) if isinstance(material, str) else material
    assert made_of
    layer = Layer(id="layer", material=made_of.id)
    called = Called("a piece")
    one = Surveyed(
        layer=layer,
        material=made_of,
        region=region,
        stages=(region,),
        emptied_by=None,
        over=(),
        under=under,
        printed=(),
        middle=(0, 0),
        job=region.bounds,
        design=Design(format=FORMAT),
        made_from=frozenset(),
        makes=frozenset(),
        knockouts=(),
        called=lambda _: called,
        anchor=lambda _: None,
    )
    return told_of(one, "shape", "stack")


def after_steps(mend: Mend, fault: Fault) -> tuple[BaseGeometry, str, BaseGeometry]:
    """The shape of a fault, its material and what it lies on once the steps of a mend are made."""
    regions = {"layer": Region.of(fault.shape), "under": Region.of(fault.below)}
    for change in mend.changes:
        assert isinstance(change, SetStep)
        named = {id: Named(id, region) for id, region in regions.items()}
        recipe = Recipe.model_validate({"from": [change.layer], "steps": [change.step.model_dump(by_alias=True)]})
        regions[change.layer] = Evaluator(named.__getitem__, EXACT, Memo()).cook(recipe)
    return regions["layer"].area, fault.material, regions["under"].area


PLATE = box(0, 0, 40, 20)


def loose() -> Iterator[Fault]:
    for gap in (0.01, 0.05, 0.2, 1, 5):
        # On plywood a gap under 0.2 mm is another fault: card's gap is judged alone where the piece is further away.
        piece = disc(20, 20 + gap + 3, 3)
        joined = PLATE.union(piece).union(box(18, 19, 22, 22 + gap))
        if gap >= 0.2:
            yield Fault(f"disc {gap} mm off", "ply-3", PLATE.union(piece), joined, "loose_piece", piece, gap)
    corner = box(40, 20, 48, 28)
    yield Fault("corner to corner", "ply-3", MultiPolygon([PLATE, corner]), PLATE, "loose_piece", corner, 0)
    pair = [disc(0, 0, 6), disc(12, 0, 6)]
    tangent = MultiPolygon(pair)
    yield Fault("tangent circles", "card", tangent, tangent.union(box(3, -2, 9, 2)), "loose_piece", tangent, 0)
    hole = PLATE.difference(disc(20, 10, 8))
    island = disc(20, 10, 4)
    held = hole.union(island).union(box(19, 0, 21, 10))
    yield Fault("island in a hole", "acrylic-3", hole.union(island), held, "drop_out", island, 4)


def slivers() -> Iterator[Fault]:
    for area, radius in ((0.5, 0.399), (2, 0.798), (3.8, 1.0998)):
        small, large = disc(60, 10, radius), disc(60, 10, 2)
        size = small.area
        assert abs(size / area - 1) < 0.01
        yield Fault(f"piece of {area}", "vinyl", PLATE.union(small), PLATE.union(large), "sliver", small, size)
        bored, open_ = PLATE.difference(translate(small, -40)), PLATE.difference(translate(large, -40))
        yield Fault(f"hole of {area}", "vinyl", bored, open_, "sliver", translate(small, -40), size)
    splinter, strip = box(60, 0, 60.3, 20), box(60, 0, 61.2, 20)
    yield Fault("splinter", "vinyl", PLATE.union(splinter), PLATE.union(strip), "sliver", splinter, 0.3)


def thin() -> Iterator[Fault]:
    for width in (0.2, 0.6, 1.0, 1.4):
        for angle in (0, 17, 45):

            def dumbbell(neck: float) -> BaseGeometry:
                return shapely.union_all([disc(0, 0, 5), disc(20, 0, 5), box(0, -neck / 2, 20, neck / 2)])

            made, clean = (rotate(dumbbell(w), angle, origin=(0, 0)) for w in (width, 2.4))
            place = rotate(box(4, -1, 16, 1), angle, origin=(0, 0))
            yield Fault(f"neck of {width} at {angle}", "ply-3", made, clean, "thin_spot", place, width)
    ring = disc(0, 0, 10)
    made, clean = ring.difference(disc(1.2, 0, 8)), ring.difference(disc(0.2, 0, 8))
    yield Fault("ring off centre", "acrylic-3", made, clean, "thin_spot", Point(9.6, 0), 0.8)
    wedges = Polygon([(0, 0), (6, 0), (3.4, 15), (6, 30), (0, 30), (2.6, 15)])
    fat = Polygon([(0, 0), (6, 0), (4, 15), (6, 30), (0, 30), (2, 15)])
    yield Fault("waist of two wedges", "ply-3", wedges, fat, "thin_spot", Point(3, 15), 0.8)
    rim, wide = (PLATE.difference(disc(20, 20 - 4 - r, 4)) for r in (0.7, 2))
    yield Fault("hole near the edge", "ply-3", rim, wide, "thin_spot", Point(20, 19.65), 0.7)


def gaps() -> Iterator[Fault]:
    for width in (0.03, 0.08, 0.15, 0.25):
        made, clean = (PLATE.difference(box(20 - w / 2, 8, 20 + w / 2, 30)) for w in (width, 0.5))
        yield Fault(f"slot of {width}", "vinyl", made, clean, "tight_gap", box(19.5, 7.5, 20.5, 20.5), width)
        pair, apart = (MultiPolygon([disc(0, 0, 8), disc(16 + w, 0, 8)]) for w in (width, 0.6))
        yield Fault(f"circles {width} apart", "vinyl", pair, apart, "tight_gap", Point(8 + width / 2, 0), width)
    near, far = (MultiPolygon([PLATE, box(40 + w, 0, 60, 20)]) for w in (0.01, 0.4))
    yield Fault("nearly touching", "vinyl", near, far, "tight_gap", box(40, 0, 40.01, 20), 0.01)


def overhangs() -> Iterator[Fault]:
    for over in (0.1, 1, 6):
        top, ground = box(0, 0, 40 + over, 20), PLATE.union(box(-3, -3, 40, 23))
        wide = box(-3, -3, 50, 23)
        place = box(40, 0, 40 + over, 20)
        yield Fault(f"{over} mm over", "acrylic-3", top, top.intersection(ground), "overhang", place, over, ground)
        yield Fault(f"{over} mm over, backer wider", "ply-3", top, box(0, 0, 40, 20), "overhang", place, over, ground)
        assert not look(top, "acrylic-3", wide)


def milled() -> Iterator[Fault]:
    # The tool is 3 mm wide: it leaves 1.5 mm in a corner.
    for own, radius in ((0.0, 0.0), (0.5, 0.5), (1.0, 1.0)):
        notch = box(60, 20, 100, 60)
        notch = notch.buffer(-radius).buffer(radius, quad_segs=64) if radius else notch
        sharp, soft = (box(0, 0, 100, 60).difference(n.union(box(80, 20, 100, 60)).union(box(60, 40, 100, 60)))
                       for n in (notch, box(60, 20, 100, 60).buffer(-3).buffer(3, quad_segs=64)))  # fmt: skip
        yield Fault(f"notch of radius {own}", "board-12", sharp, soft, "sharp_corner", Point(60, 20), own)


def too_big() -> Iterator[Fault]:
    for wide, high in ((620, 300), (300, 610), (450, 450)):
        size = max(wide, high) if max(wide, high) > 600 else 450
        made, clean = box(0, 0, wide, high), box(0, 0, 590, 390)
        yield Fault(f"{wide} by {high}", "ply-3", made, clean, "too_big", made, size)


def slits() -> Iterator[Fault]:
    for slit in (0, 0.05, 0.15):
        shadow, under = box(-10, 0, -slit, 20), box(-10, 0, 0.4, 20)
        place = box(-slit, 0, 0, 20)
        yield Fault(f"slit of {slit}", "vinyl", PLATE, PLATE, "hairline", place, slit, shadow, under)


def spans() -> Iterator[Fault]:
    """The middle between two edges is half of their distance from both; plywood spans what it is thick, 3 mm."""
    for width in (4, 9, 15):
        for angle in (0, 30):
            top, ground, held, place = (
                rotate(shape, angle, origin=(0, 0))
                for shape in (
                    box(-25, -6, 25, 6),
                    box(-30, -10, 30, 10).difference(box(-width / 2, -20, width / 2, 20)),
                    box(-30, -10, 30, 10).difference(box(-1.4, -20, 1.4, 20)),
                    box(-0.01, -6, 0.01, 6),
                )
            )
            yield Fault(f"gap of {width} at {angle}", "ply-3", top, top, "overhang", place, width / 2, ground, held)
        bay = box(-30, -10, 30, 10).difference(box(-width / 2, 0, width / 2, 20))
        whole = box(-30, -10, 30, 10)
        mouth = Point(0, 8)
        yield Fault(f"bay of {width}", "ply-3", box(-25, -8, 25, 8), box(-25, -8, 25, 8), "overhang", mouth,
                    width / 2, bay, whole)  # fmt: skip


def webs() -> Iterator[Fault]:
    for width in (0.5, 1.0, 1.3):
        for angle in (0, 20):
            bored, apart = (
                rotate(PLATE.difference(disc(20 - 4 - w / 2, 10, 4)).difference(disc(20 + 4 + w / 2, 10, 4)), angle,
                       origin=(20, 10))
                for w in (width, 3)
            )  # fmt: skip
            yield Fault(f"web of {width} at {angle}", "ply-3", bored, apart, "thin_spot", Point(20, 10), width)
        slot, wide = (PLATE.difference(box(5, 10 + w / 2, 35, 14)).difference(box(5, 6, 35, 10 - w / 2))
                      for w in (width, 3))  # fmt: skip
        yield Fault(f"bar of {width}", "ply-3", slot, wide, "thin_spot", box(5, 9, 35, 11), width)


def round_seams() -> Iterator[Fault]:
    face = disc(0, 0, 20)
    for slit in (0, 0.05, 0.15):
        shadow, under = disc(0, 0, 26).difference(disc(0, 0, 20 + slit)), disc(0, 0, 26).difference(disc(0, 0, 19.6))
        place = disc(0, 0, 20.2).difference(disc(0, 0, 19.9))
        yield Fault(f"round slit of {slit}", "vinyl", face, face, "hairline", place, slit, shadow, under)


def arcs() -> Iterator[Fault]:
    for width in (0.1, 0.3, 0.5):
        thin, wide = (disc(80, 0, 20).difference(disc(80, 0, 20 - w)).difference(box(50, 0, 110, 30))
                      for w in (width, 1.6))  # fmt: skip
        yield Fault(f"arc of {width}", "vinyl", PLATE.union(thin), PLATE.union(wide), "sliver", thin, width)


def doubled() -> Iterator[Fault]:
    for offset_by in (0, 0.01):
        beside, apart = box(40 + offset_by, 0, 60, 20), box(41, 0, 60, 20)
        place = box(40, 0, 40.01, 20)
        yield Fault("edge to edge", "ply-4", PLATE, PLATE, "doubled_line", place, 20, beside, apart)


def words() -> Iterator[Fault]:
    """A backer of real words in every font, with a faulty thing hung onto it."""
    for font in sampled(FONTS, 1 / 10):
        grown = offset(lettering("Kite", font, 30, SCREEN), 3, SCREEN)
        backer = close_gaps(Region.of(MultiPolygon([Polygon(p.exterior) for p in grown.area.geoms])), 12, SCREEN).area
        x, _, right, _ = backer.bounds
        y = backer.centroid.y
        bar = box((x + right) / 2, y - 0.5, right + 12, y + 0.5)
        end = disc(right + 12, y, 4)
        strong = backer.union(end).union(box((x + right) / 2, y - 1.5, right + 12, y + 1.5))
        yield Fault(f"{font}: thin arm", "ply-3", backer.union(bar).union(end), strong, "thin_spot", bar, 1.0)
        yield Fault(f"{font}: loose disc", "ply-3", backer.union(end), strong, "loose_piece", end, end.distance(backer))


class Graded(unittest.TestCase):
    """Every fault found once, at its place and by its size, and nothing in the clean twin."""

    def check(self, faults: Callable[[], Iterator[Fault]]) -> None:
        for fault in faults():
            with self.subTest(fault.name):
                found = look(fault.shape, fault.material, fault.below)
                self.assertEqual([f.kind for f in found], [fault.kind], [f.sentence for f in found])
                at, size = found[0].at, found[0].measure
                assert at is not None and size is not None
                self.assertLessEqual(Point(at).distance(fault.place), 0.5)
                self.assertLessEqual(abs(size - fault.size), max(0.03, 0.02 * fault.size))
                self.assertTrue(found[0].outline)
                under = fault.below if fault.clean_below is None else fault.clean_below
                self.assertEqual([f.sentence for f in look(fault.clean, fault.material, under)], [])

    def test_loose_pieces(self) -> None:
        self.check(loose)

    def test_slivers(self) -> None:
        self.check(slivers)
        self.check(arcs)

    def test_slim_pieces_are_dropped_together_only_where_nothing_but_slivers_goes(self) -> None:
        plate, slim, long = box(0, 0, 30, 30), box(40, 0, 41, 20), box(0, 40, 200, 41)
        for shape, offered in ((MultiPolygon([plate, slim]), True), (MultiPolygon([plate, slim, long]), False)):
            (found,) = [f for f in look(shape, "acrylic-3", MultiPolygon()) if f.kind == "sliver"]
            self.assertAlmostEqual(found.measure or 0, 1, delta=0.01)
            self.assertEqual("Drop what is under 1.5 mm wide" in [mend.title for mend in found.mends], offered)

    def test_thin_spots(self) -> None:
        self.check(thin)

    def test_tight_gaps(self) -> None:
        self.check(gaps)

    def test_overhangs(self) -> None:
        self.check(overhangs)

    def test_inner_corners(self) -> None:
        self.check(milled)

    def test_what_a_tool_does_not_get_in_between_is_a_gap_and_no_corner(self) -> None:
        plates = MultiPolygon([box(0, 0, 60, 60), box(62, 0, 120, 60)])
        # The tool gets out of the notch, but not past the other plate: its corners are told, with their own radius.
        notched = plates.difference(box(50, 20, 60, 40))
        # Into this hole it gets from nowhere.
        holed = Region.of(box(0, 0, 60, 60).difference(box(20, 20, 22, 40))).area
        board = find_material("board-12")
        assert board
        coarse = board.model_copy(update={"limits": board.limits.model_copy(update={"least_gap": 1})})
        for material, why in (
            (board, "in Sign board 12 mm, milled it needs 3.2 mm"),
            (coarse, "a tool 3 mm wide does"),
        ):
            for shape, corners in ((plates, []), (notched, [0.0, 0.0]), (holed, [])):
                found = look(shape, material, MultiPolygon())
                gaps = [f for f in found if f.kind == "tight_gap"]
                self.assertTrue(gaps)
                for gap in gaps:
                    self.assertAlmostEqual(gap.measure or 0, 2, delta=0.03)
                    self.assertIn(why, gap.sentence)
                told = [f.measure for f in found if f.kind == "sharp_corner"]
                self.assertEqual(len(told), len(corners))
                for measured, own in zip(told, corners, strict=True):
                    self.assertAlmostEqual(measured or 0, own, delta=0.03)

    def test_each_of_many_corners_has_its_own_radius(self) -> None:
        drawn = np.linspace(0.1, 1.4, 12)
        pockets = [
            box(20 * k, 0, 20 * k + 10, 10).buffer(-radius).buffer(radius, quad_segs=64)
            for k, radius in enumerate(drawn.tolist())
        ]
        plate = Region.of(box(-5, -5, 20 * len(drawn), 15).difference(shapely.union_all(pockets))).area
        found = inner_corners(plate, 1.5, 0.02)
        self.assertEqual(len(found), 4 * len(drawn))
        for corner in found:
            self.assertAlmostEqual(corner.radius, drawn[int(corner.at.x // 20)], delta=0.012)

    def test_sheets(self) -> None:
        self.check(too_big)

    def test_slits_and_doubled_edges(self) -> None:
        self.check(slits)
        self.check(round_seams)
        self.check(doubled)

    def test_spans_and_webs(self) -> None:
        self.check(spans)
        self.check(webs)

    def test_words_in_every_font(self) -> None:
        self.check(words)

    def test_each_step_that_mends_a_fault_ends_it_and_brings_nothing(self) -> None:
        tried = 0
        kinds = (loose, slivers, arcs, thin, gaps, overhangs, milled, slits, spans, webs, round_seams, words)
        for fault in sampled([fault for faults in kinds for fault in faults()], 1 / 5):
            for mend in look(fault.shape, fault.material, fault.below)[0].mends:
                with self.subTest(fault.name, mend=mend.title):
                    left = look(*after_steps(mend, fault))
                    tried += 1
                    # The crevices beside a patch on a point are gaps now; in a design they are closed with it.
                    expected = ["tight_gap"] * 2 if fault.name == "tangent circles" else []
                    self.assertEqual([f.kind for f in left], expected)
        self.assertGreater(tried, 140 if FUZZ else 0)

    def test_pointed_ends_and_serifs_are_no_faults(self) -> None:
        serif = shapely.union_all([box(0, 0, 3, 20), Polygon([(-2, 0), (5, 0), (3, 1.2), (0, 1.2)])])
        star = shapely.union_all([rotate(Polygon([(-5, 0), (5, 0), (0, 18)]), 72 * k, origin=(0, 0)) for k in range(5)])
        for shape in (serif, star, Polygon([(0, 0), (16, 0), (0, 10)])):
            self.assertEqual([f.sentence for f in look(shape, "ply-3", MultiPolygon())], [])


def found_in(design: Design, *, layer: str | None = None) -> list[Finding]:
    memo = Memo()
    every = survey(build(design, LIBRARY, memo=memo), memo)
    return [f for f in every if f.at is not None and layer in (None, f.layer)]


def with_mend(design: Design, mend: Mend) -> Design:
    """The design once a mend has been made."""
    return mended(design, mend, LIBRARY, Memo())


def face(text: str, font: str = "pacifico", material: str = "acrylic-3", size: float = 24) -> Design:
    layers = [{"id": "face", "material": material, "recipe": {"from": ["name"]}}]
    art = [{"id": "name", "text": text, "font": font, "size": size}]
    return parse_design({"format": "tin-halo/1", "art": art, "layers": layers})


class Accepting(unittest.TestCase):
    def test_it_stays_accepted_until_its_place_changes(self) -> None:
        design = face("Bi")
        loose = next(f for f in found_in(design) if "dot" in f.sentence)
        assert loose.spot
        data = design.model_dump(mode="json", by_alias=True)
        data["accepted"] = [{"kind": "loose_piece", "layer": "face", "spot": loose.spot.model_dump(), "note": "glued"}]

        def note(**art: object) -> str | None:
            changed = data | {"art": [data["art"][0] | art]}
            return next(f.accepted for f in found_in(parse_design(changed)) if "dot" in f.sentence)

        self.assertEqual(note(), "glued")
        self.assertEqual(note(place={"x": 40, "y": -7, "rotate": 30}), "glued")
        self.assertEqual(note(size=24.5), "glued")
        self.assertIsNone(note(moves={"1": {"scale": 1.6}}))

    def test_dragging_back_and_forth_over_a_limit_keeps_what_was_accepted(self) -> None:
        design = face("Uma")
        thin = next(f for f in found_in(design) if f.kind == "thin_spot")
        assert thin.spot and thin.at
        place = Point(thin.at)
        data = design.model_dump(mode="json", by_alias=True)
        data["accepted"] = [{"kind": "thin_spot", "layer": "face", "spot": thin.spot.model_dump(), "note": "so be it"}]
        data["layers"][0]["recipe"]["steps"] = [{"op": "offset", "by": 0}]
        memo, seen = Memo(), dict[float, list[Finding]]()
        # The stroke is just under the limit at 0 and just over it once the rest of it is added.
        over = (1.5 - (thin.measure or 0)) / 2
        for by in (0, over - 0.04, over + 0.04, over - 0.04, 0, over + 0.04, over - 0.04, 0):
            data["layers"][0]["recipe"]["steps"][0]["by"] = by
            found = list(survey(build(parse_design(data), LIBRARY, memo=memo), memo))
            self.assertEqual(seen.setdefault(by, found), found)
            here = [f for f in found if f.kind == "thin_spot" and f.at and Point(f.at).distance(place) < 1]
            self.assertEqual([f.accepted for f in here], ["so be it"] if by < over else [])

    def test_the_same_design_gives_the_same_findings(self) -> None:
        design = face("Iris & Zoë", "allura")
        first, second = ([f.model_dump() for f in found_in(design)] for _ in range(2))
        self.assertEqual(first, second)
        self.assertGreater(len(first), 3)

    def test_the_manifest_has_them(self) -> None:
        made = build_of(face("Bi"))
        told = manifest(made)["layers"][0]["findings"]
        self.assertTrue({"kind", "severity", "at", "outline", "measure", "limit", "unit"} <= set(told[0]))
        self.assertIn("loose_piece", [f["kind"] for f in told])
