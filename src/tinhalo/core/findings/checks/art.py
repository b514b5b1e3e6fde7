"""Art that cannot be drawn, or not as it was meant: its own troubles, as findings."""

from __future__ import annotations

from tinhalo.core.engine.built import Build
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.mends.mend import mend_of


def check_art(made: Build) -> list[Finding]:
    """What each piece of art tells of itself, in the document's order."""
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
