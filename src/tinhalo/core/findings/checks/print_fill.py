"""What layers are printed with that is not here, too coarse, or too fine."""

from __future__ import annotations

from collections.abc import Iterator

from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.pictures.picture_file import COARSE, size_of
from tinhalo.core.design.print_fill import MOST_TIMES, PictureFill
from tinhalo.core.engine.built import Build, BuiltLayer
from tinhalo.core.findings.finding import Finding
from tinhalo.core.units import MM_PER_INCH, length


def check_print_fills(made: Build) -> Iterator[Finding]:
    """What there is to tell of the patterns and pictures that layers are printed with."""
    for one in made.layers:
        fill, bounds = one.layer.printed_with, one.measures.bounds
        if fill is None or one.layer.hidden:
            continue
        if bounds is not None and fill.times(bounds) > MOST_TIMES:
            yield Finding(
                kind="not_made",
                severity="error",
                layer=one.layer.id,
                sentence=(
                    f"What “{one.layer.title}” is printed with would come {fill.times(bounds):,.0f} times, and "
                    f"{MOST_TIMES:,} is the most: it prints in its plain colour. Let it be larger."
                ),
            )
        elif isinstance(fill, PictureFill):
            yield from _of(made, one, fill)


def _of(made: Build, one: BuiltLayer, fill: PictureFill) -> Iterator[Finding]:
    name, layer = fill.name or "its picture", one.layer
    try:
        columns, rows = size_of(made.library.picture(fill.file))
    except DrawingError:
        sentence = f"“{name}” on “{layer.title}” is not here: it prints in its plain colour. Choose the picture again."
        yield Finding(kind="unknown_file", severity="error", layer=layer.id, sentence=sentence)
        return
    bounds = one.measures.bounds
    if bounds is None:
        return
    dot = fill.wide(columns, rows, bounds) / columns
    if dot > COARSE:
        most = length(COARSE * columns, made.design.unit)
        sentence = (
            f"“{name}” on “{layer.title}” prints with {MM_PER_INCH / dot:.0f} dots to an inch and will look rough: "
            f"it is good for {most} of width. Choose a larger picture, or one that comes again and again."
        )
        yield Finding(
            kind="coarse_print", severity="note", layer=layer.id, sentence=sentence, measure=dot, limit=COARSE
        )
