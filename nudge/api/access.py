"""What routes ask for: the services, and the units of the request."""

from datetime import tzinfo
from typing import Annotated
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from fastapi import Depends, Query, Request

from nudge.core.language.units import UnitSystem
from nudge.services.book import Book
from nudge.services.instruments import Instruments
from nudge.services.methods import Methods
from nudge.services.visits import Visits
from nudge.services.workshop import Workshop


def _units(request: Request, units: UnitSystem = "ip") -> UnitSystem:
    request.state.units = units  # so that an error is worded in them too
    return units


def _zone(zone: str = "") -> tzinfo | None:
    """The reader's time zone, such as Atlantic/Faroe; None, this machine's, if unknown."""
    try:
        return ZoneInfo(zone) if zone else None
    except (ZoneInfoNotFoundError, ValueError, OSError):
        return None


def _workshop(request: Request) -> Workshop:
    workshop: Workshop = request.app.state.workshop
    return workshop


def _visits(request: Request) -> Visits:
    return _workshop(request).visits


def _book(request: Request) -> Book:
    return _workshop(request).book


def _methods(request: Request) -> Methods:
    return _workshop(request).methods


def _instruments(request: Request) -> Instruments:
    return _workshop(request).instruments


UnitsIn = Annotated[UnitSystem, Depends(_units)]
ZoneIn = Annotated[tzinfo | None, Depends(_zone)]
WorkshopIn = Annotated[Workshop, Depends(_workshop)]
VisitsIn = Annotated[Visits, Depends(_visits)]
MethodsIn = Annotated[Methods, Depends(_methods)]
InstrumentsIn = Annotated[Instruments, Depends(_instruments)]
BookIn = Annotated[Book, Depends(_book)]
MomentMs = Annotated[int, Query(ge=0, le=4_102_444_800_000)]
"""A moment in milliseconds, up to the year 2100."""


def declared_size(request: Request) -> int | None:
    """How large a body says it is [bytes]; None where it does not."""
    told = request.headers.get("content-length", "")
    return int(told) if told.isdigit() else None
