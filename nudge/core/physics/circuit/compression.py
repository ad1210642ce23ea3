"""What an ordinary compressor would make of the gas it draws: discharge temperature and power.

Computed from suction pressure, suction temperature and head at an ordinary efficiency, and not
looked up by class: machines differ little in this, and what differs is the fault. Source: first
law over an adiabatic stroke with a fixed isentropic efficiency; clearance-volume form of
Stoecker and Jones for the flow; ASHRAE Systems and Equipment, compressors.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from nudge.core.language.errors import CoreError
from nudge.core.language.units import atmospheric_kpa, degrees_f
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.refrigerant.saturation import glide_at
from nudge.core.physics.refrigerant.states import State, StateTable, load_states

ISENTROPIC = 0.67
"""Isentropic efficiency of an ordinary hermetic compressor, motor included."""
SHELL_LOSS, PIPE_LOSS = 0.06, 0.04
"""Shares lost: of the work from the shell, of the heat over the air along 6 in. of pipe."""
VOLUMETRIC, CLEARANCE, POLYTROPIC = 0.97, 0.035, 1.12
LEAST_SUPERHEAT_K = degrees_f(5)
"""Under this the gas drawn in may carry liquid: neither number means anything."""
RATED_EVAPORATING_C, RATED_SUCTION_SUPERHEAT_K = 7.6, 7.3
RATED_OUTDOOR_C, RATED_SUBCOOLING_K = 35.0, 5.5
COIL_GLIDE_SHARE, CONDENSER_GLIDE_SHARE = 0.4, 0.5
"""How far dew lies over what a coil works at, and bubble under what a condenser does, as shares of
the glide: both work at the middle of it, and a fifth of the liquid flashes before the coil."""
_SECANT_K = 25.0


@dataclass(frozen=True, slots=True)
class Stroke:
    """An ordinary stroke: discharge gas at the shell [°C], work [kJ/kg], gas drawn [kg/m³]."""

    discharge_c: float
    work: float
    density: float
    ratio: float

    @property
    def filling(self) -> float:
        """Volumetric efficiency at its ratio."""
        return float(max(VOLUMETRIC - CLEARANCE * (self.ratio ** (1 / POLYTROPIC) - 1), 0.05))


def stroke_of(plate: Plate, readings: Mapping[str, float]) -> Stroke | None:
    """The stroke the readings describe; None where one is missing, wet or off the tables."""
    low, high = readings.get("suction_pressure"), readings.get("liquid_pressure")
    high = readings.get("discharge_pressure", high)
    drawn_c = readings.get("true_suction_temp", readings.get("suction_line_temp"))
    if low is None or high is None or drawn_c is None:
        return None
    atmosphere = atmospheric_kpa(plate.elevation_m)
    return _stroke(plate.refrigerant, low + atmosphere, drawn_c, high + atmosphere)


def expected_discharge_c(plate: Plate, readings: Mapping[str, float]) -> float | None:
    """Discharge line an ordinary compressor would show on this gas, 6 in. along it [°C]."""
    stroke = stroke_of(plate, readings)
    if stroke is None:
        return None
    around = readings.get("outdoor_air_temp", RATED_OUTDOOR_C)
    return stroke.discharge_c - PIPE_LOSS * (stroke.discharge_c - around)


ORDINARY_VOLTS, ORDINARY_POWER_FACTOR = 230.0, 0.95


def watts_of_amps(readings: Mapping[str, float]) -> float | None:
    """What a compressor draws by its amps, at the volts read or the usual ones [W]."""
    amps = readings.get("compressor_amps")
    if amps is None:
        return None
    return amps * readings.get("line_volts", ORDINARY_VOLTS) * ORDINARY_POWER_FACTOR


def expected_power_w(
    plate: Plate,
    readings: Mapping[str, float],
    over_ambient_k: float,
    evaporating_c: float | None = None,
) -> float | None:
    """What an ordinary compressor of this plate's capacity would draw on this gas [W].

    `over_ambient_k` is what its class condenses at over outdoor air at the rated point [K]: in the
    middle of the glide, as its coil works; or bubble, where a design says what dew evaporates at
    there (`evaporating_c`).
    """
    stroke, capacity = stroke_of(plate, readings), plate.nominal_capacity_w
    if stroke is None or capacity is None:
        return None
    condensing_c = RATED_OUTDOOR_C + over_ambient_k
    if evaporating_c is None:
        evaporating_c, condensing_c = _about_the_glide(plate.refrigerant, condensing_c)
    rated = _rated(plate.refrigerant, condensing_c, evaporating_c)
    if rated is None:
        return None
    flow_per_w, at_rated = rated
    flow = flow_per_w * capacity * stroke.density / at_rated.density
    return flow * stroke.filling / at_rated.filling * stroke.work * 1000


@lru_cache(maxsize=512)
def _stroke(fluid: str, low_kpa: float, drawn_c: float, high_kpa: float) -> Stroke | None:
    states = load_states(fluid)
    try:
        if drawn_c - states.saturation.dew.temperature(low_kpa) < LEAST_SUPERHEAT_K:
            return None
        drawn = states.vapour(low_kpa, drawn_c)
        ideal = _at_entropy(states, high_kpa, drawn.entropy)
        work = (ideal.enthalpy - drawn.enthalpy) / ISENTROPIC
        left = drawn.enthalpy + work * (1 - SHELL_LOSS)
        beyond = states.vapour(high_kpa, ideal.temp_c + 10)
        per_k = (beyond.enthalpy - ideal.enthalpy) / 10
        discharge_c = ideal.temp_c + (left - ideal.enthalpy) / per_k
    except CoreError:
        return None
    return Stroke(discharge_c, work, drawn.density, high_kpa / low_kpa)


@lru_cache(maxsize=64)
def _about_the_glide(fluid: str, condensing_c: float) -> tuple[float, float]:
    """Dew in the coil and bubble in the condenser of a comfort system at its rated point [°C]."""
    table = load_states(fluid).saturation
    low, high = (glide_at(table, at) for at in (RATED_EVAPORATING_C, condensing_c))
    return (
        RATED_EVAPORATING_C + COIL_GLIDE_SHARE * low,
        condensing_c - CONDENSER_GLIDE_SHARE * high,
    )


@lru_cache(maxsize=64)
def _rated(fluid: str, condensing_c: float, evaporating_c: float) -> tuple[float, Stroke] | None:
    """Flow per watt of rated cooling [kg/s per W], and the stroke at the rated point."""
    states = load_states(fluid)
    table = states.saturation
    try:
        low = table.dew.pressure(evaporating_c)
        high = table.bubble.pressure(condensing_c)
        gas = states.vapour(low, evaporating_c + RATED_SUCTION_SUPERHEAT_K)
        liquid = states.liquid(condensing_c - RATED_SUBCOOLING_K, high)
    except CoreError:
        return None
    stroke = _stroke(fluid, low, gas.temp_c, high)
    return None if stroke is None else (1e-3 / (gas.enthalpy - liquid.enthalpy), stroke)


def _at_entropy(states: StateTable, kpa: float, entropy: float) -> State:
    """Vapour of an entropy, by secants: nearly straight in temperature."""
    low = states.vapour(kpa)
    high = states.vapour(kpa, low.temp_c + _SECANT_K)
    for _ in range(3):
        share = (entropy - low.entropy) / (high.entropy - low.entropy)
        low, high = high, states.vapour(kpa, low.temp_c + share * (high.temp_c - low.temp_c))
        if abs(high.entropy - entropy) < 1e-5:
            break
    return high
