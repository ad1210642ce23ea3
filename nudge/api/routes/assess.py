"""What is worked out and not stored: the assessment, its numbers opened, the look."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from nudge.api.ready_body import read_body, takes
from nudge.contract.answer_shapes import AssessOut
from nudge.contract.assessing import assess_request, change_request, open_request
from nudge.contract.changes import ChangesOut
from nudge.contract.look_answer import LookIn, LookOut, look_request
from nudge.contract.request import AssessIn
from nudge.presenters.assessing import WorkingsOut

router = APIRouter(prefix="/api")


@router.post("/assess", response_model=AssessOut, openapi_extra=takes(AssessIn))
async def assess(request: Request) -> Response:
    """What a set of readings means. Stores nothing.

    Answers with ready JSON: the model was just built by us, so checking it again is waste.
    """
    body = await read_body(AssessIn, request)
    request.state.units = body.units
    return Response(assess_request(body).to_json(), media_type="application/json")


@router.post("/workings")
def workings(body: AssessIn, request: Request) -> WorkingsOut:
    """How every number of the same assessment came about."""
    request.state.units = body.units
    return WorkingsOut(numbers=open_request(body))


@router.post("/changes-of-mind")
def changes(body: AssessIn, request: Request) -> ChangesOut:
    """What would put another suspect in front. Stores nothing."""
    request.state.units = body.units
    return change_request(body)


@router.post("/look")
def look(body: LookIn, request: Request) -> LookOut:
    """What air and line temperatures alone say: leave the caps on, or connect. Stores nothing."""
    request.state.units = body.units
    return look_request(body)
