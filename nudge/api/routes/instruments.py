"""Live readings: taken in, followed, placed, zeroed, swapped, ignored, kept."""

import json
from collections.abc import AsyncIterator, Sequence
from typing import Annotated

from fastapi import APIRouter, Header, Query
from starlette.responses import StreamingResponse

from nudge.api.access import InstrumentsIn, UnitsIn, VisitsIn, WorkshopIn
from nudge.core.language.units import UnitSystem, from_si
from nudge.core.language.vocabulary.points import POINTS
from nudge.presenters.instruments import (
    ChannelIn,
    IgnoreIn,
    KeepIn,
    OneReadingIn,
    PlacementIn,
    ReadingsIn,
    SwapIn,
    TakenOut,
    _Points,
    taken_out,
)
from nudge.presenters.standing import StandingOut, standing_out
from nudge.presenters.traces import SeriesOut, series_out
from nudge.services.stream import JournalEntry
from nudge.services.workshop import Workshop

router = APIRouter(prefix="/api/visits/{visit_id}")


@router.post("/readings")
def take(
    instruments: InstrumentsIn, units: UnitsIn, visit_id: str, body: ReadingsIn | OneReadingIn
) -> TakenOut:
    """Take live readings, a batch or one. Sent again under the same id, they are taken once.

    Values that no working instrument shows are refused one by one; the rest is kept.
    """
    rows = [body] if isinstance(body, OneReadingIn) else body.readings
    taken = instruments.take(visit_id, body.id, [row.to_given() for row in rows], units)
    return taken_out(taken, units)


@router.get("/stream")
def stream(
    workshop: WorkshopIn,
    units: UnitsIn,
    visit_id: str,
    after: int | None = None,
    last_event_id: Annotated[str | None, Header()] = None,
) -> StreamingResponse:
    """Follow a visit as server-sent events: `samples`, `placement`, `visit`, `import`.

    Each event's id is its place in the visit's journal. A client that comes back with
    Last-Event-ID (or `after`) gets everything since, once; without either it starts from now.
    """
    workshop.visits.known(visit_id)  # 404 before the stream begins
    start = after
    if last_event_id is not None and last_event_id.isdigit():
        start = int(last_event_id)
    if start is None:
        start = workshop.stream.end(visit_id)
    return StreamingResponse(
        _events(workshop, visit_id, start, units),
        media_type="text/event-stream",
        headers={"Cache-Control": "no-store", "X-Accel-Buffering": "no"},
    )


async def _events(
    workshop: Workshop, visit_id: str, start: int, units: UnitSystem
) -> AsyncIterator[str]:
    """Server-sent events. A follower that lags gets what has gathered in one piece."""
    yield f"retry: 800\nid: {start}\nevent: hello\ndata: {{}}\n\n"
    points = _Points(workshop, visit_id)
    async for entries in workshop.stream.follow(visit_id, start):
        if not entries:
            yield ": still here\n\n"
        else:
            yield "".join(_event(entry, points, units) for entry in entries)


def _event(entry: JournalEntry, points: _Points, units: UnitSystem) -> str:
    body = entry.body
    if entry.kind == "placement":
        points.forget()
    if entry.kind == "samples":
        channels = body["channels"]
        known = points.of(list(channels))
        body = {
            "channels": {
                key: {"point": known.get(key, ""), "rows": _shown(rows, known.get(key, ""), units)}
                for key, rows in channels.items()
            }
        }
    return (
        f"id: {entry.sequence}\nevent: {entry.kind}\n"
        f"data: {json.dumps(body, separators=(',', ':'))}\n\n"
    )


def _shown(rows: Sequence[Sequence[float]], point: str, units: UnitSystem) -> list[list[float]]:
    """Rows of [ms, value] in the units asked for."""
    row = POINTS.get(point)
    if row is None:
        return [[at, value] for at, value in rows]
    return [[at, round(from_si(value, row.quantity, units), 3)] for at, value in rows]


@router.get("/series")
def series(
    workshop: WorkshopIn,
    units: UnitsIn,
    visit_id: str,
    since: int | None = None,
    until: int | None = None,
    width: Annotated[int, Query(ge=10, le=4000)] = 600,
    point: Annotated[list[str] | None, Query()] = None,
) -> SeriesOut:
    """Traces over any span [ms], thinned to `width` columns that keep their extremes."""
    found = workshop.series.over(visit_id, since, until, width, point)
    return series_out(found, units)


@router.post("/placements")
def place(
    instruments: InstrumentsIn, visits: VisitsIn, units: UnitsIn, visit_id: str, body: PlacementIn
) -> StandingOut:
    """Put an instrument on a point from now on, or take it off."""
    instruments.place(visit_id, body.id, body.channel, body.point)
    return standing_out(visits.snapshot(visit_id), units)


@router.post("/swaps")
def swap(
    instruments: InstrumentsIn, visits: VisitsIn, units: UnitsIn, visit_id: str, body: SwapIn
) -> StandingOut:
    """Exchange two instruments back to when they were put there; every sample stays."""
    instruments.swap(visit_id, body.id, body.one, body.other)
    return standing_out(visits.snapshot(visit_id), units)


@router.post("/zeros")
def zero(
    instruments: InstrumentsIn, visits: VisitsIn, units: UnitsIn, visit_id: str, body: ChannelIn
) -> StandingOut:
    """Zero an instrument that is open to air."""
    instruments.zero(visit_id, body.id, body.channel)
    return standing_out(visits.snapshot(visit_id), units)


@router.post("/ignored")
def ignore(
    instruments: InstrumentsIn, visits: VisitsIn, units: UnitsIn, visit_id: str, body: IgnoreIn
) -> StandingOut:
    """Stop counting an instrument where it sits, or count it again."""
    instruments.ignore(visit_id, body.id, body.channel, body.ignored)
    return standing_out(visits.snapshot(visit_id), units)


@router.post("/kept")
def keep(visits: VisitsIn, units: UnitsIn, visit_id: str, body: KeepIn) -> StandingOut:
    """Keep what the instruments say as readings and judge them."""
    return standing_out(visits.keep(visit_id, body.id, body.reason), units)
