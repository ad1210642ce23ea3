"""A simulated system on the bench of the charging studies: read, dosed, waited for."""

from collections.abc import Sequence
from dataclasses import replace
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.language.units import atmospheric_kpa
from nudge.core.language.vocabulary.accuracy import accuracy_of
from nudge.core.physics.circuit.equipment import MeteringDevice
from nudge.plant.faults import Present, spoiled
from nudge.plant.machine import Conditions
from nudge.plant.steady import steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import air_of
from tools.sweep import NOT_READ, Site

NOISE = 0.12
"""Of an instrument's limit: what differs from one reading to the next (1 σ)."""


BIAS = 0.30
"""Of its limit: what a zeroed, well clamped instrument is off for a whole visit (1 σ)."""


SETTLED_MINUTES = 40.0


SEEN = frozenset(
    {
        "filter_clean",
        "evaporator_coil_clean",
        "condenser_coil_clean",
        "condenser_fan_ok",
        "readings_confirmed",
        "blower_capacitor_ok",
        "circuit_never_opened",
    }
)


class Rig:
    """A system on its roof: its charge, the weather and house as they drift, its instruments."""

    def __init__(self, of: Site, share: float, rng: Random, faults: Sequence[Present] = ()) -> None:
        self.of, self.rng, self.faults = of, rng, tuple(faults)
        self.charge_kg = of.right_kg * share
        self.minutes, self.touched = SETTLED_MINUTES, 0.0
        self.kpa = atmospheric_kpa(of.plate.elevation_m)
        self.seen: frozenset[str] = SEEN
        self.flooded = False
        self._begin_day()

    def _begin_day(self) -> None:
        rng = self.rng
        cold = any(present.key == "low_ambient" for present in self.faults)
        self.outdoor = rng.uniform(23, 27) if cold else rng.uniform(25, 37)
        self.indoor, self.humidity = rng.uniform(23.3, 27.0), rng.uniform(42, 56)
        self.outdoor_drift, self.indoor_drift = rng.uniform(-1.5, 2), rng.uniform(-1.2, 0.3)
        self._bias: dict[str, float] = {}

    def come_again(self) -> None:
        """Another day: other weather, instruments put on anew, the system long running."""
        self.minutes, self.touched = SETTLED_MINUTES, 0.0
        self._begin_day()

    def truth(self) -> dict[str, float]:
        hours = (self.minutes - SETTLED_MINUTES) / 60
        indoor = max(self.indoor + self.indoor_drift * hours, 22.0)
        held = Conditions(
            air_of(indoor, self.humidity, self.kpa),
            air_of(self.outdoor + self.outdoor_drift * hours, 45, self.kpa),
            self.charge_kg,
        )
        return running_truth(steady(*spoiled(self.of.machine, held, self.faults)))

    def read(self) -> dict[str, float]:
        """Every point as its instrument shows it."""
        found = {}
        for point, value in self.truth().items():
            if point in NOT_READ:
                continue
            limit = accuracy_of(point).limit(value)
            bias = self._bias.setdefault(point, self.rng.gauss(0, BIAS * limit))
            found[point] = value + bias + self.rng.gauss(0, NOISE * limit)
        return found

    def put_on_anew(self, point: str) -> bool:
        """Another instrument at a point; False where none was there."""
        return self._bias.pop(point, None) is not None

    def give(self, kg: float) -> None:
        self.charge_kg += kg
        self.touched = self.minutes

    def wait(self, minutes: float) -> None:
        self.minutes += minutes

    @property
    def context(self) -> Context:
        since = self.minutes - self.touched
        return Context(self.minutes, since, self.seen)


def with_charge(of: Site, rng: Random) -> Site:
    """Its plate with the charge it was built for, as a maker states it."""
    plate = replace(of.plate, factory_charge_kg=of.right_kg * rng.gauss(1, 0.04))
    if rng.random() < 0.25 and plate.metering_device is MeteringDevice.TXV:
        plate = replace(plate, metering_device=MeteringDevice.EEV)
    return replace(of, plate=plate)
