"""The rated point of a system: what it is to do, and in which air."""

from dataclasses import dataclass

from nudge.plant.machine import Conditions, HeadControl
from nudge.plant.wet_air import air_of

AIR_KG_S_PER_KW = 0.0645
"""400 CFM a ton of standard air, per kW."""
USUAL_LINE_M, SUCTION_LOSS, SUCTION_GAIN_K = 7.6, 0.022, 1.8
"""A 25 ft line set: what its suction line loses, as a share, and gains."""
OUTDOOR_AIR_KG_S_PER_KW = 0.150
OVERSIZE = 1.45
"""A valve is chosen so much larger than it needs at its rated point."""


@dataclass(frozen=True, slots=True)
class Rating:
    """What a system is to do at its rated point. Temperatures [°C], differences [K]."""

    fluid: str
    nominal_kw: float
    device: str
    evaporating_c: float = 7.6
    over_ambient_k: float = 10.5
    superheat_k: float = 5.5
    subcooling_k: float = 5.5
    indoor: tuple[float, float] = (26.7, 51.0)
    outdoor_c: float = 35.0
    blower: str = "psc"
    application: str = "comfort_cooling"
    air_kg_s_per_kw: float = AIR_KG_S_PER_KW
    outdoor_air_kg_s_per_kw: float = OUTDOOR_AIR_KG_S_PER_KW
    line_m: float = 7.6
    liquid_bore_mm: float = 8.0
    suction_bore_mm: float = 17.3
    condenser_l_per_kw: float = 0.40
    evaporator_l_per_kw: float = 0.23
    receiver_l: float = 0.0
    subcooler_ua: float = 0.0
    """Of a receiver's subcooling pass [kW/K for every kW of nominal cooling]."""
    accumulator_l: float = 0.0
    isentropic: float = 0.68
    best_ratio: float = 2.7
    is_heat_pump: bool = False
    valve_oversize: float = OVERSIZE
    suction_gain_k: float = SUCTION_GAIN_K
    suction_ua: float = 0.0006
    """Of the suction line and its insulation [kW/K for every metre]."""
    outdoor_fan_watts: float = 14.0
    """For every kW of nominal cooling."""
    indoor_fan_watts: float = 18.0
    head: HeadControl | None = None


def rated_conditions(rating: Rating, charge_kg: float = 1.0) -> Conditions:
    """The conditions a rating is stated in."""
    return Conditions(air_of(*rating.indoor), air_of(rating.outdoor_c, 40.0), charge_kg)
