"""A circuit behind a valve that lets nothing through: the low side is pumped empty and stays so.

Two lumps: what the low side holds boils away and is pumped over, by the swept volume at its own
density; the rest stands in the condenser at the air's temperature. A dose let into suction jumps
its pressure and is pumped over like the rest.
"""

from dataclasses import dataclass
from math import exp

from nudge.plant.compressor import POLYTROPIC
from nudge.plant.fluid import load_fluid
from nudge.plant.machine import Conditions, Machine

OVER_AIR_K, AT_FLOW = 14.0, 1.0
"""Condensing over its air at the rated flow, and what of that is left by the flow."""
DOSE_KPA_KG = 40.0
"""What each kilogram more lifts the standing head: liquid backs up and shrinks the coil."""
HOT_K, HOTTER_K = 28.0, 9.0
"""Discharge over condensing, and more for every unit of pressure ratio over three."""
MOST_HOT_C = 140.0
WARM_S = 150.0
LEAST_KPA = 3.0
BOILS_C = 7.0
LIQUID_SHARE = 0.25
"""Of its charge that lies in the coil as liquid when it is started."""
CREEP_KG_S = 2e-6
"""What comes back past the compressor’s valves while it stands."""


@dataclass(frozen=True, slots=True)
class Pumped:
    """What the low side holds [kg], what was let in since [kg], discharge metal [°C]."""

    low_kg: float
    dosed_kg: float = 0.0
    discharge_c: float = 40.0


def low_volume_m3(machine: Machine) -> float:
    """Coil, suction line and accumulator: all that stands at suction."""
    lines = machine.lines
    return machine.indoor.volume_m3 + lines.suction_volume_m3 + lines.accumulator_m3


def begun(machine: Machine, conditions: Conditions) -> Pumped:
    """As it is started: the low side full of vapour at its standing pressure, and liquid in it."""
    fluid = load_fluid(machine.fluid)
    cold = min(conditions.indoor.temp_c, conditions.outdoor.temp_c)
    vapour = fluid.at(fluid.dew_kpa(cold)).vapour_rho
    liquid = LIQUID_SHARE * conditions.charge_kg
    low_kg = vapour * low_volume_m3(machine) + liquid
    return Pumped(low_kg, 0.0, conditions.outdoor.temp_c + 5)


def pumped_on(
    machine: Machine,
    conditions: Conditions,
    was: Pumped,
    dt: float,
    dose_kg: float,
    runs: bool = True,
) -> tuple[Pumped, dict[str, float]]:
    """The two lumps a moment later, and what perfect instruments read on them."""
    fluid = load_fluid(machine.fluid)
    atmosphere = conditions.outdoor.kpa
    warm_c = conditions.indoor.temp_c
    volume = low_volume_m3(machine)
    low_kg = was.low_kg + dose_kg
    chilled = runs and low_kg > fluid.at(fluid.dew_kpa(BOILS_C)).vapour_rho * volume
    cold_c = BOILS_C if chilled else warm_c  # its last liquid boils as a coil at work does
    saturated_kpa = fluid.dew_kpa(cold_c)
    full = fluid.at(saturated_kpa).vapour_rho * volume
    kpa = max(saturated_kpa * min(low_kg / full, 1.0), LEAST_KPA)
    stroke = machine.compressor
    rated = stroke.displacement_m3_s * fluid.at(fluid.dew_kpa(BOILS_C)).vapour_rho * 0.85
    flow, head_kpa = 0.0, fluid.bubble_kpa(conditions.outdoor.temp_c)
    for _ in range(3):
        ratio = max(head_kpa / kpa, 1.0)
        swept = stroke.volumetric - stroke.clearance * (ratio ** (1 / POLYTROPIC) - 1)
        density = min(low_kg, full) / volume
        flow = stroke.displacement_m3_s * max(swept, 0.0) * (1 - stroke.leak) * density
        over = OVER_AIR_K * min(flow / rated, 1.5)
        head_kpa = fluid.bubble_kpa(conditions.outdoor.temp_c + over)
    flow = flow if runs else 0.0
    left = low_kg - min(flow * dt, low_kg * (1 - exp(-1))) + (0.0 if runs else CREEP_KG_S * dt)
    if not runs:
        head_kpa = fluid.bubble_kpa(conditions.outdoor.temp_c)
    head_kpa += DOSE_KPA_KG * (was.dosed_kg + dose_kg) + machine.foreign_gas_kpa
    ratio = head_kpa / kpa
    condensing_c = fluid.at(head_kpa).bubble_c
    goal = min(condensing_c + HOT_K + HOTTER_K * max(ratio - 3, 0.0), MOST_HOT_C)
    metal = was.discharge_c + (goal - was.discharge_c) * (1 - exp(-dt / WARM_S))
    pressures = {
        "suction_pressure": kpa - atmosphere,
        "liquid_pressure": head_kpa - atmosphere,
        "discharge_pressure": head_kpa - atmosphere,
    }
    if not runs:
        return Pumped(left, was.dosed_kg + dose_kg, metal), pressures
    pressures |= _temperatures(machine, conditions, metal, min(flow / rated, 1.2))
    return Pumped(left, was.dosed_kg + dose_kg, metal), pressures


def _temperatures(
    machine: Machine, conditions: Conditions, metal_c: float, share: float
) -> dict[str, float]:
    """What lines, air and meters show while it pumps a `share` of its rated flow."""
    outdoors, indoors = conditions.outdoor.temp_c, conditions.indoor.temp_c
    watts = machine.nominal_kw * 1000 / 3.4
    return {
        "suction_line_temp": outdoors - 3.0 * share,
        "true_suction_temp": outdoors - 3.0 * share,
        "evaporator_outlet_temp": indoors - 1.0,
        "liquid_line_temp": outdoors + 0.8,
        "drier_inlet_temp": outdoors + 0.7,
        "drier_outlet_temp": outdoors + 0.6,
        "liquid_line_temp_indoor": indoors + 0.3,
        "metering_outlet_temp": indoors - 0.5,
        "discharge_line_temp": metal_c,
        "compressor_amps": watts / machine.volts * (0.42 + 0.58 * share),
        "outdoor_unit_watts": watts * (0.4 + 0.6 * share),
        "supply_air_temp": indoors + 0.4,
    }
