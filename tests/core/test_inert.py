"""What leaves does nothing by itself: whatever a design is called, files hold shapes and text, and names are safe."""

from __future__ import annotations

import io
import json
import unittest
import xml.etree.ElementTree as ET
from dataclasses import replace

import ezdxf
import resvg_py

from tests.support import LIBRARY, document
from tinhalo.core.design.reading import read_design
from tinhalo.core.engine.build import build
from tinhalo.core.output.names import plain, readable_name
from tinhalo.core.output.pack import download_files, pack_files
from tinhalo.core.output.thumbnail import thumbnail
from tinhalo.core.runtime.memo import Memo

#: What has meant something to some reader: markup, entities, commands, paths, ways to turn text round, endings.
NAMES = (
    "</title><script>alert(1)</script>",
    "<!DOCTYPE x [<!ENTITY e SYSTEM 'file:///etc/passwd'>]>&e;",
    "]]><![CDATA[<script/>",
    '" onload="alert(1)',
    "../../etc/passwd",
    "..\\..\\C:\\x|y?*",
    "CON",
    "a\u202egnp.exe",
    "0\nSECTION\n2\nENTITIES",
    "%s%n{0}${x}",
    "é" * 200,
    "名" * 200,
    ".",
)
#: All that an SVG file of ours may hold.
TAGS = {"svg", "title", "desc", "g", "path"}
ATTRIBUTES = {
    *("version", "width", "height", "viewBox", "id", "d", "transform"),
    *("fill", "fill-rule", "fill-opacity", "stroke", "stroke-width", "stroke-dasharray", "stroke-linejoin"),
}
#: What a drawing file may hold: nothing that draws on other files.
DRAWN = {"LWPOLYLINE", "POLYLINE", "SPLINE", "LINE", "ARC", "CIRCLE", "ELLIPSE"}
#: Names that Windows keeps for devices (Naming Files, Paths, and Namespaces; from memory).
DEVICES = {"con", "prn", "aux", "nul", "com1", "com9", "lpt1", "lpt9"}


def called(names: tuple[str, ...]) -> bytes:
    """A design and its layers of such names; some ids are names of devices, and differ in case alone."""
    made = document(text="Bram")
    ids = ("con", "CON-2", "Aux", "lpt1", *(f"layer-{k}" for k in range(len(names))))
    layers = [{**made["layers"][0], "id": id, "name": name} for id, name in zip(ids, names, strict=False)]
    return json.dumps(made | {"name": "".join(names)[:200], "layers": layers}).encode()


class Inert(unittest.TestCase):
    def svg(self, data: bytes) -> None:
        """Read by two parsers, Expat and resvg's own; nothing in it but shapes and text."""
        for element in ET.fromstring(data).iter():
            self.assertIn(element.tag.removeprefix("{http://www.w3.org/2000/svg}"), TAGS)
            self.assertLessEqual(set(element.attrib), ATTRIBUTES)
        self.assertTrue(resvg_py.svg_to_bytes(svg_string=data.decode(), dpi=96))

    def test_whatever_it_is_called(self) -> None:
        memo = Memo()
        built = build(read_design(called(NAMES)), LIBRARY, memo=memo)
        self.svg(thumbnail(built).encode())
        files = pack_files(built, memo, ["svg", "dxf"])
        for file, data in files.items():
            self.assertNotIn(file.partition(".")[0].lower(), DEVICES)
            self.assertRegex(file, r"^[\w-][\w.-]*\.(svg|dxf|json)$")
            self.assertLess(len(file.encode()), 200)
            if file.endswith(".svg"):
                self.svg(data)
            elif file.endswith(".dxf"):
                read = ezdxf.read(io.StringIO(data.decode()))  # pyright: ignore[reportPrivateImportUsage]
                self.assertLessEqual({one.dxftype() for one in read.modelspace()}, DRAWN)
            else:
                json.loads(data)
        # No two that differ only in case.
        self.assertEqual(len({file.lower() for file in files}), len(files))
        every = built.design.hand_over.model_copy(update={"files": ("boards", "layers", "together")})
        wanted = replace(built, design=built.design.model_copy(update={"hand_over": every}))
        found = download_files(wanted, memo)
        self.assertGreater(len(found), len(NAMES) // 2)
        for file in found:
            # Windows takes none of these, nor a name that ends in a dot or blank (from memory).
            self.assertNotRegex(file, r'[<>:"/\\|?*\x00-\x1f\u200e\u200f\u202a-\u202e]|  |[. ]$')
            self.assertLess(len(file.encode()), 250)

    def test_the_pack_is_called_as_every_system_takes_it(self) -> None:
        memo = Memo()
        for name in NAMES:
            found = readable_name(build(read_design(called((name,))), LIBRARY, memo=memo).design.name, "design")
            self.assertNotRegex(found, r'[<>:"/\\|?*\x00-\x1f\u200e\u200f\u202a-\u202e]|  |^[. ]|[. ]$')
            self.assertLess(len(found.encode()), 200)

    def test_names_are_cut_by_bytes_and_between_letters(self) -> None:
        self.assertEqual(plain("名" * 200), "名" * 26)
        self.assertEqual(plain("../..\u202e"), "board")


if __name__ == "__main__":
    unittest.main()
