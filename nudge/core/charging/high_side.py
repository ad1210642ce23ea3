"""Why nothing is fed into the high side of a running system: both pressures side by side."""

from nudge.core.behaviours.case import Case
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity
from nudge.core.physics.refrigerant.saturation import pressures_at
from nudge.core.physics.refrigerant.table import load_table

USUAL_CYLINDER_C = 29.0


def high_side(case: Case) -> Said:
    """The cylinder's own pressure against the liquid line's. Gauge, as both gauges show it.

    The cylinder stands at outdoor air, or at 84 °F where nobody read that.
    """
    plate = case.plate
    table = load_table(plate.refrigerant)
    at_c = case.readings.get("outdoor_air_temp", USUAL_CYLINDER_C)
    at_c = min(max(at_c, table.bubble.low_c), table.bubble.high_c)
    cylinder, _ = pressures_at(table, at_c, plate.elevation_m)
    liquid = case.readings.get("liquid_pressure")
    if liquid is None:
        return say(
            "Never into the high side of a running system: it stands over the cylinder's "
            "{cylinder}, and would push back into it.",
            cylinder=Measure(cylinder, Quantity.PRESSURE),
        )
    return say(
        "Never into the high side of a running system: it stands at {liquid}, the cylinder "
        "at {cylinder}, and would push back into it.",
        liquid=Measure(liquid, Quantity.PRESSURE),
        cylinder=Measure(cylinder, Quantity.PRESSURE),
    )
