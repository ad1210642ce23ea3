"""Working through a visit: its order, checks, notes, pictures, links, and closing it."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from nudge.api.access import UnitsIn, WorkshopIn
from nudge.api.files import answers_file
from nudge.contract.request import Name
from nudge.core.language.units import Quantity, UnitSystem, to_si
from nudge.presenters.compare import CompareOut, compare_out
from nudge.presenters.links import NewLinkOut, new_link_out
from nudge.presenters.notes import LinkOut, NewLinkIn, NewNote, PhotoOut, photo_out
from nudge.presenters.records import (
    BaselineEnd,
    DeferredDone,
    DeferredOut,
    NewDeferred,
    NewEntry,
    NewIntended,
    RecordsOut,
    WrittenCharge,
    deferred_out,
    records_out,
)
from nudge.presenters.standing import StandingOut, standing_out
from nudge.presenters.visit_order import NewCheck, NewClosing, NewKind, NewTick, OrderOut, order_out
from nudge.services.workshop import Workshop

router = APIRouter(prefix="/api")


@router.get("/visits/{visit_id}/order")
def order(workshop: WorkshopIn, units: UnitsIn, visit_id: str) -> OrderOut:
    """Where the visit stands: each stage with its steps, and what blocks judging and why."""
    return order_out(workshop.visits.snapshot(visit_id), units)


@router.post("/visits/{visit_id}/kinds")
def set_kind(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewKind) -> StandingOut:
    """Choose the kind of call: it chooses the route."""
    return standing_out(workshop.work.set_kind(visit_id, body.kind), units)


@router.post("/visits/{visit_id}/ticks")
def tick(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewTick) -> StandingOut:
    return standing_out(
        workshop.work.tick(visit_id, body.id, body.step, body.state, body.reason), units
    )


@router.post("/visits/{visit_id}/checks")
def check(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewCheck) -> StandingOut:
    """Fill in a check: kept with the visit, and judged."""
    return standing_out(
        workshop.work.check(visit_id, body.id, body.key, body.to_core(units)), units
    )


@router.post("/visits/{visit_id}/notes")
def note(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewNote) -> StandingOut:
    return standing_out(
        workshop.work.note(visit_id, body.id, body.subsystem, body.text, body.corrects), units
    )


@router.post("/visits/{visit_id}/closings")
def close(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewClosing) -> StandingOut:
    """Close the visit. With something dangerous open it is refused until a reason is given."""
    return standing_out(workshop.work.close(visit_id, body.reason), units)


@router.put("/visits/{visit_id}/photos/{photo_id}", status_code=201)
async def add_photo(
    workshop: WorkshopIn,
    request: Request,
    visit_id: str,
    photo_id: str,
    subsystem: str = "site",
    caption: str = "",
) -> PhotoOut:
    """A picture as its bytes. It is re-encoded: place, time and owner are not kept."""
    from starlette.concurrency import run_in_threadpool

    data = await request.body()
    row = await run_in_threadpool(workshop.photos.add, visit_id, photo_id, subsystem, caption, data)
    return photo_out(row)


@router.get(
    "/photos/{photo_id}.jpg",
    response_class=Response,
    responses=answers_file("image/jpeg", "The picture."),
)
def photo(workshop: WorkshopIn, photo_id: str, small: bool = False) -> Response:
    return Response(
        workshop.photos.bytes_of(photo_id, small),
        media_type="image/jpeg",
        headers={"Cache-Control": "private, max-age=86400"},
    )


@router.post("/photos/{photo_id}/removals")
def take_off(workshop: WorkshopIn, photo_id: str, body: NewEntry) -> list[PhotoOut]:
    """Take a picture off its visit."""
    workshop.photos.take_off(photo_id)
    return []


@router.post("/visits/{visit_id}/links", status_code=201)
def invite(workshop: WorkshopIn, request: Request, visit_id: str, body: NewLinkIn) -> NewLinkOut:
    """A read-only link to this visit for somebody on the same network."""
    made = workshop.guests.invite(visit_id, body.hours)
    url, beyond = request.url, bool(getattr(request.app.state, "listens_beyond", False))
    port = url.port or (443 if url.scheme == "https" else 80)
    return new_link_out(made, url.hostname or "", port, url.scheme, beyond)


@router.post("/visits/{visit_id}/links/{link_id}/revocations")
def revoke(workshop: WorkshopIn, visit_id: str, link_id: str, body: NewEntry) -> list[LinkOut]:
    workshop.guests.revoke(visit_id, link_id)
    return [
        LinkOut(id=row.id, expires_at=row.expires_at) for row in workshop.guests.links(visit_id)
    ]


@router.post("/visits/{visit_id}/baselines")
def keep_baseline(
    workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewEntry
) -> StandingOut:
    """Keep this visit's settled result as the system's baseline."""
    workshop.records.keep_baseline(visit_id, body.id)
    return _visit(workshop, visit_id, units)


@router.post("/visits/{visit_id}/intended-changes")
def intend(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewIntended) -> StandingOut:
    """Record something changed on purpose, so that later visits do not cry wolf over it."""
    workshop.records.intend(visit_id, body.id, body.key, body.note, body.corrects)
    return _visit(workshop, visit_id, units)


@router.post("/visits/{visit_id}/deferred")
def defer(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewDeferred) -> StandingOut:
    workshop.records.defer(visit_id, body.id, body.text, body.season, body.due_on)
    return _visit(workshop, visit_id, units)


@router.post("/deferred/{deferred_id}")
def settle(
    workshop: WorkshopIn, units: UnitsIn, deferred_id: str, body: DeferredDone
) -> list[DeferredOut]:
    """Tick an open item off, or open it again."""
    system_id = workshop.records.settle_deferred(deferred_id, body.done)
    return [deferred_out(row, units) for row in workshop.records.deferred_of(system_id)]


@router.get("/systems/{system_id}/records")
def records(workshop: WorkshopIn, units: UnitsIn, system_id: str) -> RecordsOut:
    """A system's book beyond its plate."""
    return records_out(workshop.records.of(system_id), units)


@router.get("/systems/{system_id}/compare")
def compare(
    workshop: WorkshopIn, units: UnitsIn, system_id: str, one: Name, other: Name
) -> CompareOut | None:
    """Two visits of a system laid over each other; null where nothing was judged on one."""
    return compare_out(*workshop.records.two_of(system_id, one, other), units)


@router.post("/systems/{system_id}/written-charge")
def write_charge(
    workshop: WorkshopIn, units: UnitsIn, system_id: str, body: WrittenCharge
) -> RecordsOut:
    """The whole charge, written once for the next one who comes."""
    kg = None if body.charge is None else to_si(body.charge, Quantity.MASS, units)
    workshop.records.write_charge(system_id, kg)
    return records_out(workshop.records.of(system_id), units)


@router.post("/systems/{system_id}/baseline-ends")
def end_baseline(
    workshop: WorkshopIn, units: UnitsIn, system_id: str, body: BaselineEnd
) -> RecordsOut:
    """A baseline no longer holds."""
    workshop.records.end_baseline(system_id, body.id, body.mode)
    return records_out(workshop.records.of(system_id), units)


def _visit(workshop: Workshop, visit_id: str, units: UnitSystem) -> StandingOut:
    return standing_out(workshop.visits.snapshot(visit_id), units)
