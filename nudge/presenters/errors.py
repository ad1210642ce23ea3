"""Errors over the wire: what was refused, why, and the nearest that would do."""

from pydantic import BaseModel

from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.units import UnitSystem
from nudge.services.errors import (
    NotUnderstood,
)


class ErrorOut(BaseModel):
    """One thing that was refused; `start`/`end` mark the stretch of a call-out."""

    what: str
    message: str
    nearest: list[str] = []
    start: int | None = None
    end: int | None = None


class ErrorsOut(BaseModel):
    errors: list[ErrorOut]


def core_errors(error: CoreError, units: UnitSystem) -> list[ErrorOut]:
    """A core error in the shape the wire uses."""
    if isinstance(error, NotUnderstood):
        return [
            ErrorOut(
                what="call-out",
                message=m.message,
                nearest=list(m.nearest),
                start=m.start,
                end=m.end,
            )
            for m in error.misheard
        ]
    nearest = error.nearest if isinstance(error, UnknownName) else []
    return [ErrorOut(what=error.what, message=error.text(units), nearest=nearest)]
