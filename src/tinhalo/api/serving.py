"""Serving over HTTP: who connects has to say in time, and in few words, what is wanted."""

from __future__ import annotations

import asyncio
import sys

import uvicorn
from fastapi import FastAPI
from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

#: All headers of a request together, its address among them, in bytes.
_HEAD_BYTES = 64_000
#: What still runs when the server is to stop is waited for so long, in seconds.
_STOP_SECONDS = 3
#: A thread lets the next one have the interpreter after so long.
_TURN_SECONDS = 0.0005


class _Timely(HttpToolsProtocol):
    """Connections that send nothing, or half a head, are closed: each would hold a place for good."""

    #: From a connection, or a request's first byte, to the end of its headers, in seconds.
    head_seconds: float
    _timer: asyncio.TimerHandle | None = None
    _size: int = 0

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """Begin to wait for a head."""
        super().connection_made(transport)
        self._wait()

    def connection_lost(self, exc: Exception | None) -> None:
        """Wait for nothing more."""
        self._unwait()
        super().connection_lost(exc)

    def on_message_begin(self) -> None:
        """A further request on the same connection has to hurry, too."""
        super().on_message_begin()
        self._wait()

    def on_url(self, url: bytes) -> None:
        """Part of the address."""
        super().on_url(url)
        self._count(len(url))

    def on_header(self, name: bytes, value: bytes) -> None:
        """One header."""
        super().on_header(name, value)
        self._count(len(name) + len(value))

    def on_headers_complete(self) -> None:
        """The head is there: bodies are watched by the app's guard."""
        self._unwait()
        super().on_headers_complete()

    def _count(self, size: int) -> None:
        self._size += size
        if self._size > _HEAD_BYTES:
            self._close()

    def _wait(self) -> None:
        self._unwait()
        self._size = 0
        self._timer = asyncio.get_running_loop().call_later(self.head_seconds, self._close)

    def _unwait(self) -> None:
        if self._timer is not None:
            self._timer.cancel()
            self._timer = None

    def _close(self) -> None:
        if not self.transport.is_closing():
            self.transport.close()


def serve(app: FastAPI, host: str, port: int, head_seconds: float) -> None:
    """Serve until it is told to stop; see ``Waits.head`` for the seconds."""
    # A save needs the interpreter for a moment, between builds that hold it for long: it waits less for each turn.
    sys.setswitchinterval(_TURN_SECONDS)
    uvicorn.run(
        app,
        host=host,
        port=port,
        http=type("_TimelyWithin", (_Timely,), {"head_seconds": head_seconds}),
        log_level="warning",
        server_header=False,
        timeout_graceful_shutdown=_STOP_SECONDS,
    )
