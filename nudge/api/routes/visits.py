"""Everything written on a visit. Each answer is the visit as it now stands."""

from fastapi import APIRouter

from nudge.api.access import BookIn, UnitsIn, VisitsIn, WorkshopIn
from nudge.contract.changes import ChangesOut, changes_out
from nudge.contract.opened import OpenedOut, opened_all
from nudge.core.language.units import Quantity, decimals, from_si, to_si, unit_label
from nudge.core.language.vocabulary.actions import STOP_REASONS
from nudge.presenters.callouts import CalloutIn, HeardOut, MisheardOut, SpokenOut
from nudge.presenters.standing import StandingOut, standing_out
from nudge.presenters.visit_writes import (
    NewCallout,
    NewCorrection,
    NewEvent,
    NewObservation,
    NewSlip,
    NewVisit,
    NewWithdrawal,
    PassedGate,
    VisitChanges,
)
from nudge.services.circuit import check_may_fill
from nudge.services.heard import event_kind, hear_for_system

router = APIRouter(prefix="/api")


@router.post("/callout")
def hear(book: BookIn, units: UnitsIn, body: CalloutIn) -> HeardOut:
    """Hear a line without storing it: what each word means, or why it means nothing."""
    heard = hear_for_system(body.text, units, book.system(body.system_id).system)
    return HeardOut(
        spoken=[
            SpokenOut(
                point=s.point.key,
                label=s.point.label,
                value=round(from_si(s.value_si, s.point.quantity, units), 3),
                unit=unit_label(s.point.quantity, units),
                decimals=decimals(s.point.quantity, units),
                start=s.start,
                end=s.end,
            )
            for s in heard.spoken
        ],
        misheard=[
            MisheardOut(message=m.message, nearest=list(m.nearest), start=m.start, end=m.end)
            for m in heard.misheard
        ],
        corrects=heard.corrects,
    )


@router.post("/visits", status_code=201)
def open_visit(visits: VisitsIn, units: UnitsIn, body: NewVisit) -> StandingOut:
    """Start a visit now, or plan one when `due_on` is given."""
    return standing_out(visits.open(body.id, body.system_id, body.complaint, body.due_on), units)


@router.get("/visits/{visit_id}")
def visit(visits: VisitsIn, units: UnitsIn, visit_id: str) -> StandingOut:
    return standing_out(visits.snapshot(visit_id), units)


@router.patch("/visits/{visit_id}")
def change_visit(
    workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: VisitChanges
) -> StandingOut:
    """Open a due visit, close or reopen one, change the complaint.

    Closing is refused while something dangerous is open: `closings` takes a reason.
    """
    visits = workshop.visits
    if body.started:
        visits.start(visit_id)
    if body.complaint is not None:
        visits.set_complaint(visit_id, body.complaint)
    if body.closed is not None:
        if body.closed:
            return standing_out(workshop.work.close(visit_id), units)
        return standing_out(visits.reopen(visit_id), units)
    return standing_out(visits.snapshot(visit_id), units)


@router.post("/visits/{visit_id}/callouts")
def hear_on_visit(visits: VisitsIn, units: UnitsIn, visit_id: str, body: NewCallout) -> StandingOut:
    """Take a call-out whole, or refuse it whole with each word that is not a reading."""
    return standing_out(visits.hear(visit_id, body.id, body.text, units, body.heard_at), units)


@router.post("/visits/{visit_id}/corrections")
def correct(visits: VisitsIn, units: UnitsIn, visit_id: str, body: NewCorrection) -> StandingOut:
    """Replace one reading; the old row stays in the record."""
    snapshot = visits.correct(visit_id, body.reading_id, body.id, body.text, units)
    return standing_out(snapshot, units)


@router.post("/visits/{visit_id}/withdrawals")
def withdraw(visits: VisitsIn, units: UnitsIn, visit_id: str, body: NewWithdrawal) -> StandingOut:
    """Take back one reading, one entry by its id, or the last line."""
    if body.of is not None:
        return standing_out(visits.take_back(visit_id, body.id, body.of), units)
    if body.reading_id is None:
        return standing_out(visits.undo(visit_id, body.id), units)
    return standing_out(visits.withdraw(visit_id, body.reading_id, body.id), units)


@router.post("/visits/{visit_id}/observations")
def observe(visits: VisitsIn, units: UnitsIn, visit_id: str, body: NewObservation) -> StandingOut:
    return standing_out(visits.observe(visit_id, body.id, body.key, body.seen), units)


@router.get("/visits/{visit_id}/workings")
def workings(visits: VisitsIn, units: UnitsIn, visit_id: str) -> dict[str, OpenedOut]:
    """How every number of a visit came about."""
    return opened_all(visits.snapshot(visit_id).workings(), units)


@router.post("/visits/{visit_id}/slips")
def keep_slip(visits: VisitsIn, units: UnitsIn, visit_id: str, body: NewSlip) -> StandingOut:
    """Send a slip of the Pocket into a visit, with the readings on it."""
    snapshot = visits.keep_slip(visit_id, body.id, body.slip, dict(body.entries), body.written_in)
    return standing_out(snapshot, units)


@router.post("/visits/{visit_id}/events")
def happened(visits: VisitsIn, units: UnitsIn, visit_id: str, body: NewEvent) -> StandingOut:
    amount = None
    if body.amount is not None:
        amount = to_si(body.amount, Quantity.SMALL_MASS, units) / 1000
    note, kind = STOP_REASONS.get(body.why, ""), event_kind(body.kind)
    if kind == "refrigerant_added":
        check_may_fill(visits.snapshot(visit_id))
    snapshot = visits.happened(visit_id, body.id, kind, body.happened_at, amount, note=note)
    return standing_out(snapshot, units)


@router.post("/visits/{visit_id}/passed-gates")
def pass_gate(visits: VisitsIn, units: UnitsIn, visit_id: str, body: PassedGate) -> StandingOut:
    """Judge past a gate that blocks; the reason is printed, an empty one takes it back."""
    return standing_out(visits.pass_gate(visit_id, body.id, body.gate, body.reason), units)


@router.get("/visits/{visit_id}/changes-of-mind")
def changes_of_mind(visits: VisitsIn, units: UnitsIn, visit_id: str) -> ChangesOut:
    """What would put another suspect in front: outcomes of checks, readings that may be wrong."""
    return changes_out(visits.snapshot(visit_id).changes_of_mind(), units)
