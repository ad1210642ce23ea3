"""A defrost watched: four events found in the traces, and the part that a missing one names.

Fan current, vapour line and liquid line tell it: the valve turns and the vapour line goes from hot
to cold, the fan stops, the coil warms once its ice is gone, the fan comes back. Trade; the
patterns are those of the form (`checks/defrost.py`).
"""

from collections.abc import Callable
from dataclasses import dataclass
from itertools import pairwise
from statistics import median

from nudge.core.checks.defrost import PATTERNS, TIMED_OUT_MIN, DefrostPattern
from nudge.core.language.said import Measure, Said, minutes, say, temperature
from nudge.core.language.units import Quantity, fahrenheit
from nudge.core.physics.heating.frost import frost_rate, melt_minutes
from nudge.core.settling.trace import Trace
from nudge.core.tests.run import Number, Run, TestOutcome, between, silences, silent_said

VAPOUR, LIQUID, FAN = "suction_line_temp", "liquid_line_temp", "condenser_fan_amps"
BEFORE_S, LEAST_BEFORE_S = 90.0, 20.0
"""What it read as it heated is taken from the first of the run."""
FAN_OFF, FAN_ON = 0.3, 0.6
"""Of its current as it heats: under the one it stands, over the other it runs."""
TURNED_K, TURNED_S, MOVED_K = 15.0, 60.0, 2.0
TURNED_C, COOLED_S = fahrenheit(70), 180.0
"""A valve that turned: the vapour line this much colder within a minute, and no warmer than a room
within three."""
COLD_C, HEATS_C = fahrenheit(50), fahrenheit(85)
"""A vapour line of a defrost, and one that heats."""
ANSWERS_MIN = 3.0
"""A board whose pins are bridged answers within this."""
WARM_C, TOO_WARM_C = fahrenheit(50), fahrenheit(85)
"""A coil that ended it, and one that should have long before."""
LEAST_RISE_K, MIDDLE = 4.0, (0.25, 0.9)
"""The rise of the liquid line at the end, and the part of it that is timed."""
QUICK_S_K = 4.3
"""A whole charge warms a coil that is clear of ice by a kelvin in about so long [s]: measured on
the simulated plant, where it hardly hangs on its size."""
SLOW = 1.5
"""So many times as long is too little heat for it."""
MORE_THAN_MELTS = 0.7
"""Frost that asks for more than this share of the clock's ten minutes proves nothing by being
there at its end."""


@dataclass(frozen=True, slots=True)
class Events:
    """When each of the four came [s]; None while it has not."""

    valve: float | None = None
    fan_off: float | None = None
    vapour: float | None = None
    fan_on: float | None = None

    @property
    def began(self) -> float | None:
        return min((s for s in (self.valve, self.fan_off) if s is not None), default=None)


def events_of(run: Run) -> Events:
    """The four events of the first defrost in a run."""
    fan, vapour = run.trace(FAN), run.trace(VAPOUR)
    usual = _usual(fan, run.began_s)
    off = on = None
    if usual:
        off = _first(fan, lambda amps: amps < FAN_OFF * usual, run.began_s)
        if off is not None:
            on = _first(fan, lambda amps: amps > FAN_ON * usual, off)
    valve = _turned(vapour)
    cold = None if valve is None else _first(vapour, lambda c: c < COLD_C, valve)
    if on is None and off is None and cold is not None:
        on = _first(vapour, lambda c: c > HEATS_C, cold)  # the fan never stopped: it heats again
    return Events(valve, off, cold, on)


def _usual(trace: Trace, since_s: float) -> float | None:
    first = between(trace, since_s, since_s + BEFORE_S).values
    return median(first) if first else None


def _first(trace: Trace, is_so: Callable[[float], bool], since_s: float) -> float | None:
    """The first of two readings in a row that are so."""
    rows = list(zip(trace.seconds, trace.values, strict=True))
    for (second, value), (_, then) in pairwise(rows):
        if second >= since_s and is_so(value) and is_so(then):
            return second
    return None


def _turned(vapour: Trace) -> float | None:
    """When the vapour line began to fall as it does only when the valve turns."""
    start = 0
    for n, second in enumerate(vapour.seconds):
        while second - vapour.seconds[start] > TURNED_S:
            start += 1
        highest = max(range(start, n + 1), key=lambda k: vapour.values[k])
        if vapour.values[highest] - vapour.values[n] >= TURNED_K:
            peak = vapour.values[highest]
            still = [k for k in range(highest, n) if vapour.values[k] > peak - MOVED_K]
            began = vapour.seconds[still[-1] if still else highest]
            after = between(vapour, began, began + COOLED_S).values
            if min(after) < TURNED_C:
                return began
            start = n  # a dip, and no defrost: it is looked for from here on
    return None


def clear_of_defrost(vapour: Trace, now_s: float) -> float | None:
    """Minutes since the last defrost that a vapour line shows ended; 0 in one, None where it shows
    none. `vapour` is its trace of the last minutes while it heats [°C].
    """
    ended = None
    while (turned := _turned(vapour)) is not None:
        cold = _first(vapour, lambda c: c < COLD_C, turned)
        back = None if cold is None else _first(vapour, lambda c: c > HEATS_C, cold)
        if back is None:
            return 0.0
        ended, vapour = back, vapour.since(back)
    return None if ended is None else max(now_s - ended, 0.0) / 60


def judge_defrost(run: Run) -> TestOutcome:
    """What a watched defrost shows so far."""
    for point, what in ((VAPOUR, "The vapour line"), (FAN, "The fan’s current")):
        gaps = silences(run, point)
        if gaps:
            return TestOutcome("cannot_tell", "silent", silent_said(gaps, what))
    fan, vapour = run.trace(FAN), run.trace(VAPOUR)
    if not fan.values or not vapour.values:
        return TestOutcome(
            "running",
            "waiting",
            say("Clamp the vapour line and one lead of the outdoor fan, and let it heat."),
        )
    found = events_of(run)
    if found.began is None:
        return _not_begun(run)
    if found.began - run.began_s < LEAST_BEFORE_S:
        return TestOutcome(
            "cannot_tell",
            "late",
            say("It began before anything was read: watch the next one from its beginning."),
        )
    took = ((found.fan_on or run.until_s) - found.began) / 60
    pattern = _pattern(run, found, took)
    numbers = (*_times(run, found, took), *_coil(run, found))
    if pattern is None and found.fan_on is None:
        return TestOutcome(
            "running",
            "watching",
            say("A defrost: {took} so far.", took=minutes(took)),
            numbers=numbers,
            ready_in=max(TIMED_OUT_MIN - took, 0.0),
        )
    if pattern is None:
        said = say("It defrosts as it should: all four events, {took}.", took=minutes(took))
        return TestOutcome(
            "passed", "works", said, _asides(run, took), numbers, proves=("defrosts",)
        )
    if pattern.key == "more_frost":
        return TestOutcome("cannot_tell", pattern.key, pattern.said, numbers=numbers)
    headline = say(f"Named by what is missing: {pattern.part}.")
    return TestOutcome("failed", pattern.key, headline, (pattern.said,), numbers)


def _not_begun(run: Run) -> TestOutcome:
    asked = run.marked("forced")
    if not asked:
        return TestOutcome(
            "running",
            "heats",
            say("It heats. Wait for a defrost, or bridge the board’s pins and mark it."),
        )
    waited = (run.until_s - asked[-1].at_s) / 60
    if waited < ANSWERS_MIN:
        return TestOutcome(
            "running",
            "asked",
            say("Asked for: it answers within three minutes."),
            ready_in=ANSWERS_MIN - waited,
        )
    row = _row("never_called")
    headline = say(f"Named by what is missing: {row.part}.")
    return TestOutcome("failed", row.key, headline, (row.said,))


MORE_FROST = DefrostPattern(
    "more_frost",
    (True, True, True, True),
    "",
    say(
        "More frost than its ten minutes melt: that proves nothing. Force another one at once and "
        "watch it."
    ),
)


def _row(key: str) -> DefrostPattern:
    return next(row for row in PATTERNS if row.key == key)


def _pattern(run: Run, found: Events, took: float) -> DefrostPattern | None:
    """What is missing, or wrong in what came; None while nothing is."""
    waited_s = run.until_s - (found.began or run.until_s)
    if found.valve is None:
        return _row("valve_stuck") if waited_s > 2 * TURNED_S else None
    if found.fan_off is None:
        return _row("fan_runs_on") if waited_s > 2 * TURNED_S else None
    if found.vapour is None:
        return _row("no_heat_for_it") if waited_s > 3 * TURNED_S else None
    warmest = _warmest(run, found)
    by_clock = took >= TIMED_OUT_MIN - 0.3
    if warmest is not None and warmest > TOO_WARM_C and (by_clock or found.fan_on is None):
        return _row("does_not_end")
    if by_clock and (warmest is None or warmest < WARM_C):
        return MORE_FROST if _asks_for(run) > MORE_THAN_MELTS else _row("no_heat_for_it")
    slow = _warming_s_k(run, found)
    if slow is not None and slow > SLOW * QUICK_S_K:
        return _row("no_heat_for_it")
    return None


def _asks_for(run: Run) -> float:
    """The share of the clock's ten minutes that the frost of this weather asks for; 0 unknown."""
    every, humid = run.number("every"), run.number("humidity")
    outdoor = run.last_of("outdoor_air_temp")
    nominal = run.plate.nominal_capacity_w
    if every is None or humid is None or outdoor is None or nominal is None:
        return 0.0
    frost_kg = frost_rate(outdoor, humid, nominal) * 60 * every
    return melt_minutes(frost_kg, DEFROST_SHARE * nominal) / TIMED_OUT_MIN


DEFROST_SHARE = 0.55
"""Of its nominal cooling, what a defrost has: 20,000 Btu/h of three tons; trade."""


def _warmest(run: Run, found: Events) -> float | None:
    """The liquid line at its warmest in the defrost: as warm as the coil."""
    began = found.vapour or found.began or run.began_s
    values = between(run.trace(LIQUID), began + TURNED_S, found.fan_on or run.until_s).values
    return max(values, default=None)


def _warming_s_k(run: Run, found: Events) -> float | None:
    """Seconds the coil took for each kelvin, once clear of ice, over the middle of its last rise;
    None where it hardly rose.
    """
    end = found.fan_on or run.until_s
    line = between(run.trace(LIQUID), found.vapour or end, end)
    if not line.values:
        return None
    top = max(range(len(line.values)), key=line.values.__getitem__)
    foot = min(range(top + 1), key=line.values.__getitem__)
    low, rose = line.values[foot], line.values[top] - line.values[foot]
    if rose < LEAST_RISE_K:
        return None
    over = [
        next(n for n in range(foot, top + 1) if line.values[n] >= low + share * rose)
        for share in MIDDLE
    ]
    return (line.seconds[over[1]] - line.seconds[over[0]]) / ((MIDDLE[1] - MIDDLE[0]) * rose)


def _times(run: Run, found: Events, took: float) -> tuple[Number, ...]:
    began = found.began or run.began_s
    rows = (
        ("valve", "Valve turned after", found.valve),
        ("fan_off", "Fan stopped after", found.fan_off),
        ("vapour", "Vapour line cold after", found.vapour),
        ("fan_on", "Fan back after", found.fan_on),
    )
    shown = [
        Number(key, label, Measure(s - began, Quantity.SECONDS))
        for key, label, s in rows
        if s is not None
    ]
    return (*shown, Number("took", "It took", Measure(took, Quantity.MINUTES)))


def _coil(run: Run, found: Events) -> tuple[Number, ...]:
    warmest = _warmest(run, found)
    if warmest is None:
        return ()
    return (Number("coil", "Liquid line at its warmest", temperature(warmest)),)


def _asides(run: Run, took: float) -> tuple[Said, ...]:
    """How long is right today, where the weather is known."""
    share = _asks_for(run)
    if share <= 0:
        return ()
    right = share * TIMED_OUT_MIN
    return (
        say(
            "The frost of this weather melts in about {right}; it took {took}.",
            right=minutes(right),
            took=minutes(took),
        ),
    )
