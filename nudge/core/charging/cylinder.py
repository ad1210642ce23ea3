"""What a cylinder's pressure and weight say about what is in it."""

from dataclasses import dataclass
from typing import Literal

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import KPA_PER_PSI, Quantity, degrees_f, fahrenheit
from nudge.core.physics.refrigerant.saturation import pressures_at
from nudge.core.physics.refrigerant.states import load_states
from nudge.core.physics.refrigerant.table import load_table

CylinderKind = Literal["charging", "recovery"]
CYLINDER_KINDS: dict[CylinderKind, str] = {
    "charging": "charging",
    "recovery": "recovery, for what came out of systems",
}
FILL_SHARE = 0.80
FILL_C = fahrenheit(77)
TEMPERATURE_ERROR_K = degrees_f(3)
GAUGE_ERROR_KPA = 2 * KPA_PER_PSI
Contents = Literal["pure", "air", "not_liquid"]


@dataclass(frozen=True, slots=True)
class CylinderCheck:
    """Pressure a cylinder should show [kPa gauge], its ±, and what the gauge makes of it."""

    expected_kpa: float
    tolerance_kpa: float
    contents: Contents | None
    said: Said | None


def check_cylinder(
    fluid: str, temp_c: float, measured_kpa: float | None, elevation_m: float = 0
) -> CylinderCheck:
    """Compare a cylinder's pressure with the bubble pressure at its temperature [°C].

    ± is 3 °F of cylinder temperature and 2 psi of gauge: the metal is rarely one temperature.
    Raises: OutOfRange, off the fluid's table.
    """
    table = load_table(fluid)
    expected, _ = pressures_at(table, temp_c, elevation_m)
    warmer, _ = pressures_at(
        table, min(temp_c + TEMPERATURE_ERROR_K, table.bubble.high_c), elevation_m
    )
    tolerance = warmer - expected + GAUGE_ERROR_KPA
    if measured_kpa is None:
        return CylinderCheck(expected, tolerance, None, None)
    over = measured_kpa - expected
    measures = {"over": Measure(abs(over), Quantity.PRESSURE_DIFFERENCE)}
    if over > tolerance:
        return CylinderCheck(
            expected,
            tolerance,
            "air",
            say(
                "{over} over: air or another refrigerant is in it. Do not charge from it.",
                **measures,
            ),
        )
    if over < -tolerance:
        return CylinderCheck(
            expected,
            tolerance,
            "not_liquid",
            say(
                "{over} under: no liquid left, or another refrigerant. Weigh it before using it.",
                **measures,
            ),
        )
    return CylinderCheck(
        expected,
        tolerance,
        "pure",
        say(
            "It agrees: liquid of this refrigerant, with no air to speak of.",
        ),
    )


def recovery_limit_kg(fluid: str, water_capacity_kg: float) -> float:
    """Most refrigerant a recovery cylinder may hold [kg]: 80 % of its volume, liquid at 77 °F.

    Source: trade rule, 0.8 × water capacity × specific gravity. The cylinder's stamp wins.
    """
    states = load_states(fluid)
    density = states.liquid(min(FILL_C, states.saturation.bubble.high_c)).density
    return FILL_SHARE * water_capacity_kg * density / 997.0
