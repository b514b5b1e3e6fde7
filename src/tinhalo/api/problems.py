"""Errors as problem details (RFC 9457), each with a sentence a maker understands."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from sqlalchemy.exc import DatabaseError
from starlette.exceptions import HTTPException

from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.lettering.face import FontError
from tinhalo.core.design.problem import DesignError, Problem
from tinhalo.core.design.reading import explain
from tinhalo.core.runtime.cancellation import CancelledError
from tinhalo.core.runtime.crew import CrewError
from tinhalo.store.database import DamagedError
from tinhalo.store.designs import NotFoundError, StaleError, TimelineError

#: What SQLite says when it cannot store something, and what that means (https://www.sqlite.org/rescode.html).
_TROUBLES = {
    "disk is full": "The disk is full: make room, and it is stored.",
    "readonly": "The folder with the designs cannot be written: allow it, and it is stored.",
    "locked": "Another program holds the database: close it, and it is stored.",
    "disk I/O": "The disk cannot be written: it may be full or failing.",
    "malformed": "The database is damaged: start Tin Halo again, and what can be read is brought over.",
}
#: What the libraries say of requests that no page of ours makes.
_HTTP = {
    "There was an error parsing the body": "The request is not valid JSON, or it is nested too deeply.",
    "Not Found": "There is no such address.",
    "Method Not Allowed": "This cannot be done here.",
}
_UNKNOWN_TROUBLE = "The database does not take it: look at the messages where Tin Halo was started."


class ProblemEntry(BaseModel):
    """One thing that is wrong, and where in the document."""

    where: str
    sentence: str


class ProblemDetails(BaseModel):
    """The body of every error answer."""

    type: str
    title: str
    status: int
    detail: str
    problems: list[ProblemEntry] = []


def install(app: FastAPI) -> None:
    """Answer all errors of the app as problem details."""

    @app.exception_handler(DesignError)
    def _design(_: Request, error: DesignError) -> JSONResponse:
        return answer(422, "design-not-sound", "This design cannot be used as it is", error.problems)

    @app.exception_handler(FontError)
    def _font(_: Request, error: FontError) -> JSONResponse:
        return answer(422, "font-not-usable", "This font cannot be used", str(error))

    @app.exception_handler(DrawingError)
    def _drawing(_: Request, error: DrawingError) -> JSONResponse:
        return answer(422, "file-not-usable", "This file cannot be used", str(error))

    @app.exception_handler(ArtError)
    def _art(_: Request, error: ArtError) -> JSONResponse:
        return answer(422, "art-not-usable", "This cannot be done", str(error))

    @app.exception_handler(CancelledError)
    def _cancelled(_: Request, __: CancelledError) -> JSONResponse:
        return answer(503, "about:blank", "Given up", "Nobody waited for this any more.")

    @app.exception_handler(CrewError)
    def _crew(_: Request, error: CrewError) -> JSONResponse:
        return answer(503, "about:blank", "Not done", str(error))

    @app.exception_handler(RequestValidationError)
    def _request(_: Request, error: RequestValidationError) -> JSONResponse:
        return answer(422, "design-not-sound", "This cannot be used as it is", _explain_request(error))

    @app.exception_handler(NotFoundError)
    def _missing(_: Request, __: NotFoundError) -> JSONResponse:
        return answer(404, "no-such-design", "This design is not here", "It may have been deleted.")

    @app.exception_handler(StaleError)
    def _stale(_: Request, error: StaleError) -> JSONResponse:
        return answer(
            409,
            "stale-revision",
            "This design was changed elsewhere",
            "It was saved in another window since. Nothing of yours was stored, and nothing of theirs was replaced.",
            {"revision": error.current.revision},
        )

    @app.exception_handler(TimelineError)
    def _timeline(_: Request, error: TimelineError) -> JSONResponse:
        return answer(422, "history-does-not-fit", "This save does not fit the history", str(error))

    @app.exception_handler(RecursionError)
    def _deep(_: Request, __: RecursionError) -> JSONResponse:
        return answer(422, "design-not-sound", "This cannot be used as it is", "It is nested too deeply to be read.")

    @app.exception_handler(DamagedError)
    def _damaged(_: Request, __: DamagedError) -> JSONResponse:
        return answer(503, "about:blank", "This design is damaged", _TROUBLES["malformed"])

    @app.exception_handler(DatabaseError)
    def _database(_: Request, error: DatabaseError) -> JSONResponse:
        said = str(error.orig)
        sentence = next((told for part, told in _TROUBLES.items() if part in said), _UNKNOWN_TROUBLE)
        return answer(507 if "full" in said else 503, "about:blank", "This cannot be stored now", sentence)

    @app.exception_handler(HTTPException)
    def _http(_: Request, error: HTTPException) -> JSONResponse:
        sentence = _HTTP.get(str(error.detail), str(error.detail))
        return answer(error.status_code, "about:blank", "This request cannot be answered", sentence)


def broken() -> JSONResponse:
    """What is told of a fault of our own."""
    sentence = "This is a fault in Tin Halo. What you typed is kept."
    return answer(500, "about:blank", "Something went wrong here", sentence)


def answer(
    status: int, kind: str, title: str, what: str | Sequence[Problem], extra: dict[str, Any] | None = None
) -> JSONResponse:
    """A problem-details response."""
    entries = [] if isinstance(what, str) else [ProblemEntry(where=p.where, sentence=p.sentence) for p in what]
    details = ProblemDetails(
        type=kind if ":" in kind else f"urn:tinhalo:problem:{kind}",
        title=title,
        status=status,
        detail=what if isinstance(what, str) else " ".join(p.sentence for p in what),
        problems=entries,
    )
    body = details.model_dump() | (extra or {})
    return JSONResponse(body, status, media_type="application/problem+json")


def _explain_request(error: RequestValidationError) -> list[Problem]:
    """Sentences for what is wrong with a request; paths start inside the design it carries."""
    entries: list[Any] = []
    document: Any = None
    for item in error.errors():
        if item["type"] == "json_invalid":
            return [Problem("", "The request is not valid JSON.")]
        loc = list(item["loc"])
        body: Any = error.body
        # Documents arrive as ``document``, or in the list ``add``.
        if loc[:2] == ["body", "document"]:
            loc, found = loc[2:], body.get("document") if isinstance(body, dict) else None
        elif loc[:2] == ["body", "add"] and len(loc) > 2:
            found = body["add"][loc[2]] if isinstance(body, dict) and isinstance(loc[2], int) else None
            loc = loc[3:]
        else:
            loc, found = loc[1:], None
        document = document or found
        entries.append({**item, "loc": loc})
    return explain(entries, document)
