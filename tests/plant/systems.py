"""What the plant's tests share: a system at its rated point, and the numbers a technician sees."""

from nudge.core.physics.refrigerant.table import load_table
from nudge.plant.faults import Present, spoiled
from nudge.plant.presets import preset, preset_machine
from nudge.plant.rating import rated_conditions
from nudge.plant.steady import Steady, steady
from nudge.plant.truth import running_truth

ATMOSPHERE_KPA = 101.325


def at_rest(key: str, *faults: tuple[str, float]) -> Steady:
    machine = preset_machine(key)
    conditions = rated_conditions(preset(key).rating, machine.charge_kg)
    return steady(*spoiled(machine, conditions, [Present(k, s) for k, s in faults]))


def numbers(at: Steady) -> dict[str, float]:
    """Every point, and what is worked out of them by the saturation tables the judge uses."""
    t = running_truth(at)
    table = load_table(at.machine.fluid)
    low, high = t["suction_pressure"] + ATMOSPHERE_KPA, t["liquid_pressure"] + ATMOSPHERE_KPA
    bubble_c = table.bubble.temperature(high)
    return t | {
        "evaporating": table.dew.temperature(low),
        "superheat": t["suction_line_temp"] - table.dew.temperature(low),
        "subcooling": bubble_c - t["liquid_line_temp"],
        "over_ambient": bubble_c - t["outdoor_air_temp"],
        "ratio": high / low,
        "split": t["return_air_temp"] - t["supply_air_temp"],
        "drier_drop": t["drier_inlet_temp"] - t["drier_outlet_temp"],
        "line_drop": t["drier_outlet_temp"] - t["liquid_line_temp_indoor"],
        "across_reversing": t["true_suction_temp"] - t["suction_line_temp"],
        "approach": t["liquid_line_temp"] - t["outdoor_air_temp"],
        "capacity": at.operating.evaporated.heat,
    }
