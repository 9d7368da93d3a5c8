"""Errors as RFC 9457 problem documents: one shape, field by field where fields are at fault."""

from __future__ import annotations

import errno
from collections.abc import Awaitable, Callable
from typing import Any

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from pydantic_core import ErrorDetails
from sqlalchemy.exc import DataError
from starlette.exceptions import HTTPException
from starlette.requests import ClientDisconnect

from hearthkeep.core.design.reading import MAX_PROBLEMS, problems_from_details
from hearthkeep.core.errors import FieldProblem, HearthKeepError, InputError
from hearthkeep.devices import DeviceError
from hearthkeep.exchange import (
    MAX_BUNDLE_BYTES,
    MAX_LOG_BYTES,
    MAX_WEATHER_BYTES,
    BundleError,
    SheetError,
    UnitSheetError,
    WeatherFileError,
)
from hearthkeep.store import (
    DatabaseAwayError,
    DeletedError,
    DiskFullError,
    InUseError,
    NotFoundError,
    NothingToUndoError,
    StaleRevisionError,
)
from hearthkeep.workers import BusyError, FileTooHeavyError, FileUnreadableError, WorkLostError, long_tasks

#: Requests larger than this are refused, by their announced length before they are read [bytes].
MAX_REQUEST_BYTES = 1_000_000
#: Addresses that take more, or never need as much.
MOST_BYTES = {
    "/api/weather-years": MAX_WEATHER_BYTES,
    "/api/bundles": MAX_BUNDLE_BYTES,
    "/api/log-preview": MAX_LOG_BYTES,
    "/api/log-import": MAX_LOG_BYTES,
    "/api/loads/measure": 50_000,
    "/api/loads/read-line": 50_000,
}
MEDIA_TYPE = "application/problem+json"


class ProblemField(BaseModel):
    """One field at fault."""

    field: str
    value: str
    accepted: str


class Problem(BaseModel):
    """RFC 9457 problem document."""

    type: str
    title: str
    status: int
    #: Why, with the values.
    detail: str
    #: Stable name of the kind of error, and what can be done about it.
    code: str
    fix: str
    #: The fields at fault, if any.
    problems: list[ProblemField] = []
    #: For a stale save: the newest revision.
    newest_revision: int | None = None


#: For the routers: every refusal and every failure is a problem document.
PROBLEMS: dict[int | str, dict[str, Any]] = {
    status: {"description": words, "content": {MEDIA_TYPE: {"schema": {"$ref": "#/components/schemas/Problem"}}}}
    for status, words in (("4XX", "Refused, with the reason"), ("5XX", "Failed; nothing was saved"))
}

#: Status of each error a person can cause; its name, title and fix are its own.
KNOWN: dict[type[HearthKeepError], int] = {
    InputError: 422,
    NotFoundError: 404,
    StaleRevisionError: 409,
    NothingToUndoError: 409,
    InUseError: 409,
    WeatherFileError: 422,
    UnitSheetError: 422,
    BundleError: 422,
    DeletedError: 409,
    SheetError: 422,
    DatabaseAwayError: 503,
    DeviceError: 424,
    FileTooHeavyError: 422,
    FileUnreadableError: 422,
    DiskFullError: 507,
    WorkLostError: 503,
    BusyError: 503,
    long_tasks.WeatherGoneError: 409,
}


def problem_response(
    status: int,
    code: str,
    title: str,
    detail: str,
    *,
    fix: str = HearthKeepError.fix,
    problems: tuple[FieldProblem, ...] = (),
    newest_revision: int | None = None,
) -> JSONResponse:
    """Build the response."""
    problem = Problem(
        type=f"urn:hearthkeep:problem:{code.lower().replace('_', '-')}",
        title=title,
        status=status,
        detail=detail,
        code=code,
        fix=fix,
        problems=[ProblemField(field=entry.field, value=entry.value, accepted=entry.accepted) for entry in problems],
        newest_revision=newest_revision,
    )
    return JSONResponse(problem.model_dump(), status_code=status, media_type=MEDIA_TYPE)


def unexpected_problem() -> JSONResponse:
    """What is said of a fault of ours; its details stand in the log."""
    return problem_response(
        500,
        "UNEXPECTED",
        "Something went wrong inside",
        "This is a fault of Hearth Keep; nothing was saved.",
        fix="Try once more; if it comes again, save the design out as a file and say what was done before.",
    )


def too_large(path: str) -> str:
    """What is said of a request that holds too much."""
    return f"A request to this address may hold at most {MOST_BYTES.get(path, MAX_REQUEST_BYTES):,} bytes."


def _problems_of(detail: ErrorDetails) -> tuple[FieldProblem, ...]:
    """Problems by path from the request's body; limits are looked up where the part would stand in a document."""
    loc = tuple(part for part in detail["loc"] if part != "body")
    root: tuple[int | str, ...] = ("loads", 0)
    if loc[:1] == ("design",):
        loc, root = loc[1:], ()
    elif loc[:1] == ("replacement",):
        loc = loc[1:]
    elif loc[:1] == ("loads",):
        root = ()
    return problems_from_details([{**detail, "loc": loc}], root=root)


Handler = Callable[[Request, Exception], Awaitable[JSONResponse]]


def install(app: FastAPI) -> None:
    """Translate every known error once, here, and describe the problem document beside the other schemas."""
    described = app.openapi

    def with_problem() -> dict[str, Any]:
        schema = described()
        problem = Problem.model_json_schema(ref_template="#/components/schemas/{model}", mode="serialization")
        schema["components"]["schemas"] |= {**problem.pop("$defs"), "Problem": problem}
        return schema

    app.openapi = with_problem  # type: ignore[method-assign]

    async def known(request: Request, error: Exception) -> JSONResponse:
        assert isinstance(error, HearthKeepError)
        return problem_response(
            next(KNOWN[kind] for kind in type(error).__mro__ if kind in KNOWN),
            error.code,
            error.title,
            str(error),
            fix=error.fix,
            problems=error.problems if isinstance(error, InputError) else (),
            newest_revision=error.newest_revision if isinstance(error, StaleRevisionError) else None,
        )

    async def invalid_request(request: Request, error: Exception) -> JSONResponse:
        details: list[ErrorDetails] = list(error.errors()) if isinstance(error, RequestValidationError) else []
        problems = tuple(problem for detail in details[:MAX_PROBLEMS] for problem in _problems_of(detail))
        more = [f"and {len(details) - MAX_PROBLEMS:,} more"] if len(details) > MAX_PROBLEMS else []
        detail = "\n".join([*map(str, problems), *more])
        return problem_response(422, InputError.code, InputError.title, detail, fix=InputError.fix, problems=problems)

    async def plain_http(request: Request, error: Exception) -> JSONResponse:
        status = error.status_code if isinstance(error, HTTPException) else 500
        detail = str(error.detail) if isinstance(error, HTTPException) else "Something went wrong."
        if status == 413:
            detail = too_large(request.url.path)
        return problem_response(status, f"HTTP_{status}", detail, detail)

    async def unkeepable(request: Request, error: Exception) -> JSONResponse:
        # The last line: what is sent is checked field by field before.
        said = str(getattr(error, "orig", error)).splitlines()[0][:200]
        problem = FieldProblem(field="body", value=said, accepted="must be text and numbers that can be kept")
        return problem_response(
            422, InputError.code, InputError.title, str(problem), fix=InputError.fix, problems=(problem,)
        )

    async def refused_by_the_system(request: Request, error: Exception) -> JSONResponse:
        if not isinstance(error, OSError) or error.errno not in (errno.ENOSPC, errno.EDQUOT):
            raise error
        full = DiskFullError("There was no room on the disk for what this needs. Nothing of it was kept.")
        return await known(request, full)

    async def gone(request: Request, error: Exception) -> Response:
        # The page was left while its request was on its way: nobody is there to be answered.
        return Response(status_code=400)

    for kind in KNOWN:
        app.add_exception_handler(kind, known)
    app.add_exception_handler(RequestValidationError, invalid_request)
    app.add_exception_handler(HTTPException, plain_http)
    app.add_exception_handler(DataError, unkeepable)
    app.add_exception_handler(OSError, refused_by_the_system)
    app.add_exception_handler(ClientDisconnect, gone)
