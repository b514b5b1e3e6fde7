"""Art that cannot be drawn, or not as it was meant, or that nothing is made from."""

from __future__ import annotations

from collections.abc import Iterator

from tinhalo.core.design.design import Design
from tinhalo.core.engine.built import Build
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.mends.mend import Mend, SetSources, mend_of

#: In so many layers, the upper ones, it is offered to be put.
_OFFERED = 3


def check_art(made: Build) -> list[Finding]:
    """What each piece of art tells of itself, in the document's order; then which is in no layer."""
    return _troubles(made) + _left_out(made)


def _left_out(made: Build) -> list[Finding]:
    """Art that no layer is made from. What other art stands by may be there for that alone."""
    design = made.design
    if any(not layer.recipe.sources for layer in design.layers):
        # A layer that is made from nothing asks for it: one cause is told once.
        return []
    used = {name for layer in design.layers for name in design.ancestors(layer)}
    stood_by = {name for art in design.art for name in art.named()}
    return [
        Finding(
            kind="in_no_layer",
            severity="note" if art.id in stood_by else "warning",
            art=art.id,
            sentence=f"“{design.art_title(art.id)}” is in no layer: nothing is made from it.",
            mends=tuple(_joining(design, art.id)),
        )
        for art in design.art
        if art.id not in used
    ]


def _joining(design: Design, art: str) -> Iterator[Mend]:
    for layer in design.layers[:_OFFERED]:
        sources = (*layer.recipe.sources, art)
        yield Mend(title=f"Add it to “{layer.title}”", changes=(SetSources(layer=layer.id, sources=sources),))


def _troubles(made: Build) -> list[Finding]:
    return [
        Finding.model_validate(
            {
                "kind": trouble.kind,
                "severity": trouble.severity,
                "art": one.art.id,
                "sentence": trouble.sentence,
                "mends": [mend_of(one.art.id, remedy) for remedy in trouble.remedies],
            }
        )
        for one in made.art
        for trouble in one.drawn.troubles(made.library, made.design.art_title)
    ]
