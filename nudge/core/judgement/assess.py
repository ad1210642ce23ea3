"""The whole judgement of one set of readings, in the order a careful technician makes it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from nudge.core.circuit.case import Case, Context, open_case
from nudge.core.judgement.beliefs import Weighing, by_plate, weigh
from nudge.core.judgement.cautions import Caution, cautions_for
from nudge.core.judgement.charge import ChargeVerdict, judge_charge
from nudge.core.judgement.departures import Departure, departures
from nudge.core.judgement.diagnosis import Diagnosis, diagnose
from nudge.core.judgement.evidence import Belief, explain
from nudge.core.judgement.features import features
from nudge.core.judgement.hazards import Hazard, raise_hazards
from nudge.core.judgement.next_checks import Proposal, next_checks
from nudge.core.judgement.over_time import Episode, lived_through
from nudge.core.judgement.walk import Walked, walk
from nudge.core.said import Said
from nudge.core.settling.breaches import is_standing
from nudge.core.settling.gates import Breach, open_gates
from nudge.core.settling.trust import TrustCheck, distrust
from nudge.core.targets.choose import Targets, choose_targets
from nudge.core.vocabulary.equipment import Application, Plate
from nudge.core.vocabulary.points import Readings


@dataclass(frozen=True, slots=True)
class Assessment:
    """What the readings mean, what they do not, and what to do next.

    `weighing` and `diagnosis` are None for plant whose suspects are not judged.
    """

    case: Case
    targets: Targets
    doubts: tuple[tuple[TrustCheck, Said], ...]
    breaches: tuple[Breach, ...]
    charge: ChargeVerdict
    cautions: tuple[Caution, ...]
    suspects: tuple[Belief, ...]
    checks: tuple[Proposal, ...]
    hazards: tuple[tuple[Hazard, Said], ...]
    measured: Mapping[str, Departure] = field(default_factory=dict)
    episodes: tuple[Episode, ...] = ()
    weighing: Weighing | None = None
    diagnosis: Diagnosis | None = None
    walk: tuple[Walked, ...] = ()


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
    standing = is_standing(case)
    doubts = [] if standing else distrust(case)
    breaches = open_gates(case, targets)
    marks = {} if standing else features(case, targets)
    weighing, diagnosis = None, None
    measured: Mapping[str, Departure] = {}
    episodes: list[Episode] = []
    seen: tuple[str, ...] = ()
    if plate.application is Application.COMFORT_COOLING:  # the table is for it alone
        measured = {} if standing else departures(case)
        episodes = [] if standing else lived_through(case)
        seen = tuple(sorted(context.observations))
        has_valve = plate.metering_device.is_valve
        weighing = weigh(has_valve, measured, seen, episodes, bool(doubts), by_plate(plate))
        diagnosis = diagnose(case, weighing, len(measured), bool(doubts))
    said = [sentence for _, sentence in doubts]
    charge = judge_charge(case, targets, marks, breaches, said, weighing)
    return Assessment(
        case,
        targets,
        tuple(doubts),
        tuple(breaches),
        charge,
        tuple(cautions_for(plate, charge.advice)),
        tuple(explain(weighing, measured, seen, episodes, said)) if weighing else (),
        tuple(next_checks(case, weighing, tuple(measured), charge.wanted)) if weighing else (),
        tuple(raise_hazards(case)),
        measured,
        tuple(episodes),
        weighing,
        diagnosis,
        () if standing else tuple(walk(case)),
    )
