"""Leave the caps on, or connect: what the look without gauges comes to."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from nudge.core.behaviours.case import Case
from nudge.core.gaugeless.estimate import Estimates, OwnHistory, estimate
from nudge.core.language.said import Measure, Said, difference, minutes, say, temperature
from nudge.core.language.units import Quantity, degrees_f, fahrenheit
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.language.working import Working
from nudge.core.targets.choose import Targets
from nudge.core.targets.school import Target

Decision = Literal["leave_caps_on", "connect", "cannot_tell"]

RUN_MINUTES = 10.0
ICING_SUCTION_C = fahrenheit(36)
WARM_LIQUID_K = degrees_f(25)
UNDER_AMBIENT_K = degrees_f(2)
APPROACH_DRIFT_K = degrees_f(4)
STEP_K = degrees_f(5)
NEEDED = (
    "return_air_temp",
    "supply_air_temp",
    "outdoor_air_temp",
    "suction_line_temp",
    "liquid_line_temp",
)

HEADLINES: dict[Decision, str] = {
    "leave_caps_on": "Leave the caps on.",
    "connect": "Connect.",
    "cannot_tell": "Not enough to tell yet.",
}


@dataclass(frozen=True, slots=True)
class LookCase:
    """What a rule of the look may look at."""

    case: Case
    targets: Targets
    estimates: Estimates
    own: OwnHistory


@dataclass(frozen=True, slots=True)
class LookRule:
    """One thing that asks for gauges; `asks` answers the sentence, or None."""

    key: str
    reason: str
    asks: Callable[[LookCase], Said | None]


@dataclass(frozen=True, slots=True)
class Gaugeless:
    """The outcome: decision, why, what to read first, and the estimates behind it."""

    decision: Decision
    headline: str
    reasons: tuple[Said, ...]
    missing: tuple[str, ...]
    estimates: Estimates


def look(case: Case, targets: Targets, own: OwnHistory) -> Gaugeless:
    """Look at a case without gauges. Plant other than comfort cooling is not decided on."""
    estimates = estimate(case, own)
    seen = LookCase(case, targets, estimates, own)
    asking = tuple(said for rule in LOOK_RULES if (said := rule.asks(seen)) is not None)
    missing = tuple(POINTS[p].label for p in NEEDED if p not in case.readings)
    if not case.behaviour.looks_without_gauges:
        said = say("The look without gauges is for comfort cooling. Judge this plant by its plate.")
        return Gaugeless("cannot_tell", HEADLINES["cannot_tell"], (said,), (), estimates)
    ran = case.context.minutes_running
    if ran is not None and ran < RUN_MINUTES:
        wait = say(
            "Running {ran}: let it run {need}, then look again.",
            ran=minutes(ran),
            need=minutes(RUN_MINUTES),
        )
        return Gaugeless("cannot_tell", "Wait.", (wait,), missing, estimates)
    if asking:
        return Gaugeless("connect", HEADLINES["connect"], asking, missing, estimates)
    if missing:
        said = say("Nothing asks for gauges so far.")
        return Gaugeless("cannot_tell", HEADLINES["cannot_tell"], (said,), missing, estimates)
    return Gaugeless("leave_caps_on", HEADLINES["leave_caps_on"], (_content(seen),), (), estimates)


def _content(seen: LookCase) -> Said:
    superheat, subcooling = seen.estimates.superheat, seen.estimates.subcooling
    known = (
        "and its own history agrees"
        if seen.own.condensing_over_ambient is not None
        else "though it has no history here: an estimate is all this is"
    )
    if superheat is None or subcooling is None:
        return say("Nothing asks for gauges.")
    return say(
        f"Nothing asks for gauges, {known}. Superheat about {{sh}}, subcooling about {{sc}}.",
        sh=superheat.measure,
        sc=subcooling.measure,
    )


def _outside(found: Working | None, window: Target | None) -> Literal["under", "over"] | None:
    """Outside its window by more than its own uncertainty."""
    if found is None or window is None:
        return None
    spread = found.uncertainty or 0.0
    if found.value + spread < window.low:
        return "under"
    return "over" if found.value - spread > window.high else None


def _estimated(
    what: Literal["superheat", "subcooling"], label: str
) -> Callable[[LookCase], Said | None]:
    def asks(seen: LookCase) -> Said | None:
        found = getattr(seen.estimates, what)
        window = seen.targets.windows.get(what)
        where = _outside(found, window)
        if where is None or window is None:
            return None
        return say(
            f"{label} looks like {{value}}, {where} {{low}} to {{high}} by more than the estimate "
            "can be off.",
            value=found.measure,
            low=Measure(window.low, Quantity.TEMPERATURE_DIFFERENCE, bare=True),
            high=difference(window.high),
        )

    return asks


def _split(seen: LookCase) -> Said | None:
    split, window = (
        seen.case.derived.temperature_split,
        seen.targets.windows.get("temperature_split"),
    )
    if split is None or window is None or window.place(split) == "in":
        return None
    where = "under" if window.place(split) == "low" else "over"
    return say(
        f"Temperature split {{split}} is {where} the {{low}} to {{high}} this air should give.",
        split=difference(split),
        low=Measure(window.low, Quantity.TEMPERATURE_DIFFERENCE, bare=True),
        high=difference(window.high),
    )


def _cold_suction(seen: LookCase) -> Said | None:
    line = seen.case.readings.get("suction_line_temp")
    if line is None or line >= ICING_SUCTION_C:
        return None
    return say(
        "The suction line is at {line}: liquid or ice. Look at filter, coil and blower, then "
        "connect.",
        line=temperature(line),
    )


def _liquid_over_air(seen: LookCase) -> Said | None:
    approach = seen.case.derived.approach
    if approach is None or approach <= WARM_LIQUID_K:
        return None
    return say(
        "The liquid line is {approach} over outdoor air: a dirty coil, hot air coming back, or "
        "little subcooling.",
        approach=difference(approach),
    )


def _liquid_under_air(seen: LookCase) -> Said | None:
    approach = seen.case.derived.approach
    if approach is None or approach >= -UNDER_AMBIENT_K:
        return None
    return say(
        "The liquid line reads {under} under outdoor air, which a condenser cannot do. Check both "
        "probes first; if they are right, look for a restriction before this clamp.",
        under=difference(-approach),
    )


def _approach_moved(seen: LookCase) -> Said | None:
    approach, own = seen.case.derived.approach, seen.own.approach
    if approach is None or own is None or abs(approach - own) <= APPROACH_DRIFT_K:
        return None
    return say(
        "Approach is {now}; it was {own} when this system was right.",
        now=difference(approach),
        own=difference(own),
    )


def _plate_approach(seen: LookCase) -> Said | None:
    approach, window = seen.case.derived.approach, seen.targets.windows.get("approach")
    if approach is None or window is None or window.place(approach) == "in":
        return None
    return say(
        "Approach {now} is outside the plate's {low} to {high}.",
        now=difference(approach),
        low=Measure(window.low, Quantity.TEMPERATURE_DIFFERENCE, bare=True),
        high=difference(window.high),
    )


def _step(seen: LookCase) -> Said | None:
    drop = max(
        (seen.case.derived.get(k) or 0.0 for k in ("liquid_line_drop", "drier_drop")), default=0.0
    )
    if drop < STEP_K:
        return None
    return say("A step of {drop} along the liquid line is a restriction.", drop=difference(drop))


LOOK_RULES: tuple[LookRule, ...] = (
    LookRule("superheat_looks_off", "Estimated superheat off its window by more than its own ±.",
             _estimated("superheat", "Superheat")),
    LookRule("subcooling_looks_off", "Estimated subcooling outside its window by more than its own "
             "±.", _estimated("subcooling", "Subcooling")),
    LookRule("split_off", "The split is not what this air and airflow should give.", _split),
    LookRule("suction_line_cold", "A suction line under 36 °F is liquid or ice.", _cold_suction),
    LookRule("liquid_far_over_air", "A liquid line over 25 °F above outdoor air is trouble in "
             "anything.", _liquid_over_air),
    LookRule("liquid_under_air", "Liquid colder than its air is a probe or a restriction.",
             _liquid_under_air),
    LookRule("approach_off_plate", "The plate's approach ±2 °F.", _plate_approach),
    LookRule("approach_moved", "4 °F from this system's own approach is more than the probes.",
             _approach_moved),
    LookRule("liquid_line_step", "5 °F or more along the liquid line or drier.", _step),
)  # fmt: skip
