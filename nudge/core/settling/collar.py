"""A collar on the condenser's discharge air: what it has to reach, and whether it holds it.

It makes a cold day warm for the machine: condensing stands where a warm day would put it, and
the valve has its pressure. Both held for ten minutes, charge may be judged.
"""

from nudge.core.behaviours.case import Case
from nudge.core.language.units import KPA_PER_PSI, degrees_f, fahrenheit
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.targets.condensing import class_seer, condensing_over_ambient_near

WARM_DAY_C = fahrenheit(80)
"""A collar makes the condenser stand as it would on a day this warm."""
COLLAR_SLACK_K = degrees_f(5)
COLLAR_LEAST_C = fahrenheit(32)
"""Under this the shell, the line and the oil are too cold for what is read to mean anything."""
COLLAR_WANTED_UNDER_C = fahrenheit(70)
COLLAR_HOLDS_MINUTES = 10.0
"""Both figures must have stood this long, with nothing touched."""
VALVE_NEED_KPA = {
    "R-22": 100 * KPA_PER_PSI,
    "R-410A": 160 * KPA_PER_PSI,
    "R-454B": 160 * KPA_PER_PSI,
    "R-32": 160 * KPA_PER_PSI,
}
_SCALE_AT_C = 40.0


def valve_need_kpa(name: str) -> float:
    """Liquid-to-suction difference an expansion valve needs to control [kPa].

    Trade figures for four refrigerants; others scale R-22's by bubble pressure at 40 °C (or
    4 K below their highest tabulated temperature, R-744 only).
    """
    if name in VALVE_NEED_KPA:
        return VALVE_NEED_KPA[name]
    table, r22 = load_table(name), load_table("R-22")
    at_c = min(_SCALE_AT_C, table.bubble.high_c)
    return VALVE_NEED_KPA["R-22"] * table.bubble.pressure(at_c) / r22.bubble.pressure(at_c)


def condensing_wanted(plate: Plate) -> tuple[float, float]:
    """Where a collar has to bring condensing [°C]: its lowest and highest."""
    over = plate.condensing_over_ambient_k or condensing_over_ambient_near(class_seer(plate))
    return WARM_DAY_C + over - COLLAR_SLACK_K, WARM_DAY_C + over + COLLAR_SLACK_K


def has_valve_pressure(case: Case) -> bool | None:
    """Whether the valve has its difference; None where it is not read. An orifice needs none."""
    if not case.plate.metering_device.is_valve:
        return True
    drop = case.derived.valve_pressure_difference
    return None if drop is None else drop >= valve_need_kpa(case.plate.refrigerant)


def collar_holds(case: Case) -> bool:
    """Whether a collar is on and both its figures have stood for ten minutes."""
    now, since = case.derived.condenser_saturation, case.context.minutes_since_change
    low, high = condensing_wanted(case.plate)
    return (
        case.saw("collar_on")
        and now is not None
        and low <= now <= high
        and has_valve_pressure(case) is True
        and (since is None or since >= COLLAR_HOLDS_MINUTES)
    )
