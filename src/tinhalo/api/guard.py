"""What comes in from outside is looked at before anything reads it, and what goes out says how it may be used.

A page of another site can make a browser send requests here. So writes from other origins are refused, by what the
browser says of them (Fetch Metadata, https://www.w3.org/TR/fetch-metadata/, and the Origin header of RFC 6454), and
only bodies of the kind that is meant are read, up to a size.
"""

from __future__ import annotations

import asyncio
import logging
from dataclasses import dataclass
from typing import Final

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from tinhalo.api import problems
from tinhalo.api.door import DOOR
from tinhalo.core.artwork.lettering.vet import MOST_BYTES
from tinhalo.core.artwork.pictures.picture_file import MOST_BYTES as MOST_PICTURE
from tinhalo.core.listing.table_file import MOST_BYTES as MOST_TABLE
from tinhalo.store.portable import MOST_BYTES as MOST_DESIGN

#: Methods that change nothing (RFC 9110, 9.2.1).
_SAFE: Final = frozenset({"GET", "HEAD", "OPTIONS"})
#: Where a file is sent as it is; everything else is JSON.
_FILES: Final = {
    "/api/fonts": MOST_BYTES,
    "/api/files": MOST_PICTURE,
    "/api/designs/file": MOST_DESIGN,
    "/api/names/file": MOST_TABLE,
}
#: Where a form is sent.
_FORMS: Final = {DOOR}
_JSON_BYTES: Final = 32_000_000
#: A body whose next part takes longer than this (seconds) is not waited for.
_PATIENCE: Final = 20.0

#: Everything comes from here. Styles may be set in the page: its parts are placed by them.
_POLICY: Final = "; ".join(
    (
        "default-src 'self'",
        "script-src 'self'",
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' data: blob:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)
HEADERS: Final = {
    "content-security-policy": _POLICY,
    "x-content-type-options": "nosniff",
    "x-frame-options": "DENY",
    "referrer-policy": "no-referrer",
    "cross-origin-opener-policy": "same-origin",
    "cross-origin-resource-policy": "same-origin",
}


_log = logging.getLogger(__name__)


@dataclass(frozen=True)
class Refusal:
    """An answer that is given without asking anybody."""

    status: int
    title: str
    sentence: str


_FOREIGN = Refusal(403, "This comes from elsewhere", "Only Tin Halo's own pages may change something here.")
_TOO_LARGE = Refusal(413, "This is too much at once", "What was sent is larger than anything that is meant.")
_NOT_MEANT = Refusal(415, "This is not what is meant", "Changes are sent as JSON, fonts as the file that they are.")
_TOO_SLOW = Refusal(408, "This takes too long to arrive", "What was sent stopped half way. Send it again.")


class Guard:
    """ASGI middleware around the whole app."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Refuse a request, or pass it on; either way the answer's headers say how it may be used."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        body = _Body(receive, _most(scope["path"]))
        begun = answered = False

        async def sending(message: Message) -> None:
            nonlocal begun, answered
            if body.refusal and not begun:
                # Whatever the app makes of a body that broke off.
                begun = answered = True
                await _tell(body.refusal, scope, receive, send)
            if answered:
                return
            begun = True
            await send(_with_headers(message))

        refusal = refused(scope["method"], scope["path"], Headers(scope=scope))
        if refusal is not None:
            await _tell(refusal, scope, receive, send)
            return
        try:
            await self._app(scope, body.receive, sending)
        except Exception:
            if begun:
                raise
            _log.exception("A request failed: %s %s", scope["method"], scope["path"])
            await problems.broken()(scope, receive, sending)


async def _tell(refusal: Refusal, scope: Scope, receive: Receive, send: Send) -> None:
    told = problems.answer(refusal.status, "about:blank", refusal.title, refusal.sentence)
    # What is left of the body is not read.
    told.headers["connection"] = "close"

    async def sending(message: Message) -> None:
        await send(_with_headers(message))

    await told(scope, receive, sending)


def _with_headers(message: Message) -> Message:
    if message["type"] == "http.response.start":
        headers = MutableHeaders(scope=message)
        for name, value in HEADERS.items():
            headers.setdefault(name, value)
    return message


def refused(method: str, path: str, headers: Headers) -> Refusal | None:
    """Why a request is not even read; None where it may be."""
    if method not in _SAFE:
        if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
            return _FOREIGN
        origin = headers.get("origin")
        if origin is not None and origin.partition("://")[2] != headers.get("host"):
            return _FOREIGN
    length = headers.get("content-length", "0")
    if not length.isdecimal() or int(length) > _most(path):
        return _TOO_LARGE
    if int(length) > 0 or "transfer-encoding" in headers:
        kind = headers.get("content-type", "").partition(";")[0].strip().lower()
        if kind != _kind(path):
            return _NOT_MEANT
    return None


def _kind(path: str) -> str:
    if path in _FORMS:
        return "application/x-www-form-urlencoded"
    return "application/octet-stream" if path in _FILES else "application/json"


def _most(path: str) -> int:
    return _FILES.get(path, _JSON_BYTES)


class _Body:
    """A request's body, broken off once it is too large or does not go on."""

    def __init__(self, receive: Receive, most: int) -> None:
        self._receive, self._left, self._done = receive, most, False
        self.refusal: Refusal | None = None

    async def receive(self) -> Message:
        """The next part; after the body only the end of the connection is waited for, as long as the work takes."""
        try:
            message = await asyncio.wait_for(self._receive(), None if self._done else _PATIENCE)
        except TimeoutError:
            return self._broken(_TOO_SLOW)
        self._left -= len(message.get("body", b""))
        if self._left < 0:
            return self._broken(_TOO_LARGE)
        self._done = self._done or not message.get("more_body", False)
        return message

    def _broken(self, refusal: Refusal) -> Message:
        self.refusal = refusal
        return {"type": "http.disconnect"}
