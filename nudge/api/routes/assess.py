"""The stateless assessment."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from nudge.contract.answer import AssessOut
from nudge.contract.assessing import assess_request
from nudge.contract.request import AssessIn

router = APIRouter(prefix="/api")


@router.post("/assess", response_model=AssessOut)
async def assess(body: AssessIn, request: Request) -> Response:
    """What a set of readings means. Stores nothing.

    Answers with ready JSON: the model was just built by us, so checking it again is waste.
    """
    request.state.units = body.units
    return Response(assess_request(body).to_json(), media_type="application/json")
