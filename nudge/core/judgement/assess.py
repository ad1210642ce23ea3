"""The whole judgement of one set of readings, in the order a careful technician makes it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import NamedTuple

from nudge.core.behaviours.behaviour import Behaviour
from nudge.core.behaviours.case import Case, Context, open_case
from nudge.core.checks.table import CHECKS
from nudge.core.gaugeless.decide import Gaugeless, look
from nudge.core.gaugeless.estimate import OwnHistory
from nudge.core.judgement.beliefs import Posterior, told_of, weigh
from nudge.core.judgement.cautions import Caution, cautions_for
from nudge.core.judgement.decision import Decision, Ground, HangsOn, decide
from nudge.core.judgement.departures import Departure, departures
from nudge.core.judgement.diagnosis import Diagnosis, diagnose
from nudge.core.judgement.evidence import Belief, explain
from nudge.core.judgement.features import features
from nudge.core.judgement.hazards import Hazard, raise_hazards
from nudge.core.judgement.model import Model, model_of
from nudge.core.judgement.next_checks import Proposal, next_checks
from nudge.core.judgement.over_time import Episode, lived_through
from nudge.core.judgement.walk import Walked, walk
from nudge.core.language.errors import CoreError
from nudge.core.language.said import Said
from nudge.core.language.vocabulary.points import Readings
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.circuit.past import Moment
from nudge.core.settling.breaches import is_standing
from nudge.core.settling.gate import Breach
from nudge.core.settling.gates import open_gates
from nudge.core.settling.trust import TrustCheck, distrust
from nudge.core.targets.choose import Targets, choose_targets

PRESSURES = frozenset({"suction_pressure", "liquid_pressure", "discharge_pressure"})


@dataclass(frozen=True, slots=True)
class Assessment:
    """What the readings mean, what they do not, and the one decision they come to.

    `weighing` and `diagnosis` are None for plant whose suspects are not judged; `look` is the
    look without gauges, while no pressure is read.
    """

    case: Case
    targets: Targets
    doubts: tuple[tuple[TrustCheck, Said], ...]
    breaches: tuple[Breach, ...]
    decision: Decision
    cautions: tuple[Caution, ...]
    suspects: tuple[Belief, ...]
    checks: tuple[Proposal, ...]
    hazards: tuple[tuple[Hazard, Said], ...]
    measured: Mapping[str, Departure] = field(default_factory=dict)
    episodes: tuple[Episode, ...] = ()
    weighing: Posterior | None = None
    diagnosis: Diagnosis | None = None
    walk: tuple[Walked, ...] = ()
    look: Gaugeless | None = None


def assess(
    plate: Plate,
    readings: Readings,
    context: Context,
    method: str | None = None,
    preferred: Sequence[str] = (),
    own: OwnHistory | None = None,
    behaviour: Behaviour | None = None,
    model: Model | None = None,
) -> Assessment:
    """Assess readings (core units) taken on a system. The decision has no dose yet.

    `method` asks for one school of targets; `preferred` are schools to be tried before the
    ordinary order; `own` is what this system showed when it was right, for a look without gauges.
    `behaviour` and `model` stand in the place of the plate's own kind of plant.

    Raises: OutOfRange for a pressure off the refrigerant's table; UnknownName or CoreError
    for a method that is unknown or does not decide charge.
    """
    asked = _Asked(plate, method, preferred, own, behaviour, model)
    ground, measured, episodes = _ground(asked, readings, context)
    case, weighing = ground.case, ground.weighing
    decision = decide(ground)
    seen = tuple(sorted(context.observations))
    said = [sentence for _, sentence in ground.doubts]
    return Assessment(
        case,
        ground.targets,
        tuple(ground.doubts),
        tuple(ground.breaches),
        decision,
        tuple(cautions_for(plate, decision.advice)),
        tuple(explain(weighing, measured, seen, episodes, said)) if weighing else (),
        tuple(next_checks(case, weighing, measured, _wanted(decision))) if weighing else (),
        tuple(ground.hazards),
        measured,
        tuple(episodes),
        weighing,
        ground.diagnosis,
        () if is_standing(case) else tuple(walk(case)),
        ground.look,
    )


class _Asked(NamedTuple):
    """What stays the same from one moment of a visit to the next."""

    plate: Plate
    method: str | None
    preferred: Sequence[str]
    own: OwnHistory | None
    behaviour: Behaviour | None
    model: Model | None


def _ground(
    asked: _Asked, readings: Readings, context: Context
) -> tuple[Ground, Mapping[str, Departure], list[Episode]]:
    plate, method, preferred = asked.plate, asked.method, asked.preferred
    case = open_case(plate, readings, context, asked.behaviour)
    targets = choose_targets(case, method, preferred)
    standing = is_standing(case)
    doubts = [] if standing else distrust(case)
    doubted = context.lying | {point for check, _ in doubts for point in check.points}
    weighing, diagnosis, seen = None, None, None
    measured: Mapping[str, Departure] = {}
    episodes: list[Episode] = []
    model = asked.model or model_of(case.behaviour, plate.metering_device.feed)
    if model is not None:
        measured = {} if standing else departures(case, targets=targets)
        episodes = [] if standing else lived_through(case, model.episodes)
        weighing = weigh(model, measured, told_of(case, episodes, bool(doubts)))
        diagnosis = diagnose(case, weighing, len(measured), bool(doubts))
    by_itself = case.vehicle is not None or context.zones is not None  # tested without gauges
    if PRESSURES.isdisjoint(readings) and not by_itself:
        seen = look(case, targets, asked.own or OwnHistory())

    def proven_at(moment: Moment, place: int) -> bool:
        past = replace(
            context.past,
            moments=context.past.moments[:place],
            added_since_kg=0.0,
            done_since="",
            corrected=False,
            sheet_left_kg=context.past.left_before(place),
        )
        then = replace(context, minutes_since_change=None, unsettled=None, lies=(), past=past)
        try:
            ground, _, _ = _ground(asked, moment.readings, then)
        except CoreError:
            return False
        return decide(ground).moves_refrigerant

    ground = Ground(
        case,
        targets,
        doubts,
        open_gates(case, targets),
        {} if standing else features(case, targets),
        raise_hazards(case, doubted),
        weighing,
        diagnosis,
        seen,
        measured,
        proven_at,
        method,
        preferred,
    )
    return ground, measured, episodes


def _wanted(decision: Decision) -> tuple[str, ...]:
    """The checks that bring what the decision hangs on: asked for first."""
    hangs = decision.hangs_on
    if hangs is None:
        return ()
    asked = [key for one in (hangs, *hangs.also) for key in _brings(one)]
    is_read = any(one.kind == "reading" for one in (hangs, *hangs.also))
    return (*asked, "swap_probes") if is_read else tuple(asked)


def _brings(hangs: HangsOn) -> tuple[str, ...]:
    if hangs.key in CHECKS:
        return (hangs.key,)
    if hangs.key == "condenser_cleaned":
        return ("clean_and_read",)
    brings = [key for key, check in CHECKS.items() if hangs.key in check.points]
    return tuple(brings[:1]) if hangs.kind == "reading" else ()
