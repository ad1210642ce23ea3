"""Heat delivered into the house's air, by the density where the flow was measured, and its rise."""

from nudge.core.language.said import Measure
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, Input, Working, work
from nudge.core.physics.air.heat import STANDARD_VOLUME_M3_PER_KG, dry_mass_flow
from nudge.core.physics.air.moist_air import MoistAir

DRY_J_KG_K, WATER_J_KG_K = 1006.0, 1860.0
"""Specific heat of dry air and of its water."""
FLOW_ERROR = 0.07
"""A flow by grid, hood or table (±, share)."""
RISE_ERROR_K = 0.8

DELIVERED = Formula(
    "heat_delivered",
    "Heat delivered",
    Quantity.CAPACITY,
    "What the air carries into the house: its mass, by the density where the flow was measured, "
    "times its heat and its rise. Warm air is thin: a rule for standard air says more.",
    "flow ÷ volume of this air × (1006 + 1860 × its water) × rise",
    "{airflow} ÷ {volume} m³/kg, {rise} warmer = {result}",
    ("airflow", "volume", "rise"),
    "ASHRAE Fundamentals 2017, chapter 1.",
)
RISE = Formula(
    "expected_rise",
    "Rise expected",
    Quantity.TEMPERATURE_DIFFERENCE,
    "How much warmer the air leaves for this heat at this flow: no fixed band fits every weather.",
    "heat ÷ (standard flow × 1.2014 × 1006)",
    "{heat} ÷ {airflow} = {result}",
    ("heat", "airflow"),
    "ASHRAE Fundamentals 2017, chapter 1.",
)


def heat_delivered(
    entering: MoistAir, leaving_c: float, flow_lps: float, rise_error_k: float = RISE_ERROR_K
) -> Working:
    """Heat into the air [W]; `flow_lps` is actual flow of the air that leaves, `rise_error_k` the ±
    of its rise.
    """
    leaving = MoistAir(leaving_c, entering.humidity_ratio, entering.pressure_pa)
    rise = leaving_c - entering.dry_bulb_c
    heats = DRY_J_KG_K + WATER_J_KG_K * entering.humidity_ratio
    volume = leaving.volume_m3_per_kg
    inputs = {
        "airflow": Input(
            "airflow",
            "Airflow, as measured",
            Measure(flow_lps, Quantity.AIRFLOW),
            "typed",
            FLOW_ERROR * flow_lps,
        ),
        "volume": Input(
            "volume", "Volume of that air", Measure(volume, Quantity.RATIO), "computed"
        ),
        "rise": Input(
            "rise",
            "Supply over return",
            Measure(rise, Quantity.TEMPERATURE_DIFFERENCE),
            "computed",
            rise_error_k,
        ),
    }
    return work(
        DELIVERED,
        lambda v: v["airflow"] / 1000 / v["volume"] * heats * v["rise"],
        inputs,
    )


def expected_rise(heat: Working, air: MoistAir, flow_lps: float) -> Working:
    """Rise [K] for a heat, at an actual flow [L/s] of air as it is where the flow was measured."""
    dry = dry_mass_flow(air, flow_lps)
    standard = dry * STANDARD_VOLUME_M3_PER_KG * 1000
    inputs = {
        "heat": Input("heat", heat.formula.label, heat.measure, "computed", heat.uncertainty),
        "airflow": Input(
            "airflow",
            "Airflow, as standard air",
            Measure(standard, Quantity.AIRFLOW),
            "computed",
            FLOW_ERROR * standard,
        ),
    }
    return work(
        RISE,
        lambda v: v["heat"] / (v["airflow"] / 1000 / STANDARD_VOLUME_M3_PER_KG * DRY_J_KG_K),
        inputs,
    )


def power_drawn(volts: float, amps: float, power_factor: float) -> float:
    """Single-phase power [W] without a meter: volts × amps × power factor."""
    return volts * amps * power_factor
