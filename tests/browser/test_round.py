"""The look in the round: what is seen from above is what leaves; turned, pulled apart, picked; and without WebGL."""

from __future__ import annotations

import base64
import io
import math
from itertools import pairwise
from typing import Any

import cv2
import numpy as np
import pypdf
import shapely
from PIL import Image, ImageDraw
from playwright.sync_api import CDPSession, expect

from tests.browser.base import DRAWS, RESTS, BrowserTest
from tests.browser.test_shelf import violations
from tests.sampling import sampled
from tests.support import LIBRARY
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build

#: How much more than the piece is seen, as the look has it.
ROOM = 1.25


class Round(BrowserTest):
    shared = True
    flags = DRAWS

    def look(self) -> None:
        self.page.get_by_role("radio", name="3D").click()
        expect(self.page.locator("[data-shown] canvas")).to_be_visible()
        # As exact as it leaves: asked for once it rests.
        expect(self.page.locator('[data-shown][data-exact="true"]')).to_be_visible()

    def seen(self) -> np.ndarray:
        """What the scene shows once it rests, RGBA: coarse while it moves, where no graphics card helps."""
        self.page.wait_for_function(RESTS)
        drawn = self.page.evaluate("document.querySelector('[data-shown] canvas').toDataURL()")
        return np.asarray(Image.open(io.BytesIO(base64.b64decode(drawn.split(",")[1]))).convert("RGBA"))

    def test_from_above_its_outline_is_that_of_the_layers_within_a_pixel(self) -> None:
        for text, starter in (("Fenna", "name-keyring"), ("Zoë & Bram", "drop-shadow-title")):
            with self.subTest(text):
                self.new_design(text, starter)
                self.look()
                self.page.get_by_role("button", name="From above").click()
                self.check_outline()

    def check_outline(self) -> None:
        """What is seen from above is what leaves, within a pixel."""
        mask = self.seen()[:, :, 3] > 127
        made = build(parse_design(self.document()), LIBRARY)
        area = shapely.union_all([one.region.area for one in made.leaving()])
        wanted = _painted(area, mask.shape)
        # A dot of the screen is one and a half of these.
        one = np.ones((5, 5), np.uint8)
        inner, outer = (change(wanted.astype(np.uint8), one) for change in (cv2.erode, cv2.dilate))
        self.assertEqual(0, int((mask & (outer == 0)).sum()))
        self.assertEqual(0, int((~mask & (inner > 0)).sum()))

    def test_it_is_turned_pulled_apart_and_picked_by_keys_and_pointer(self) -> None:
        self.new_design("Bram", "name-keyring")
        self.look()
        self.assertEqual([], violations(self.page))
        pictures = [self.seen()]
        scene = self.page.get_by_test_id("round")
        scene.focus()
        for key in ("ArrowLeft", "ArrowUp", "Shift+ArrowRight", "+", "-", "0"):
            scene.press(key)
            pictures.append(self.seen())
        for before, after in pairwise(pictures):
            self.assertGreater(_apart(before, after), 0.5)
        self.assertLess(_apart(pictures[0], pictures[-1]), 0.2)
        self.hands.slide(self.page.get_by_label("Pull the layers apart"), "12")
        self.assertGreater(_apart(pictures[-1], self.seen()), 0.5)
        self.page.get_by_label("Pull the layers apart").press("Home")
        self.page.get_by_label("What it hangs on").click()
        self.page.get_by_role("option", name="a cord").click()
        self.assertGreater(_apart(pictures[-1], self.seen()), 0.1)
        # The piece's middle is its face or its backer.
        box = scene.bounding_box()
        assert box
        self.page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        expect(self.page.locator('[data-testid^="layer-"].border-halo')).to_have_count(1)

    def test_a_turn_follows_in_any_number_of_moves_and_is_taken_back_by_escape(self) -> None:
        self.new_design("Bram", "name-keyring")
        self.look()
        before = self.seen()
        views: list[np.ndarray] = []
        for moves in sampled((1, 4, 12, 40), 1 / 2):
            self.hands.drag_by(self.page.get_by_test_id("round"), 120, 40, moves=moves)
            views.append(self.seen())
            self.assertGreater(_apart(before, views[-1]), 0.5)
            self.assertLess(_apart(views[0], views[-1]), 0.02, moves)
            # All of it is seen again as it was at first.
            self.page.get_by_test_id("round").press("0")
            self.assertLess(_apart(before, self.seen()), 0.02, moves)
        self.hands.drag_and_escape(self.page.get_by_test_id("round"), -90, 30)
        self.assertLess(_apart(before, self.seen()), 0.2)

    def test_a_turned_view_stays_when_the_window_is_another_size(self) -> None:
        self.new_design("Bram", "name-keyring")
        self.look()
        first = _shape(self.seen())
        self.page.set_viewport_size({"width": 1100, "height": 760})
        # Fitted again it may be seen from a little nearer.
        self.assertAlmostEqual(_shape(self.seen()), first, delta=0.1)
        scene = self.page.get_by_test_id("round")
        for key in ("ArrowLeft",) * 6:
            scene.press(key)
        turned = _shape(self.seen())
        self.assertGreater(abs(turned - first), 0.2)
        self.page.set_viewport_size({"width": 1280, "height": 800})
        self.assertAlmostEqual(_shape(self.seen()), turned, delta=0.04)
        scene.press("0")
        self.assertAlmostEqual(_shape(self.seen()), first, delta=0.04)

    def test_a_proof_is_saved_for_a_customer(self) -> None:
        self.new_design("Zoë", "name-keyring")
        self.look()
        # The one beside the view has the piece as it is turned; the one in the header has it flat alone.
        self.page.get_by_role("button", name="Proof").last.press("Enter")
        self.assertEqual([], violations(self.page))
        self.hands.retype(self.page.get_by_label("Shop"), "Ostrel Bay Signs")
        with self.page.expect_download() as saved:
            self.page.get_by_role("button", name="Save the proof").press("Enter")
        page = pypdf.PdfReader(saved.value.path()).pages[0]
        self.assertIn("“Zoë”", page.extract_text())
        self.assertIn("Ostrel Bay Signs", page.extract_text())
        # The piece in the round, and flat.
        self.assertEqual(2, len(page.images))
        image = page.images[0].image
        assert image
        self.assertGreater(image.width, 300)

    def test_it_follows_an_edit(self) -> None:
        self.new_design("Bram", "name-keyring")
        self.look()
        self.page.get_by_role("button", name="From above").click()
        shown = "document.querySelector('[data-shown]').dataset.shown"
        for text in ("Brams", "Ida"):
            before = self.page.evaluate(shown)
            # In one: quick meshes come for it, and then those as exact as it leaves.
            self.hands.paste(self.page.get_by_label("The words"), text)
            self.page.wait_for_function(f"before => {shown} !== before", arg=before)
            expect(self.page.locator('[data-shown][data-exact="true"]')).to_be_visible()
            # Fitted to the box of these outlines: meshes come before them.
            outlines = self.page.locator('[data-testid="outlines"][data-exact="true"][data-current="true"]')
            expect(outlines).to_have_count(1)
            # It keeps its place and size while words change: as at first, it is fitted to them again.
            self.page.get_by_role("button", name="Reset").click()
            self.check_outline()

    def test_what_it_takes_is_given_back(self) -> None:
        self.new_design("Bram", "name-keyring")
        session = self.context.new_cdp_session(self.page)
        self.addCleanup(session.detach)
        held: list[float] = []
        for _ in range(8):
            self.page.get_by_role("radio", name="3D").click()
            canvas = self.page.locator("[data-shown] canvas")
            expect(canvas).to_be_visible()
            self.page.wait_for_function(RESTS)
            drawn = canvas.evaluate_handle("one => one.getContext('webgl2')")
            self.page.get_by_role("radio", name="Solid").click()
            expect(self.page.locator("[data-shown]")).to_have_count(0)
            # The library lets go of the drawing context a while later.
            self.page.wait_for_function("drawn => drawn.isContextLost()", arg=drawn)
            drawn.dispose()
            held.append(_heap(session))
        # The first looks load the code; after them it stays level: at most a quarter of a megabyte is kept of each.
        self.assertLess(held[-1] - held[3], 4 * 257_000, held)


class Without(BrowserTest):
    shared = True
    own_window = True

    def test_without_webgl_it_says_so_and_the_flat_looks_stay(self) -> None:
        self.page.add_init_script("HTMLCanvasElement.prototype.getContext = () => null")
        self.new_design("Bram")
        self.page.get_by_role("radio", name="3D").click()
        expect(self.page.get_by_text("This browser does not draw in the round")).to_be_visible()
        self.page.get_by_role("radio", name="Solid").click()
        expect(self.page.get_by_test_id("outlines")).to_be_visible()


def _painted(area: Any, shape: tuple[int, ...]) -> np.ndarray:
    """An area as the parallel camera shows it, by Pillow at four times the size."""
    height, width = shape
    x0, y0, x1, y1 = area.bounds
    scale = 4 * min(width / (ROOM * (x1 - x0)), height / (ROOM * (y1 - y0)))
    drawn = Image.new("L", (4 * width, 4 * height))
    pen = ImageDraw.Draw(drawn)
    for part in shapely.get_parts(area):
        for ring, ink in ((part.exterior, 255), *((one, 0) for one in part.interiors)):
            points = np.asarray(ring.coords)[:, :2] - ((x0 + x1) / 2, (y0 + y1) / 2)
            pen.polygon([tuple(p) for p in (points * (scale, -scale) + (2 * width, 2 * height)).tolist()], fill=ink)
    return np.asarray(drawn.resize((width, height), Image.Resampling.BOX)) > 127


def _shape(seen: np.ndarray) -> float:
    """How many times as wide as high the piece is seen; its shadow lets light through."""
    high, wide = np.ptp(np.argwhere(seen[:, :, 3] > 250), axis=0)
    return float(wide / high)


def _apart(one: np.ndarray, other: np.ndarray) -> float:
    return float(np.abs(one.astype(float) - other.astype(float)).mean())


def _heap(session: CDPSession) -> float:
    session.send("HeapProfiler.collectGarbage")
    used = session.send("Runtime.getHeapUsage")["usedSize"]
    assert math.isfinite(used)
    return used
