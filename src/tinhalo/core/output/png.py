"""PNG pictures, in the colours of the layers, at a chosen number of dots per inch."""

from __future__ import annotations

import io
import math

import resvg_py
from PIL import Image

from tinhalo.core.design.hand_over import HandOver
from tinhalo.core.output import svg
from tinhalo.core.output.drawing import Drawing
from tinhalo.core.units import MM_PER_INCH

#: Dots of one picture at most: what readers open without a warning (Pillow, at 89 million).
MOST_DOTS = 80_000_000


def write(drawing: Drawing, options: HandOver) -> bytes:
    """The page as a picture; how dense its dots are is recorded in it."""
    picture = options.picture
    return picture_of(drawing, density(drawing, picture.dots_per_inch), picture.background)


def picture_of(drawing: Drawing, dots_per_inch: float, background: str | None = None) -> bytes:
    """The page at a density, on a ground of a colour or none."""
    held = io.BytesIO()
    dpi = (dots_per_inch, dots_per_inch)
    if min(drawing.size) * dots_per_inch < MM_PER_INCH:
        # Nothing leaves, or what does is not a dot wide.
        Image.new("RGBA", (1, 1)).save(held, "PNG", dpi=dpi)
        return held.getvalue()
    painted = resvg_py.svg_to_bytes(
        svg_string=svg.write(drawing).decode(), background=background, dpi=dots_per_inch, skip_system_fonts=True
    )
    # A PNG records its density in dots per metre, as whole numbers.
    Image.open(io.BytesIO(bytes(painted))).save(held, "PNG", dpi=dpi)
    return held.getvalue()


def density(drawing: Drawing, wanted: float) -> float:
    """Dots per inch of a picture: as wanted, or less where that would be more dots than anybody can open."""
    width, height = (side / MM_PER_INCH for side in drawing.size)
    inches = width * height
    return wanted if inches * wanted**2 <= MOST_DOTS else math.floor(math.sqrt(MOST_DOTS / inches))
