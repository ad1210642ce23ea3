"""A plant's log as columns, and which of it counts: running, past its warm-up, in one mode."""

from array import array
from bisect import bisect_left
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from math import isnan
from statistics import median

from nudge.core.language.errors import CoreError
from nudge.core.physics.zones.points import MODES, OUTDOOR, Address

GAP = float("nan")
WARM_UP_S = 900.0
"""Cut after a start: shell, accumulator and rooms are on their way. Trade rule."""
TURNED_S, OIL_S = 600.0, 240.0
"""Cut after a change of mode, and after an oil return."""
LEAST_GAP_S = 120.0
"""A step longer than this, and than five usual ones, is a gap: what follows is a start."""
HOUR_S = 3600.0
"""So much of a log has to count before anything is judged [s]."""
ROOM_ON_S, ROOM_OFF_S = 300.0, 420.0
"""A coil is met after so long at work, and after so long shut."""


@dataclass(frozen=True)
class ZoneLog:
    """Samples in time order: moments [s] and a column an address; NaN is a gap."""

    times_s: Sequence[float]
    columns: Mapping[Address, Sequence[float]]

    def __post_init__(self) -> None:
        if any(len(column) != len(self.times_s) for column in self.columns.values()):
            raise CoreError("columns", "Every column of a log is as long as its time.")

    @cached_property
    def rooms(self) -> tuple[str, ...]:
        """The indoor units it tells of, in the order they come."""
        return tuple(dict.fromkeys(part for part, _ in self.columns if part != OUTDOOR))

    @cached_property
    def step_s(self) -> float:
        """The usual step [s]."""
        times = self.times_s
        steps = [times[i + 1] - times[i] for i in range(min(len(times) - 1, 2000))]
        return median(steps) if steps else 0.0

    def column(self, part: str, point: str) -> Sequence[float] | None:
        return self.columns.get((part, point))

    @cached_property
    def starts(self) -> tuple[int, ...]:
        """Samples at which the compressor starts, or the log does after a gap."""
        hz, times = self.column(OUTDOOR, "compressor_hz"), self.times_s
        longest = max(5 * self.step_s, LEAST_GAP_S)
        found = []
        for i in range(len(times)):
            broken = i == 0 or times[i] - times[i - 1] > longest
            runs = hz is None or hz[i] > 0
            if runs and (broken or (hz is not None and not hz[i - 1] > 0)):
                found.append(i)
        return tuple(found)

    @cached_property
    def gaps(self) -> tuple[tuple[float, float], ...]:
        """Stretches that nothing was written in [s]."""
        times, longest = self.times_s, max(5 * self.step_s, LEAST_GAP_S)
        return tuple(
            (times[i - 1], times[i])
            for i in range(1, len(times))
            if times[i] - times[i - 1] > longest
        )

    @cached_property
    def turns(self) -> tuple[int, ...]:
        """Samples at which the plant's mode becomes another, oil returns and defrosts with it."""
        mode = self.column(OUTDOOR, "mode")
        if mode is None:
            return ()
        return tuple(
            i
            for i in range(1, len(mode))
            if mode[i] != mode[i - 1] and not (isnan(mode[i]) or isnan(mode[i - 1]))
        )

    @cached_property
    def kept(self) -> tuple[int, ...]:
        """Samples that count."""
        hz, mode, times = (
            self.column(OUTDOOR, "compressor_hz"),
            self.column(OUTDOOR, "mode"),
            self.times_s,
        )
        serves = (float(MODES["cooling"]), float(MODES["heating"]))
        free_at = [times[i] + WARM_UP_S for i in self.starts]
        turned = [times[i] + self._turn_cut_s(i) for i in self.turns]
        found, start, turn = [], -1, -1
        for i, now in enumerate(times):
            while start + 1 < len(self.starts) and self.starts[start + 1] <= i:
                start += 1
            while turn + 1 < len(self.turns) and self.turns[turn + 1] <= i:
                turn += 1
            if hz is not None and not hz[i] > 0:
                continue
            if mode is not None and mode[i] not in serves:
                continue
            if start >= 0 and now < free_at[start]:
                continue
            if turn >= 0 and now < turned[turn]:
                continue
            found.append(i)
        return tuple(found)

    def _turn_cut_s(self, i: int) -> float:
        """How long after a turn nothing counts: an oil return turns nothing round."""
        mode = self.column(OUTDOOR, "mode")
        oil = float(MODES["oil_return"])
        is_oil = mode is not None and oil in (mode[i], mode[i - 1])
        return OIL_S if is_oil else TURNED_S

    @cached_property
    def kept_s(self) -> float:
        """How much of it counts [s]."""
        return len(self.kept) * self.step_s

    @property
    def is_an_hour(self) -> bool:
        return self.kept_s >= HOUR_S

    def at(self, moment_s: float) -> int:
        """The sample nearest before a moment."""
        return max(min(bisect_left(self.times_s, moment_s), len(self.times_s) - 1), 0)


def states(calls: Sequence[float], times: Sequence[float]) -> "array[float]":
    """How long a unit has called [s], or, negative, how long it has not."""
    found = array("d")
    since, was = times[0] if times else 0.0, None
    for now, value in zip(times, calls, strict=True):
        on = value > 0.5
        if on != was:
            since, was = now, on
        found.append(now - since if on else since - now - 1e-9)
    return found
