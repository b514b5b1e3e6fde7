"""A shop's worth of people: fifty clients building different designs and saving them, and the server's memory."""

from __future__ import annotations

import argparse
import os
import statistics
import tempfile
import threading
import time
from collections import Counter
from pathlib import Path
from typing import Any

import httpx
from tests.server import Server

from tinhalo.core.starters import STARTERS, with_words

CLIENTS, SECONDS, DESIGNS = 50, 60.0, 2_000
#: The browser waits for one answer before it asks again, and hands rest between edits.
REST = 0.25


def document(number: int) -> dict[str, Any]:
    starter = STARTERS[number % len(STARTERS)].document
    return with_words(starter, f"Kite {number}").model_dump(mode="json", by_alias=True)


def memory(process: int) -> float:
    """Resident memory in MB."""
    pages = int(Path(f"/proc/{process}/statm").read_text().split()[1])
    return pages * os.sysconf("SC_PAGESIZE") / 1e6


def client(url: str, number: int, until: float, saves: list[float], builds: list[float], told: Counter[str]) -> None:
    with httpx.Client(base_url=url, timeout=60) as http:
        made = http.post("/api/designs", json={"document": document(number)}).json()
        revision, edits = 1, 0
        while time.monotonic() < until:
            edits += 1
            design = document(number + CLIENTS * edits)
            try:
                begun = time.monotonic()
                built = http.post("/api/build", json={"document": design})
                builds.append(time.monotonic() - begun)
                told[f"build {built.status_code}"] += 1
                save = {"base_revision": revision, "keep_through": edits - 1, "add": [design], "at": edits}
                begun = time.monotonic()
                saved = http.put(f"/api/designs/{made['id']}", json=save)
                saves.append(time.monotonic() - begun)
                told[f"save {saved.status_code}"] += 1
                revision = saved.json().get("revision", revision)
            except httpx.HTTPError as error:
                told[type(error).__name__] += 1
            time.sleep(REST)


def p95(times: list[float]) -> float:
    return 1000 * sorted(times)[int(0.95 * (len(times) - 1))]


def together(server: Server) -> None:
    saves: list[float] = []
    builds: list[float] = []
    told: Counter[str] = Counter()
    until = time.monotonic() + SECONDS
    arguments = (until, saves, builds, told)
    threads = [threading.Thread(target=client, args=(server.url, k, *arguments)) for k in range(CLIENTS)]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    print(f"{CLIENTS} clients for {SECONDS:.0f} s: {dict(told)}")
    print(f"saves  median {1000 * statistics.median(saves):5.0f} ms   p95 {p95(saves):5.0f} ms   {len(saves)}")
    print(f"builds median {1000 * statistics.median(builds):5.0f} ms   p95 {p95(builds):5.0f} ms   {len(builds)}")


def curve(server: Server, count: int) -> None:
    print("designs built, one after the other, and memory in MB:")
    with httpx.Client(base_url=server.url, timeout=60) as http:
        for number in range(count):
            if number % max(count // 10, 1) == 0:
                print(f"  {number:5} {memory(server.process.pid):6.0f}", flush=True)
            http.post("/api/build", json={"document": document(10_000 + number), "exact": True, "checks": True})
    print(f"  {count:5} {memory(server.process.pid):6.0f}")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--designs", type=int, default=DESIGNS)
    count = parser.parse_args().designs
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder))
        try:
            time.sleep(10)
            print(f"before {memory(server.process.pid):.0f} MB")
            together(server)
            print(f"after  {memory(server.process.pid):.0f} MB")
            curve(server, count)
        finally:
            server.stop()


if __name__ == "__main__":
    main()
