"""One call from contract request to contract answer."""

from nudge.contract.answer import answer
from nudge.contract.answer_shapes import AssessOut
from nudge.contract.changes import ChangesOut, changes_out
from nudge.contract.opened import OpenedOut, opened_all
from nudge.contract.request import AssessIn
from nudge.core.behaviours.workings import derived_workings
from nudge.core.charging.advise import decided
from nudge.core.judgement.assess import Assessment
from nudge.core.judgement.change_of_mind import changes_of_mind
from nudge.core.judgement.workings import belief_workings
from nudge.core.targets.workings import target_workings


def assess_request(request: AssessIn) -> AssessOut:
    """Assess a request. Raises: CoreError, for anything the caller can put right."""
    return answer(_assess(request), request.units)


def open_request(request: AssessIn) -> dict[str, OpenedOut]:
    """Every number of the same assessment, opened. Raises: as `assess_request`."""
    result = _assess(request)
    workings = derived_workings(result.case) | target_workings(result.case, result.targets)
    return opened_all(workings | belief_workings(result), request.units)


def change_request(request: AssessIn) -> ChangesOut:
    """What would change the mind of the same assessment. Raises: as `assess_request`."""
    return changes_out(changes_of_mind(_assess(request)), request.units)


def _assess(request: AssessIn) -> Assessment:
    return decided(
        request.system.to_plate(request.units),
        request.to_readings(),
        request.context.to_context(request.units),
        request.method,
    ).assessment
