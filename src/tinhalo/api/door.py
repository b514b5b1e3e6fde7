"""Who comes in from a shop's network: a page that asks for a name and the password, and limits on tries."""

from __future__ import annotations

import html
from collections import deque
from time import monotonic
from typing import Annotated, Final
from urllib.parse import parse_qs, quote

from anyio import to_thread
from fastapi import Depends, Request
from starlette.datastructures import URL
from starlette.responses import HTMLResponse, RedirectResponse, Response
from starlette.types import ASGIApp, Receive, Scope, Send

from tinhalo.api import problems
from tinhalo.store.password import Password

#: Where the page is.
DOOR: Final = "/enter"
#: Wrong tries that one address, and all together, may make within ``_WITHIN`` seconds.
TRIES, ALL_TRIES = 5, 60
_WITHIN: Final = 900.0
_MOST_BYTES: Final = 4_000
_MOST_NAME: Final = 40


class Door:
    """ASGI middleware that lets nobody past who has not told the password; needs Starlette's sessions around it."""

    def __init__(self, app: ASGIApp, password: Password) -> None:
        self._app, self._password = app, password
        self._wrong: deque[tuple[float, str]] = deque()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer for the page itself, and for whoever is outside."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        asked = Request(scope, receive)
        if asked.url.path == DOOR:
            answer = await (self._enter(asked) if asked.method == "POST" else self._show(asked))
        elif asked.session.get("who"):
            await self._app(scope, receive, send)
            return
        elif asked.url.path.startswith("/api/"):
            sentence = "Open this page again in another tab and enter the password; nothing here is lost meanwhile."
            answer = problems.answer(401, "about:blank", "The password is asked for again", sentence)
        else:
            answer = RedirectResponse(f"{DOOR}?to={quote(asked.url.path)}", 303)
        await answer(scope, receive, send)

    async def _show(self, asked: Request) -> Response:
        return _page(asked.query_params.get("to", "/"), "")

    async def _enter(self, asked: Request) -> Response:
        said = parse_qs((await _body(asked)).decode("utf-8", "replace"), max_num_fields=5)
        name = " ".join(said.get("name", [""])[0].split())[:_MOST_NAME]
        to, password = said.get("to", ["/"])[0], said.get("password", [""])[0]
        address = asked.client.host if asked.client else ""
        if self._too_often(address):
            return _page(to, "There were too many wrong tries. Wait a quarter of an hour.", name, 429)
        if not name:
            return _page(to, "Say your name: others see who changed a design.", name, 422)
        if not await to_thread.run_sync(self._password.matches, password):
            self._wrong.append((monotonic(), address))
            return _page(to, "That is not the password.", name, 403)
        asked.session["who"] = name
        return RedirectResponse(_inside(to), 303)

    def _too_often(self, address: str) -> bool:
        while self._wrong and self._wrong[0][0] < monotonic() - _WITHIN:
            self._wrong.popleft()
        return len(self._wrong) >= ALL_TRIES or sum(one == address for _, one in self._wrong) >= TRIES


async def _body(asked: Request) -> bytes:
    body = b""
    async for part in asked.stream():
        body += part
        if len(body) > _MOST_BYTES:
            return b""
    return body


def _inside(to: str) -> str:
    """An address of this app, whatever was asked for: none of another site."""
    url = URL(to)
    return to if to.startswith("/") and not to.startswith(("//", "/\\")) and not url.netloc else "/"


def who(asked: Request) -> str:
    """The name of whoever asks; empty where no password is asked for."""
    return asked.session.get("who", "") if "session" in asked.scope else ""


Who = Annotated[str, Depends(who)]


def _page(to: str, wrong: str, name: str = "", status: int = 200) -> Response:
    told = f'<p role="alert">{html.escape(wrong)}</p>' if wrong else ""
    page = _PAGE.format(to=html.escape(to), told=told, name=html.escape(name))
    # Where no referrer is sent, browsers do not say a form's origin either.
    return HTMLResponse(page, status, headers={"referrer-policy": "same-origin", "cache-control": "no-store"})


_PAGE = """<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Tin Halo</title>
<style>
:root {{ color-scheme: light dark; --paper: light-dark(#f6f1e8, #211d18); --sheet: light-dark(#fffdf8, #2b2620);
  --ink: light-dark(#2a2521, #f2ece2); --line: light-dark(#d9cfc0, #4a4238); --go: light-dark(#0b7a94, #4fc3dd);
  --on: light-dark(#ffffff, #10242a); --alarm: light-dark(#a92b1a, #ff9c8a); }}
body {{ margin: 0; min-height: 100vh; display: grid; place-items: center; background: var(--paper); color: var(--ink);
  font: 16px/1.5 "Instrument Sans Variable", system-ui, sans-serif; }}
form {{ display: grid; gap: 14px; width: min(340px, 80vw); padding: 28px; background: var(--sheet);
  border: 1px solid var(--line); border-radius: 14px; }}
h1 {{ margin: 0; font-size: 22px; }}
label {{ display: grid; gap: 4px; font-size: 14px; }}
input {{ font: inherit; padding: 8px 10px; border: 1px solid var(--line); border-radius: 8px; background: var(--paper);
  color: inherit; }}
button {{ font: inherit; font-weight: 600; padding: 9px; border: 0; border-radius: 8px; background: var(--go);
  color: var(--on); cursor: pointer; }}
:focus-visible {{ outline: 3px solid var(--go); outline-offset: 2px; }}
p {{ margin: 0; color: var(--alarm); }}
</style>
</head>
<body>
<main>
<form method="post" action="/enter">
<h1>Tin Halo</h1>
{told}
<input type="hidden" name="to" value="{to}">
<label>Your name<input name="name" value="{name}" maxlength="40" autocomplete="name" required autofocus></label>
<label>Password of the shop<input name="password" type="password" autocomplete="current-password" required></label>
<button>Open</button>
</form>
</main>
</body>
</html>
"""
