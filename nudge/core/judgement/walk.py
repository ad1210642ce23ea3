"""The temperature walk: the liquid line station by station, each stretch judged by its drop."""

from dataclasses import dataclass
from typing import Literal

from nudge.core.behaviours.case import Case
from nudge.core.language.said import Said, difference, say
from nudge.core.language.units import degrees_f

StretchState = Literal["normal", "watch", "restricted"]
NOISE_K = degrees_f(2)
"""A line that gets warmer by more than this on its way was misread, or lies in the sun."""


@dataclass(frozen=True, slots=True)
class Stretch:
    """One row: from one station to the next, and the drops [K] that matter there."""

    key: str
    label: str
    start: str
    end: str
    watch_k: float
    restricted_k: float
    found: str
    reason: str


@dataclass(frozen=True, slots=True)
class Walked:
    """A stretch with both its ends read."""

    stretch: Stretch
    drop_k: float
    state: StretchState
    said: Said


_LINE = "Between two clamps on bare line {d1} to {d3} is normal, {d5} or more is a restriction."
_DRIER = "Across a drier {d1} to {d2} is normal, {d3} to {d4} is to be watched, {d5} is plugged."
STATIONS = (
    "liquid_line_temp",
    "drier_inlet_temp",
    "drier_outlet_temp",
    "liquid_line_temp_indoor",
    "metering_outlet_temp",
)
"""In the order they are walked: from the outdoor unit to past the metering device."""

STRETCHES: tuple[Stretch, ...] = (
    Stretch("outdoor_to_drier", "from the outdoor unit to the drier", "liquid_line_temp",
            "drier_inlet_temp", degrees_f(3), degrees_f(5), "Look for a kink or a service valve "
            "not fully open.", _LINE),
    Stretch("drier", "across the drier", "drier_inlet_temp", "drier_outlet_temp", degrees_f(3),
            degrees_f(5), "The drier is plugging: renew it.", _DRIER),
    Stretch("drier_to_device", "from the drier to the metering device", "drier_outlet_temp",
            "liquid_line_temp_indoor", degrees_f(3), degrees_f(5), "Look for a kink, a crushed "
            "bend or a strainer on that stretch.", _LINE),
    Stretch("whole_line", "from end to end", "liquid_line_temp", "liquid_line_temp_indoor",
            degrees_f(3), degrees_f(5), "Walk it station by station to find where.", _LINE),
)  # fmt: skip


def walk(case: Case) -> list[Walked]:
    """Every stretch whose two ends are read. End to end only while the stations between are not."""
    found: list[Walked] = []
    for stretch in STRETCHES:
        if stretch.key == "whole_line" and found:
            continue
        start, end = case.readings.get(stretch.start), case.readings.get(stretch.end)
        if start is not None and end is not None:
            found.append(_walked(stretch, start - end))
    return found


def _walked(stretch: Stretch, drop_k: float) -> Walked:
    drop = difference(drop_k)
    if drop_k < -NOISE_K:
        said = say(
            f"It gets warmer {stretch.label}, by {{rise}}: read both again, clean and shaded.",
            rise=difference(-drop_k),
        )
        return Walked(stretch, drop_k, "watch", said)
    if drop_k >= stretch.restricted_k:
        said = say(
            f"It drops {{drop}} {stretch.label}: restricted there. {stretch.found}", drop=drop
        )
        return Walked(stretch, drop_k, "restricted", said)
    if drop_k >= stretch.watch_k:
        words = f"It drops {{drop}} {stretch.label}: more than it should. Read it again."
        said = say(words, drop=drop)
        return Walked(stretch, drop_k, "watch", said)
    return Walked(
        stretch, drop_k, "normal", say(f"It drops {{drop}} {stretch.label}: normal.", drop=drop)
    )
