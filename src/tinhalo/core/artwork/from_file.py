"""Art that comes from a file which the design names."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from tinhalo.core.artwork.art import Drawn, Trouble
from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.whole import DrawnWhole, WholeArt
from tinhalo.core.document.base import READABLE
from tinhalo.core.geometry.regions.region import Region

if TYPE_CHECKING:
    from tinhalo.core.artwork.library import Library


class FromFile(WholeArt):
    """Base of art from a file: ``file`` is its id, ``name`` what it is called."""

    file: Annotated[str, Field(min_length=1, max_length=64)]
    name: Annotated[str, Field(max_length=200), READABLE] = ""

    @property
    def title(self) -> str:
        """What the file is called, without its ending."""
        return self.name.rpartition(".")[0].strip() or self.name.strip() or self.noun

    def undrawn(self, error: ArtError) -> Drawn:
        """Nothing, where the file is not here."""
        return Missing(Region.empty(), self.title, why=str(error))


@dataclass(frozen=True)
class Missing(DrawnWhole):
    """What stands for art whose file is not here.

    Attributes:
        why: a sentence for the maker.
    """

    why: str = ""

    def troubles(self, library: Library, title: Callable[[str], str]) -> list[Trouble]:
        """That it is not here."""
        return [Trouble("unknown_file", "error", self.why)]
