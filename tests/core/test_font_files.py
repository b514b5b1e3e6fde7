"""Font files of one's own: what they say of themselves, every format, and damaged ones."""

from __future__ import annotations

import io
import json
import multiprocessing
import random
import struct
import tempfile
import time
import unittest
import zlib
from concurrent.futures import ProcessPoolExecutor, ThreadPoolExecutor
from pathlib import Path
from typing import Any
from unittest import mock

from fontTools.subset import Options, Subsetter
from fontTools.ttLib import TTFont
from fontTools.ttLib.ttCollection import TTCollection

from tests.sampling import NUMBERS, sampled
from tests.support import document
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.face import Face, FontError
from tinhalo.core.artwork.lettering.font_file import facts
from tinhalo.core.artwork.lettering.own import font_id
from tinhalo.core.artwork.lettering.shipped import shipped_fonts
from tinhalo.core.artwork.lettering.typeset import typeset
from tinhalo.core.artwork.lettering.vet import MOST_BYTES, MOST_MEMORY, MOST_SECONDS, judge, vet
from tinhalo.core.runtime.processes import limit_memory

PATHS = {font.id: font.path for font in shipped_fonts()}
FORKSERVER = multiprocessing.get_context("forkserver")
#: A variable font: the one the interface is set in.
VARIABLE = Path(__file__).parents[2] / (
    "web/node_modules/@fontsource-variable/instrument-sans/files/instrument-sans-latin-standard-normal.woff2"
)


def saved(font: TTFont, flavor: str | None = None) -> bytes:
    font.flavor = flavor
    held = io.BytesIO()
    font.save(held)
    return held.getvalue()


class Formats(unittest.TestCase):
    def test_every_format_gives_the_same_letters(self) -> None:
        plain = PATHS["graduate"].read_bytes()
        collection = TTCollection()
        collection.fonts = [TTFont(PATHS["graduate"]), TTFont(PATHS["anton"])]
        held = io.BytesIO()
        collection.save(held)
        files = {
            "a.ttf": plain,
            "a.woff": saved(TTFont(PATHS["graduate"]), "woff"),
            "a.woff2": saved(TTFont(PATHS["graduate"]), "woff2"),
            "a.ttc": held.getvalue(),
        }
        first = {name: [font_id(f) for f in vet(data, name)] for name, data in files.items()}
        wanted = typeset(Lettering(id="n", text="Bram", font="x"), Face(plain, "x")).outline
        for name, data in files.items():
            fonts = vet(data, name)
            with self.subTest(name):
                # Named by their content, whenever they are read.
                with mock.patch("time.time", return_value=2e9):
                    self.assertEqual([font_id(f) for f in vet(data, name)], first[name])
                self.assertEqual([f.facts.family for f in fonts], ["Graduate", "Anton"][: len(fonts)])
                self.assertEqual(len(fonts), 2 if name == "a.ttc" else 1)
                made = typeset(Lettering(id="n", text="Bram", font="x"), Face(fonts[0].data, "x")).outline
                self.assertAlmostEqual(made.areas.sum(), wanted.areas.sum(), places=6)

    def test_a_variable_font_has_axes_that_change_the_letters(self) -> None:
        """Names and ranges from the font's own fvar table, read with fontTools."""
        (font,) = vet(VARIABLE.read_bytes(), VARIABLE.name)
        ranges = {axis.axisTag: (axis.minValue, axis.maxValue) for axis in TTFont(VARIABLE)["fvar"].axes}
        self.assertEqual({axis.tag: (axis.least, axis.most) for axis in font.facts.axes}, ranges)
        art = Lettering(id="n", text="Bram", font="x")
        faces = [Face(font.data, "x", {"wght": weight}) for weight in (400, 550, 700)]
        areas = [abs(typeset(art, face).outline.areas.sum()) for face in faces]
        self.assertEqual(areas, sorted(areas))
        self.assertGreater(areas[2] / areas[0], 1.2)

    def test_the_command_packs_a_design_with_its_font(self) -> None:
        from tinhalo.cli import main

        (font,) = vet(VARIABLE.read_bytes(), VARIABLE.name)
        with tempfile.TemporaryDirectory() as folder:
            design = Path(folder) / "design.json"
            design.write_text(json.dumps(document(font=font_id(font), axes={"wght": 700})), "utf-8")
            out = ["pack", str(design), "--out", folder]
            self.assertEqual(main([*out, "--font", str(VARIABLE)]), 0)
            layers = json.loads((Path(folder) / "manifest.json").read_text("utf-8"))["layers"]
            self.assertGreater(layers[0]["area_mm2"], 100)
            self.assertGreater(layers[0]["narrowest_mm"], 1)
            damaged = Path(folder) / "damaged.ttf"
            damaged.write_bytes(b"OTTO" + bytes(200))
            self.assertEqual(main([*out, "--font", str(damaged)]), 2)

    def test_licence_and_embedding_in_plain_words(self) -> None:
        """OS/2 fsType bits as OpenType 1.9 gives them; the most permissive bit counts."""
        font: Any = TTFont(PATHS["graduate"])
        said: dict[int, str] = {}
        for bits in (0x0000, 0x0002, 0x0004, 0x0008, 0x000A):
            font["OS/2"].fsType = bits
            said[bits] = facts(font, "x").embedding
        self.assertIn("freely", said[0])
        self.assertIn("permission", said[0x0002])
        self.assertIn("printing only", said[0x0004])
        self.assertEqual(said[0x000A], said[0x0008])
        self.assertIn("Open Font License", facts(font, "x").licence)


def damaged(chance: random.Random, data: bytes) -> bytes:
    """Cut off, with bytes changed anywhere, a stretch overwritten, or the directory of tables changed."""
    made = bytearray(data)
    how = chance.randrange(4)
    if how == 0:
        return bytes(made[: chance.randint(4, len(made))])
    if how == 1:
        for _ in range(chance.randint(1, 60)):
            made[chance.randrange(4, len(made))] = chance.randrange(256)
    elif how == 2:
        at = chance.randrange(4, len(made))
        made[at : at + chance.randint(1, 2000)] = chance.randbytes(chance.randint(1, 2000))
    else:
        for _ in range(8):
            made[chance.randrange(4, 300)] = chance.randrange(256)
    return bytes(made)


def weighed_judgement(data: bytes) -> tuple[str, float]:
    """What is wrong with a file, "" if nothing is; and the processor's seconds that went into it."""
    start = time.process_time()
    found = judge(data, "Mine.ttf")
    return found if isinstance(found, str) else "", time.process_time() - start


def vetting(data: bytes) -> str:
    try:
        vet(data, "Mine.ttf")
    except FontError as error:
        return str(error)
    return ""


class Damaged(unittest.TestCase):
    def test_damaged_files(self) -> None:
        """Each is read, or refused with a sentence, and none takes long."""
        font = TTFont(PATHS["graduate"])
        # Few letters, so that much of what gets damaged is more than a letter's outline.
        fewer = Subsetter(Options(notdef_outline=True))
        fewer.populate(text="Kite Fair 26")
        fewer.subset(font)
        files = [saved(font)] * 3 + [saved(font, "woff"), saved(font, "woff2")]
        chances = [random.Random(seed) for seed in sampled(range(2 * len(NUMBERS)), 1 / 10)]
        given = [damaged(chance, chance.choice(files)) for chance in chances]

        # A process of its own for each is vet's way; most share one here, which a single crash would break.
        few = len(given) // 20
        alone, together = given[:few], given[few:]
        with (
            ThreadPoolExecutor(2) as threads,
            ProcessPoolExecutor(2, FORKSERVER, limit_memory, (MOST_MEMORY,)) as processes,
        ):
            weighed = [*processes.map(weighed_judgement, together, chunksize=100)]
            vetted = [*threads.map(vetting, alone)]
        refused = [said for said in (*(said for said, _ in weighed), *vetted) if said]
        self.assertGreater(len(refused), len(given) / 4)
        for said in refused:
            self.assertRegex(said, r"Mine\.ttf.* (cannot be|is not|holds)")
        # Work, not time by the clock: a busy machine makes nothing dearer.
        self.assertLess(max(work for _, work in weighed), MOST_SECONDS)

    def test_a_file_that_swells_is_stopped(self) -> None:
        """A small WOFF 1.0 file whose name table unpacks to 430 MB."""
        packer = zlib.compressobj()
        packed = b"".join(packer.compress(bytes(1_000_000)) for _ in range(430)) + packer.flush()
        length = 44 + 20 + len(packed)
        header = struct.pack(">4s4sIHHIHHIIIII", b"wOFF", b"\0\1\0\0", length, 1, 0, 28 + 430_000_000, 1, 0, *[0] * 5)
        entry = struct.pack(">4sIIII", b"name", 64, len(packed), 430_000_000, 0)
        with self.assertRaisesRegex(FontError, "too much memory|too long"):
            vet(header + entry + packed, "Swell.woff")

    def test_too_large_and_no_font_at_all(self) -> None:
        for data, words in (
            (b"\x00\x01\x00\x00" + bytes(MOST_BYTES), "is the most"),
            (b"", "not a font file"),
            (b"<svg/>", "TTF, OTF, TTC, WOFF and WOFF2"),
        ):
            with self.assertRaisesRegex(FontError, words):
                vet(data, "x.png")
