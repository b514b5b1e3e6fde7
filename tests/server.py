"""A real server in a process of its own, on a free port, with its own data."""

from __future__ import annotations

import contextlib
import random
import socket
import subprocess
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import httpx

from tests.support import BRIEFLY
from tests.waiting import PATIENCE, until


def _free_port() -> int:
    """A port that is free, and that nobody gets by chance meanwhile: below those that the system gives away itself."""
    while True:
        port = random.SystemRandom().randrange(12_000, 32_000)
        with socket.socket() as probe, contextlib.suppress(OSError):
            probe.bind(("127.0.0.1", port))
            return port


class Server:
    def __init__(self, data: Path, command: str = "serve", options: Sequence[str] = ()) -> None:
        self.port = _free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self.http = httpx.Client(base_url=self.url, timeout=PATIENCE)
        # Into a file: a server left behind by a test run that died must not hold the run's own output open.
        self.log = data / "server.log"
        with self.log.open("wb") as log:
            self.process = subprocess.Popen(
                [
                    *(sys.executable, "-m", "tinhalo.cli", command, "--port", str(self.port), "--data", str(data)),
                    *("--nesting-seconds", str(BRIEFLY), *options),
                ],
                stdout=log,
                stderr=log,
            )
        try:
            until(self.answers)
        except AssertionError:
            self.stop()
            raise

    def answers(self) -> bool:
        """Whether it does; one that has ended never will.

        Raises:
            RuntimeError: then, with what it said.
        """
        if self.process.poll() is not None:
            raise RuntimeError(f"the server did not start: {self.log.read_text()}")
        try:
            self.http.get("/api/materials")
        except httpx.TransportError:
            return False
        return True

    def get(self, path: str) -> Any:
        """What it answers, from JSON."""
        return self.http.get(path).raise_for_status().json()

    def post(self, path: str, body: Any) -> Any:
        """What it answers to that, from JSON."""
        return self.http.post(path, json=body).raise_for_status().json()

    def kill(self) -> None:
        self.process.kill()
        self.process.wait()

    def stop(self) -> None:
        self.http.close()
        self.process.terminate()
        self.process.wait(20)
