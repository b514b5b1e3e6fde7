"""What a mend will do, told before it is made."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Design
from tinhalo.core.findings.mends.changes import mended
from tinhalo.core.findings.mends.following import follow_up
from tinhalo.core.findings.mends.mend import FindPlace, Mend, SetStep
from tinhalo.core.recipe.thicken_step import Thicken
from tinhalo.core.runtime.memo import Memo


@dataclass(frozen=True)
class Outlook:
    """What comes of a mend.

    Attributes:
        left: how many of the findings it is for would still be there.
        why: what keeps them, where that is known.
        also: titles of the mends that would be made with it.
        brings: sentences of what would be new.
    """

    left: int
    also: tuple[str, ...]
    brings: tuple[str, ...]
    why: str | None = None


def outlook(
    design: Design,
    mend: Mend,
    cause: str,
    library: Library,
    memo: Memo,
    enough: Callable[[], bool] = lambda: False,
) -> Outlook | None:
    """What a mend of the findings with one cause will do; None where only a search would tell.

    Args:
        design: the document.
        mend: what one of its findings offers.
        cause: what these findings have in common.
        library: gives fonts by id.
        memo: results of earlier builds and checks, to use and add to: making it afterwards is quick.
        enough: asked before each further try: once it is true, what is left is told only.
    Raises:
        DesignError: when a layer or art of the mend is not there any more.
        CancelledError: once nobody waits for it, see ``runtime.cancellation``.
    """
    if any(isinstance(change, FindPlace) for change in mend.changes):
        return None
    after = mended(design, mend, library, memo)
    # One that is for a single place leaves the others as they are.
    followed = follow_up(design, after, library, memo, enough, None if mend.here else cause)
    brings = tuple(dict.fromkeys(one.sentence for one in followed.brought))
    return Outlook(len(followed.left), followed.also, brings, _why(mend) if followed.left else None)


def _why(mend: Mend) -> str | None:
    """What a mend leaves as it is on purpose."""
    steps = [change.step for change in mend.changes if isinstance(change, SetStep)]
    if any(isinstance(step, Thicken) and step.where == "thin" and step.keep_open != 0 for step in steps):
        return "Gaps beside them are kept open."
    return None
