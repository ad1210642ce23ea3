"""Three tests by temperatures alone: condenser's drop, air's drop, outlet over vent.

All three or no verdict: each alone passes much that is wrong. With two evaporators on one circuit
the air's and the outlet's are taken at each; what feeds one right has enough for both. Windows by
trade. The least air drop is 30 °F in dry air, less in humid: the coil's heat goes into water first.
The same enthalpy is taken from the air that enters, as 36 °F of dry air at 99 °F and 12 % give up;
it leaves at 95 % where it is cooled past its dew point. Source: ASHRAE Fundamentals 2017,
chapter 1.
"""

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from nudge.core.language.errors import CoreError
from nudge.core.language.units import degrees_f, fahrenheit
from nudge.core.language.vocabulary.points import Readings
from nudge.core.physics.air.moist_air import moist_air

CONDENSER_K = (degrees_f(20), degrees_f(50))
AIR_LEAST_K = degrees_f(30)
OVER_VENT_K = (degrees_f(-2), degrees_f(10))
"""Evaporator's outlet over vent air: 0 to 10 °F; 2 under is a probe's."""
DRY_DROP_K = degrees_f(36)
DRY_C, DRY_RH, LEAVES_RH = fahrenheit(99), 12.0, 95.0
COLD_ENGINE_C = fahrenheit(160)
"""Coolant under this: the engine is not warm, and nor is its heater's valve at rest."""
EXCHANGED_K = degrees_f(2)
HALVINGS = 30
POINTS = (
    "condenser_inlet_line_temp",
    "condenser_outlet_line_temp",
    "condenser_entering_air_temp",
    "return_air_wet_bulb",
)
"""What the three need besides an evaporator's own."""

Place = Literal["unread", "under", "in", "over"]


@dataclass(frozen=True, slots=True)
class CoilSpot:
    """Where an evaporator is read: the name it goes by beside another, and its points."""

    name: str
    vent: str
    outlet: str
    inlet: str

    @property
    def points(self) -> tuple[str, str]:
        """What cannot be left out."""
        return self.vent, self.outlet


FRONT = CoilSpot("front", "vent_air_temp", "evaporator_outlet_temp", "evaporator_inlet_line_temp")
REAR = CoilSpot(
    "rear", "rear_vent_air_temp", "rear_evaporator_outlet_temp", "rear_evaporator_inlet_line_temp"
)


@dataclass(frozen=True, slots=True)
class CoilTests:
    """The two tests of one evaporator [K]; None where a reading lacks."""

    spot: CoilSpot
    air_k: float | None
    over_vent_k: float | None
    """Evaporator's outlet over vent air, or over its own inlet line where that was clamped."""
    by_inlet: bool
    least_air_k: float | None
    """The least air drop at this humidity; None without a wet bulb."""

    @property
    def air(self) -> Place:
        if self.air_k is None or self.least_air_k is None:
            return "unread"
        return "in" if self.air_k >= self.least_air_k else "under"

    @property
    def over_vent(self) -> Place:
        return _place(self.over_vent_k, *OVER_VENT_K)

    @property
    def off_by(self) -> float:
        """How far the outlet stands out of its window [K]; 0 within, and unread."""
        if self.over_vent_k is None:
            return 0.0
        low, high = OVER_VENT_K
        return max(low - self.over_vent_k, self.over_vent_k - high, 0.0)


@dataclass(frozen=True, slots=True)
class ThreeTests:
    """What was measured [K]; None where a reading lacks."""

    condenser_k: float | None
    coils: tuple[CoilTests, ...]
    """The evaporator, or the front one and the rear one."""

    @property
    def condenser(self) -> Place:
        return _place(self.condenser_k, *CONDENSER_K)

    @property
    def has_two(self) -> bool:
        return len(self.coils) > 1

    @property
    def places(self) -> tuple[Place, ...]:
        """Where every test stands."""
        return (self.condenser, *(p for coil in self.coils for p in (coil.air, coil.over_vent)))

    @property
    def all_read(self) -> bool:
        return "unread" not in self.places

    @property
    def passes(self) -> bool:
        return set(self.places) == {"in"}


def _place(value: float | None, low: float, high: float) -> Place:
    if value is None:
        return "unread"
    if value < low:
        return "under"
    return "over" if value > high else "in"


def three_tests(readings: Readings, elevation_m: float, has_two: bool = False) -> ThreeTests:
    """The tests by their readings (core units), at an elevation [m]; of both evaporators where it
    `has_two`.
    """
    read = readings.get
    enters, wet = read("condenser_entering_air_temp"), read("return_air_wet_bulb")
    least = None
    if enters is not None and wet is not None:
        least = least_air_drop(enters, wet, elevation_m)
    return ThreeTests(
        _minus(read("condenser_inlet_line_temp"), read("condenser_outlet_line_temp")),
        tuple(
            _coil(spot, readings, enters, least)
            for spot in ((FRONT, REAR) if has_two else (FRONT,))
        ),
    )


def _coil(
    spot: CoilSpot, readings: Readings, enters: float | None, least: float | None
) -> CoilTests:
    vent, inlet = readings.get(spot.vent), readings.get(spot.inlet)
    return CoilTests(
        spot,
        _minus(enters, vent),
        _minus(readings.get(spot.outlet), vent if inlet is None else inlet),
        inlet is not None,
        least,
    )


def _minus(one: float | None, other: float | None) -> float | None:
    return None if one is None or other is None else one - other


def least_air_drop(dry_bulb_c: float, wet_bulb_c: float, elevation_m: float) -> float | None:
    """The least air drop that air of this humidity has to show [K]; None where the two bulbs
    describe no air.
    """
    share = air_drop(dry_bulb_c, wet_bulb_c, elevation_m)
    return None if share is None else AIR_LEAST_K * share / DRY_DROP_K


@lru_cache(maxsize=256)
def air_drop(dry_bulb_c: float, wet_bulb_c: float, elevation_m: float) -> float | None:
    """How far air is cooled by the heat that dry air gives up over `DRY_DROP_K` [K]."""
    try:
        enters = moist_air(dry_bulb_c, elevation_m, wet_bulb_c)
    except CoreError:
        return None
    dry = moist_air(DRY_C, elevation_m, relative_humidity=DRY_RH)
    after = replace(dry, dry_bulb_c=DRY_C - DRY_DROP_K)
    taken = dry.enthalpy_j_per_kg - after.enthalpy_j_per_kg
    low, high = dry_bulb_c - 1.2 * DRY_DROP_K, dry_bulb_c
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        most = moist_air(middle, elevation_m, relative_humidity=LEAVES_RH).humidity_ratio
        leaves = replace(enters, dry_bulb_c=middle, humidity_ratio=min(enters.humidity_ratio, most))
        if enters.enthalpy_j_per_kg - leaves.enthalpy_j_per_kg > taken:
            low = middle
        else:
            high = middle
    return dry_bulb_c - high
