"""A person's hands: the mouse goes its way in small moves, and keys are pressed one after the other."""

from __future__ import annotations

from itertools import pairwise

from playwright.sync_api import Locator, Page

Point = tuple[float, float]


class Hands:
    """The hands at one window."""

    def __init__(self, page: Page) -> None:
        self.page = page

    def drag(self, start: Locator | Point, *way: Locator | Point, moves: int = 12) -> None:
        """Press the mouse at a place, go to others in so many moves each, and let it go at the last one."""
        self.grab(start, *way, moves=moves)
        self.page.mouse.up()

    def grab(self, start: Locator | Point, *way: Locator | Point, moves: int = 12) -> None:
        """A drag that is not over: the button stays down."""
        # All places are looked up first: what is dragged may be one of them.
        places = [self.spot(one) for one in (start, *way)]
        self.page.mouse.move(*places[0])
        self.page.mouse.down()
        for one, other in pairwise(places):
            self.go(one, other, moves)

    def go(self, start: Point, end: Point, moves: int = 12) -> None:
        """Move the mouse, whose button is down or up; each move is seen on the screen before the next."""
        for k in range(1, moves + 1):
            self.page.mouse.move(*(a + (b - a) * k / moves for a, b in zip(start, end, strict=True)))
            self.page.evaluate("() => new Promise(requestAnimationFrame)")

    def drag_by(self, start: Locator, dx: float, dy: float, at: Point = (0.5, 0.5), moves: int = 12) -> None:
        """Drag by so many pixels, from a place of the target's box in parts of its width and height."""
        x, y = self.spot(start, at)
        self.drag((x, y), (x + dx, y + dy), moves=moves)

    def drag_and_escape(self, start: Locator | Point, dx: float, dy: float) -> None:
        """Drag by so many pixels, press Escape with the button still down, and go on a little before it comes up."""
        x, y = self.spot(start)
        end = (x + dx, y + dy)
        self.grab((x, y), end, moves=4)
        self.press("Escape")
        self.go(end, (x + dx + 30, y + dy), 3)
        self.page.mouse.up()

    def type(self, text: str, delay: float = 30) -> None:
        """Type into what has the focus, with so many milliseconds from key to key."""
        self.page.keyboard.type(text, delay=delay)

    def press(self, *keys: str) -> None:
        """Press keys one after the other."""
        for key in keys:
            self.page.keyboard.press(key)

    def retype(self, field: Locator, text: str, delay: float = 30) -> None:
        """Click into a field, mark what is in it, and type something else."""
        field.click()
        for key in ("Control+a", *([] if text else ["Delete"])):
            field.page.keyboard.press(key)
        field.page.keyboard.type(text, delay=delay)

    def paste(self, field: Locator, text: str) -> None:
        """Click into a field, mark what is in it, and put a text in its place all at once."""
        field.click()
        field.page.keyboard.press("Control+a")
        field.page.keyboard.insert_text(text)

    def slide(self, slider: Locator, value: str) -> None:
        """Move a slider by its arrow keys until it has this value, from its low end."""
        slider.press("Home")
        while slider.input_value() != value:
            before = slider.input_value()
            slider.press("ArrowRight")
            assert slider.input_value() != before, f"it ends at {before}"

    @staticmethod
    def spot(target: Locator | Point, at: Point = (0.5, 0.5)) -> Point:
        """A place on the screen: of a target the middle, or another place of its box in parts of its size."""
        if isinstance(target, tuple):
            return target
        # Nobody reaches for what is on its way: the job is fitted anew when it, or a message under it, has grown.
        before, box = None, target.bounding_box()
        while box != before:
            target.page.evaluate("() => new Promise(requestAnimationFrame)")
            before, box = box, target.bounding_box()
        assert box
        return box["x"] + box["width"] * at[0], box["y"] + box["height"] * at[1]
