"""A real server in a process of its own, on a free port, with its own data."""

from __future__ import annotations

import contextlib
import socket
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

import httpx

#: Seconds for an answer: long enough for a machine that has other work.
PATIENCE = 60


class Server:
    def __init__(self, data: Path, command: str = "serve") -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port: int = probe.getsockname()[1]
        self.url = f"http://127.0.0.1:{self.port}"
        self.http = httpx.Client(base_url=self.url, timeout=PATIENCE)
        # Into a file: a server left behind by a test run that died must not hold the run's own output open.
        with (data / "server.log").open("wb") as log:
            self.process = subprocess.Popen(
                [sys.executable, "-m", "tinhalo.cli", command, "--port", str(self.port), "--data", str(data)],
                stdout=log,
                stderr=log,
            )
        for _ in range(600):
            with contextlib.suppress(httpx.TransportError):
                self.http.get("/api/materials")
                return
            if self.process.poll() is not None:
                break
            time.sleep(0.1)
        self.stop()
        raise RuntimeError("the server did not start")

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
