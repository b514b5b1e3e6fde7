"""Clip paths of SVG (CSS Masking 1, section 6): the area that is left of what they clip."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from tinhalo.core.artwork.drawings.svg_scene import GROUPS, HREF, MOST_DEPTH, SHAPES, Context, Scene, tag_of
from tinhalo.core.artwork.drawings.svg_shapes import transform
from tinhalo.core.artwork.drawings.svg_style import Node, style_of
from tinhalo.core.artwork.drawings.track import closed_up
from tinhalo.core.geometry.curves.affine import after, shift
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.painted import Rule, combined, filled


def clip_area(scene: Scene, clip: Node, owner: Node, context: Context, inside: tuple[str, ...]) -> Outline:
    """The area of a clip path as it is used on an element, in pixels of the page."""
    id = clip.get("id") or ""
    if id in inside:
        return Outline.empty()
    matrix = context.matrix
    if clip.get("clipPathUnits") == "objectBoundingBox":
        box = _box(scene, owner, context)
        if box is None:
            return Outline.empty()
        x0, y0, x1, y1 = box
        matrix = after(matrix, np.array([[x1 - x0, 0, x0], [0, y1 - y0, y0]]))
    own = style_of(scene.sheets.said(clip), context.style)
    base = replace(context, matrix=after(matrix, transform(own["transform"] or clip.get("transform"))), clip=None)
    made = Outline.empty()
    for child in clip:
        made = combined("union", made, _child(scene, child, base, (*inside, id)))
    beyond = scene.reference(own["clip-path"])
    if beyond is not None and tag_of(beyond) == "clipPath":
        made = combined("intersection", made, clip_area(scene, beyond, owner, context, (*inside, id)))
    return made


def _child(scene: Scene, child: Node, context: Context, inside: tuple[str, ...]) -> Outline:
    tag = tag_of(child)
    style = style_of(scene.sheets.said(child), context.style)
    if style["display"] == "none" or style["visibility"] != "visible" or len(inside) > MOST_DEPTH:
        return Outline.empty()
    matrix = after(context.matrix, transform(style["transform"] or child.get("transform")))
    inner = replace(context, matrix=matrix, style=style)
    if tag == "use":
        target = scene.reference(child.get("href") or child.get(HREF))
        if target is None or tag_of(target) not in SHAPES:
            return Outline.empty()
        moved = shift(scene.length(child, "x", inner), scene.length(child, "y", inner))
        made = _child(scene, target, replace(inner, matrix=after(matrix, moved)), inside)
    elif tag in SHAPES:
        rule: Rule = "evenodd" if style["clip-rule"] == "evenodd" else "nonzero"
        made = filled(closed_up(scene.contours(child, tag, inner)).transformed(matrix), rule)
    else:
        if tag == "text":
            scene.told["{} clips by text are not applied as such: they hide everything."] += 1
        return Outline.empty()
    beyond = scene.reference(style["clip-path"])
    if beyond is not None and tag_of(beyond) == "clipPath":
        made = combined("intersection", made, clip_area(scene, beyond, child, inner, inside))
    return made


def _box(scene: Scene, owner: Node, context: Context) -> tuple[float, float, float, float] | None:
    """The box of an element in its own units, without its line."""
    inner = replace(context, matrix=shift(0, 0), clip=None, hidden="")
    below = _below(scene, owner, inner)
    outlines = [closed_up(scene.contours(one, tag_of(one), at)).transformed(at.matrix) for one, at in below]
    boxes = np.array([one.bounds() for one in outlines if len(one.segments)])
    if not len(boxes):
        return None
    low, high = boxes[:, :2].min(axis=0), boxes[:, 2:].max(axis=0)
    return (float(low[0]), float(low[1]), float(high[0]), float(high[1]))


def _below(scene: Scene, owner: Node, context: Context) -> Iterator[tuple[Node, Context]]:
    if tag_of(owner) in SHAPES:
        yield owner, context
    elif tag_of(owner) in GROUPS:
        for child in owner:
            if tag_of(child):
                said = style_of(scene.sheets.said(child), context.style)
                moved = after(context.matrix, transform(said["transform"] or child.get("transform")))
                yield from _below(scene, child, replace(context, matrix=moved, style=said))
