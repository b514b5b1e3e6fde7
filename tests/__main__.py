"""Run the tests of some directories: ``python -m tests tests/core tests/api``. Each is told in a line as it ends.

With ``--share 1/2`` those of every second file, from the first on; ``2/2`` has the others.
"""

from __future__ import annotations

import argparse
import sys
import time
import unittest
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[1]


class AsTheyEnd(unittest.TextTestResult):
    """Tells a test once it is over: two runs side by side then share a screen line by line."""

    def __init__(self, *args: Any, **more: Any) -> None:
        super().__init__(*args, **more)
        self.begun = 0.0
        self.troubles = 0

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        super().startTest(test)
        self.begun, self.troubles = time.perf_counter(), self.troubled()

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        outcome = "ok" if self.troubled() == self.troubles else "FAILED"
        print(f"{outcome:6} {time.perf_counter() - self.begun:5.1f} s  {test.id()}", flush=True)
        super().stopTest(test)

    def troubled(self) -> int:
        return len(self.errors) + len(self.failures) + len(self.unexpectedSuccesses)


def main() -> int:
    asked = argparse.ArgumentParser(prog="tests")
    asked.add_argument("directories", nargs="+")
    asked.add_argument("--share", default="1/1", type=lambda text: tuple(map(int, text.split("/"))))
    wanted = asked.parse_args()
    number, of = wanted.share
    files = [
        file
        for directory in wanted.directories
        for file in unittest.TestLoader().discover(directory, top_level_dir=str(ROOT))
    ]
    suite = unittest.TestSuite(files[number - 1 :: of])
    if not suite.countTestCases():
        print("There is no test in these directories.", file=sys.stderr)
        return 2
    result = unittest.TextTestRunner(resultclass=AsTheyEnd, verbosity=0).run(suite)
    return 0 if result.wasSuccessful() else 1


if __name__ == "__main__":
    sys.exit(main())
