"""Starters: sensible sets of layers to type a name into."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import FORMAT, Design
from tinhalo.core.design.hand_over import HandOver
from tinhalo.core.design.lining_up import LiningUp
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.knockout import knockouts
from tinhalo.core.findings.mends.mend import FindPlace
from tinhalo.core.findings.mends.placing import Placed, find_place
from tinhalo.core.runtime.memo import Memo

Data = dict[str, Any]

#: Words that are knocked out may be turned by so many degrees, and be made so small, as a share of their size, to find
#: a clean place for them.
_TURN, _SMALLEST = 4.0, 0.55


@dataclass(frozen=True)
class Starter:
    """A design to begin from: what it is called, what it is for, and its document."""

    id: str
    title: str
    does: str
    document: Design


def with_words(design: Design, text: str) -> Design:
    """The design with other words in its first block of words; what was set for single letters goes."""
    first = next((one for one in design.art if isinstance(one, Lettering)), None)
    if first is None:
        return design
    other = first.model_copy(update={"text": text, "moves": {}, "nudges": {}, "lowered": {}})
    return design.model_copy(update={"art": tuple(other if one is first else one for one in design.art)})


def _named(design: Design) -> Design:
    """The design called after its first words, where it has some."""
    first = next((one.text.strip() for one in design.art if isinstance(one, Lettering) and one.text.strip()), "")
    return design.model_copy(update={"name": first.splitlines()[0][:60]}) if first else design


def begun(design: Design, text: str, library: Library, memo: Memo) -> Design:
    """The design with other words in its first block of words, at a clean place where they are knocked out of others.

    Args:
        design: a starter's document.
        text: the words, or nothing to keep those that it has.
        library: gives fonts by id.
        memo: results of earlier builds.
    Raises:
        CancelledError: once nobody waits for it, see ``runtime.cancellation``.
    """
    words = next((one.id for one in design.art if isinstance(one, Lettering)), "")
    if not text.strip() or not words:
        return _named(design)
    design = _named(with_words(design, text))
    for layer in design.layers:
        for step, names in knockouts(design, layer).items():
            if words not in [one.id for art in names for one in art]:
                continue
            find = FindPlace(layer=layer.id, step=step, least_area=8, least_width=1, turn=_TURN, smallest=_SMALLEST)
            *_, placed = find_place(design, find, library, memo)
            if isinstance(placed, Placed):
                design = placed.design or design
    return design


def _words(text: str, font: str, size: float, id: str = "words", **more: Any) -> Data:
    return {"id": id, "kind": "lettering", "text": text, "font": font, "size": size, **more}


def _shape(id: str, shape: str, width: float, height: float, **more: Any) -> Data:
    return {"id": id, "kind": "shape", "shape": shape, "width": width, "height": height, **more}


def _drawing(file: str, scale: float, place: Data, against: Data) -> Data:
    """A shipped drawing, so many times as large as its file."""
    stands = {"scale_x": scale, "scale_y": scale, **place}
    return {"id": file, "kind": "drawing", "file": file, "name": f"{file}.svg", "place": stands, "against": against}


def _layer(id: str, name: str, material: str, source: str, *steps: Data, process: str = "cut") -> Data:
    recipe = {"from": [source], "steps": list(steps)}
    return {"id": id, "name": name, "material": material, "process": process, "recipe": recipe}


def _starter(id: str, title: str, does: str, art: list[Data], *layers: Data) -> Starter:
    document = {"format": FORMAT, "name": title, "art": art, "layers": list(layers)}
    return Starter(id, title, does, parse_design(document))


def _printed(id: str, title: str, does: str, art: list[Data], *layers: Data) -> Starter:
    """A starter for print and cut: pictures and cut lines in PDF and SVG, with marks at the same places."""
    made = _starter(id, title, does, art, *layers)
    hand_over = HandOver(formats=("svg", "pdf", "png"), lining_up=LiningUp(marks="crosses"))
    return replace(made, document=made.document.model_copy(update={"hand_over": hand_over}))


def _carved(id: str, title: str, does: str, art: list[Data], carving: Data, *layers: Data) -> Starter:
    """A starter for signs that a mill carves out of a board."""
    document = {"format": FORMAT, "name": title, "art": art, "layers": list(layers), "carving": carving}
    return Starter(id, title, does, parse_design(document))


def _joined_with(source: str) -> Data:
    return {"op": "union", "operand": {"from": [source]}}


def _border(by: float, gaps: float) -> tuple[Data, ...]:
    """One border round all letters, its openings closed; both in mm."""
    return {"op": "offset", "by": by}, {"op": "close_gaps", "up_to": gaps}, {"op": "fill_holes"}


def _held(width: float) -> tuple[Data, ...]:
    """The frame of a shape, so many mm wide, in one piece with the words that are set into it."""
    return {"op": "wall", "width": width, "side": "inside"}, _joined_with("words"), _SLITS, _STRONG


_JOINED: Data = {"join": {"overlap": 0.3}}
#: The same with dots and accents: all of a word is one piece.
_ONE_PIECE: Data = {"join": {"overlap": 0.5, "marks": True}}
#: Strokes brought to what acrylic and plywood 3 mm thick need, where they are thinner.
_STRONG: Data = {"op": "thicken", "to": 1.5}
#: Slits between letters that come near each other, closed before strokes grow.
_SLITS: Data = {"op": "close_gaps", "up_to": 0.5}
#: What is too small to be weeded goes, and such holes are filled.
_TIDIED: Data = {"op": "tidy", "area": 4, "width": 0.8, "holes_too": True}
#: Where the line would run back beside itself, it goes straight on.
_TEAM_NOTCHES: Data = {"op": "close_gaps", "up_to": 10}
#: What is usual for a gap and a line in film (common practice).
_TEAM_LINE: Data = {"op": "outline", "gap": 1.3, "width": 2, "corners": "miter"}
_SIGN: Data = {"op": "plate", "shape": "rounded", "margin": 14, "corner_radius": 8}

STARTERS: tuple[Starter, ...] = (
    _starter(
        "plain",
        "Plain",
        "A face, and a backer 4 mm wider",
        [_words("Words", "pacifico", 24)],
        _layer("face", "Face", "acrylic-3", "words", _STRONG),
        _layer(
            "backer",
            "Backer",
            "ply-3",
            "face",
            *_border(4, 4),
        ),
    ),
    _starter(
        "bordered-sticker",
        "Bordered sticker",
        "Words with a white border on a coloured ground",
        [_words("Ostrel Bay", "lobster", 32)],
        _layer("letters", "Words", "vinyl", "words", _SLITS, _TIDIED),
        _layer(
            "border",
            "Border",
            "vinyl-white",
            "letters",
            *_border(2, 2),
        ),
        _layer(
            "ground",
            "Ground",
            "card",
            "border",
            *_border(2.5, 4),
        ),
    ),
    _starter(
        "name-keyring",
        "Name keyring",
        "A name on a backer with a ring tab",
        [_words("Fenna", "pacifico", 22, **_JOINED)],
        _layer("face", "Face", "acrylic-3", "words", _STRONG),
        _layer(
            "backer",
            "Backer",
            "acrylic-2",
            "face",
            *_border(3, 4),
            {"op": "tab", "hole": 4, "rim": 2.5, "reach": 2, "at": 135},
        ),
    ),
    _starter(
        "knocked-out-word",
        "Knocked-out word",
        "A name across a block word, in a clear channel",
        [
            _words("Ottoline", "pacifico", 21, "name"),
            _words("BLOCK", "anton", 64, "block", letter_spacing=1.5, place={"y": -24}),
        ],
        _layer("script", "Name", "vinyl-white", "name", _SLITS, {"op": "thicken", "to": 0.85}, _TIDIED),
        _layer(
            "word",
            "Word",
            "vinyl",
            "block",
            {
                "op": "subtract",
                "operand": {"from": ["script"], "steps": [{"op": "offset", "by": 1.5}, {"op": "fill_holes"}]},
            },
        ),
    ),
    _starter(
        "drop-shadow-title",
        "Drop-shadow title",
        "Letters with a second colour peeping out behind them",
        [_words("High Wind", "bevan", 26)],
        _layer("title", "Title", "vinyl-white", "words"),
        _layer(
            "shadow",
            "Shadow",
            "vinyl",
            "title",
            {"op": "drop_shadow", "dx": 2.8, "dy": -2.8},
            {"op": "underlap", "operand": {"from": ["title"]}},
            _TIDIED,
        ),
    ),
    _starter(
        "block-shadow-title",
        "Block-shadow title",
        "Letters that stand out solid to one side",
        [_words("LAUNCH", "bebas-neue", 40, letter_spacing=1)],
        _layer("title", "Title", "vinyl-white", "words"),
        _layer(
            "shadow",
            "Shadow",
            "vinyl",
            "title",
            {"op": "offset", "by": 0.8},
            {"op": "block_shadow", "dx": 4, "dy": -4},
            _SLITS,
            _TIDIED,
        ),
    ),
    _printed(
        "printed-sticker",
        "Printed sticker",
        "Letters and their shadow printed as one picture, and one cut line around them",
        [_words("Kite Fair", "lobster", 26, **_JOINED)],
        _layer("word", "Word", "vinyl-white", "words", process="print") | {"colour": "#c8452f"},
        _layer(
            "shadow",
            "Shadow",
            "vinyl-white",
            "word",
            {"op": "drop_shadow", "dx": 1.6, "dy": -1.6},
            {"op": "underlap", "operand": {"from": ["word"]}},
            process="print",
        )
        | {"colour": "#3d3a6b"},
        _layer(
            "cut",
            "Cut line",
            "vinyl-white",
            "shadow",
            _joined_with("word"),
            *_border(3, 3),
        ),
    ),
    _starter(
        "team-name",
        "Gap-and-line team name",
        "Letters, a gap, and a line around them",
        [_words("OSTREL", "graduate", 28)],
        _layer("letters", "Letters", "iron-on", "words"),
        _layer("line", "Line", "iron-on", "letters", _TEAM_NOTCHES, {"op": "fill_holes"}, _TEAM_LINE),
    ),
    _starter(
        "stepped-stack",
        "Stepped stack",
        "Each layer steps out evenly from the one above",
        [_words("Idris", "alfa-slab-one", 30, letter_spacing=0.5)],
        _layer("top", "Top", "felt", "words", {"op": "thicken", "to": 2}),
        *(
            _layer(
                f"step-{number}",
                f"Step {number}",
                ("acrylic-2", "ply-3", "ply-4")[number - 1],
                "top",
                {"op": "offset", "by": 2.2 * number},
                _SLITS,
                {"op": "fill_holes"},
            )
            for number in (1, 2, 3)
        ),
    ),
    _starter(
        "glue-on-letters",
        "Glue-on letters",
        "Letters for a plate, with placing lines that hide under them",
        [_words("Bram", "baloo-2", 30, letter_spacing=1)],
        _layer("letters", "Letters", "acrylic-3", "words"),
        _layer("placing", "Placing lines", "ply-3", "letters", {"op": "offset", "by": -0.25}, process="score"),
        _layer("plate", "Plate", "ply-3", "letters", {"op": "plate", "shape": "rounded", "margin": 7}),
    ),
    _starter(
        "stitched-patch",
        "Stitched patch",
        "A felt patch with stitches along its edge",
        [_words("Kite Crew", "baloo-2", 22)],
        _layer("letters", "Words", "vinyl-white", "words"),
        _layer(
            "stitches",
            "Stitches",
            "card",
            "patch",
            {"op": "stitch", "length": 3, "spacing": 1.6, "inset": 1.8, "outer_only": True},
            process="print",
        ),
        _layer(
            "patch",
            "Patch",
            "felt",
            "letters",
            *_border(5, 8),
        ),
    ),
    _starter(
        "dough-cutter",
        "Dough cutter",
        "A thin wall round the words, with a rim to press on",
        [_words("Zoë", "baloo-2", 34, **_JOINED)],
        _layer(
            "edge",
            "Cutting wall",
            "print-12",
            "words",
            *_border(2, 8),
            {"op": "wall", "width": 0.8, "side": "outside"},
        ),
        _layer(
            "rim",
            "Rim",
            "print-3",
            "words",
            *_border(2, 8),
            {"op": "wall", "width": 5, "side": "outside"},
        ),
    ),
    _starter(
        "words-in-a-frame",
        "Words joined into a shape",
        "Words that hold to the frame around them: one free-standing piece",
        [
            _words("High Wind", "pacifico", 30, **_ONE_PIECE, into={"art": "oval", "frame": 4}, place={"y": -8}),
            _shape("oval", "ellipse", 130, 64),
        ],
        _layer(
            "shape",
            "Shape",
            "ply-3",
            "oval",
            *_held(4),
        ),
    ),
    _starter(
        "name-in-a-heart",
        "Name in a heart",
        "A name that holds to a heart on both sides, on a backer",
        [
            _words("Fenna", "pacifico", 34, **_ONE_PIECE, into={"art": "heart", "frame": 5}, place={"y": -6}),
            _shape("heart", "heart", 100, 86),
        ],
        _layer(
            "face",
            "Frame and name",
            "acrylic-3",
            "heart",
            *_held(5),
        ),
        _layer(
            "backer", "Backer", "ply-3", "face", {"op": "offset", "by": 3, "corners": "miter"}, {"op": "fill_holes"}
        ),
    ),
    _starter(
        "round-badge",
        "Round badge",
        "Words round a star, engraved on a disc with a scored edge",
        [
            _words("KITE FAIR CREW", "bebas-neue", 13, line={"path": "circle", "radius": 20}),
            _shape("star", "star", 24, 23),
            _shape("disc", "ellipse", 70, 70),
        ],
        _layer(
            "engraved",
            "Words and star",
            "ply-3",
            "words",
            _joined_with("star"),
            process="engrave",
        ),
        _layer("edge", "Edge line", "ply-3", "disc-layer", {"op": "offset", "by": -1.5}, process="score"),
        _layer("disc-layer", "Disc", "ply-3", "disc"),
    ),
    _starter(
        "raised-sign",
        "Raised sign",
        "Letters on a plate with a border line and screw holes",
        [_words("Launch Field", "bevan", 30)],
        _layer("letters", "Letters", "acrylic-3", "words"),
        _layer("border", "Border line", "ply-4", "letters", _SIGN, {"op": "offset", "by": -3}, process="score"),
        _layer(
            "plate",
            "Plate",
            "ply-4",
            "letters",
            _SIGN,
            {"op": "hole", "diameter": 4, "at": {"x": 0, "y": 0.5, "inset": 8}},
            {"op": "hole", "diameter": 4, "at": {"x": 1, "y": 0.5, "inset": 8}},
        ),
    ),
    _starter(
        "kite-tag",
        "Name with a kite",
        "A drawing joined to a name, on one backer",
        [
            _words("Bram", "pacifico", 26, **_ONE_PIECE),
            _drawing("kite", 0.6, {"rotate": 12, "y": 2}, {"art": "words", "side": "left", "overlap": 2}),
        ],
        _layer(
            "face",
            "Name and kite",
            "acrylic-3",
            "words",
            _joined_with("kite"),
            _SLITS,
            _STRONG,
        ),
        _layer(
            "backer",
            "Backer",
            "ply-3",
            "face",
            *_border(4, 4),
        ),
    ),
    _starter(
        "bunting-topper",
        "Bunting over a name",
        "A drawing hung over a name, all in one piece",
        [
            _words("Fenna", "pacifico", 40, **_ONE_PIECE),
            _drawing("bunting", 0.95, {}, {"art": "words", "side": "above", "overlap": 3}),
        ],
        _layer(
            "topper",
            "Topper",
            "acrylic-3",
            "words",
            _joined_with("bunting"),
            {"op": "bridge", "width": 3, "up_to": 20},
            _SLITS,
            _STRONG,
        ),
    ),
    _carved(
        "carved-sign",
        "Carved sign",
        "One name raised above another out of a board, by a V-bit",
        [
            _words("Launch", "lobster", 58, "upper-words", place={"x": 0, "y": 2}),
            _words("FIELD", "bevan", 22, "lower-words", letter_spacing=5, place={"x": 12, "y": -38}),
            _shape("board-shape", "rectangle", 240, 130, corner_radius=6),
        ],
        {
            "board": "board",
            "levels": [{"layers": ["upper", "frame"], "depth": 2.5}, {"layers": ["lower"], "depth": 2.5}],
        },
        _layer("upper", "Upper words", "board-18", "upper-words", process="carve"),
        _layer(
            "frame",
            "Frame",
            "board-18",
            "board-shape",
            {"op": "wall", "width": 9, "side": "inside"},
            process="carve",
        ),
        _layer("lower", "Lower words", "board-18", "lower-words", process="carve"),
        _layer("board", "Board", "board-18", "board-shape"),
    ),
)
