"""Work side by side: several diagrams give what one gives, threads wait for each other's results, progress adds up."""

from __future__ import annotations

import threading
import unittest
from contextvars import copy_context
from unittest import mock

import numpy as np
import shapely

from tests.core.test_carving import words
from tests.support import LIBRARY
from tinhalo.core.design.problem import DesignError, Problem
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.findings.survey import survey
from tinhalo.core.geometry.carving.axis import carved_axis
from tinhalo.core.geometry.carving.v_paths import Cone
from tinhalo.core.geometry.exact.recover import CutOutline, trace
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.widths import measure_one
from tinhalo.core.runtime.cancellation import CancelledError, given_up
from tinhalo.core.runtime.crew import Crew, CrewError
from tinhalo.core.runtime.elsewhere import Sizes, computing_apart
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.runtime.progress import each, part, progress, report

CREW = Crew(1)
unittest.addModuleCleanup(CREW.close)
#: Everything is divided, into three parts.
ALWAYS = Sizes(vertices=1, divided=1, at_once=3)


class Diagrams(unittest.TestCase):
    """Divided as the server does it, whatever the size and however many processors there are."""

    def test_the_axis_that_is_carved_is_the_same(self) -> None:
        letters = words("Bay", "great-vibes", 40)
        ground = Region.of(shapely.difference(shapely.box(*letters.bounds).buffer(8), letters)).area
        cone = Cone.of(60)
        for name, area in (("letters", letters), ("ground", ground)):
            for depth in (0.8, 3.0):
                whole = carved_axis(area, cone.keeps_off(depth), cone.within)
                with computing_apart(CREW, ALWAYS):
                    divided = carved_axis(area, cone.keeps_off(depth), cone.within)
                one, other = (shapely.union_all([_line(line) for line in lines]) for lines in (divided, whole))
                with self.subTest(name, depth=depth):
                    self.assertLess(shapely.hausdorff_distance(one, other), 0.002)
                    deep, shallow = (np.concatenate(lines)[:, 2] for lines in (divided, whole))
                    self.assertAlmostEqual(deep.max(), shallow.max(), places=6)

    def test_widths_are_the_same(self) -> None:
        region = Region(words("Wilhelmijna", "pacifico", 30))
        whole = measure_one(region.simple, inside=True)
        with computing_apart(CREW, ALWAYS):
            divided = measure_one(region.simple, inside=True)
        self.assertEqual(len(whole.width), len(divided.width))
        self.assertTrue(np.allclose(np.sort(whole.width), np.sort(divided.width), atol=1e-9))


class Layers(unittest.TestCase):
    """Several layers, and their checks, in other threads and processes, as a server does them."""

    def setUp(self) -> None:
        stacked = [("board-12", "cut", 2, "w"), ("vinyl-white", "print", 0, "w"), ("acrylic-3", "cut", 0, "w")]
        # This one waits for another: it is not begun ahead.
        stacked += [("felt", "guide", 1, "board-12")]
        layers = [
            {"id": material, "material": material, "process": process}
            | {"recipe": {"from": [source], "steps": [{"op": "offset", "by": by}] if by else []}}
            for material, process, by, source in stacked
        ]
        art = {"id": "w", "text": "Ostrel Bay", "font": "great-vibes", "size": 24}
        self.design = parse_design({"format": "tin-halo/1", "art": [art], "layers": layers})
        self.made = build(self.design, LIBRARY, exact=False)

    def test_they_are_built_the_same(self) -> None:
        here = build(self.design, LIBRARY)
        begun: list[str] = []
        with (
            computing_apart(CREW, ALWAYS),
            mock.patch("tinhalo.core.engine.build.trace", lambda region: _noted(begun, trace(region))),
        ):
            there = build(self.design, LIBRARY)
        self.assertTrue(any(name != threading.main_thread().name for name in begun))
        for one, other in zip(here.layers, there.layers, strict=True):
            assert one.cut and other.cut
            self.assertEqual(one.key, other.key)
            self.assertTrue(one.region.area.equals(other.region.area))
            self.assertEqual(one.cut.area, other.cut.area)
        # What was kept for one is what the next finds.
        self.assertEqual(len(begun), len({layer.key for layer in there.layers}))

    def test_the_same_is_told_in_the_same_order(self) -> None:
        here = survey(self.made, Memo())
        with computing_apart(CREW, ALWAYS):
            there = survey(self.made, Memo())
        self.assertEqual({"board-12", "vinyl-white", "acrylic-3"}, {finding.layer for finding in here})
        self.assertIn("sharp_corner", {finding.kind for finding in here})
        self.assertEqual(here, there)

    def test_all_of_it_is_given_up_when_nobody_waits(self) -> None:
        with computing_apart(CREW, ALWAYS):
            before = threading.active_count()
            waiting = given_up.set(lambda: True)
            self.addCleanup(given_up.reset, waiting)
            with self.assertRaises(CancelledError):
                survey(self.made, Memo())
            self.assertEqual(before, threading.active_count())

    def test_building_is_given_up_once_nobody_waits(self) -> None:
        begun: list[str] = []
        with (
            computing_apart(CREW, ALWAYS),
            mock.patch("tinhalo.core.engine.build.trace", lambda region: _noted(begun, trace(region))),
        ):
            before = threading.active_count()
            waiting = given_up.set(lambda: len(begun) > 0)
            self.addCleanup(given_up.reset, waiting)
            with self.assertRaises(CancelledError):
                build(self.design, LIBRARY)
            self.assertTrue(begun)
            self.assertEqual(before, threading.active_count())


def _noted(begun: list[str], made: CutOutline) -> CutOutline:
    begun.append(threading.current_thread().name)
    return made


def _line(line: np.ndarray) -> shapely.Geometry:
    return shapely.LineString(line[:, :2]) if len(line) > 1 else shapely.Point(line[0, :2])


class Number:
    def __init__(self, value: int) -> None:
        self.value, self.nbytes = value, 8


def waited(waits: threading.Event, memo: Memo) -> Number:
    """What a memo gives to one who says so once it waits: whoever waits looks whether it is still wanted."""

    def looked() -> bool:
        waits.set()
        return False

    def get() -> Number:
        given_up.set(looked)
        return memo.get("k", Number, lambda: Number(2))

    return copy_context().run(get)


class OneForAll(unittest.TestCase):
    def test_what_one_thread_computes_others_wait_for(self) -> None:
        memo, begun, waits = Memo(), threading.Event(), threading.Event()

        def slow() -> Number:
            begun.set()
            waits.wait()
            return Number(1)

        first = threading.Thread(target=lambda: memo.get("k", Number, slow))
        first.start()
        begun.wait()
        self.assertEqual(1, waited(waits, memo).value)
        first.join()
        self.assertEqual(1, memo.computed)

    def test_one_that_is_given_up_leaves_it_to_the_next(self) -> None:
        memo, begun, waits = Memo(), threading.Event(), threading.Event()

        def fails() -> Number:
            begun.set()
            waits.wait()
            raise CancelledError

        def first() -> None:
            with self.assertRaises(CancelledError):
                memo.get("k", Number, fails)

        thread = threading.Thread(target=first)
        thread.start()
        begun.wait()
        self.assertEqual(2, waited(waits, memo).value)
        thread.join()

    def test_nobody_waits_longer_than_it_is_wanted(self) -> None:
        memo, begun, over = Memo(), threading.Event(), threading.Event()

        def endless() -> Number:
            begun.set()
            over.wait()
            return Number(1)

        thread = threading.Thread(target=lambda: memo.get("k", Number, endless))
        thread.start()
        begun.wait()

        def waits() -> None:
            given_up.set(lambda: True)
            with self.assertRaises(CancelledError):
                memo.get("k", Number, lambda: Number(2))

        copy_context().run(waits)
        over.set()
        thread.join()


def _ends(number: int) -> int:
    import os

    os._exit(number)


def _fails(number: int) -> int:
    raise ValueError(f"no {number}")


def _doubled(number: int) -> int:
    return 2 * number


def _unsound(number: int) -> int:
    raise DesignError([Problem("art", f"Not {number}.")])


class Processes(unittest.TestCase):
    def test_one_that_ends_is_told_and_the_next_task_gets_another(self) -> None:
        crew = Crew(1)
        self.addCleanup(crew.close)
        with self.assertRaises(CrewError):
            crew.ask(_ends, 3)
        with self.assertRaisesRegex(ValueError, "no 7"):
            crew.ask(_fails, 7)
        with self.assertRaises(DesignError) as raised:
            crew.ask(_unsound, 7)
        self.assertEqual("Not 7.", raised.exception.problems[0].sentence)
        self.assertEqual([2, 4, 6], sorted(crew.each(_doubled, [(1,), (2,), (3,)])))


class Shares(unittest.TestCase):
    def test_parts_of_parts_add_up(self) -> None:
        told: list[float] = []

        def work() -> None:
            progress.set(told.append)
            with part(0, 0.5):
                for _ in each(["a", "b"]):
                    report(0.5)
            with part(0.5, 1):
                report(2.0)

        copy_context().run(work)
        self.assertEqual([0, 0, 0.125, 0.25, 0.25, 0.375, 0.5, 0.5, 0.5, 1.0, 1.0], told)
