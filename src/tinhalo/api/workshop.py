"""What the routers share: the store, the fonts and one memo of results."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Annotated

from fastapi import Depends, Request

from tinhalo.api.settings import Waits
from tinhalo.core.design.design import Design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.survey import findings_of, survey
from tinhalo.core.runtime.crew import Crew
from tinhalo.core.runtime.memo import Memo
from tinhalo.shop.hall import Hall
from tinhalo.store.designs import Designs
from tinhalo.store.files import Files, StoredLibrary
from tinhalo.store.fonts import Fonts
from tinhalo.store.jobs import Jobs
from tinhalo.store.materials import OwnMaterials
from tinhalo.store.notice import Notice
from tinhalo.store.rows import RowFiles
from tinhalo.store.starters import Starters
from tinhalo.store.tables import OwnTables
from tinhalo.store.tools import OwnTools


@dataclass
class Workshop:
    """The parts of a running app."""

    designs: Designs
    fonts: Fonts
    files: Files
    library: StoredLibrary
    starters: Starters
    materials: OwnMaterials
    tables: OwnTables
    tools: OwnTools
    jobs: Jobs
    hall: Hall
    crew: Crew
    rows: RowFiles
    notice: Notice
    waits: Waits
    memo: Memo = field(default_factory=Memo)

    def build(self, design: Design, *, exact: bool) -> Build:
        """Build with the app's fonts and memo."""
        return build(design, self.library, exact=exact, memo=self.memo)

    def findings(self, built: Build, *, shapes: bool) -> list[Finding]:
        """What is known without a look at shapes; with ``shapes`` all of it, of the outlines that leave."""
        if shapes:
            return list(findings_of(built.design, self.library, self.memo))
        return list(survey(built, self.memo, shapes=False))


def _workshop(request: Request) -> Workshop:
    return request.app.state.workshop


Shop = Annotated[Workshop, Depends(_workshop)]
