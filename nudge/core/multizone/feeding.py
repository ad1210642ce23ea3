"""How far a coil is filled, and what its valve passes for the steps it shows.

A coil's outlet tells how much of it boils (or, where it heats, condenses): none of it where the
outlet has come to the room's air, all of it where outlet and inlet are alike. So much of the coil,
times what drives it, is what the valve passes. Beside its steps that parts a valve that passes less
than it shows, little, nothing, or far more.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import isnan, log
from statistics import fmean

from nudge.core.physics.zones.log import ZoneLog
from nudge.core.physics.zones.parts import IndoorUnit
from nudge.core.physics.zones.points import OUTDOOR

LEAST_SPAN_K, LEAST_FILL = 3.0, 0.02
"""Air and coil nearer than this do no work: the coil is as good as empty."""
LEAST_FED_K, LEAST_STEPS = 0.05, 0.05
"""Under these a ratio says no more than that there is none."""


@dataclass(frozen=True, slots=True)
class Feeding:
    """One coil while it counts: its fill, 0 to 1, and the log of what its valve passes a step."""

    fill: float
    fed: float


def feeding(
    zone_log: ZoneLog, unit: IndoorUnit, on: Sequence[int], heats: Callable[[int], bool]
) -> Feeding | None:
    """The feeding of a room's coil over the samples `on`; None where it cannot be read."""
    key = unit.key
    air = zone_log.column(key, "return_air") or zone_log.column(key, "room_temp")
    steps, outlet = zone_log.column(key, "valve_steps"), zone_log.column(key, "coil_outlet")
    inlet, warm = zone_log.column(key, "coil_inlet"), zone_log.column(OUTDOOR, "condensing_temp")
    if air is None or steps is None or outlet is None:
        return None
    fills, works, opens = list[float](), list[float](), list[float]()
    for i in on:
        starts = warm if heats(i) else inlet
        if starts is None:
            continue
        way = -1.0 if heats(i) else 1.0
        span, gap = way * (air[i] - starts[i]), way * (outlet[i] - starts[i])
        if isnan(span) or isnan(gap) or isnan(steps[i]):
            continue
        fill = min(max(1 - gap / span, LEAST_FILL), 1.0) if span > LEAST_SPAN_K else LEAST_FILL
        fills.append(fill)
        works.append(fill * max(span, LEAST_SPAN_K))
        opens.append(steps[i] / unit.wide_steps)
    if not fills:
        return None
    return Feeding(
        fmean(fills), log(max(fmean(works), LEAST_FED_K) / max(fmean(opens), LEAST_STEPS))
    )
