"""`charge/advise`: what it is asked, and its answer in the caller's units."""

from collections.abc import Sequence
from dataclasses import dataclass, fields
from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from nudge.contract.answer import answer
from nudge.contract.answer_shapes import AssessOut
from nudge.contract.decision_answer import NextDoseOut, shown_mass
from nudge.contract.request import ContextIn, Name, Readings, SystemIn, core_readings
from nudge.contract.strict import Number, Strict
from nudge.core.charging.advise import Nudge, advise
from nudge.core.charging.guides import OTHER_SCHOOLS, Guide, hose_kg
from nudge.core.charging.high_side import high_side
from nudge.core.charging.shortfall import Forecast
from nudge.core.charging.sizing import Dosed, Sized
from nudge.core.charging.ways import CONNECTIONS, POUR_EITHER, POUR_LIQUID, Connection
from nudge.core.language.said import Measure, worded
from nudge.core.language.units import Quantity, UnitSystem, from_si, to_si
from nudge.core.physics.refrigerant.catalogue import refrigerant

LEAST_SAID = 0.05
"""A response and its ± under this [°F or K] round to nothing: it is not said."""


class DosedIn(Strict):
    """One settled reading: its minute, what went in just before it (ounces or grams)."""

    minutes: Number
    added: Number = 0
    readings: Readings


class AdviseIn(Strict):
    """`POST /api/charge/advise`: the system, and every settled reading of the visit in order."""

    units: UnitSystem = "ip"
    system: SystemIn
    context: ContextIn = ContextIn()
    history: Annotated[list[DosedIn], Field(min_length=1, max_length=100)]
    method: Name | None = None
    connection: Name = "hose_manifold"

    def to_nudge(self) -> Nudge:
        """Raises: CoreError, for anything in it that cannot be."""
        rows = [
            Dosed(
                row.minutes,
                to_si(row.added, Quantity.SMALL_MASS, self.units) / 1000,
                core_readings(row.readings, self.units),
            )
            for row in self.history
        ]
        return advise(
            self.system.to_plate(self.units),
            rows,
            self.context.to_context(self.units),
            self.method,
            (),
            self.connection,
        )


@dataclass(frozen=True, slots=True)
class RangeOut:
    low: float
    middle: float
    high: float


@dataclass(frozen=True, slots=True)
class ResponseOut:
    """Degrees per ounce (ip) or gram (si)."""

    value: float
    spread: float


@dataclass(frozen=True, slots=True)
class WayStepOut:
    text: str
    caution: str


@dataclass(frozen=True, slots=True)
class ConnectionOut:
    key: str
    label: str
    good_for: str
    can_charge: bool
    most_a_burst: float
    in_its_hose: float
    """Liquid that stays in its hose unless it is bled; ounces or grams, as a burst."""
    purge: str
    steps: list[WayStepOut]


@dataclass(frozen=True, slots=True)
class FigureOut:
    """A figure of a way in; `stands` is right, low, high, or "" where it is only said."""

    label: str
    text: str
    stands: Literal["right", "low", "high", ""]


@dataclass(frozen=True, slots=True)
class GuideOut:
    """One way to bring a charge right, for this system today."""

    key: str
    label: str
    reason: str
    is_the_one: bool
    why: str
    figures: list[FigureOut]
    steps: list[WayStepOut]


@dataclass(frozen=True, slots=True)
class OtherSchoolOut:
    label: str
    how: str
    reason: str


@dataclass(frozen=True, slots=True)
class AdviceOut:
    """What to do with the charge next. Amounts in ounces (ip) or grams (si)."""

    units: UnitSystem
    action: Literal["add", "remove", "wait", "done", "stop"]
    headline: str
    amount: float
    amount_unit: str
    bursts: int
    wait_minutes: float
    reason: str
    stop: str
    """The key of the decision where nothing moves; "" where something does."""
    ready_at: datetime | None
    watch: list[str]
    trim: NextDoseOut | None
    way: str
    way_reason: str
    connection: ConnectionOut
    pouring: str
    pouring_reason: str
    in_hose: float
    """Liquid the connection's hose holds when full; shut at the cylinder, it runs in by itself."""
    hose: str
    response: str
    high_side: str
    expected: dict[str, RangeOut]
    missing: RangeOut | None
    response_per_unit: ResponseOut | None
    whole: float | None
    whole_source: str
    target: float | None
    watched: str
    would_prove_wrong: str
    cautions: list[str]


@dataclass(frozen=True, slots=True)
class AdvisedOut(AdviceOut):
    """The advice with the whole assessment it comes from, for who asks for nothing else."""

    assessment: AssessOut


def advised_out(nudge: Nudge, units: UnitSystem, ready_at: datetime | None = None) -> AdvisedOut:
    """A decision as its card, with its assessment, in the caller's units."""
    assessed = answer(nudge.assessment, units, ready_at)
    card = advice_out(nudge, units, ready_at, assessed)
    return AdvisedOut(
        **{one.name: getattr(card, one.name) for one in fields(card)}, assessment=assessed
    )


def advice_out(
    nudge: Nudge, units: UnitSystem, ready_at: datetime | None, assessed: AssessOut
) -> AdviceOut:
    """A decision as its card; `assessed` is its assessment in the same units."""
    plate = nudge.assessment.case.plate
    pouring = POUR_LIQUID if refrigerant(plate.refrigerant).is_blend else POUR_EITHER
    sized, link = nudge.sized, nudge.connection
    decision = assessed.decision
    moves = nudge.action in ("add", "remove")
    missing = sized.missing if sized else None
    return AdviceOut(
        units=units,
        action=nudge.action,
        headline=_headline(nudge, units, ready_at),
        amount=_mass(nudge.amount_kg, units),
        amount_unit="oz" if units == "ip" else "g",
        bursts=nudge.bursts,
        wait_minutes=nudge.wait_minutes,
        reason=nudge.reason.text(units),
        stop="" if moves else decision.key,
        ready_at=ready_at,
        watch=decision.watch,
        trim=decision.trim,
        way=sized.way.label if sized else "",
        way_reason=sized.way.reason if sized else "",
        connection=_connection(link, plate.refrigerant, units),
        pouring=pouring.position,
        pouring_reason=pouring.reason,
        in_hose=_mass(hose_kg(link, plate.refrigerant), units),
        hose=_hose(link, plate.refrigerant, units),
        response=_response_said(nudge, units),
        high_side=high_side(nudge.assessment.case).text(units),
        expected=_expected(sized, units) if sized is not None and moves else {},
        missing=None
        if missing is None
        else RangeOut(
            _mass(missing.low, units), _mass(missing.middle, units), _mass(missing.high, units)
        ),
        response_per_unit=_response(nudge, units),
        whole=None if sized is None else _mass(sized.whole.kg, units),
        whole_source=sized.whole.source if sized else "",
        target=None
        if sized is None
        else round(from_si(sized.target_k, Quantity.TEMPERATURE_DIFFERENCE, units), 2),
        watched=sized.watched if sized else "",
        would_prove_wrong=" ".join(decision.wrong_if) if moves else "",
        cautions=assessed.charge.cautions,
    )


def _headline(nudge: Nudge, units: UnitSystem, ready_at: datetime | None) -> str:
    unit = "oz" if units == "ip" else "g"
    amount = f"{_mass(nudge.amount_kg, units):g} {unit}"
    if nudge.action == "wait" and ready_at is not None:
        return "Wait, then read again."  # until a moment that is shown beside it
    if nudge.action == "wait":
        return f"Wait {nudge.wait_minutes:g} min, then read again."
    if nudge.action == "add":
        return f"Add {amount}."
    if nudge.action == "remove":
        return f"Take out {amount}."
    return nudge.decision.headline


def _expected(sized: Sized, units: UnitSystem) -> dict[str, RangeOut]:
    """What should be read after the wait: what is charged by, and the other of the two."""
    other = "superheat" if sized.watched == "subcooling" else "subcooling"
    both = ((sized.watched, sized.expected), (other, sized.beside))
    return {key: _range(found, units) for key, found in both if found is not None}


_mass = shown_mass


def _range(found: Forecast, units: UnitSystem) -> RangeOut:
    low, middle, high = (
        round(from_si(value, Quantity.TEMPERATURE_DIFFERENCE, units), 1)
        for value in (found.low, found.middle, found.high)
    )
    return RangeOut(low, middle, high)


def _response(nudge: Nudge, units: UnitSystem) -> ResponseOut | None:
    if nudge.sized is None:
        return None
    unit_kg = to_si(1.0, Quantity.SMALL_MASS, units) / 1000
    value, spread = nudge.sized.per_kg
    return ResponseOut(
        *(
            round(from_si(found * unit_kg, Quantity.TEMPERATURE_DIFFERENCE, units), 4)
            for found in (value, spread)
        )
    )


def _hose(link: Connection, fluid: str, units: UnitSystem) -> str:
    held = hose_kg(link, fluid)
    if held <= 0:
        return ""
    shown = Measure(held * 1000, Quantity.SMALL_MASS).text(units)
    return (
        f"A full hose holds {shown} of liquid, off the scale and not yet in the system. Shut at "
        "the cylinder, not at the manifold, and it runs in."
    )


def _response_said(nudge: Nudge, units: UnitSystem) -> str:
    """What this system answers to an ounce (25 g), as learned so far; nothing where it is none."""
    if nudge.sized is None:
        return ""
    one = 1.0 if units == "ip" else 25.0
    unit_kg = to_si(one, Quantity.SMALL_MASS, units) / 1000
    value, spread = (
        from_si(found * unit_kg, Quantity.TEMPERATURE_DIFFERENCE, units)
        for found in nudge.sized.per_kg
    )
    if abs(value) < LEAST_SAID and spread < LEAST_SAID:
        return ""
    per = "oz" if units == "ip" else "25 g"
    degree = "°F" if units == "ip" else "K"
    moves = "rises" if value >= 0 else "falls"
    what = nudge.sized.watched.capitalize()
    return f"{what} {moves} {abs(value):.1f} ± {spread:.1f} {degree} per {per} here."


def guides_out(found: Sequence[Guide], units: UnitSystem) -> list[GuideOut]:
    """Every way in, the one for today first."""
    return [
        GuideOut(
            key=guide.way.key,
            label=guide.way.label,
            reason=worded(guide.way.reason, units),
            is_the_one=guide.is_the_one,
            why=guide.why.text(units),
            figures=[
                FigureOut(figure.label, figure.said.text(units), figure.stands)
                for figure in guide.figures
            ],
            steps=[WayStepOut(step.text, worded(step.caution, units)) for step in guide.steps],
        )
        for guide in found
    ]


def other_schools_out() -> list[OtherSchoolOut]:
    return [OtherSchoolOut(row.label, row.how, row.reason) for row in OTHER_SCHOOLS]


def connections_out(fluid: str, units: UnitSystem) -> list[ConnectionOut]:
    """Every way to connect to a system of this refrigerant."""
    return [_connection(row, fluid, units) for row in CONNECTIONS.values()]


def _connection(link: Connection, fluid: str, units: UnitSystem) -> ConnectionOut:
    return ConnectionOut(
        link.key,
        link.label,
        link.good_for,
        link.can_charge,
        _mass(link.burst_kg, units),
        _mass(hose_kg(link, fluid), units),
        link.purge,
        [WayStepOut(step.text, step.caution) for step in link.steps],
    )
