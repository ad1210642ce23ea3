"""Multi-zone plants: a log looked at, read, shown; the drawing of parts."""

from typing import Annotated

from fastapi import APIRouter, Query, Request

from nudge.api.access import UnitsIn, WorkshopIn, declared_size
from nudge.instruments.zone_lines import log_of_lines
from nudge.presenters.zone_files import (
    DrawingIn,
    PartsModel,
    ZoneLinesIn,
    ZoneLookOut,
    ZoneProgressOut,
    ZonesHeardOut,
    ZonesIn,
    parts_out,
    zone_look_out,
    zone_progress_out,
)
from nudge.presenters.zones import ZonesOut, zones_out

router = APIRouter(prefix="/api")


@router.put("/visits/{visit_id}/zones/logs/{log_id}")
async def receive(
    workshop: WorkshopIn,
    visit_id: str,
    log_id: str,
    request: Request,
    zone_minutes: Annotated[int, Query(ge=-900, le=900)] = 0,
) -> ZoneLookOut:
    """Send the file itself as the body; the answer is what it looks like."""
    size = declared_size(request)
    return zone_look_out(
        await workshop.zones.receive(visit_id, log_id, size, request.stream(), zone_minutes)
    )


@router.post("/visits/{visit_id}/zones/logs/{log_id}/read")
def read(
    workshop: WorkshopIn, units: UnitsIn, visit_id: str, log_id: str, body: ZonesIn
) -> ZonesOut | None:
    """Read a log that waits; a second one of a visit is laid over the first."""
    workshop.zones.read(visit_id, log_id, body.mapping.mapping(), body.parts.parts())
    workshop.visits.judge_again(visit_id)
    return zones(workshop, units, visit_id)


@router.get("/visits/{visit_id}/zones/logs/{log_id}")
def progress(workshop: WorkshopIn, visit_id: str, log_id: str) -> ZoneProgressOut:
    """How far the reading of a log is."""
    return zone_progress_out(workshop.zones.reading(log_id))


@router.post("/visits/{visit_id}/zones/logs/{log_id}/cancel")
def cancel(workshop: WorkshopIn, visit_id: str, log_id: str) -> ZoneProgressOut:
    """Stop the reading of a log: nothing of it is kept, the file still waits."""
    here = workshop.zones.reading(log_id)
    if here is not None:
        here.stop.set()
    return zone_progress_out(here)


@router.post("/visits/{visit_id}/zones/lines")
def hear(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: ZoneLinesIn) -> ZonesHeardOut:
    """Lines that a plant sends while it runs; a moment that is sent again is written over."""
    heard = log_of_lines(body.to_lines(), units)
    workshop.zones.hear(visit_id, heard.log)
    workshop.visits.judge_again(visit_id)
    return ZonesHeardOut(kept=len(body.lines), refused=heard.refused, reasons=list(heard.reasons))


@router.get("/visits/{visit_id}/zones")
def zones(workshop: WorkshopIn, units: UnitsIn, visit_id: str) -> ZonesOut | None:
    """A visit's log, read; null where it has none."""
    found = workshop.zones.of_visit(visit_id)
    return None if found is None else zones_out(found, units)


@router.get("/systems/{system_id}/zones")
def drawing(workshop: WorkshopIn, system_id: str) -> PartsModel:
    """A plant's drawing; one room to begin from where nobody drew it."""
    return parts_out(workshop.zones.drawing(system_id))


@router.post("/systems/{system_id}/zones/drawings")
def drawing_from(workshop: WorkshopIn, system_id: str, body: DrawingIn) -> PartsModel:
    """What a file says a plant is, to be looked over and kept. Nothing is written."""
    return body.over(parts_out(workshop.zones.drawing(system_id)))


@router.put("/systems/{system_id}/zones")
def draw(workshop: WorkshopIn, system_id: str, body: PartsModel) -> PartsModel:
    """Keep a plant's drawing; logs of its open visits are read by it again."""
    workshop.zones.draw(system_id, body.parts())
    return drawing(workshop, system_id)
