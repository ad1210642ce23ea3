"""The one place where an error becomes an HTTP answer.

Every refusal has the same shape: `{"errors": [{"what", "message", "nearest", "start", "end"}]}`.
Messages name the value and the fix; nothing the caller sent is echoed at length.
"""

from collections.abc import Mapping, Sequence
from types import MappingProxyType
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from starlette.exceptions import HTTPException
from starlette.responses import JSONResponse

from nudge.api.allowed import methods_of
from nudge.contract.request import AssessIn, ContextIn, SystemIn
from nudge.core.language.errors import CoreError, nearest_names
from nudge.core.language.units import UnitSystem
from nudge.presenters.errors import ErrorOut, ErrorsOut, core_errors
from nudge.services.devices import TooManyTries
from nudge.services.errors import (
    BadCopy,
    CannotWrite,
    ChangedMeanwhile,
    Closed,
    NotFound,
    NotThere,
    PlateQuestion,
    SameIdOtherContent,
)

CLASHES = (Closed, ChangedMeanwhile, PlateQuestion)
"""What is refused because of what stands there already."""

_KNOWN_FIELDS = sorted(
    {*AssessIn.model_fields, *SystemIn.model_fields, *ContextIn.model_fields, "name", "note"}
)


REFUSALS: Mapping[int, str] = MappingProxyType(
    {
        400: "What was sent cannot be read.",
        401: "This device is not paired, or no longer.",
        403: "Another site's page, or a device that may not do this.",
        404: "There is no such thing here.",
        405: "That cannot be done to this.",
        408: "The rest of what was sent did not come.",
        409: "Something else stands there meanwhile, or under this id.",
        413: "More than is taken at once.",
        415: "A type that is not taken here.",
        421: "A name this machine does not answer to.",
        422: "A value that cannot be, with the value and the fix.",
        429: "Too many tries; wait.",
        503: "Busy, or the disk refuses; nothing was written. Try again.",
    }
)
"""What any route may answer instead, always in one shape."""


def answer_errors(app: FastAPI) -> None:
    """Install the handlers."""

    @app.exception_handler(CoreError)
    async def _core(request: Request, error: CoreError) -> JSONResponse:
        units: UnitSystem = getattr(request.state, "units", "ip")
        clashes = isinstance(error, CLASHES)
        status = 404 if isinstance(error, NotFound) else 409 if clashes else 422
        status = 429 if isinstance(error, TooManyTries) else status
        return _answer(status, core_errors(error, units))

    @app.exception_handler(CannotWrite)
    async def _unwritten(request: Request, error: CannotWrite) -> JSONResponse:
        answer = _answer(503, [ErrorOut(what=error.what, message=str(error))])
        answer.headers["Retry-After"] = str(error.wait_s)
        return answer

    @app.exception_handler(NotThere)
    async def _not_there(request: Request, error: NotThere) -> JSONResponse:
        return _answer(404, [ErrorOut(what="request", message=str(error))])

    @app.exception_handler(SameIdOtherContent)
    async def _same_id(request: Request, error: SameIdOtherContent) -> JSONResponse:
        return _answer(409, [ErrorOut(what="id", message=str(error))])

    @app.exception_handler(BadCopy)
    async def _copy(request: Request, error: BadCopy) -> JSONResponse:
        return _answer(422, [ErrorOut(what="copy", message=str(error))])

    @app.exception_handler(RequestValidationError)
    async def _invalid(request: Request, error: RequestValidationError) -> JSONResponse:
        return _answer(422, [_validation(item) for item in error.errors()])

    @app.exception_handler(Exception)
    async def _broken(request: Request, error: Exception) -> JSONResponse:
        """What nobody foresaw: nothing of it reaches the reader; where it broke is in the log."""
        message = (
            "Nudge broke on this. Nothing was written. The rest of it goes on; if it stays so, "
            "look the data over with nudge check, and keep the log."
        )
        return _answer(500, [ErrorOut(what="request", message=message)])

    @app.exception_handler(HTTPException)
    async def _http(request: Request, error: HTTPException) -> JSONResponse:
        said, headers = str(error.detail), dict(error.headers or {})
        if error.status_code == 405:
            takes = ", ".join(methods_of(app, request.url.path)) or "GET"
            said, headers = f"{request.url.path[:80]} takes {takes}.", {"Allow": takes}
        answer = _answer(error.status_code, [ErrorOut(what="request", message=said)])
        answer.headers.update(headers)
        return answer


def _validation(item: dict[str, Any]) -> ErrorOut:
    place = [str(part)[:80] for part in item["loc"] if part != "body"]
    what = ".".join(place) or "request"
    kind = item["type"]
    if kind == "extra_forbidden":
        nearest = nearest_names(place[-1], _KNOWN_FIELDS)
        hint = f" Nearest known: {', '.join(nearest)}." if nearest else ""
        return ErrorOut(what=what, message=f"Unknown field “{place[-1]}”.{hint}", nearest=nearest)
    if kind == "json_invalid":
        return ErrorOut(what="request", message=f"That is not JSON: {item['msg']}.")
    if kind == "missing":
        return ErrorOut(what=what, message=f"{what} is missing. Give it.")
    if kind in ("float_type", "finite_number", "int_type"):
        sent = repr(item.get("input"))[:40]
        return ErrorOut(what=what, message=f"{what} must be a finite number; {sent} is not.")
    if kind == "value_error":
        return ErrorOut(what=what, message=item["msg"].removeprefix("Value error, "))
    return ErrorOut(what=what, message=f"{what}: {item['msg']}.")


def _answer(status: int, errors: Sequence[ErrorOut]) -> JSONResponse:
    return JSONResponse(ErrorsOut(errors=list(errors)).model_dump(), status_code=status)
