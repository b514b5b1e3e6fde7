"""Steps that could not be worked out."""

from __future__ import annotations

from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.findings.surveyed import Surveyed


def check_left_out(one: Surveyed) -> list[Finding]:
    """Each step that was left out, and why."""
    steps = one.layer.recipe.steps
    return [
        Finding(
            kind="not_made",
            severity="error",
            layer=one.layer.id,
            sentence=f"Step {failure.step + 1} of {one.title} {failure.why}. The layer is made without it.",
            mends=(
                Mend.by_step(
                    f"Switch step {failure.step + 1} off",
                    one.layer.id,
                    steps[failure.step].model_copy(update={"off": True}),
                    failure.step,
                ),
            ),
        )
        for failure in one.failures
    ]
