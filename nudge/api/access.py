"""What routes ask for: the services, and the units of the request."""

from typing import Annotated, Literal

from fastapi import Depends, Request

from nudge.services.book import Book
from nudge.services.visits import Visits
from nudge.store.database import Database


def _units(request: Request, units: Literal["ip", "si"] = "ip") -> Literal["ip", "si"]:
    request.state.units = units  # so that an error is worded in them too
    return units


def _database(request: Request) -> Database:
    database: Database = request.app.state.database
    return database


def _visits(request: Request) -> Visits:
    return Visits(request.app.state.database, request.app.state.clock)


def _book(request: Request) -> Book:
    return Book(request.app.state.database, request.app.state.clock)


UnitsIn = Annotated[Literal["ip", "si"], Depends(_units)]
DatabaseIn = Annotated[Database, Depends(_database)]
VisitsIn = Annotated[Visits, Depends(_visits)]
BookIn = Annotated[Book, Depends(_book)]
