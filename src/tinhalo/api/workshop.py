"""What the routers share: the store, the fonts and one memo of results."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Annotated

from fastapi import Depends, Request

from tinhalo.core.design.design import Design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.survey import findings_of
from tinhalo.core.runtime.memo import Memo
from tinhalo.store.designs import Designs
from tinhalo.store.fonts import Fonts, Library
from tinhalo.store.materials import OwnMaterials
from tinhalo.store.starters import Starters


@dataclass
class Workshop:
    """The parts of a running app."""

    designs: Designs
    fonts: Fonts
    library: Library
    starters: Starters
    materials: OwnMaterials
    memo: Memo = field(default_factory=Memo)

    def build(self, design: Design, *, exact: bool, cancelled: Callable[[], bool] = lambda: False) -> Build:
        """Build with the app's fonts and memo."""
        return build(design, self.library, exact=exact, memo=self.memo, cancelled=cancelled)

    def findings(self, built: Build, cancelled: Callable[[], bool] = lambda: False) -> list[Finding]:
        """Everything to look at: of the outlines that leave, also where only the screen's were built."""
        return list(findings_of(built.design, self.library, self.memo, cancelled))


def _workshop(request: Request) -> Workshop:
    return request.app.state.workshop


Shop = Annotated[Workshop, Depends(_workshop)]
