"""All file formats. A new one is a module with a ``write`` and a line here."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from tinhalo.core.design.hand_over import Format, HandOver
from tinhalo.core.output import dxf, eps, hpgl, pdf, png, svg, tiles
from tinhalo.core.output.drawing import Drawing


@dataclass(frozen=True)
class FileFormat:
    """A format that drawings leave in.

    Attributes:
        ending: of its files, without the dot; two formats with one ending are told apart by what stands before it.
        title: what it is called.
        use: what it is for, for the maker.
        write: makes a file.
    """

    ending: str
    title: str
    use: str
    write: Callable[[Drawing, HandOver], bytes]

    def file_name(self, stem: str, drawing: Drawing) -> str:
        """A file's name: DXF of release 12 says nowhere else which unit it has."""
        ending = f"r12-{drawing.unit}.dxf" if self.ending == "r12.dxf" else self.ending
        return f"{stem}.{ending}"


FORMATS: dict[Format, FileFormat] = {
    "svg": FileFormat("svg", "SVG", "For cutters, lasers and drawing programs: true curves, in mm", svg.write),
    "dxf": FileFormat("dxf", "DXF", "For workshops and CAD: arcs and splines", dxf.write),
    "dxf_r12": FileFormat(
        "r12.dxf", "DXF R12", "For old machines: short straight lines; the name says the unit", dxf.write_r12
    ),
    "pdf": FileFormat("pdf", "PDF", "For print shops and programs: lines to cut as a named spot colour", pdf.write),
    "eps": FileFormat("eps", "EPS", "For older drawing programs and sign shops", eps.write),
    "hpgl": FileFormat("hpgl", "HP-GL", "For plotters: the lines in the order they are cut", hpgl.write),
    "tiles": FileFormat(
        "tiles.pdf", "PDF in tiles", "On office paper at 1:1, with a ruler, to glue together", tiles.write
    ),
    "png": FileFormat("png", "PNG", f"To print or show: {png.MOST_DOTS // 10**6} million dots at most", png.write),
}
