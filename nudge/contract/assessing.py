"""One call from contract request to contract answer."""

from nudge.contract.answer import AssessOut, answer
from nudge.contract.request import AssessIn
from nudge.core.judgement.assess import assess


def assess_request(request: AssessIn) -> AssessOut:
    """Assess a request. Raises: CoreError, for anything the caller can put right."""
    result = assess(
        request.system.to_plate(request.units),
        request.to_readings(),
        request.context.to_context(),
        request.method,
    )
    return answer(result, request.units)
