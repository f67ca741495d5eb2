"""Errors as problem details (RFC 9457): what is wrong, in which field, and the mend. Never a stack trace."""

from __future__ import annotations

import traceback
from collections.abc import Sequence
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse, Response
from pydantic import BaseModel
from sqlalchemy.exc import DBAPIError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from starlette.exceptions import HTTPException

from yantai.logs import get_logger, request_id
from yantai.work.common import errors
from yantai.work.common.receipts import MadeAlready

log = get_logger(__name__)


class FieldProblem(BaseModel):
    """One field: a JSON pointer into the request body, and a sentence."""

    pointer: str
    message: str


class MendVessel(BaseModel):
    """One vessel of a corrected weighing [g]."""

    gross_g: float
    vessel_g: float


class ProblemMend(BaseModel):
    """A computed way out: what may have happened, and the weighing without the slip."""

    words: str
    vessels: list[MendVessel]


class Problem(BaseModel):
    """The body of every answer that is not a success.

    `type` is one of: invalid, missing, stale, doubtful, closed, not-signed-in, too-many-attempts,
    wrong-origin, not-allowed, failed. `instance` is the id of the request, which the server's log has too.
    """

    type: str
    title: str
    status: int
    detail: str
    instance: str = ""
    errors: list[FieldProblem] = []
    mends: list[ProblemMend] = []


STATUS: dict[type[errors.WorkError], tuple[int, str, str]] = {
    errors.Invalid: (422, "invalid", "Something does not make sense yet"),
    errors.Missing: (404, "missing", "Not found"),
    errors.Stale: (409, "stale", "Changed in another window"),
    errors.Doubtful: (409, "doubtful", "Is this right?"),
    errors.Closed: (409, "closed", "Packed"),
    errors.NotAllowed: (403, "not-allowed", "Not for helpers"),
    errors.NotSignedIn: (401, "not-signed-in", "Not signed in"),
}

_WORDS = {
    "missing": "This field is missing.",
    "float_parsing": "This is not a number. Type digits, with a point for decimals.",
    "float_type": "This is not a number. Type digits, with a point for decimals.",
    "int_parsing": "This is not a whole number.",
    "int_type": "This is not a whole number.",
    "int_from_float": "This is not a whole number.",
    "finite_number": "This is not a number. Type digits, with a point for decimals.",
    "date_from_datetime_parsing": "This is not a date. Write it as 2026-11-29.",
    "date_parsing": "This is not a date. Write it as 2026-11-29.",
    "string_type": "This is not text.",
    "uuid_parsing": "This is not a valid id.",
    "unexpected_keyword_argument": "This field is not known here.",
    "extra_forbidden": "This field is not known here.",
    "json_invalid": "The request is not valid JSON.",
}


def problem(
    status: int,
    kind: str,
    title: str,
    detail: str,
    faults: Sequence[errors.Fault] = (),
    headers: dict[str, str] | None = None,
    mends: Sequence[errors.Mend] = (),
) -> JSONResponse:
    """A problem answer."""
    body = Problem(
        type=kind,
        title=title,
        status=status,
        detail=detail,
        instance=request_id() or "",
        errors=[FieldProblem(pointer=fault.pointer, message=fault.message) for fault in faults],
        mends=[
            ProblemMend(words=mend.words, vessels=[MendVessel(**vessel) for vessel in mend.vessels]) for mend in mends
        ],
    )
    return JSONResponse(body.model_dump(), status_code=status, media_type="application/problem+json", headers=headers)


def install(app: FastAPI) -> None:
    """Register the handlers."""
    app.add_exception_handler(errors.WorkError, _work_error)
    app.add_exception_handler(MadeAlready, _made_already)
    app.add_exception_handler(RequestValidationError, _unreadable)
    app.add_exception_handler(HTTPException, _http_error)


async def _work_error(_request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, errors.WorkError)
    status, kind, title = STATUS[type(error)]
    return problem(status, kind, title, str(error), error.faults, mends=error.mends)


async def _made_already(_request: Request, error: Exception) -> Response:
    """No problem at all: the answer of the first time, again."""
    assert isinstance(error, MadeAlready)
    return Response(status_code=204) if error.answer is None else JSONResponse(error.answer)


async def _unreadable(_request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError)
    faults = [errors.Fault(_pointer(one["loc"]), _words(one)) for one in error.errors()]
    detail = faults[0].message if len(faults) == 1 else f"{len(faults)} fields need a look."
    return problem(422, "invalid", "Something does not make sense yet", detail, faults)


async def _http_error(_request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, HTTPException)
    kind = "missing" if error.status_code == 404 else "not-allowed"
    return problem(error.status_code, kind, str(error.detail), f"{error.detail}.")


def failed(request: Request, error: Exception) -> JSONResponse:
    """The answer to a fault of our own, by an id that the log has too."""
    where = "".join(traceback.format_tb(error.__traceback__))
    log.error("failed", method=request.method, path=request.url.path, fault=_without_data(error), where=where)
    # Not there, too busy for a connection, or a statement or lock took too long: the same wish may go through later.
    if isinstance(error, (OperationalError, PoolTimeout)):
        return problem(
            503,
            "failed",
            "The database is busy",
            "It did not answer in time, so nothing was saved. Try again in a moment.",
            headers={"Retry-After": "5"},
        )
    return problem(
        500,
        "failed",
        "This did not work",
        "Something went wrong on our side and nothing was saved. Try again; if it stays, the server's log says why, "
        f"under request {request_id()}.",
    )


def _without_data(error: Exception) -> str:
    """What went wrong, without values of rows: the database's own words would hold names of clients."""
    if not isinstance(error, DBAPIError):
        return f"{type(error).__name__}: {error}"
    state = getattr(error.orig, "sqlstate", None)
    return f"{type(error).__name__}, {type(error.orig).__name__}, state {state}, in: {error.statement}"


def _words(error: Any) -> str:
    """The sentence for a value that could not be read."""
    if error["type"] == "value_error":  # our own reading of what was typed says it in words
        return errors.sentence(str(error["ctx"]["error"]))
    if error["type"] in ("enum", "literal_error"):
        known = error["ctx"]["expected"].replace("'", "").replace(" or ", ", ")
        return f"“{error['input']}” is not one of {known}."
    return str(_WORDS.get(error["type"], error["msg"] + "."))


def _pointer(location: Sequence[Any]) -> str:
    # The first part says where (body, query), and a discriminated union adds its tag after a list's index.
    parts = [str(part) for part in location[1:]]
    return "".join(f"/{part}" for index, part in enumerate(parts) if not (index == 2 and parts[0] == "changes"))
