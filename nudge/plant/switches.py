"""The switches that stop a plant: too high a head, too low a suction."""

from nudge.plant.circuit import Operating
from nudge.plant.fluid import load_fluid
from nudge.plant.machine import Machine

HIGH_SWITCH = "The high-pressure switch opened."
LOW_SWITCH = "The low-pressure switch opened."
HIGH_CUTOUT_C = 68.0
"""The usual high switch: condensing at 154 °F."""
NEAR_K = 8.0


def why_stopped(target: Operating | None, machine: Machine) -> str:
    """Which switch opened, when where it was heading is off what can be worked out."""
    if target is not None:
        heading_c = load_fluid(machine.fluid).at(target.discharge_kpa).dew_c
        if heading_c > HIGH_CUTOUT_C - NEAR_K:
            return HIGH_SWITCH
    return LOW_SWITCH


def opened_switch(
    discharge_kpa: float, suction_kpa: float, machine: Machine, low_switch: float | None
) -> str:
    """The switch that opens at these pressures [kPa abs, kPa gauge]; "" where none does."""
    if load_fluid(machine.fluid).at(discharge_kpa).dew_c > HIGH_CUTOUT_C:
        return HIGH_SWITCH
    if low_switch is not None and suction_kpa < low_switch:
        return LOW_SWITCH
    return ""
