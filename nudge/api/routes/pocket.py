"""The Pocket: every small sum, live, stored nowhere; and the chart its cycle is drawn on."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from nudge.api.access import UnitsIn
from nudge.contract.cycle_answer import PressureEnthalpyOut, chart_answer
from nudge.contract.pocket_answer import (
    PocketIn,
    PocketOut,
    PocketShapeOut,
    fill_request,
    pocket_shape,
)
from nudge.contract.ready import ready_json
from nudge.core.physics.circuit.cycle import chart_of
from nudge.core.physics.refrigerant.catalogue import refrigerant

router = APIRouter(prefix="/api")


@router.get("/pocket")
def shape(units: UnitsIn) -> PocketShapeOut:
    """Every blank and slip of the Pocket."""
    return pocket_shape(units)


@router.post("/pocket", response_model=PocketOut)
async def fill(body: PocketIn, request: Request) -> Response:
    """Fill the slips with what was entered. A refused entry never spoils the others."""
    request.state.units = body.units
    return Response(ready_json(fill_request(body)), media_type="application/json")


@router.get("/refrigerants/{name}/chart")
def chart(units: UnitsIn, name: str) -> PressureEnthalpyOut:
    """Pressure against enthalpy: dome and isolines from the packaged tables."""
    return chart_answer(chart_of(refrigerant(name).name), units)
