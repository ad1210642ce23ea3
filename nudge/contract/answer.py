"""What `assess` answers, in the units asked for.

Plain frozen dataclasses: built only here, from typed values, so there is nothing to check
again; Pydantic writes them out and describes them in the OpenAPI document.
"""

from collections.abc import Callable, Sequence
from datetime import datetime

from nudge.contract.answer_shapes import (
    AssessOut,
    ChargeOut,
    DiagnosisOut,
    EpisodeOut,
    HazardOut,
    LandsOut,
    NextCheckOut,
    OtherMethodOut,
    OutcomeOut,
    PairOut,
    ReadinessOut,
    SignOut,
    StretchOut,
    SuspectOut,
    TargetOut,
)
from nudge.contract.decision_answer import decision_answer
from nudge.core.checks.check import Check
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.checks.table import CHECKS
from nudge.core.judgement.assess import Assessment
from nudge.core.judgement.by_kind import ALL_SUSPECTS
from nudge.core.judgement.departures import Departure
from nudge.core.judgement.evidence import Belief
from nudge.core.judgement.next_checks import Proposal
from nudge.core.judgement.pairs import PAIRS
from nudge.core.judgement.suspect_table import FAULT_LABELS
from nudge.core.judgement.walk import Walked
from nudge.core.language.said import Reader, Said, worded
from nudge.core.language.units import (
    Quantity,
    UnitSystem,
    difference_of,
    from_si,
    unit_label,
)
from nudge.core.physics.circuit.derived import Derived
from nudge.core.physics.circuit.derived_table import DERIVED
from nudge.core.targets.school import Target

WORTH_NAMING = 0.05
_K = Quantity.TEMPERATURE_DIFFERENCE
_DERIVED = tuple((key, row.quantity) for key, row in DERIVED.items())


def answer(result: Assessment, units: UnitSystem, ready_at: datetime | None = None) -> AssessOut:
    """The assessment as the contract's JSON. Numbers to three decimals, beliefs to four.

    `ready_at` is when it may be read again, where the moment of the readings is known.
    """
    read = Reader(units).read
    return AssessOut(
        units=units,
        derived=_derived(result.case.derived, units),
        targets={key: _target(one, units) for key, one in result.targets.windows.items()},
        readiness=_readiness(result, units),
        decision=decision_answer(result.decision, units, ready_at),
        charge=_charge(result, read, units),
        diagnosis=_diagnosis(result, units),
        suspects=[_suspect(belief, read, units) for belief in result.suspects],
        pairs=_pairs(result),
        signs=[_sign(one, units) for one in result.measured.values()],
        over_time=[EpisodeOut(one.row.key, read(one.said)) for one in result.episodes],
        walk=[_stretch(one, read, units) for one in result.walk],
        next_checks=[_check(proposal, units) for proposal in result.checks]
        or _asked_for(result, units),
        hazards=[
            HazardOut(key=hazard.key, effect=hazard.effect, message=said.text(units))
            for hazard, said in result.hazards
        ],
    )


def _target(target: Target, units: UnitSystem) -> TargetOut:
    return TargetOut(
        value=_difference(target.value, units),
        low=_difference(target.low, units),
        high=_difference(target.high, units),
        method=target.method,
        source=target.source,
    )


def _readiness(result: Assessment, units: UnitSystem) -> list[ReadinessOut]:
    """Readings that cannot be first, then the gates that are shut."""
    doubts = [
        ReadinessOut(key=check.key, effect="blocks", message=said.text(units))
        for check, said in result.doubts
    ]
    return doubts + [
        ReadinessOut(
            key=b.gate.key,
            effect=b.effect,
            passed=b.passed,
            may_pass=b.may_pass,
            message=b.message.text(units),
        )
        for b in result.breaches
    ]


def _charge(result: Assessment, read: Callable[[Said], str], units: UnitSystem) -> ChargeOut:
    deciding, decision = result.targets.deciding, result.decision
    return ChargeOut(
        state=decision.state,
        advice=decision.advice,
        headline=decision.headline,
        reason=decision.reason.text(units),
        cautions=[read(caution.text) for caution in result.cautions],
        method=deciding.key if deciding else None,
        other_methods=[
            OtherMethodOut(
                method=other.school.key,
                label=other.school.label,
                state=other.state,
                off_by=_difference(other.off_by_k, units),
            )
            for other in decision.other_methods
        ],
    )


def _stretch(one: Walked, read: Callable[[Said], str], units: UnitSystem) -> StretchOut:
    row = one.stretch
    drop = _difference(one.drop_k, units)
    return StretchOut(row.key, row.start, row.end, drop, one.state, read(one.said))


def _diagnosis(result: Assessment, units: UnitSystem) -> DiagnosisOut | None:
    found = result.diagnosis
    if found is None:
        return None
    return DiagnosisOut(
        found.sentence,
        list(found.faults),
        found.confidence,
        found.severity,
        worded(found.act, units),
        found.valve,
    )


def _pairs(result: Assessment) -> list[PairOut]:
    if result.weighing is None:
        return []
    found = []
    for pair in PAIRS:
        belief = result.weighing.pairs.get(pair.faults, 0.0)
        if belief >= WORTH_NAMING:
            names = next(
                row.hypothesis.signature.suspects
                for row in result.weighing.rows
                if row.hypothesis.faults == pair.faults
            )
            first, second = (ALL_SUSPECTS[name].label for name in names)
            label = f"{first} and {second.lower()}"
            found.append(PairOut(list(names), label, round(belief, 4), pair.reason))
    return sorted(found, key=lambda pair: -pair.belief)


def _sign(one: Departure, units: UnitSystem) -> SignOut:
    quantity = one.sign.quantity
    step = difference_of(quantity)
    return SignOut(
        one.sign.key,
        one.sign.label,
        round(from_si(one.value, quantity, units), 2),
        round(from_si(one.expected, quantity, units), 2),
        round(from_si(one.off, step, units), 2),
        unit_label(quantity, units),
        list(one.sign.points),
    )


def _check(proposal: Proposal, units: UnitSystem) -> NextCheckOut:
    outcomes = [
        OutcomeOut(
            o.key,
            o.label,
            round(o.chance, 3),
            o.leads,
            ALL_SUSPECTS[o.leads].label,
            round(o.belief, 3),
        )
        for o in proposal.outcomes
    ]
    told = {outcome.observation for outcome in outcomes}
    outcomes += [row for row in _answers(proposal.check) if row.observation not in told]
    return _asked(proposal.check, proposal.separates, outcomes, units)


def _asked_for(result: Assessment, units: UnitSystem) -> list[NextCheckOut]:
    """Where no suspects are weighed: the check the decision hangs on, with its two outcomes."""
    hangs = result.decision.hangs_on
    if result.weighing is not None or hangs is None or hangs.key not in CHECKS:
        return []
    check = CHECKS[hangs.key]
    return [_asked(check, (), _answers(check), units)]


def _answers(check: Check) -> list[OutcomeOut]:
    """Both answers of a look, however unlikely: what is seen can be ticked."""
    look = check.look
    seen = [] if look is None else list(zip((look.yes, look.no), look.labels, strict=True))
    known = [(key, label) for key, label in seen if key in OBSERVATIONS]
    return [OutcomeOut(key, label, 0.0, "", "", 0.0) for key, label in known]


def _asked(
    check: Check, separates: Sequence[str], outcomes: list[OutcomeOut], units: UnitSystem
) -> NextCheckOut:
    return NextCheckOut(
        key=check.key,
        label=check.label,
        why=check.why,
        minutes=check.minutes,
        separates=list(separates),
        caution=worded(check.caution, units),
        how=[worded(step, units) for step in check.how],
        points=list(check.points),
        form=check.form,
        outcomes=outcomes,
    )


def _suspect(belief: Belief, read: Callable[[Said], str], units: UnitSystem) -> SuspectOut:
    return SuspectOut(
        fault=belief.suspect.key,
        label=belief.suspect.label,
        belief=round(belief.belief, 4),
        severity=belief.severity,
        which=FAULT_LABELS.get(belief.fault, ""),
        act=worded(belief.suspect.act, units),
        told_apart_by=belief.suspect.told_apart_by,
        speaks_for=[read(said) for said in belief.speaks_for],
        against=[read(said) for said in belief.speaks_against],
        missing=list(belief.missing),
        for_signs=list(belief.for_signs),
        against_signs=list(belief.against_signs),
        missing_signs=list(belief.missing_signs),
        acquits=list(belief.acquits),
        convicts=list(belief.convicts),
        lands=None
        if belief.lands is None
        else LandsOut(*(_difference(kelvin, units) for kelvin in belief.lands)),
    )


def _difference(kelvin: float, units: UnitSystem) -> float:
    return round(from_si(kelvin, _K, units), 3)


def _derived(derived: Derived, units: UnitSystem) -> dict[str, float | None]:
    found: dict[str, float | None] = {}
    for key, quantity in _DERIVED:
        value = getattr(derived, key)
        found[key] = None if value is None else round(from_si(value, quantity, units), 3)
    return found
