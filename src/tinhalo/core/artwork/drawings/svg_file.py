"""Read an SVG file into what it paints (SVG 2; CSS for its style sheets).

Paths, basic shapes, nested transforms, view boxes and units, ``use``, groups, clip paths, strokes, both fill rules and
style sheets become areas. What is no area is told: text, pictures, masks, filters, markers.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace

import numpy as np
from lxml import etree

from tinhalo.core.artwork.drawings.drawing_file import DrawingFile, Element, Picture
from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.drawings.joined_lines import joined_up
from tinhalo.core.artwork.drawings.svg_clip import clip_area
from tinhalo.core.artwork.drawings.svg_scene import GROUPS, HREF, MOST_DEPTH, SHAPES, Context, Scene, font_size, tag_of
from tinhalo.core.artwork.drawings.svg_shapes import length, numbers, transform, view
from tinhalo.core.artwork.drawings.svg_style import INHERITED as AT_ROOT
from tinhalo.core.artwork.drawings.svg_style import Node, Style, colour_of, style_of
from tinhalo.core.artwork.drawings.track import closed_up
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.affine import after, shift
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.painted import Cap, Join, Rule, combined, filled, stroked

MM = 25.4 / 96
MOST_ELEMENTS = 20_000
#: Copies of copies grow without end.
MOST_COPIES = 3_000
#: Texts that are kept, to be set again.
_MOST_TEXTS = 50
#: Embedded pictures that are offered for tracing.
MOST_PICTURES = 20
_SIDES = (("width", "x"), ("height", "y"))
_CAPS: dict[str, Cap] = {"round": "round", "square": "square"}
_JOINS: dict[str, Join] = {"round": "round", "bevel": "bevel"}
#: What an element is called where the file does not say.
_CALLED = {"path": "outline", "rect": "rectangle", "polyline": "line"}
#: Not painted where they stand.
_SILENT = {
    *("defs", "clipPath", "symbol", "marker", "mask", "pattern", "linearGradient", "radialGradient", "filter"),
    *("style", "title", "desc", "metadata", "script", "animate", "set", "cursor", "view"),
}


def read_svg(data: bytes) -> DrawingFile:
    """What an SVG file paints.

    Raises:
        DrawingError: with a sentence, when it is none, or holds too much.
    """
    parser = etree.XMLParser(
        resolve_entities="internal",
        no_network=True,
        load_dtd=False,
        huge_tree=False,
        remove_comments=True,
        remove_pis=True,
    )
    try:
        root = etree.fromstring(data, parser)
    except etree.XMLSyntaxError as error:
        if "epth" in str(error):
            raise DrawingError("its groups are nested too deeply") from error
        raise DrawingError(f"it is no sound XML (line {error.lineno})") from error
    if tag_of(root) != "svg":
        raise DrawingError("it is XML, but no SVG drawing")
    return _Reader(root).read()


class _Reader:
    def __init__(self, root: Node) -> None:
        self._root = root
        self._scene = Scene(root)
        self._texts: list[str] = []
        self._pictures: list[Picture] = []
        self._count = self._copies = 0

    def read(self) -> DrawingFile:
        box = numbers(self._root.get("viewBox"))
        box = box if len(box) == 4 and box[2] > 0 and box[3] > 0 else []
        said = [self._root.get("width"), self._root.get("height")]
        sizes = [length(one, math.nan, 16) for one in said]
        width, height = (one if one and one > 0 else None for one in sizes)
        if box:
            # One that is missing follows from the other.
            if width and not height:
                height = width * box[3] / box[2]
            elif height and not width:
                width = height * box[2] / box[3]
        known = bool(width and height)
        width, height = width or (box[2] if box else 300.0), height or (box[3] if box else 150.0)
        matrix = view(box, width, height, self._root.get("preserveAspectRatio", "")) if box else shift(0, 0)
        inner = (box[2], box[3]) if box else (width, height)
        style = style_of(self._scene.sheets.said(self._root), AT_ROOT)
        context = self._entered(Context(matrix, AT_ROOT, *inner), self._root, style)
        elements = joined_up([one for child in self._root for one in self._drawn(child, context)])
        if not known:
            self._scene.told["It does not say how large it is: say it here."] += 1
        elif not any((one or "").strip().rstrip("0123456789.+-eE").lower() not in ("", "px") for one in said):
            self._scene.told["Its size is given in pixels, and taken at 96 to an inch."] += 1
        page = (0.0, -height * MM, width * MM, 0.0)
        texts, pictures = tuple(self._texts[:_MOST_TEXTS]), tuple(self._pictures)
        return DrawingFile(tuple(elements), page, known, tuple(self._sentences()), texts, pictures)

    def _sentences(self) -> Iterator[str]:
        if len(self._pictures) == 1:
            yield "A picture lies in it: trace it to cut it."
        elif self._pictures:
            yield f"{len(self._pictures)} pictures lie in it: trace them to cut them."
        if self._texts:
            some = ", ".join(f"“{text[:40]}”" for text in self._texts[:3]) + (
                " and more" if len(self._texts) > 3 else ""
            )
            yield f"Text that is no outline was left out: {some}. Set it with a font of your own."
        for sentence, count in self._scene.told.items():
            yield sentence if "{" not in sentence else sentence.format(f"{count}")

    def _drawn(self, element: Node, context: Context) -> Iterator[Element]:
        tag = tag_of(element)
        if not tag or tag in _SILENT:
            return
        if context.depth > MOST_DEPTH:
            raise DrawingError("its groups are nested too deeply")
        self._count += 1
        self._copies += bool(context.uses)
        if self._count > MOST_ELEMENTS:
            raise DrawingError(f"it has more than {MOST_ELEMENTS:,} elements")
        if self._copies > MOST_COPIES:
            raise DrawingError(f"it has more than {MOST_COPIES:,} copies of elements")
        context = self._entered(context, element, style_of(self._scene.sheets.said(element), context.style))
        if tag in SHAPES:
            yield from self._shape(element, tag, context)
        elif tag == "switch":
            chosen = next((one for one in element if tag_of(one) and one.get("requiredExtensions") is None), None)
            if chosen is not None:
                yield from self._drawn(chosen, context)
        elif tag in GROUPS:
            for child in element:
                yield from self._drawn(child, context)
        elif tag == "svg":
            yield from self._viewport(element, context, element.get("width", "100%"), element.get("height", "100%"), "")
        elif tag == "use":
            yield from self._use(element, context)
        elif tag == "text":
            text = " ".join("".join(str(one) for one in element.itertext()).split())
            if text:
                self._texts.append(text[:200])
        elif tag == "image":
            self._image(element, context)
        elif tag == "foreignObject":
            self._scene.told["{} parts of another kind than drawings were left out."] += 1

    def _image(self, element: Node, context: Context) -> None:
        href = (element.get("href") or element.get(HREF) or "").strip()
        width, height = (self._scene.length(element, side, context, along) for side, along in _SIDES)
        if not href.startswith("data:image/") or len(self._pictures) >= MOST_PICTURES or min(width, height) <= 0:
            self._scene.told["{} pictures in it were left out: bring a picture in by itself to trace it."] += 1
            return
        x, y = (self._scene.length(element, name, context) for name in ("x", "y"))
        corners = np.array([[x, y], [x + width, y], [x + width / 2, y + height / 2]])
        left, right, middle = (corners @ context.matrix[:, :2].T + context.matrix[:, 2]) * (MM, -MM)
        wide = float(np.hypot(*(right - left)))
        self._pictures.append(Picture(float(middle[0]), float(middle[1]), wide, href))

    def _entered(self, context: Context, element: Node, style: Style) -> Context:
        """The context inside an element."""
        matrix = after(context.matrix, transform(style["transform"] or element.get("transform")))
        hidden = context.hidden
        if style["display"] == "none":
            hidden = hidden or "it is switched off"
        if _share(style["opacity"]) == 0:
            hidden = hidden or "it is transparent"
        for name, sentence in (
            ("mask", "{} masks are not applied: what they hide is drawn."),
            ("filter", "{} effects (blur, shadow) are not drawn."),
        ):
            if style[name] != "none":
                self._scene.told[sentence] += 1
        made = replace(context, matrix=matrix, style=style, hidden=hidden, depth=context.depth + 1)
        clip = self._scene.reference(style["clip-path"])
        if clip is not None and tag_of(clip) == "clipPath":
            return replace(made, clip=_both(context.clip, clip_area(self._scene, clip, element, made, ())))
        return made

    def _viewport(self, element: Node, context: Context, width: str, height: str, href: str) -> Iterator[Element]:
        """A nested drawing, or a symbol that is used."""
        is_symbol = tag_of(element) == "symbol"
        x, y = (
            (0.0, 0.0)
            if is_symbol
            else (self._scene.length(element, "x", context), self._scene.length(element, "y", context))
        )
        font = font_size(context)
        w, h = length(width, context.width, font) or 0, length(height, context.height, font) or 0
        box = numbers(element.get("viewBox"))
        if w <= 0 or h <= 0 or (len(box) == 4 and min(box[2:]) <= 0):
            return
        matrix = after(context.matrix, shift(x, y))
        clip = context.clip
        if context.style["overflow"] not in ("visible", "auto"):
            clip = _both(clip, _rectangle(0, 0, w, h, matrix))
        if len(box) == 4:
            matrix = after(matrix, view(box, w, h, element.get("preserveAspectRatio", "")))
            w, h = box[2:]
        inner = replace(context, matrix=matrix, width=w, height=h, clip=clip, uses=(*context.uses, href))
        for child in element:
            yield from self._drawn(child, inner)

    def _use(self, element: Node, context: Context) -> Iterator[Element]:
        href = (element.get("href") or element.get(HREF) or "").strip()
        target = self._scene.reference(href)
        if target is None:
            self._scene.told["{} copies of what lies in other files were left out."] += 1
            return
        if href in context.uses:
            self._scene.told["{} copies hold themselves, and were left out."] += 1
            return
        moved = shift(self._scene.length(element, "x", context), self._scene.length(element, "y", context))
        context = replace(context, matrix=after(context.matrix, moved), uses=(*context.uses, href))
        if tag_of(target) in ("symbol", "svg"):
            own = style_of(self._scene.sheets.said(target), context.style)
            inner = self._entered(context, target, own)
            width = element.get("width") or target.get("width") or "100%"
            height = element.get("height") or target.get("height") or "100%"
            yield from self._viewport(target, inner, width, height, href)
        else:
            yield from self._drawn(target, context)

    def _shape(self, element: Node, tag: str, context: Context) -> Iterator[Element]:
        style, contours = context.style, self._scene.contours(element, tag, context)
        hidden = context.hidden or ("it is invisible" if style["visibility"] != "visible" else "")
        label = next((str(v) for k, v in element.attrib.items() if str(k).endswith("}label")), None)
        name = (label or element.get("id") or _CALLED.get(tag, tag))[:60]
        fill, stroke = self._paint("fill", style), self._paint("stroke", style)
        if style["marker-start"] != "none" or style["marker-end"] != "none" or style["marker-mid"] != "none":
            self._scene.told["{} arrow heads and other marks on lines were left out."] += 1
        if fill and tag != "line":
            rule: Rule = "evenodd" if style["fill-rule"] == "evenodd" else "nonzero"
            outline = filled(closed_up(contours).transformed(context.matrix), rule)
            outline = _clipped(outline, context.clip)
            if len(outline.segments):
                yield Element(name, fill[0], _flipped(outline), hidden=hidden or _unseen(fill[1]))
        if stroke:
            yield from self._line(contours, context, name, stroke, hidden)
        if not fill and not stroke and contours and tag != "line":
            # Drawn by nobody, and in the file.
            outline = filled(closed_up(contours).transformed(context.matrix), "nonzero")
            if len(outline.segments):
                yield Element(name, "#000000", _flipped(outline), hidden=hidden or "it has no colour")

    def _line(
        self,
        contours: list[Contour],
        context: Context,
        name: str,
        stroke: tuple[str, float],
        hidden: str,
    ) -> Iterator[Element]:
        style, matrix = context.style, context.matrix
        diagonal = math.hypot(context.width, context.height) / math.sqrt(2)
        width = length(style["stroke-width"], diagonal, font_size(context))
        width = 1.0 if width is None else width
        if width <= 0:
            return
        dashes = [
            length(one, diagonal, font_size(context)) for one in style["stroke-dasharray"].replace(",", " ").split()
        ]
        sure = [one for one in dashes if one is not None and one >= 0]
        if len(sure) != len(dashes) or sum(sure) <= 0:
            sure = []
        if len(sure) % 2:
            sure = sure * 2
        cap, join = _CAPS.get(style["stroke-linecap"], "butt"), _JOINS.get(style["stroke-linejoin"], "miter")
        miter = (numbers(style["stroke-miterlimit"]) or [4.0])[0]
        offset = length(style["stroke-dashoffset"], diagonal, font_size(context)) or 0.0
        stays = style["vector-effect"] == "non-scaling-stroke"
        lines = [one.transformed(matrix) for one in contours] if stays else contours
        outline = stroked(lines, width, cap, join, max(miter, 1.0), sure, offset)
        outline = _clipped(outline if stays else filled(outline.transformed(matrix), "nonzero"), context.clip)
        scale = 1.0 if stays else math.sqrt(abs(matrix[0, 0] * matrix[1, 1] - matrix[0, 1] * matrix[1, 0]))
        round_ = [one for one in contours if one.closed or np.allclose(one.segments[0, 0], one.segments[-1, 3])]
        enclosed = _clipped(filled(closed_up(round_).transformed(matrix), "nonzero"), context.clip)
        ends = 2 * (len(contours) - len(round_))
        if len(outline.segments) or len(enclosed.segments):
            followed: list[Contour] = []
            if context.clip is None and not sure:
                to_mm = after(np.array([[MM, 0, 0], [0, -MM, 0]]), matrix)
                followed = [one.transformed(to_mm) for one in contours]
            yield Element(
                name,
                stroke[0],
                _flipped(outline),
                _flipped(enclosed),
                width * scale * MM,
                ends,
                hidden or _unseen(stroke[1]),
                Outline.from_contours(followed),
            )

    def _paint(self, name: str, style: Style) -> tuple[str, float] | None:
        """Colour and opacity of a fill or stroke; None for none."""
        value = style[name].strip()
        opacity = _share(style[f"{name}-opacity"])
        if value.lower().startswith("url("):
            server = self._scene.reference(value)
            after_it = value.partition(")")[2].strip()
            if server is None:
                found = colour_of(after_it, style["color"]) if after_it and after_it != "none" else None
                return (found[0], found[1] * opacity) if found else None
            if tag_of(server) == "pattern":
                self._scene.told["{} areas filled with a pattern are brought in as plain areas."] += 1
            return "#808080", opacity
        found = colour_of(value, style["color"]) if value != "none" else None
        return (found[0], found[1] * opacity) if found else None


def _share(text: str) -> float:
    """An opacity between 0 and 1."""
    found = numbers(text)
    share = found[0] / (100 if text.strip().endswith("%") else 1) if found else 1.0
    return min(1.0, max(0.0, share))


def _unseen(opacity: float) -> str:
    return "" if opacity > 0 else "it is transparent"


def _flipped(outline: Outline) -> Outline:
    """A plain outline in mm, y up: its contours run the other way round, so that it stays plain."""
    turned = outline.transformed(np.array([[MM, 0, 0], [0, -MM, 0]]))
    return Outline.from_contours([one.reversed() for one in turned.contours()])


def _clipped(outline: Outline, clip: Outline | None) -> Outline:
    return outline if clip is None else combined("intersection", outline, clip)


def _both(clip: Outline | None, other: Outline) -> Outline:
    return other if clip is None else combined("intersection", clip, other)


def _rectangle(x: float, y: float, width: float, height: float, matrix: Floats) -> Outline:
    corners = np.array([[x, y], [x + width, y], [x + width, y + height], [x, y + height]], float)
    return filled(Outline.from_contours([Contour.of_ring(corners)]).transformed(matrix), "nonzero")
