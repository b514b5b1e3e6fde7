"""Recorded times of the tests: for the runner, which balances its workers by them, and as a table in the docs.

python scripts/test_times.py load    # before the first run in a clone
python scripts/test_times.py write   # after a whole run: tests/times.json and docs/tests.md
"""

from __future__ import annotations

import argparse
import ast
import io
import json
import subprocess
import sys
from collections import defaultdict
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from subunit import ByteStreamToStreamResult
from subunit.v2 import StreamResultToBytes
from testtools import StreamToDict

ROOT = Path(__file__).parents[1]
TIMES = ROOT / "tests" / "times.json"
TABLE = ROOT / "docs" / "tests.md"
STESTR = str(Path(sys.executable).with_name("stestr"))
LONGEST = 20


def load() -> None:
    """Hand the recorded times to the runner, as if of an earlier run."""
    held = io.BytesIO()
    stream = StreamResultToBytes(held)
    begun = datetime(2026, 1, 1, tzinfo=UTC)
    for test, seconds in json.loads(TIMES.read_text("utf-8")).items():
        stream.status(test_id=test, test_status="inprogress", timestamp=begun)
        stream.status(test_id=test, test_status="success", timestamp=begun + timedelta(seconds=seconds))
    subprocess.run([STESTR, "init"], cwd=ROOT, check=True)
    subprocess.run([STESTR, "load"], cwd=ROOT, input=held.getvalue(), stdout=subprocess.DEVNULL, check=True)


def last_run() -> dict[str, float]:
    """The last run's times in seconds, by test.

    Raises:
        SystemExit: when not all tests ran, or one failed.
    """
    times: dict[str, float] = {}
    failed: list[str] = []

    def record(test: Any) -> None:
        begun, ended = test["timestamps"]
        if test["status"] == "success":
            times[test["id"]] = round((ended - begun).total_seconds(), 1)
        else:
            failed.append(test["id"])

    stored = subprocess.run([STESTR, "last", "--subunit"], cwd=ROOT, capture_output=True, check=True).stdout
    result = StreamToDict(record)
    result.startTestRun()
    ByteStreamToStreamResult(io.BytesIO(stored)).run(result)
    result.stopTestRun()
    if failed or len({one.split(".")[1] for one in times}) < 4:
        raise SystemExit(f"Only a whole run that passed is recorded; failed: {', '.join(failed) or 'none'}.")
    return dict(sorted(times.items()))


def shares() -> list[tuple[str, str]]:
    """The tests that take a share of their cases, each with its share, read off their calls of ``sampled``."""
    found: list[tuple[str, str]] = []
    for file in sorted((ROOT / "tests").rglob("test_*.py")):
        for group in ast.parse(file.read_text("utf-8")).body:
            if not isinstance(group, ast.ClassDef):
                continue
            for test in group.body:
                for call in ast.walk(test):
                    if isinstance(call, ast.Call) and isinstance(call.func, ast.Name) and call.func.id == "sampled":
                        name = f"{file.relative_to(ROOT / 'tests').with_suffix('')}: {getattr(test, 'name', '')}"
                        found.append((name, f"{ast.unparse(call.args[1])} of `{ast.unparse(call.args[0])}`"))
    return found


def write() -> None:
    """Record the last run, and write the table."""
    times = last_run()
    TIMES.write_text(json.dumps(times, indent=0) + "\n", "utf-8")
    folders: dict[str, list[float]] = defaultdict(list)
    for test, seconds in times.items():
        folders[test.split(".")[1]].append(seconds)
    longest = sorted(times.items(), key=lambda one: -one[1])[:LONGEST]
    lines = [
        "# What the tests take",
        "",
        "Written by `make test-times` after a whole run of `make test`; seconds as each test ended, several running",
        "side by side. `tests/times.json` has all of them: the runner balances its workers by it.",
        "",
        "| folder | tests | seconds |",
        "|---|---|---|",
        *(f"| tests/{name} | {len(every)} | {sum(every):.0f} |" for name, every in sorted(folders.items())),
        f"| all | {len(times)} | {sum(times.values()):.0f} |",
        "",
        f"## The {LONGEST} longest",
        "",
        "| seconds | test |",
        "|---|---|",
        *(f"| {seconds:.1f} | {test.removeprefix('tests.')} |" for test, seconds in longest),
        "",
        "## What is sampled",
        "",
        "The gate draws a share of many cases of one kind, anew each day by a seed that it prints; `make fuzz`",
        "takes all of them.",
        "",
        "| test | share |",
        "|---|---|",
        *(f"| {test} | {share} |" for test, share in shares()),
    ]
    TABLE.write_text("\n".join(lines) + "\n", "utf-8")


if __name__ == "__main__":
    parser = argparse.ArgumentParser(prog="test_times")
    parser.add_argument("what", choices=("load", "write"))
    {"load": load, "write": write}[parser.parse_args().what]()
