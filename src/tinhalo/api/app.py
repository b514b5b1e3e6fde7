"""The application: the API, and the built front end beside it."""

from __future__ import annotations

import gc
import logging
import sqlite3
from collections.abc import AsyncIterator, Callable
from contextlib import asynccontextmanager
from datetime import date
from importlib.resources import files
from pathlib import Path
from threading import Thread
from time import sleep

from fastapi import FastAPI
from fastapi.responses import FileResponse, PlainTextResponse, Response
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware
from starlette.middleware.sessions import SessionMiddleware
from starlette.middleware.trustedhost import TrustedHostMiddleware

from tinhalo.api import (
    bringing_in,
    building,
    carving,
    catalogue,
    colour_ways,
    font_choice,
    handing_over,
    heat,
    in_the_round,
    jobs,
    lists,
    machines,
    meeting,
    mending,
    notices,
    picking,
    placing,
    presence,
    problems,
    progress,
    proofs,
    redrawing,
    sheets,
    shelf,
    solids,
    splitting,
    starters,
)
from tinhalo.api.door import Door
from tinhalo.api.guard import Guard
from tinhalo.api.settings import USUAL, NetworkAccess, Waits
from tinhalo.api.waiting import Shares
from tinhalo.api.workshop import Workshop
from tinhalo.core.geometry.warm import warm
from tinhalo.core.recipe.apart import steps_apart
from tinhalo.core.runtime import elsewhere
from tinhalo.core.runtime.crew import Crew
from tinhalo.core.runtime.processes import start_ahead
from tinhalo.shop.hall import Hall
from tinhalo.store.backup import copy_of_the_day
from tinhalo.store.database import open_database
from tinhalo.store.designs import Designs
from tinhalo.store.files import Files, StoredLibrary
from tinhalo.store.fonts import Fonts
from tinhalo.store.jobs import Jobs
from tinhalo.store.materials import OwnMaterials
from tinhalo.store.notice import Notice
from tinhalo.store.rows import RowFiles
from tinhalo.store.starters import Starters
from tinhalo.store.tables import OwnTables
from tinhalo.store.tools import OwnTools

_ROUTERS = (
    bringing_in,
    building,
    carving,
    catalogue,
    colour_ways,
    font_choice,
    handing_over,
    heat,
    in_the_round,
    jobs,
    lists,
    machines,
    meeting,
    mending,
    notices,
    picking,
    placing,
    presence,
    progress,
    proofs,
    redrawing,
    sheets,
    shelf,
    solids,
    splitting,
    starters,
)
_HOUR = 3600
#: Who came in stays in for so many seconds.
_SESSION = 14 * 24 * _HOUR
_WEB = Path(str(files("tinhalo").joinpath("web")))


def create_app(data: Path | None, access: NetworkAccess | None = None, waits: Waits = USUAL) -> FastAPI:
    """Make the app.

    Args:
        data: folder with the database; None makes an app that only describes itself (for ``tinhalo openapi``).
        access: how others use it; None when only this machine does.
        waits: how long it waits for what.
    """

    closing: list[Callable[[], None]] = []

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        Thread(target=_make_ready, daemon=True).start()
        if data is not None:
            Thread(target=_copy_daily, args=(data,), daemon=True).start()
        yield
        for close in closing:
            close()

    app = FastAPI(title="Tin Halo", version="1", docs_url=None, redoc_url=None, lifespan=lifespan)
    app.state.shares = Shares()
    problems.install(app)
    if access is not None:
        app.add_middleware(Door, password=access.password)
        app.add_middleware(
            SessionMiddleware,
            secret_key=access.password.key,
            session_cookie="tinhalo",
            max_age=_SESSION,
            same_site="strict",
            https_only=access.tls,
        )
    # Only pages of this machine may talk to the app, whatever name another site gives to 127.0.0.1.
    names = [] if access is None else access.names
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=["127.0.0.1", "localhost", *names], www_redirect=False)
    app.add_middleware(GZipMiddleware, minimum_size=100_000, compresslevel=1)
    # The last one that is added sees every request first.
    app.add_middleware(Guard)
    for module in _ROUTERS:
        app.include_router(module.router)
    if data is not None:
        engine = open_database(data, waits.database)
        fonts, stored, waiting = Fonts(engine), Files(engine), Jobs(engine)
        hall, crew, rows = Hall(waiting), Crew(ready=steps_apart), RowFiles(fonts, stored)
        closing.extend((hall.close, crew.close, rows.close))
        app.state.workshop = Workshop(
            Designs(engine),
            fonts,
            stored,
            StoredLibrary(fonts, stored),
            Starters(engine),
            OwnMaterials(engine),
            OwnTables(engine),
            OwnTools(engine),
            waiting,
            hall,
            crew,
            rows,
            Notice(data),
            waits,
        )
        app.state.windows = presence.Windows()
        _serve_front_end(app)
    return app


def _make_ready() -> None:
    """What must not fall on somebody's edits: loading the compiled functions, and a look for garbage in all code."""
    start_ahead()
    elsewhere.start_ahead()
    warm()
    gc.collect()
    # What is there by now stays: going through it would hold an edit up for a tenth of a second, again and again.
    gc.freeze()


def _copy_daily(data: Path) -> None:
    """A copy of the data on each day that the app runs."""
    while True:
        try:
            copy_of_the_day(data, date.today())
        except (OSError, sqlite3.Error) as error:
            logging.getLogger(__name__).warning("No copy of today's data could be made: %s", error)
        sleep(_HOUR)


def _serve_front_end(app: FastAPI) -> None:
    index = _WEB / "index.html"
    if (_WEB / "assets").is_dir():
        app.mount("/assets", StaticFiles(directory=_WEB / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        """The front end; it finds out itself which screen the address means."""
        if path.startswith("api/"):
            return problems.answer(404, "about:blank", "Nothing is here", "There is no such address.")
        if not index.is_file():
            return PlainTextResponse("The front end is not built yet: run “make setup”.", 503)
        return FileResponse(index, headers={"Cache-Control": "no-cache"})
