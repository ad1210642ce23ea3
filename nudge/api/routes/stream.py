"""What happens on visits, followed as server-sent events."""

import json
from collections.abc import AsyncIterator, Sequence
from typing import Annotated

from fastapi import APIRouter, Header, Query
from starlette.responses import StreamingResponse

from nudge.api.access import UnitsIn, WorkshopIn
from nudge.core.language.units import UnitSystem, from_si
from nudge.core.language.vocabulary.points import POINTS
from nudge.presenters.instruments import ChannelPoints
from nudge.services.stream import JournalEntry
from nudge.services.workshop import Workshop

FURTHEST, DIGITS = 2**53, 16
"""The last place of a journal that a browser counts, and its digits."""
router = APIRouter(prefix="/api")
MOST_VISITS = 50


@router.get("/visits/{visit_id}/stream")
def stream(
    workshop: WorkshopIn,
    units: UnitsIn,
    visit_id: str,
    after: Annotated[int, Query(ge=0, le=FURTHEST)] | None = None,
    last_event_id: Annotated[str | None, Header()] = None,
) -> StreamingResponse:
    """Follow a visit as server-sent events: `samples`, `placement`, `visit`, `import`.

    Each event's id is its place in the journal. A client that comes back with Last-Event-ID
    (or `after`) gets everything since, once; without either it starts from now.
    """
    return _following(workshop, units, [visit_id], _start(after, last_event_id))


@router.get("/stream")
def stream_of_many(
    workshop: WorkshopIn,
    units: UnitsIn,
    visit: Annotated[list[str], Query(min_length=1, max_length=MOST_VISITS)],
    after: Annotated[int, Query(ge=0, le=FURTHEST)] | None = None,
    last_event_id: Annotated[str | None, Header()] = None,
) -> StreamingResponse:
    """Follow several visits over one connection: every event's data names its `visit`.

    One browser needs one stream, however many tabs it has open.
    """
    return _following(workshop, units, visit, _start(after, last_event_id), names=True)


def _start(after: int | None, last_event_id: str | None) -> int | None:
    """A header that is no place in a journal is none: it says nothing of where to begin."""
    said = last_event_id or ""
    return int(said) if said.isascii() and said.isdigit() and len(said) <= DIGITS else after


def _following(
    workshop: Workshop,
    units: UnitSystem,
    visit_ids: Sequence[str],
    start: int | None,
    names: bool = False,
) -> StreamingResponse:
    for visit_id in visit_ids:
        workshop.visits.known(visit_id)  # 404 before the stream begins
    if start is None:
        start = workshop.stream.end_of_all()
    return StreamingResponse(
        _events(workshop, visit_ids, start, units, names),
        media_type="text/event-stream",
        headers={"Cache-Control": "no-store", "X-Accel-Buffering": "no"},
    )


async def _events(
    workshop: Workshop, visit_ids: Sequence[str], start: int, units: UnitSystem, names: bool
) -> AsyncIterator[str]:
    """Server-sent events. A follower that lags gets what has gathered in one piece."""
    yield f"retry: 800\nid: {start}\nevent: hello\ndata: {{}}\n\n"
    points = {visit_id: ChannelPoints(workshop, visit_id) for visit_id in visit_ids}
    async for entries in workshop.stream.follow(visit_ids, start):
        if not entries:
            yield ": still here\n\n"
        else:
            yield "".join(_event(entry, points[entry.visit_id], units, names) for entry in entries)


def _event(entry: JournalEntry, points: ChannelPoints, units: UnitSystem, names: bool) -> str:
    body = dict(entry.body)
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
    if names:
        body["visit"] = entry.visit_id
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
