"""A defrost that was forced or waited for: four events, and the part a missing one names."""

from collections.abc import Mapping
from dataclasses import dataclass

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity
from nudge.core.physics.heating.frost import LONG_MIN, OFTEN_MIN, frost_rate, melt_minutes

SHORTEST_MIN, TIMED_OUT_MIN = 0.5, 10.0
"""A defrost ends by its coil at 50 to 70 °F, else by the clock after 10 to 14 minutes."""
MUCH_LONGER = 3.0
"""A defrost this many times as long as its frost needs is a finding."""


@dataclass(frozen=True, slots=True)
class DefrostEvent:
    """One of the four, in the order they come."""

    key: str
    label: str


EVENTS: tuple[DefrostEvent, ...] = (
    DefrostEvent("valve", "Reversing valve shifted: a rush of gas"),
    DefrostEvent("fan_off", "Outdoor fan stopped"),
    DefrostEvent("vapour", "Vapour line turned cold"),
    DefrostEvent("fan_on", "Fan came back, and it heats again"),
)


@dataclass(frozen=True, slots=True)
class DefrostPattern:
    """What a pattern of the four names: `seen` by event, None where it says nothing."""

    key: str
    seen: tuple[bool | None, bool | None, bool | None, bool | None]
    part: str
    said: Said


PATTERNS: tuple[DefrostPattern, ...] = (
    DefrostPattern(
        "never_called",
        (False, False, None, None),
        "board or sensor",
        say(
            "Neither valve nor fan answered: the board never called it. Its sensor must be cold "
            "and closed; force it at the board's pins. Still nothing: the board."
        ),
    ),
    DefrostPattern(
        "valve_stuck",
        (False, True, None, None),
        "reversing valve",
        say(
            "The fan stopped and the valve did not shift: 24 volts at its coil? With voltage the "
            "valve is stuck, without it board or wire."
        ),
    ),
    DefrostPattern(
        "fan_runs_on",
        (True, False, None, None),
        "fan relay",
        say(
            "The valve shifted and the fan ran on: it blows the heat away. The defrost relay on "
            "the board does not open."
        ),
    ),
    DefrostPattern(
        "no_heat_for_it",
        (True, True, False, None),
        "valve half way, or low charge",
        say(
            "Both answered and the vapour line stayed warm: the valve stands half way, or there is "
            "too little refrigerant to carry the heat. Feel the valve's four pipes; charge is "
            "weighed, or judged in cooling."
        ),
    ),
    DefrostPattern(
        "does_not_end",
        (True, True, True, False),
        "coil sensor or board",
        say(
            "It did not end by itself: the sensor does not feel the coil warm, or the board's "
            "relay sticks."
        ),
    ),
)
"""In this order; the first that fits. All four seen is a defrost that works."""


@dataclass(frozen=True, slots=True)
class DefrostSeen:
    """What was seen: events by key, how long it took and how often it comes [min]; weather."""

    events: Mapping[str, bool]
    minutes: float | None = None
    every: float | None = None
    outdoor_c: float | None = None
    humidity: float | None = None
    nominal_w: float | None = None


def read_defrost(seen: DefrostSeen) -> tuple[DefrostPattern | None, tuple[Said, ...]]:
    """The part a missing event names, None where all came; and what else it says."""
    marks = [seen.events.get(event.key) for event in EVENTS]
    for row in PATTERNS:
        if all(want is None or want == mark for want, mark in zip(row.seen, marks, strict=True)):
            return row, (row.said,)
    return None, tuple(_length(seen))


def _length(seen: DefrostSeen) -> list[Said]:
    found: list[Said] = []
    took, every = seen.minutes, seen.every
    if took is not None and every is not None and took >= LONG_MIN and every <= OFTEN_MIN:
        found.append(
            say(
                "{took} in every {every}: no weather asks for that. Air over the coil, charge, or "
                "a sensor that never feels it warm.",
                took=_minutes(took),
                every=_minutes(every),
            )
        )
    elif took is not None and took >= TIMED_OUT_MIN:
        found.append(
            say(
                "It ended by the clock after {took}, not by its coil: the sensor off the coil, or "
                "too little heat.",
                took=_minutes(took),
            )
        )
    right = _right_minutes(seen)
    if right is not None and took is not None:
        frost = (
            "Frost of that time melts in about {right}."
            if right >= SHORTEST_MIN
            else "There is hardly any frost to melt in this weather."
        )
        found.append(say(frost, right=_minutes(right)) if "{" in frost else say(frost))
    return found


def is_too_long(seen: DefrostSeen) -> bool:
    """Whether it took far longer than its frost needs, or ended by the clock."""
    if seen.minutes is None:
        return False
    right = _right_minutes(seen)
    longest = TIMED_OUT_MIN if right is None else max(MUCH_LONGER * right, SHORTEST_MIN + 4)
    return seen.minutes >= min(longest, TIMED_OUT_MIN)


def _right_minutes(seen: DefrostSeen) -> float | None:
    if None in (seen.every, seen.outdoor_c, seen.humidity, seen.nominal_w):
        return None
    assert seen.outdoor_c is not None
    assert seen.humidity is not None
    assert seen.nominal_w is not None
    rate = frost_rate(seen.outdoor_c, seen.humidity, seen.nominal_w)
    return melt_minutes(rate * 60 * (seen.every or 0.0))


def _minutes(value: float) -> Measure:
    return Measure(value, Quantity.MINUTES)
