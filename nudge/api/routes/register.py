"""The instruments register: what is carried and how far each may be off."""

from fastapi import APIRouter

from nudge.api.access import UnitsIn, WorkshopIn
from nudge.presenters.register import InstrumentChange, NewInstrument, RegisterOut, register_out

router = APIRouter(prefix="/api/workshop/instruments")


@router.get("")
def instruments(workshop: WorkshopIn, units: UnitsIn) -> RegisterOut:
    """Everything that is carried, and the kinds there are."""
    return register_out(workshop.register.all(), units)


@router.post("", status_code=201)
def add(workshop: WorkshopIn, units: UnitsIn, body: NewInstrument) -> RegisterOut:
    """One more instrument. The same id again is the same one."""
    workshop.register.add(body.id, body.name, body.sort, body.sheet(body.sort, units))
    return instruments(workshop, units)


@router.patch("/{instrument_id}")
def change(
    workshop: WorkshopIn, instrument_id: str, units: UnitsIn, body: InstrumentChange
) -> RegisterOut:
    """Its sheet as it is now; zeroed just now; or carried no longer."""
    workshop.register.change(
        instrument_id, body.sheet(workshop.register.sort_of(instrument_id), units)
    )
    if body.zeroed:
        workshop.register.zeroed(instrument_id)
    if body.retired:
        workshop.register.retire(instrument_id)
    return instruments(workshop, units)
