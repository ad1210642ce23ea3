"""Working on a simulated system: the demo's outside world."""

from fastapi import APIRouter

from nudge.api.access import UnitsIn, WorkshopIn
from nudge.core.language.errors import CoreError
from nudge.core.language.units import Quantity, to_si
from nudge.presenters.yard import DoneOut, JobIn, ValveIn, YardOut, yard_out
from nudge.services.errors import NotFound

router = APIRouter(prefix="/api/visits/{visit_id}/yard")


@router.get("")
def view(workshop: WorkshopIn, units: UnitsIn, visit_id: str) -> YardOut:
    """The simulated system a visit stands at. 404 for a real one."""
    found = workshop.yard.view(visit_id)
    if found is None:
        raise NotFound("simulated system", visit_id)
    return yard_out(found, units)


@router.post("/valve")
def turn_valve(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: ValveIn) -> YardOut:
    """Open or shut the cylinder's valve on a simulated system."""
    workshop.yard.turn_valve(visit_id, body.is_open)
    return view(workshop, units, visit_id)


@router.post("/jobs")
def work(workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: JobIn) -> DoneOut:
    """Do a job on it. An amount is in ounces (ip) or grams (si)."""
    kg = 0.0
    if body.amount is not None:
        if not body.amount > 0:
            raise CoreError("amount", "Give an amount over zero.")
        kg = to_si(body.amount, Quantity.SMALL_MASS, units) / 1000
    message = workshop.yard.work(visit_id, body.id, body.job, kg)
    found = workshop.yard.view(visit_id)
    if found is None:
        raise NotFound("simulated system", visit_id)
    return DoneOut(message=message, yard=yard_out(found, units))
