"""The same design gives the same findings in the same order on every machine."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import unittest
from collections.abc import Sequence

from tests.sampling import FUZZ, sampled
from tests.support import LIBRARY
from tinhalo.core.engine.build import build
from tinhalo.core.findings.survey import survey
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.starters import STARTERS, with_words

#: Between them they have findings of most kinds.
TRIED = ("bordered-sticker", "knocked-out-word", "drop-shadow-title", "words-in-a-frame", "stepped-stack")


def findings(tried: Sequence[str]) -> str:
    """All findings of these starters, as JSON."""
    found: list[object] = []
    for one in [one for one in STARTERS if one.id in tried]:
        memo = Memo()
        made = build(with_words(one.document, "Zoë Bram"), LIBRARY, memo=memo)
        found += [finding.model_dump(mode="json") for finding in survey(made, memo)]
    return json.dumps(found)


class Kept(unittest.TestCase):
    def test_what_was_found_before_does_not_change_what_is_found(self) -> None:
        """Edits back and forth: of one layer's steps, its material, the stack's order."""
        starters = [one for one in STARTERS if one.id in ("name-keyring", "knocked-out-word", "stepped-stack")]
        for one in sampled(starters, 1 / 3):
            memo, design = Memo(), with_words(one.document, "Bram")
            first, *others = design.layers
            last = design.layers[-1]
            thicker = last.recipe.model_copy(update={"steps": (*last.recipe.steps, Offset(by=0.4))})
            variants = [
                design.layers,
                (*design.layers[:-1], last.model_copy(update={"recipe": thicker})),
                (first.model_copy(update={"material": "felt"}), *others),
                (*others, first),
                design.layers,
            ]
            for number, layers in enumerate(variants):
                with self.subTest(starter=one.id, variant=number):
                    changed = design.model_copy(update={"layers": layers})
                    fresh = Memo()
                    kept, anew = (survey(build(changed, LIBRARY, memo=m), m) for m in (memo, fresh))
                    self.assertEqual(kept, anew)


class SameEverywhere(unittest.TestCase):
    def test_findings_are_those_of_a_plainer_machine(self) -> None:
        """A processor without vector units sums and rounds in another order; sets are in another order anyway."""
        plainer = {"PYTHONHASHSEED": "77", "NPY_DISABLE_CPU_FEATURES": "AVX2 FMA3 AVX512F AVX512CD AVX512_SKX"}
        if FUZZ:
            # Compiled for such a one: half a minute, and kept beside what is compiled for this machine.
            plainer["NUMBA_CPU_NAME"] = "generic"
        tried = sampled(TRIED, 1 / 5)
        call = f"from tests.core.test_same_everywhere import findings; print(findings({tried}))"
        made = subprocess.run(
            [sys.executable, "-W", "ignore", "-c", call],
            env=os.environ | plainer,
            capture_output=True,
            text=True,
            check=True,
        )
        here = json.loads(findings(tried))
        self.assertGreater(len(here), 15 if FUZZ else 0)
        self.assertEqual(json.loads(made.stdout), here)
