"""What a printed layer is filled with, in PostScript: a procedure for a tile, called in two loops under the outline.

A picture is held once, as a stream that can be read again (ReusableStreamDecode: PostScript Language Reference, 3.13).
"""

from __future__ import annotations

import base64
import zlib
from collections.abc import Callable

import numpy as np

from tinhalo.core.artwork.pictures.picture_file import pixels
from tinhalo.core.geometry.arrays import Box, Floats
from tinhalo.core.geometry.curves.affine import after
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.output.paint import Paint
from tinhalo.core.units import number

#: Characters of a line of encoded data.
_LINE = 100


def paint_inside(
    box: Box,
    paint: Paint,
    to_points: Floats,
    traced: Callable[[tuple[Contour, ...]], list[str]],
    coloured: Callable[[str], str],
) -> list[str]:
    """Lines that fill the current path with a paint; ``box`` is around it, in mm."""
    columns, rows = paint.tiles_over(box)
    if not columns or not rows:
        return []
    width, height = (number(side) for side in paint.size)
    (a, c, e), (b, d, f) = after(to_points, paint.matrix).tolist()
    moved = " ".join(f"{value:.9g}" for value in (a, b, c, d, e, f))
    tile = [
        line for one in paint.figures for line in (coloured(one.colour), "newpath", *traced(one.contours), "eofill")
    ]
    lines = ["gsave eoclip newpath", f"[{moved}] concat"]
    if paint.own:
        image, dictionary = _image(paint)
        lines += image
        wide, high = (number(side) for side in paint.picture_size)
        tile += [f"gsave {wide} {high} scale /DeviceRGB setcolorspace", *dictionary, "grestore"]
    lines += ["/tinhalotile {", *tile, "} def"]
    lines += [f"{rows.start} 1 {rows.stop - 1} {{", f"{columns.start} 1 {columns.stop - 1} {{"]
    lines += [
        f"gsave {width} mul 1 index {height} mul translate tinhalotile grestore",
        "} for pop",
        "} for",
        "grestore",
    ]
    return lines


def _image(paint: Paint) -> tuple[list[str], list[str]]:
    """What holds a picture, and what shows it in a unit square."""
    flat = np.ascontiguousarray(pixels(paint.picture)[:, :, :3])
    rows, columns = flat.shape[:2]
    text = base64.a85encode(zlib.compress(flat.tobytes(), 9)).decode()
    # A line that begins with %% would be read as a comment of the file's structure.
    data = [" " + text[k : k + _LINE] for k in range(0, len(text), _LINE)]
    held = [
        "/tinhalopicture currentfile << /Filter /ASCII85Decode >> /ReusableStreamDecode filter",
        *data,
        "~>",
        "def",
    ]
    shown = [
        "tinhalopicture 0 setfileposition",
        f"<< /ImageType 1 /Width {columns} /Height {rows} /BitsPerComponent 8 /Decode [0 1 0 1 0 1]",
        f"/ImageMatrix [{columns} 0 0 -{rows} 0 {rows}] /DataSource tinhalopicture /FlateDecode filter >> image",
    ]
    return held, shown
