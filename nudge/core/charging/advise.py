"""How much to move next, how long to wait, what to expect.

Whether anything moves is the decision's alone (`core/judgement/decision`). Here its dose is
worked out from every settled reading of the visit, and what is not safe at any amount is taken
back out of it. The card that shows it renders that same decision.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import ceil
from typing import Literal

from nudge.core.behaviours.case import Context
from nudge.core.charging.dose import room_for
from nudge.core.charging.responses import Watched
from nudge.core.charging.sizing import Aim, Dosed, Sized, after_dose, check_history, largest, size
from nudge.core.charging.ways import CONNECTIONS, Connection, way_for
from nudge.core.gaugeless.estimate import OwnHistory
from nudge.core.judgement.assess import Assessment, assess
from nudge.core.judgement.decision import Decision, Dose
from nudge.core.judgement.decision.doses import dose_answers, unanswered
from nudge.core.judgement.decision.limits import least
from nudge.core.judgement.decision.near import NEAR_ENOUGH
from nudge.core.language.errors import CoreError
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity
from nudge.core.language.vocabulary.accuracy import GAP_LIMIT_K
from nudge.core.language.vocabulary.points import Readings
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.circuit.past import Moment
from nudge.core.targets import fallback_subcooling, plate_subcooling
from nudge.core.targets.school import Judged

Action = Literal["add", "remove", "wait", "done", "stop"]


@dataclass(frozen=True, slots=True)
class Nudge:
    """A decision as its card shows it: what to do, how much, in how many bursts."""

    action: Action
    amount_kg: float
    bursts: int
    wait_minutes: float
    reason: Said
    assessment: Assessment
    connection: Connection
    sized: Sized | None = None

    @property
    def decision(self) -> Decision:
        return self.assessment.decision


@dataclass(frozen=True, slots=True)
class Decided:
    """An assessment whose decision has its dose, and what the dose was worked out from."""

    assessment: Assessment
    sized: Sized | None = None


def decided(
    plate: Plate,
    readings: Readings,
    context: Context,
    method: str | None = None,
    preferred: Sequence[str] = (),
    own: OwnHistory | None = None,
) -> Decided:
    """Assess readings, and size what the decision moves. The one way to a whole decision.

    Raises: what `assess` raises.
    """
    assessed = assess(plate, readings, context, method, preferred, own)
    wants = assessed.decision.moves_refrigerant or _may_trim(assessed)
    found = size(assessed, method, preferred) if wants or context.past.has_doses else None
    if found is None:
        return Decided(assessed)
    aim, sized = found
    return _with_dose(assessed, aim, sized) if wants else Decided(assessed, sized)


def advise(
    plate: Plate,
    history: Sequence[Dosed],
    context: Context,
    method: str | None = None,
    preferred: Sequence[str] = (),
    connection: str = "hose_manifold",
) -> Nudge:
    """Say what to do after the last reading of a history, first to last.

    Raises: CoreError for an empty history, times that run backwards, a connection that cannot
    charge; and what `assess` raises.
    """
    link = connection_named(connection)
    check_history(plate, history)
    now, rows = history[-1], history[:-1]
    moments = tuple(Moment(now.minutes - r.minutes, r.readings, r.added_kg) for r in rows)
    past = replace(
        context.past,
        moments=context.past.moments + moments,
        added_since_kg=now.added_kg if moments or context.past.moments else 0.0,
    )
    return nudge_of(
        decided(plate, now.readings, replace(context, past=past), method, preferred), link
    )


def nudge_of(found: Decided, link: Connection) -> Nudge:
    """The card of a decision, for a way to connect."""
    decision, sized = found.assessment.decision, found.sized
    base = Nudge("stop", 0.0, 0, 0.0, decision.reason, found.assessment, link, sized)
    if decision.ready_in is not None:
        return replace(base, action="wait", wait_minutes=decision.ready_in)
    dose = decision.dose
    if dose is not None and sized is not None:
        amount = abs(dose.amount_kg)
        return replace(
            base,
            action="add" if dose.amount_kg > 0 else "remove",
            amount_kg=amount,
            bursts=max(1, ceil(amount / link.burst_kg - 0.05)),
            wait_minutes=dose.wait_minutes,
            reason=_about(sized, dose, decision),
        )
    return replace(base, action="done" if decision.advice == "leave" else "stop")


def _about(sized: Sized, dose: Dose, decision: Decision) -> Said:
    if decision.key == "took_too_much":
        return say(
            "The last dose went past the window: this system answers more than any in the "
            "book. Take this much back out, by its own answer."
        )
    missing = sized.missing
    low, high = sorted((abs(missing.low), abs(missing.high)))
    what = "is missing" if dose.amount_kg > 0 else "is too much"
    return say(
        f"About {{about}} {what} by what is known now, between {{least}} and {{most}}. This "
        "dose stays inside the window even if the system answers more than expected.",
        about=_mass(abs(missing.middle)),
        least=_mass(low),
        most=_mass(high),
    )


def _with_dose(assessed: Assessment, aim: Aim, sized: Sized) -> Decided:
    """The decision with its dose; no dose that is safe is a decision of its own."""
    decision = assessed.decision
    if not decision.moves_refrigerant:
        amount = _dose_kg(assessed, sized, sized.way.near_k)
        if amount <= 0:
            return Decided(assessed, sized)
        trim = _dose(amount, _forecast(assessed, sized, amount), decision.judged or "subcooling")
        return Decided(replace(assessed, decision=replace(decision, trim=trim)), sized)
    if decision.key == "took_too_much":
        amount = -aim.back_kg(sized.watched)
    else:
        amount = _dose_kg(assessed, sized, sized.way.room_k)
    if amount == 0 and _is_as_near_as_read(decision):
        held = replace(
            decision,
            key=NEAR_ENOUGH.key,
            advice=NEAR_ENOUGH.advice,
            wrong_if=(),
            stage=NEAR_ENOUGH.stage,
            headline=NEAR_ENOUGH.headline,
            reason=say(
                "It stands outside its window by less than two instruments can be off, and "
                "the smallest dose would take it past."
            ),
        )
        return Decided(replace(assessed, decision=held, cautions=()), sized)
    if amount == 0:
        held = replace(
            decision,
            key="no_dose",
            headline="Stop. No dose is safe from here.",
            advice="do_not_charge",
            wrong_if=(),
            reason=say(
                "What is read fits no charge that would come right by a dose. Check the "
                "probes, then read again."
            ),
        )
        return Decided(replace(assessed, decision=held, cautions=()), sized)
    sized = _forecast(assessed, sized, amount)
    held = replace(decision, dose=_dose(amount, sized, decision.judged or "subcooling"))
    return Decided(replace(assessed, decision=held), sized)


def _is_as_near_as_read(decision: Decision) -> bool:
    target, off = decision.target, decision.off_k
    if target is None or off is None:
        return False
    low, high = target.low - target.value, target.high - target.value
    return low - GAP_LIMIT_K <= off <= high + GAP_LIMIT_K


def _dose_kg(assessed: Assessment, sized: Sized, room_k: float) -> float:
    """The next dose [kg, minus for out]; 0 where none is safe."""
    superheat = assessed.targets.windows.get("superheat")
    way = replace(sized.way, room_k=room_k)
    room = room_for(
        way, sized.watched, superheat.value if superheat else None, assessed.case.derived.superheat
    )
    removes = assessed.decision.advice == "remove"
    amount = largest(sized.asked, room, removes, way.share)
    past = assessed.case.context.past
    if past.is_known_short and not removes and not past.has_doses:
        amount = min(amount, past.sheet_left_kg)  # first what the scale knows, then what is read
    return -amount if removes else amount


def _may_trim(assessed: Assessment) -> bool:
    """Right, off its target on the short side, and only charge and nothing wrong are left.

    A guess is no target to trim to, and past a gate nothing moves.
    """
    decision, weighing, deciding = assessed.decision, assessed.weighing, assessed.targets.deciding
    if decision.off_k is None or weighing is None or deciding is None:
        return False
    past = assessed.case.context.past
    to_plate = past.is_measured_in and deciding.key == plate_subcooling.KEY
    # A dose, and a scale, are the better witness.
    dosed = past.has_doses or past.is_known_short or to_plate
    if decision.key not in (("right", "right_open") if dosed else ("right",)):
        return False
    if deciding.key == fallback_subcooling.KEY or any(b.passed for b in assessed.breaches):
        return False
    if assessed.case.context.before is not None:
        return False
    if unanswered(dose_answers(assessed.case)) and not past.is_known_short:
        return False  # the last trim did nothing that can be told: it is near enough
    watched = "superheat" if deciding.judges == "superheat" else "subcooling"
    way = way_for(
        assessed.case.plate.metering_device,
        watched,
        removes=False,
        has_collar=assessed.case.saw("collar_on"),
    )
    is_short = (decision.off_k < 0) == (deciding.judges == "subcooling")
    likely = weighing.alone("none") + weighing.alone("undercharge")
    wanted = least("add_again" if dosed else "trim")
    return is_short and abs(decision.off_k) > way.near_k and likely >= wanted


def _forecast(assessed: Assessment, sized: Sized, amount_kg: float) -> Sized:
    other: Watched = "superheat" if sized.watched == "subcooling" else "subcooling"
    beside = assessed.case.derived.get(other)
    expected, after, before_k = after_dose(sized.asked, amount_kg)
    return replace(
        sized,
        expected=expected.moved(sized.target_k),
        beside=None if beside is None else after.moved(beside - before_k),
    )


def _dose(amount_kg: float, sized: Sized, judged: Judged) -> Dose:
    expected = sized.expected or after_dose(sized.asked, amount_kg)[0].moved(sized.target_k)
    return Dose(
        amount_kg, judged, expected.low, expected.middle, expected.high, sized.way.wait_minutes
    )


def connection_named(name: str) -> Connection:
    """A way to connect that can charge. Raises: CoreError."""
    found = CONNECTIONS.get(name)
    if found is None:
        listed = ", ".join(CONNECTIONS)
        raise CoreError("connection", f"Unknown connection “{name[:60]}”. Known: {listed}.")
    if not found.can_charge:
        raise CoreError(
            "connection", f"{found.label}: nothing can be charged through it. Connect a hose first."
        )
    return found


def _mass(kg: float) -> Measure:
    return Measure(kg * 1000, Quantity.SMALL_MASS)
