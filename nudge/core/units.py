"""Units: SI inside, field units only at the edge, one table for both.

A temperature and a temperature *difference* are different quantities and convert
differently; a gauge pressure is never an absolute one. Nothing here keeps state.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

ZERO_C_IN_K = 273.15
KPA_PER_PSI = 6.894757293168
PA_PER_IN_WC = 249.08891
LPS_PER_CFM = 0.471947443
G_PER_OZ = 28.349523125
KG_PER_LB = 0.45359237
W_PER_BTU_H = 0.29307107017
M_PER_FT = 0.3048
PA_PER_MICRON = 0.133322387415
SEA_LEVEL_KPA = 101.325

UnitSystem = Literal["ip", "si"]


class Quantity(StrEnum):
    """What a number measures. Decides how it converts and how it is written."""

    PRESSURE = "pressure"
    PRESSURE_DIFFERENCE = "pressure_difference"
    TEMPERATURE = "temperature"
    TEMPERATURE_DIFFERENCE = "temperature_difference"
    AIRFLOW = "airflow"
    STATIC_PRESSURE = "static_pressure"
    SMALL_MASS = "small_mass"
    MASS = "mass"
    POWER = "power"
    CAPACITY = "capacity"
    LENGTH = "length"
    VACUUM = "vacuum"
    CURRENT = "current"
    VOLTAGE = "voltage"
    CAPACITANCE = "capacitance"
    HUMIDITY = "humidity"
    EFFICIENCY = "efficiency"
    RATIO = "ratio"
    MINUTES = "minutes"


@dataclass(frozen=True, slots=True)
class UnitRow:
    """One quantity in both systems: `si = ip * scale + offset`, with shown decimals."""

    si: str
    ip: str
    scale: float = 1.0
    offset: float = 0.0
    si_decimals: int = 1
    ip_decimals: int = 1


_F_TO_C = 5 / 9

UNITS: Mapping[Quantity, UnitRow] = {
    Quantity.PRESSURE: UnitRow("kPa", "psig", KPA_PER_PSI, 0.0, 0, 0),
    Quantity.PRESSURE_DIFFERENCE: UnitRow("kPa", "psi", KPA_PER_PSI, 0.0, 0, 0),
    Quantity.TEMPERATURE: UnitRow("°C", "°F", _F_TO_C, -32 * _F_TO_C),
    Quantity.TEMPERATURE_DIFFERENCE: UnitRow("K", "°F", _F_TO_C),
    Quantity.AIRFLOW: UnitRow("L/s", "CFM", LPS_PER_CFM, 0.0, 0, 0),
    Quantity.STATIC_PRESSURE: UnitRow("Pa", "in. w.c.", PA_PER_IN_WC, 0.0, 0, 2),
    Quantity.SMALL_MASS: UnitRow("g", "oz", G_PER_OZ, 0.0, 0, 1),
    Quantity.MASS: UnitRow("kg", "lb", KG_PER_LB, 0.0, 2, 2),
    Quantity.POWER: UnitRow("W", "W", 1.0, 0.0, 0, 0),
    Quantity.CAPACITY: UnitRow("W", "Btu/h", W_PER_BTU_H, 0.0, 0, 0),
    Quantity.LENGTH: UnitRow("m", "ft", M_PER_FT, 0.0, 1, 0),
    Quantity.VACUUM: UnitRow("Pa", "micron", PA_PER_MICRON, 0.0, 1, 0),
    Quantity.CURRENT: UnitRow("A", "A"),
    Quantity.VOLTAGE: UnitRow("V", "V", 1.0, 0.0, 0, 0),
    Quantity.CAPACITANCE: UnitRow("µF", "µF"),
    Quantity.HUMIDITY: UnitRow("%", "%", 1.0, 0.0, 0, 0),
    Quantity.EFFICIENCY: UnitRow("", ""),
    Quantity.RATIO: UnitRow("", "", 1.0, 0.0, 2, 2),
    Quantity.MINUTES: UnitRow("min", "min", 1.0, 0.0, 0, 0),
}


def to_si(value: float, quantity: Quantity, units: UnitSystem) -> float:
    """`value` in `units`, as the core wants it (kPa gauge, °C, K, L/s, Pa, g, kg, W, m)."""
    if units == "si":
        return value
    row = UNITS[quantity]
    return value * row.scale + row.offset


def from_si(value: float, quantity: Quantity, units: UnitSystem) -> float:
    """A core value in `units`. Inverse of `to_si`."""
    if units == "si":
        return value
    row = UNITS[quantity]
    return (value - row.offset) / row.scale


def unit_label(quantity: Quantity, units: UnitSystem) -> str:
    """The unit as it is printed beside the number."""
    row = UNITS[quantity]
    return row.si if units == "si" else row.ip


def decimals(quantity: Quantity, units: UnitSystem) -> int:
    """How many decimals the quantity is shown with: what the field's instruments have."""
    row = UNITS[quantity]
    return row.si_decimals if units == "si" else row.ip_decimals


def atmospheric_kpa(elevation_m: float) -> float:
    """Standard-atmosphere pressure at an elevation [kPa].

    Troposphere, -500 to 5000 m, dry; weather moves the true value by about ±3 kPa.
    Source: ISO 2533, p = 101.325 (1 - 2.25577e-5 h)^5.25588.
    """
    return float(SEA_LEVEL_KPA * (1 - 2.25577e-5 * elevation_m) ** 5.25588)
