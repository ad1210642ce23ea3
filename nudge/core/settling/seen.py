"""What the instruments of a visit gave, as the cross-checks look at it."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field

from nudge.core.language.said import Said
from nudge.core.language.units import atmospheric_kpa
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.settling.trace import Trace


@dataclass(frozen=True, slots=True)
class Seen:
    """What the instruments gave: raw traces of the last minutes, and what stood before start.

    `mean` are the present values, `standing` those from before the start, core units; `placed`
    every point with an instrument on it; `minutes` since it last started, None while it stands.
    """

    refrigerant: str
    elevation_m: float
    traces: Mapping[str, Trace]
    mean: Mapping[str, float]
    placed: frozenset[str]
    now: float
    minutes: float | None
    standing: Mapping[str, float] = field(default_factory=dict)
    heats: bool = False
    """The coils stand the other way round, and the vapour line is hot."""

    def has(self, *points: str) -> bool:
        return all(point in self.mean for point in points)

    @property
    def dew_c(self) -> float | None:
        kpa = self._absolute("suction_pressure")
        return None if kpa is None else load_table(self.refrigerant).dew.temperature(kpa)

    @property
    def bubble_c(self) -> float | None:
        kpa = self._absolute("liquid_pressure")
        return None if kpa is None else load_table(self.refrigerant).bubble.temperature(kpa)

    def _absolute(self, point: str) -> float | None:
        if point not in self.mean:
            return None
        kpa = self.mean[point] + atmospheric_kpa(self.elevation_m)
        table = load_table(self.refrigerant)
        return kpa if table.low_kpa <= kpa <= table.high_kpa else None

    def ran(self, minutes: float) -> bool:
        return self.minutes is not None and self.minutes >= minutes


@dataclass(frozen=True, slots=True)
class Lie:
    """A probe that does not tell the truth: its point, what shows it, what to do."""

    check: str
    point: str
    said: Said
    swap_with: str = ""


@dataclass(frozen=True, slots=True)
class ProbeCheck:
    """One row: when it looks, why it is right, how it finds the probe."""

    key: str
    reason: str
    finds: Callable[[Seen], Iterator[Lie]]
    only_cooling: bool = False
    """It rests on where a cooling machine is hot and cold."""
