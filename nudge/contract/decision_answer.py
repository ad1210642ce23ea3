"""The one decision, as every screen, card, paper and answer renders it."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.checks.table import CHECKS
from nudge.core.judgement.decision import Decision, Dose, HangsOn
from nudge.core.judgement.decision.decision import Advice
from nudge.core.language.said import worded
from nudge.core.language.units import Quantity, UnitSystem, from_si, unit_label
from nudge.core.language.vocabulary.actions import ACTIONS
from nudge.core.language.vocabulary.points import POINTS

_K = Quantity.TEMPERATURE_DIFFERENCE
GATE_WORDS = {
    "run_short": "Run time",
    "just_changed": "Time after the change",
    "not_settled": "Steady readings",
    "confirm": "A quarter of an hour",
    "running_unknown": "When it was started",
    "plate": "The plate",
}


@dataclass(frozen=True, slots=True)
class HangsOnOut:
    """The one thing that stands between this and an answer."""

    kind: Literal["reading", "look", "test", "work", "minutes"]
    key: str
    label: str
    why: str
    form: str
    """The form it is filled in with; "" where there is none."""


@dataclass(frozen=True, slots=True)
class NextDoseOut:
    """How much moves (ounces or grams; minus is out), and where what is watched settles."""

    amount: float
    unit: str
    watched: str
    low: float
    middle: float
    high: float
    wait_minutes: float


@dataclass(frozen=True, slots=True)
class DecisionOut:
    """The one decision. Every screen, card and paper renders this; `charge` is derived from it.

    `belief` is how sure it is of what it says. `off_by` is how far what is judged stands off its
    target. `ready_at` is when it may be read again, where that moment is known (on a visit);
    `ready_in` the minutes after the readings.
    """

    key: str
    order: Literal["danger", "impossible", "first", "clocks", "charge"]
    headline: str
    advice: Advice
    state: Literal["low", "right", "high", "unknown"]
    reason: str
    belief: float
    judged: str | None
    target: float | None
    off_by: float | None
    hangs_on: HangsOnOut | None
    also_hangs_on: list[HangsOnOut]
    """What will be asked for next whatever that says: brought on the same way."""
    dose: NextDoseOut | None
    trim: NextDoseOut | None
    ready_at: datetime | None
    ready_in: float | None
    stage: str
    watch: list[str]
    wrong_if: list[str]


def decision_answer(found: Decision, units: UnitSystem, ready_at: datetime | None) -> DecisionOut:
    hangs = found.hangs_on
    return DecisionOut(
        key=found.key,
        order=found.order,
        headline=found.headline,
        advice=found.advice,
        state=found.state,
        reason=found.reason.text(units),
        belief=round(found.belief, 4),
        judged=found.judged,
        target=None if found.target is None else round(from_si(found.target.value, _K, units), 3),
        off_by=None if found.off_k is None else round(from_si(found.off_k, _K, units), 3),
        hangs_on=None if hangs is None else _hangs(hangs, units),
        also_hangs_on=[] if hangs is None else [_hangs(one, units) for one in hangs.also],
        dose=_dose(found.dose, units),
        trim=_dose(found.trim, units),
        ready_at=ready_at,
        ready_in=None if found.ready_in is None else round(found.ready_in, 1),
        stage=found.stage,
        watch=[said.text(units) for said in found.watch],
        wrong_if=[said.text(units) for said in found.wrong_if],
    )


def _hangs(hangs: HangsOn, units: UnitSystem) -> HangsOnOut:
    return HangsOnOut(
        hangs.kind,
        hangs.key,
        _hangs_label(hangs.key),
        worded(hangs.why.text(units), units),
        CHECKS[hangs.key].form if hangs.key in CHECKS else "",
    )


def _hangs_label(key: str) -> str:
    """What a decision hangs on, in the words its check, reading, look or work has elsewhere."""
    labels: Iterator[str] = (
        row.label
        for rows in (CHECKS, POINTS, OBSERVATIONS, ACTIONS)
        for name, row in rows.items()
        if name == key
    )
    return next(labels, GATE_WORDS.get(key, key.replace("_", " ").capitalize()))


def _dose(dose: Dose | None, units: UnitSystem) -> NextDoseOut | None:
    if dose is None:
        return None

    def settles(kelvin: float) -> float:
        return round(from_si(kelvin, _K, units), 1)

    return NextDoseOut(
        amount=shown_mass(dose.amount_kg, units),
        unit=unit_label(Quantity.SMALL_MASS, units),
        watched=dose.watched,
        low=settles(dose.expected_low_k),
        middle=settles(dose.expected_k),
        high=settles(dose.expected_high_k),
        wait_minutes=dose.wait_minutes,
    )


def shown_mass(kg: float, units: UnitSystem) -> float:
    """Ounces to a tenth, or whole grams."""
    return round(from_si(kg * 1000, Quantity.SMALL_MASS, units), 1 if units == "ip" else 0)
