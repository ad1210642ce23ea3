"""Where a running plant is wet: liquid let into suction, and water that freezes on its coil."""

from nudge.plant.circuit import Operating
from nudge.plant.defrost import LATENT_ICE
from nudge.plant.fluid import Saturated, load_fluid
from nudge.plant.machine import Machine


def with_dose(
    goal: dict[str, float], machine: Machine, point: Operating, dose_kg_s: float
) -> tuple[dict[str, float], float]:
    """The truth while liquid is let into the suction line; and liquid reaching the compressor."""
    fluid = load_fluid(machine.fluid)
    at = fluid.at(point.suction_kpa)
    wet = max(1 - point.stroke.suction_quality, 0.0) * point.flow
    if dose_kg_s <= 0:
        return goal, wet
    liquid_h = fluid.at(fluid.bubble_kpa(goal["outdoor_air_temp"])).liquid_h
    flow = point.flow + dose_kg_s
    mixed_h = (point.flow * point.stroke.suction_h + dose_kg_s * liquid_h) / flow
    wet = max(1 - at.quality(mixed_h), 0.0) * flow
    cooled = _suction_temp(at, mixed_h)
    return goal | {"suction_line_temp": cooled, "true_suction_temp": cooled}, wet


def _suction_temp(at: Saturated, enthalpy: float) -> float:
    over = max(enthalpy - at.vapour_h, 0.0)
    return at.dew_c + over / at.vapour_cp


def iced(ice_kg: float, machine: Machine, point: Operating, dt: float) -> float:
    """Water freezes onto a coil's surface under 0 °C and melts off a warm one."""
    took = point.evaporated
    if machine.application == "refrigeration":
        return ice_kg + max(took.heat - took.sensible, 0.0) / LATENT_ICE * dt
    if took.surface_c < -0.3:
        return ice_kg + 0.5 * max(took.heat - took.sensible, 0.0) / 2480.0 * dt
    return max(ice_kg - 1.5e-4 * dt, 0.0)


def thawed(ice_kg: float, indoor_c: float, dt: float) -> float:
    """What is left of it while the plant stands: air over freezing melts it."""
    return max(ice_kg - 2e-4 * dt, 0.0) if indoor_c > 0 else ice_kg
