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
BTU_H_PER_TON = 12_000
W_PER_TON = BTU_H_PER_TON * W_PER_BTU_H
M_PER_FT = 0.3048
MM_PER_IN = 25.4
KG_M3_PER_LB_FT3 = 16.01846337
KJ_KG_PER_BTU_LB = 2.326
KPA_PER_BAR = 100.0
PA_PER_MICRON = 0.133322387415
SEA_LEVEL_KPA = 101.325

UnitSystem = Literal["ip", "si", "si_bar"]
"""Field units; SI with kPa; SI with bar for refrigerant pressures."""


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
    SECONDS = "seconds"
    HOURS = "hours"
    ABSOLUTE_PRESSURE = "absolute_pressure"
    AIRFLOW_PER_CAPACITY = "airflow_per_capacity"
    ENERGY_EFFICIENCY = "energy_efficiency"
    CHARGE = "charge"
    CHARGE_PER_LENGTH = "charge_per_length"
    TUBE_SIZE = "tube_size"
    DENSITY = "density"
    ENTHALPY = "enthalpy"
    MOISTURE = "moisture"
    PERCENT = "percent"
    HEATER_POWER = "heater_power"
    DAYS = "days"
    COUNT = "count"
    TEST_PRESSURE = "test_pressure"
    TEST_PRESSURE_DIFFERENCE = "test_pressure_difference"
    VOLUME = "volume"
    PUMP_SPEED = "pump_speed"
    VACUUM_RATE = "vacuum_rate"
    LEAK = "leak"
    YEARLY_LOSS = "yearly_loss"
    POWER_FACTOR = "power_factor"
    HEAT_LOSS = "heat_loss"
    SPEED = "speed"


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
    Quantity.POWER_FACTOR: UnitRow("pf", "pf", 1.0, 0.0, 2, 2),
    Quantity.MINUTES: UnitRow("min", "min", 1.0, 0.0, 0, 0),
    Quantity.SECONDS: UnitRow("s", "s", 1.0, 0.0, 0, 0),
    Quantity.HOURS: UnitRow("h", "h", 1.0, 0.0, 0, 0),
    Quantity.ABSOLUTE_PRESSURE: UnitRow("kPa abs", "psia", KPA_PER_PSI, 0.0, 0, 0),
    Quantity.AIRFLOW_PER_CAPACITY: UnitRow(
        "L/s per kW", "CFM per ton", LPS_PER_CFM / W_PER_TON * 1000, 0.0, 1, 0
    ),
    Quantity.ENERGY_EFFICIENCY: UnitRow("W/W", "Btu/Wh", W_PER_BTU_H, 0.0, 2, 1),
    Quantity.CHARGE: UnitRow("kg", "lb", KG_PER_LB, 0.0, 2, 2),
    Quantity.CHARGE_PER_LENGTH: UnitRow("g/m", "oz/ft", G_PER_OZ / M_PER_FT, 0.0, 1, 2),
    Quantity.TUBE_SIZE: UnitRow("mm", "in.", MM_PER_IN, 0.0, 1, 3),
    Quantity.DENSITY: UnitRow("kg/m³", "lb/ft³", KG_M3_PER_LB_FT3, 0.0, 3, 4),
    Quantity.ENTHALPY: UnitRow("kJ/kg", "Btu/lb", KJ_KG_PER_BTU_LB),
    Quantity.MOISTURE: UnitRow("g/kg", "gr/lb", 1 / 7),
    Quantity.PERCENT: UnitRow("%", "%"),
    Quantity.HEAT_LOSS: UnitRow("W/K", "Btu/h·°F", W_PER_BTU_H / _F_TO_C, 0.0, 0, 0),
    Quantity.SPEED: UnitRow("1/min", "rpm", si_decimals=0, ip_decimals=0),
    Quantity.HEATER_POWER: UnitRow("kW", "kW", 1.0, 0.0, 2, 2),
    Quantity.DAYS: UnitRow("days", "days", 1.0, 0.0, 0, 0),
    Quantity.COUNT: UnitRow("", "", 1.0, 0.0, 0, 0),
    Quantity.TEST_PRESSURE: UnitRow("kPa", "psig", KPA_PER_PSI, 0.0, 1, 1),
    Quantity.TEST_PRESSURE_DIFFERENCE: UnitRow("kPa", "psi", KPA_PER_PSI, 0.0, 1, 1),
    Quantity.VOLUME: UnitRow("L", "L"),
    Quantity.PUMP_SPEED: UnitRow("L/s", "CFM", LPS_PER_CFM, 0.0, 1, 1),
    Quantity.VACUUM_RATE: UnitRow("Pa/min", "micron/min", PA_PER_MICRON, 0.0, 2, 1),
    Quantity.YEARLY_LOSS: UnitRow("kg", "lb", KG_PER_LB, 0.0, 2, 2),
    Quantity.LEAK: UnitRow("mbar·L/s", "mbar·L/s", 1.0, 0.0, 3, 3),
}


@dataclass(frozen=True, slots=True)
class OtherUnit:
    """Another SI unit some people read: `si = shown * scale`."""

    label: str
    scale: float
    decimals: int


BAR: Mapping[Quantity, OtherUnit] = {
    Quantity.PRESSURE: OtherUnit("bar", KPA_PER_BAR, 2),
    Quantity.PRESSURE_DIFFERENCE: OtherUnit("bar", KPA_PER_BAR, 2),
    Quantity.ABSOLUTE_PRESSURE: OtherUnit("bar abs", KPA_PER_BAR, 2),
    Quantity.TEST_PRESSURE: OtherUnit("bar", KPA_PER_BAR, 3),
    Quantity.TEST_PRESSURE_DIFFERENCE: OtherUnit("bar", KPA_PER_BAR, 3),
}
"""What `si_bar` writes differently from `si`."""


def to_si(value: float, quantity: Quantity, units: UnitSystem) -> float:
    """`value` in `units`, as the core wants it (kPa gauge, °C, K, L/s, Pa, g, kg, W, m)."""
    if units == "ip":
        row = UNITS[quantity]
        return value * row.scale + row.offset
    if units == "si_bar" and quantity in BAR:
        return value * BAR[quantity].scale
    return value


def from_si(value: float, quantity: Quantity, units: UnitSystem) -> float:
    """A core value in `units`. Inverse of `to_si`."""
    if units == "ip":
        row = UNITS[quantity]
        return (value - row.offset) / row.scale
    if units == "si_bar" and quantity in BAR:
        return value / BAR[quantity].scale
    return value


def spread_from_si(value: float, quantity: Quantity, units: UnitSystem) -> float:
    """A ± of a quantity in `units`: a difference, so it has a scale and no offset."""
    return from_si(value, quantity, units) - from_si(0.0, quantity, units)


def spread_to_si(value: float, quantity: Quantity, units: UnitSystem) -> float:
    """A ± of a quantity in `units`, as the core wants it. Inverse of `spread_from_si`."""
    return to_si(value, quantity, units) - to_si(0.0, quantity, units)


def unit_label(quantity: Quantity, units: UnitSystem) -> str:
    """The unit as it is printed beside the number."""
    if units == "si_bar" and quantity in BAR:
        return BAR[quantity].label
    row = UNITS[quantity]
    return row.ip if units == "ip" else row.si


def decimals(quantity: Quantity, units: UnitSystem) -> int:
    """How many decimals the quantity is shown with: what the field's instruments have."""
    if units == "si_bar" and quantity in BAR:
        return BAR[quantity].decimals
    row = UNITS[quantity]
    return row.ip_decimals if units == "ip" else row.si_decimals


def pounds_and_ounces(kg: float) -> str:
    """A charge as it is written inside a unit's door: `7 lb 4.5 oz`."""
    ounces = round(abs(kg) / KG_PER_LB * 16, 1)
    pounds, rest = divmod(ounces, 16)
    sign = "−" if kg < 0 and ounces else ""
    return f"{sign}{pounds:.0f} lb {rest:.1f} oz" if pounds else f"{sign}{rest:.1f} oz"


def atmospheric_kpa(elevation_m: float) -> float:
    """Standard-atmosphere pressure at an elevation [kPa].

    Troposphere, -500 to 5000 m, dry; weather moves the true value by about ±3 kPa.
    Source: ISO 2533, p = 101.325 (1 - 2.25577e-5 h)^5.25588.
    """
    return float(SEA_LEVEL_KPA * (1 - 2.25577e-5 * elevation_m) ** 5.25588)


def fahrenheit(value: float) -> float:
    """A field-unit temperature limit in core units [°C], for tables of trade rules."""
    return (value - 32) * 5 / 9


def degrees_f(value: float) -> float:
    """A field-unit temperature *difference* in core units [K], for tables of trade rules."""
    return value * 5 / 9


def difference_of(quantity: Quantity) -> Quantity:
    """What a difference of two such values is: of two temperatures a temperature difference."""
    return Quantity.TEMPERATURE_DIFFERENCE if quantity is Quantity.TEMPERATURE else quantity
