"""The whole judgement of one set of readings, in the order a careful technician makes it."""

from collections.abc import Sequence
from dataclasses import dataclass

from nudge.core.circuit.case import Case, Context, open_case
from nudge.core.judgement.beliefs import Belief, rank_suspects
from nudge.core.judgement.cautions import Caution, cautions_for
from nudge.core.judgement.charge import ChargeVerdict, judge_charge
from nudge.core.judgement.features import features
from nudge.core.judgement.hazards import Hazard, raise_hazards
from nudge.core.judgement.next_checks import Check, next_checks
from nudge.core.judgement.suspect_table import SUSPECTS
from nudge.core.said import Said
from nudge.core.settling.breaches import is_standing
from nudge.core.settling.gates import Breach, open_gates
from nudge.core.settling.trust import TrustCheck, distrust
from nudge.core.targets.choose import Targets, choose_targets
from nudge.core.vocabulary.equipment import Application, Plate
from nudge.core.vocabulary.points import Readings


@dataclass(frozen=True, slots=True)
class Assessment:
    """What the readings mean, what they do not, and what to do next."""

    case: Case
    targets: Targets
    doubts: tuple[tuple[TrustCheck, Said], ...]
    breaches: tuple[Breach, ...]
    charge: ChargeVerdict
    cautions: tuple[Caution, ...]
    suspects: tuple[Belief, ...]
    checks: tuple[Check, ...]
    hazards: tuple[tuple[Hazard, Said], ...]


def assess(
    plate: Plate,
    readings: Readings,
    context: Context,
    method: str | None = None,
    preferred: Sequence[str] = (),
) -> Assessment:
    """Assess readings (core units) taken on a system.

    `method` asks for one school of targets; `preferred` are schools to be tried before the
    ordinary order.

    Raises: OutOfRange for a pressure off the refrigerant's table; UnknownName or CoreError
    for a method that is unknown or does not decide charge.
    """
    case = open_case(plate, readings, context)
    targets = choose_targets(case, method, preferred)
    doubts = [] if is_standing(case) else distrust(case)
    breaches = open_gates(case, targets)
    marks = {} if is_standing(case) else features(case, targets)
    judged = plate.application is Application.COMFORT_COOLING  # the suspect table is for it alone
    ranked = rank_suspects(case, marks, bool(doubts)) if judged else []
    leading = ranked[0].suspect if ranked else SUSPECTS["something_else"]
    charge = judge_charge(case, targets, marks, breaches, [said for _, said in doubts], leading)
    return Assessment(
        case,
        targets,
        tuple(doubts),
        tuple(breaches),
        charge,
        tuple(cautions_for(plate, charge.advice)),
        tuple(ranked),
        tuple(next_checks(case, ranked)) if ranked else (),
        tuple(raise_hazards(case)),
    )
