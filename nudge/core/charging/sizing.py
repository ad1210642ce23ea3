"""How large the next dose may be: what this system taught, and the room it must not leave."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from typing import NamedTuple

from nudge.core.behaviours.case import Case, Context, open_case
from nudge.core.charging.dose import CylinderRoom, next_dose, taken_back
from nudge.core.charging.responses import Watched
from nudge.core.charging.shortfall import Forecast, Settled, Shortfall, learn
from nudge.core.charging.ways import ChargeWay, way_for
from nudge.core.judgement.assess import Assessment
from nudge.core.language.errors import CoreError
from nudge.core.language.vocabulary.points import Readings
from nudge.core.physics.circuit.equipment import Feed, Plate
from nudge.core.physics.circuit.whole import Whole, check_holds, whole_charge
from nudge.core.settling.breaches import CHANGE_MINUTES
from nudge.core.targets.choose import choose_targets
from nudge.core.targets.school import Judged


@dataclass(frozen=True, slots=True)
class Dosed:
    """One settled reading of the visit and what went in just before it [kg, minus for out]."""

    minutes: float
    added_kg: float
    readings: Readings


@dataclass(frozen=True, slots=True)
class Sized:
    """What a dose was worked out from: what is charged by, its way, what was learned so far."""

    watched: Watched
    way: ChargeWay
    target_k: float
    whole: Whole
    learned: Shortfall
    missing: Forecast
    """What has to go in to be right [kg]; minus is too much."""
    per_kg: tuple[float, float]
    """What this system answers at its place [K/kg]: middle, ±."""
    asked: "_Asked"
    expected: Forecast | None = None
    """Where what is watched settles after the dose [K, not off target]."""
    beside: Forecast | None = None
    """Where the other of the two settles [K]."""


@dataclass(frozen=True, slots=True)
class Aim:
    """How far off its target it is now [K], every settled reading so far."""

    off_k: float
    settled: tuple[Settled, ...]

    def back_kg(self, watched: Watched) -> float:
        """What of a dose that went past the window comes out again [kg]."""
        if len(self.settled) < 2:
            return 0.0
        before, now = self.settled[-2], self.settled[-1]
        pair = (before.subcooling_off_k, now.subcooling_off_k)
        if watched == "superheat":
            pair = (before.superheat_off_k, now.superheat_off_k)
        if pair[0] is None or pair[1] is None:
            return 0.0
        return taken_back(pair[0], pair[1], now.added_kg)


def size(
    assessed: Assessment, method: str | None, preferred: Sequence[str]
) -> tuple[Aim, Sized] | None:
    """What there is to size a dose with; None where no school decides, or it is not read."""
    case, deciding = assessed.case, assessed.targets.deciding
    if deciding is None:
        return None
    watched: Watched = "superheat" if deciding.judges == "superheat" else "subcooling"
    moments = case.context.past.moments
    rows = [(m.readings, m.added_kg) for m in moments]
    if not rows or not waits_for_its_answer(case):
        rows.append((case.record, case.context.past.added_since_kg))
    rows[0] = (rows[0][0], 0.0)  # what went in before the first reading is in that reading
    settled = tuple(
        _settled(case.plate, readings, case.context, kg, method, preferred) for readings, kg in rows
    )
    last = settled[-1]
    off = last.superheat_off_k if watched == "superheat" else last.subcooling_off_k
    if off is None:
        return None
    whole = whole_charge(case.plate)
    removes = assessed.decision.advice == "remove"
    way = way_for(case.plate.metering_device, watched, removes, case.saw("collar_on"))
    asked = _Asked(case.plate.metering_device.feed, watched, whole.kg, whole.spread, settled)
    target = assessed.targets.windows[deciding.judges].value
    missing, per_kg = _known(asked)
    return Aim(off, settled), Sized(
        watched, way, target, whole, learn(*asked), missing, per_kg, asked
    )


def waits_for_its_answer(case: Case) -> bool:
    """Something went in, and no reading is old enough to say what it did: nothing is learned."""
    since = case.context.minutes_since_change
    need = CHANGE_MINUTES[case.plate.metering_device]
    too_soon = case.context.read_before_change or (since is not None and since < need)
    return bool(case.context.past.added_since_kg) and too_soon


class _Asked(NamedTuple):
    """All that a dose is worked out from: the same is asked by every screen that shows it."""

    feed: Feed
    watched: Watched
    whole_kg: float
    whole_spread: float
    settled: tuple[Settled, ...]


@lru_cache(maxsize=64)
def _known(asked: _Asked) -> tuple[Forecast, tuple[float, float]]:
    learned = learn(*asked)
    return learned.missing_kg(), learned.per_kg()


@lru_cache(maxsize=64)
def largest(asked: _Asked, room: CylinderRoom, removes: bool, share: float) -> float:
    return next_dose(learn(*asked), room, removes, share)


@lru_cache(maxsize=64)
def after_dose(asked: _Asked, amount_kg: float) -> tuple[Forecast, Forecast, float]:
    """What is watched after a dose, the other of the two after it, and its middle before it."""
    learned = learn(*asked)
    other: Watched = "superheat" if asked.watched == "subcooling" else "subcooling"
    return (
        learned.after(amount_kg),
        learned.after(amount_kg, other),
        learned.after(0, other).middle,
    )


def check_history(plate: Plate, history: Sequence[Dosed]) -> None:
    if not history:
        raise CoreError("history", "There is no reading yet. Give at least one settled reading.")
    if any(not row.readings for row in history):
        raise CoreError("readings", "A row without readings says nothing. Read, or leave it out.")
    for row in history:
        check_holds(plate, row.added_kg, "added")
    for before, after in pairwise(history):
        if after.minutes < before.minutes:
            raise CoreError(
                "history",
                f"Its times run backwards: {after.minutes:g} min comes after "
                f"{before.minutes:g} min. Put the readings in order.",
            )


def _settled(
    plate: Plate,
    readings: Readings,
    context: Context,
    added_kg: float,
    method: str | None,
    preferred: Sequence[str],
) -> Settled:
    """A reading as distances from its own target: the load may have moved since the last one."""
    case = open_case(plate, readings, Context(observations=context.observations))
    targets = choose_targets(case, method, preferred)

    def off(judged: Judged) -> float | None:
        value, target = case.derived.get(judged), targets.windows.get(judged)
        return None if value is None or target is None else value - target.value

    subcooling = off("subcooling")
    if targets.deciding is not None and targets.deciding.judges == "approach":
        approach = off("approach")
        subcooling = None if approach is None else -approach
    return Settled(added_kg, subcooling, off("superheat"))
