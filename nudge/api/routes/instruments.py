"""Live readings: taken in, followed, placed, zeroed, swapped, ignored, kept."""

from typing import Annotated

from fastapi import APIRouter, Query

from nudge.api.access import InstrumentsIn, MomentMs, UnitsIn, VisitsIn, WorkshopIn, ZoneIn
from nudge.presenters.drawing.frames import FrameKey
from nudge.presenters.instruments import (
    ChannelIn,
    IgnoreIn,
    KeepIn,
    OneReadingIn,
    PlacementIn,
    ReadingsIn,
    SwapIn,
    TakenOut,
    taken_out,
)
from nudge.presenters.standing import StandingOut, standing_out
from nudge.presenters.traces import SeriesOut, series_out

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


@router.get("/series")
def series(
    workshop: WorkshopIn,
    units: UnitsIn,
    zone: ZoneIn,
    visit_id: str,
    since: MomentMs | None = None,
    until: MomentMs | None = None,
    width: Annotated[int, Query(ge=10, le=4000)] = 600,
    point: Annotated[list[str] | None, Query()] = None,
    frame: FrameKey = "desk",
) -> SeriesOut:
    """Traces over any span [ms], thinned to `width` columns that keep their extremes.

    Their axes are laid out for a `frame`, their moments on the clock of a `zone`.
    """
    found = workshop.series.over(visit_id, since, until, width, point)
    return series_out(found, units, frame, zone)


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
