"""What a box's log shows by itself: defrosts, open doors, pull-downs, each from when to when.

The coil's outlet tells a defrost surely: only heat makes it warmer than its box. Where nobody
clamped it, a rise well over the thermostat's own, too slow for a door, is taken for one. A door is
the only thing that warms a box fast. Rows with their reasons are in `RULES`.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from statistics import median
from types import MappingProxyType
from typing import Literal

from nudge.core.physics.cold_room.pull_down import NEAR_K
from nudge.core.settling.trace import Trace

BoxEventKind = Literal["defrost", "door", "pull_down"]
DOOR_STEPS = 3
"""A door’s rise is counted over so many steps: one alone may be a sensor’s noise."""
STEP_S = 60.0
"""A log is looked at in steps of this: a box's air moves no faster."""
LABELS: Mapping[BoxEventKind, str] = MappingProxyType(
    {"defrost": "Defrost", "door": "Door open", "pull_down": "Pull-down"}
)


@dataclass(frozen=True, slots=True)
class BoxRule:
    """One threshold of the reading of a box's log."""

    key: str
    value: float
    unit: str
    reason: str


RULES: Mapping[str, BoxRule] = MappingProxyType(
    {
        row.key: row
        for row in (
            BoxRule("heated", 3.0, "K", "a coil is over its box only while it is heated"),
            BoxRule("cold_again", 0.5, "K", "under its box again by this, the coil boils"),
            BoxRule("shortest_defrost", 240.0, "s", "shorter is a clamp that was touched"),
            BoxRule("over_usual", 1.5, "K", "a defrost warms a box so much over its usual swing"),
            BoxRule("longest_defrost", 4500.0, "s", "no defrost lasts longer than this"),
            BoxRule("door_rate", 0.30, "K/min", "walls and goods never warm a box so fast"),
            BoxRule("door_rise", 0.7, "K", "less is the sensor in a breath of air"),
            BoxRule("shortest_pull_down", 1200.0, "s", "shorter it is a door or a defrost"),
        )
    }
)


@dataclass(frozen=True, slots=True)
class BoxEvent:
    """One thing that happened to a box; `ends_s` None while it lasts at the log's end."""

    kind: BoxEventKind
    begins_s: float
    ends_s: float | None

    def covers(self, second: float) -> bool:
        return self.begins_s <= second and (self.ends_s is None or second <= self.ends_s)


def box_events(box: Trace, coil: Trace | None, set_c: float | None) -> list[BoxEvent]:
    """What a box's air [°C] shows, with its coil's outlet where that was clamped; oldest first."""
    air = _stepped(box)
    if len(air.values) < 3:
        return []
    outlet = None if coil is None else _stepped(coil)
    watched = outlet is not None and bool(outlet.values)
    defrosts = list(_heated(air, outlet)) if outlet is not None and watched else []
    doors = [one for one in _doors(air) if not _in_any(one.begins_s, defrosts)]
    if not watched:
        defrosts = [one for one in _humps(air) if not any(one.covers(d.begins_s) for d in doors)]
    found = [*defrosts, *doors]
    if set_c is not None:
        found += _pull_downs(air, set_c + NEAR_K, found)
    return sorted(found, key=lambda one: one.begins_s)


def clear_of(events: Sequence[BoxEvent], kind: BoxEventKind, now_s: float) -> float | None:
    """Minutes since the last such event ended; 0 in one, None where there was none."""
    ends = [now_s if one.ends_s is None else one.ends_s for one in events if one.kind == kind]
    return None if not ends else max(now_s - max(ends), 0.0) / 60


def _rule(key: str) -> float:
    return RULES[key].value


def _in_any(second: float, events: Sequence[BoxEvent]) -> bool:
    return any(event.covers(second) for event in events)


def _stepped(trace: Trace) -> Trace:
    """A trace in even steps, each the mean of what fell into it; holes are left out."""
    rows: dict[int, list[float]] = {}
    for second, value in zip(trace.seconds, trace.values, strict=True):
        rows.setdefault(int(second // STEP_S), []).append(value)
    steps = sorted(rows)
    return Trace(
        tuple((step + 0.5) * STEP_S for step in steps),
        tuple(sum(rows[step]) / len(rows[step]) for step in steps),
    )


def _heated(box: Trace, coil: Trace) -> Iterator[BoxEvent]:
    """Spans in which the coil is over its box; each begins where the coil left the cold."""
    air = dict(zip(box.seconds, box.values, strict=True))
    rows = [
        (second, value - air[second])
        for second, value in zip(coil.seconds, coil.values, strict=True)
        if second in air
    ]
    begun: float | None = None
    was_cold = rows[0][0] if rows else 0.0
    for second, over_k in rows:
        if over_k < -_rule("cold_again"):
            if begun is not None and second - begun >= _rule("shortest_defrost"):
                yield BoxEvent("defrost", begun, second)
            begun, was_cold = None, second
        elif over_k >= _rule("heated") and begun is None:
            begun = was_cold
    if begun is not None and rows[-1][0] - begun >= _rule("shortest_defrost"):
        yield BoxEvent("defrost", begun, None)


def _rises(air: Trace) -> list[tuple[float, float, float, float]]:
    """Every rise from a trough to the peak after it: both moments and both values."""
    found, rows = [], list(zip(air.seconds, air.values, strict=True))
    low = high = rows[0]
    for row in rows[1:]:
        if row[1] > high[1]:
            high = row
        if high[1] - row[1] > _rule("door_rise") or row[1] < low[1]:
            if high[1] - low[1] > _rule("door_rise"):
                found.append((low[0], low[1], high[0], high[1]))
            low = high = row
    if high[1] - low[1] > _rule("door_rise"):
        found.append((low[0], low[1], high[0], high[1]))
    return found


def _doors(air: Trace) -> Iterator[BoxEvent]:
    """Fast rises, until the air is half way back."""
    rows = list(zip(air.seconds, air.values, strict=True))
    begun: tuple[float, float] | None = None
    peak = rows[0][1]
    for (then, before), (second, value) in zip(rows, rows[DOOR_STEPS:], strict=False):
        if begun is None:
            rate = (value - before) / ((second - then) / 60)
            if rate >= _rule("door_rate"):
                begun, peak = (then, before), value
            continue
        peak = max(peak, value)
        if value <= (peak + begun[1]) / 2:
            if peak - begun[1] >= _rule("door_rise"):
                yield BoxEvent("door", begun[0], second)
            begun = None
    if begun is not None and peak - begun[1] >= _rule("door_rise"):
        yield BoxEvent("door", begun[0], None)


def _humps(air: Trace) -> Iterator[BoxEvent]:
    """Slow rises well over the usual swing of the thermostat."""
    rises = _rises(air)
    if len(rises) < 3:
        return
    usual = median(high - low for _, low, _, high in rises)
    for begins, low, peaks, high in rises:
        is_large = high - low >= usual + _rule("over_usual")
        if is_large and peaks - begins <= _rule("longest_defrost"):
            back = (
                second
                for second, value in zip(air.seconds, air.values, strict=True)
                if second > peaks and value <= low + usual
            )
            yield BoxEvent("defrost", begins, next(back, None))


def _pull_downs(air: Trace, near_c: float, others: Sequence[BoxEvent]) -> Iterator[BoxEvent]:
    """Spans over what is near the set point that no defrost and no door explains."""
    begun: float | None = None
    for second, value in zip(air.seconds, air.values, strict=True):
        if value > near_c:
            begun = second if begun is None else begun
            continue
        if begun is not None and _lasts(begun, second, others):
            yield BoxEvent("pull_down", begun, second)
        begun = None
    if begun is not None and _lasts(begun, air.seconds[-1], others):
        yield BoxEvent("pull_down", begun, None)


def _lasts(begun: float, until: float, others: Sequence[BoxEvent]) -> bool:
    covered = sum(
        max(min(until, one.ends_s or until) - max(begun, one.begins_s), 0.0) for one in others
    )
    return until - begun - covered >= _rule("shortest_pull_down")
