"""How a multi-zone plant is built: its units, its pipes, its charge, and the laws it follows.

Coarse on purpose: what a day's log shows hangs on which valve opens, what comes to it and how the
compressor answers, not on a coil's rows. Usual of the trade; the numbers are ours.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal, Protocol, TypeVar

from nudge.plant.fluid import load_fluid

Serves = Literal["cooling", "heating", "mixed"]
_One = TypeVar("_One")


class Chance(Protocol):
    """A seeded generator, handed in."""

    def uniform(self, a: float, b: float) -> float: ...
    def gauss(self, mu: float, sigma: float) -> float: ...
    def randint(self, a: int, b: int) -> int: ...
    def random(self) -> float: ...
    def choice(self, seq: Sequence[_One]) -> _One: ...


FLUID = "R-410A"
STEPS = 480
"""A valve's whole way; 0 is shut."""
TARGET_C, HOLDS_C = 1.0, 49.0
"""What the compressor holds: evaporating where it cools, condensing where it heats."""
RATED_OUT_C, RATED_ROOM_C, RATED_COIL_K = 35.0, 27.0, 17.0
EFFECT_KJ_KG = 165.0
"""What a kilogram takes up in a coil at the rating."""


@dataclass(frozen=True, slots=True)
class Laws:
    """How a plant behaves where books differ: one set a family of cousins."""

    valve: float = 1.0
    """Flow over opening to this power."""
    flash: float = 9.0
    """A valve passes 1 / (1 + flash × quality) of its liquid flow."""
    wets: float = 4.0
    """How fast a coil’s outlet goes from dry to wet: transfer units of its dry end."""
    losses: float = 1.9
    """Suction loss over flow to this power."""
    fills: float = 1.0
    """Subcooling over the liquid that is left, 1 by an exponential, 0 by a straight line."""
    gain: float = 1.0
    """How briskly valves and compressor are led."""
    pumps: float = 0.03
    """Clearance of the compressor."""
    stores: float = 1.0
    """What rooms hold besides their air, in times of the usual."""
    drains: float = 1.0
    """How fast an accumulator gives its liquid back."""
    lag_s: float = 40.0
    noise_k: float = 0.12
    sun_kw: float = 1.0


FAMILIES: dict[str, Laws] = {
    "home": Laws(),
    "valves": Laws(valve=1.35, flash=5.0, gain=0.8),
    "coils": Laws(wets=2.4, lag_s=70.0),
    "fills": Laws(fills=0.0, flash=14.0, drains=0.6),
    "pipes": Laws(losses=1.6, wets=5.5, lag_s=25.0),
    "led": Laws(gain=1.7, valve=0.85),
    "pumps": Laws(pumps=0.07, drains=1.6, noise_k=0.2),
    "houses": Laws(stores=2.2, sun_kw=1.5, noise_k=0.08),
}
"""Families of cousins, each different in laws."""


@dataclass(frozen=True, slots=True)
class Unit:
    """An indoor unit with its room."""

    name: str
    kw: float
    lift_m: float
    """Its height over the outdoor unit; under it is negative."""
    length_m: float
    set_c: float
    load: float
    """The room's usual load, in shares of the unit."""
    loss_kw_k: float
    store_kj_k: float
    ports: int = 1
    heats: bool = False
    """Where the plant serves both, this room wants heat today."""

    @property
    def ua_kw_k(self) -> float:
        return self.kw / RATED_COIL_K

    @property
    def valve_kg_s(self) -> float:
        """Flow with the valve wide open at the rating's pressures: twice what it is asked."""
        return 2.0 * self.kw / EFFECT_KJ_KG


@dataclass(frozen=True, slots=True)
class ZonePlant:
    """One outdoor unit and what hangs on it."""

    kw: float
    units: tuple[Unit, ...]
    serves: Serves
    laws: Laws
    outdoor_c: float
    swing_k: float
    charge_kg: float
    pipes_kg: float

    @property
    def combination(self) -> float:
        """Indoor over outdoor capacity."""
        return sum(unit.kw for unit in self.units) / self.kw

    @property
    def left_kg(self) -> float:
        """Liquid that the condenser is meant to hold at full work."""
        return 0.11 * self.kw

    @property
    def needs_kg(self) -> float:
        """What everything else holds with every unit at work."""
        return self.pipes_kg + sum(0.055 * unit.kw for unit in self.units) + 0.12 * self.kw

    @property
    def full_kg(self) -> float:
        """What fills the accumulator."""
        return 0.18 * self.kw

    @property
    def flow_kg_s(self) -> float:
        return self.kw / EFFECT_KJ_KG

    @property
    def sweeps(self) -> float:
        """Volume per hertz that carries the rating at 75 Hz [m³/s/Hz]."""
        fluid = load_fluid(FLUID)
        rho = fluid.at(fluid.dew_kpa(TARGET_C)).vapour_rho
        return self.flow_kg_s / rho / 75.0


def built(rng: Chance, serves: Serves, laws: Laws, units: int | None = None) -> ZonePlant:
    """A plant of 2 to 16 rooms as they are met, its charge right."""
    count = units or rng.randint(2, 16)
    storeys = max(1, round(count / rng.uniform(1.5, 3.0)))
    below = rng.random() < 0.75  # the plant stands on the roof
    made = []
    for n in range(count):
        kw = rng.choice((2.2, 2.8, 3.6, 4.5, 5.6, 7.1, 9.0))
        storey = 1 + n % storeys
        lift = (-1 if below else 1) * 3.3 * storey
        set_c = rng.uniform(22.0, 25.5) if serves == "cooling" else rng.uniform(19.5, 22.5)
        made.append(
            Unit(
                f"{storey}.{1 + n // storeys}",
                kw,
                lift,
                12.0 + abs(lift) + rng.uniform(0.0, 25.0),
                set_c,
                rng.uniform(0.45, 0.8),
                kw * rng.uniform(0.05, 0.075),
                kw * rng.uniform(220.0, 420.0),
                2 if kw > 7.5 else 1,
                serves == "mixed" and rng.random() < 0.35,
            )
        )
    indoor = sum(unit.kw for unit in made)
    kw = indoor / rng.uniform(0.85, 1.15)
    hot = rng.uniform(26.0, 36.0)
    outdoor = {"cooling": hot, "heating": rng.uniform(-5.0, 9.0), "mixed": rng.uniform(13.0, 22.0)}
    pipes = sum(unit.length_m * 0.024 for unit in made) + 0.05 * kw
    plant = ZonePlant(
        kw, tuple(made), serves, laws, outdoor[serves], rng.uniform(1.0, 4.0), 0.0, pipes
    )
    right = plant.needs_kg + plant.left_kg
    return replace(plant, charge_kg=right * rng.uniform(0.985, 1.015))


def oversubscribed(plant: ZonePlant, amount: float) -> ZonePlant:
    """The same rooms on an outdoor unit too small for them, on days that ask for all of it."""
    units = tuple(replace(unit, load=min(1.25 * unit.load, 0.98)) for unit in plant.units)
    small = replace(plant, kw=plant.kw / (1 + amount), units=units)
    return replace(small, charge_kg=small.needs_kg + small.left_kg)
