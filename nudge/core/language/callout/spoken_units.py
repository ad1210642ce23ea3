"""The units people say after a number, and what each means."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.language.errors import UnknownName
from nudge.core.language.units import (
    G_PER_OZ,
    KG_PER_LB,
    KPA_PER_PSI,
    LPS_PER_CFM,
    PA_PER_IN_WC,
    PA_PER_MICRON,
    Quantity,
    UnitSystem,
)


@dataclass(frozen=True, slots=True)
class SpokenUnit:
    """A unit as said: its quantity and `si = said * scale + offset`."""

    label: str
    quantity: Quantity
    scale: float
    offset: float = 0.0

    def to_si(self, given: float) -> float:
        return given * self.scale + self.offset


_P, _T = Quantity.PRESSURE, Quantity.TEMPERATURE

SPOKEN_UNITS: Mapping[str, tuple[SpokenUnit, ...]] = MappingProxyType(
    {
        "psi": (SpokenUnit("psig", _P, KPA_PER_PSI),),
        "psig": (SpokenUnit("psig", _P, KPA_PER_PSI),),
        "kpa": (SpokenUnit("kPa", _P, 1.0),),
        "bar": (SpokenUnit("bar", _P, 100.0),),
        "f": (SpokenUnit("°F", _T, 5 / 9, -160 / 9),),
        "°f": (SpokenUnit("°F", _T, 5 / 9, -160 / 9),),
        "c": (SpokenUnit("°C", _T, 1.0),),
        "°c": (SpokenUnit("°C", _T, 1.0),),
        "cfm": (SpokenUnit("CFM", Quantity.AIRFLOW, LPS_PER_CFM),),
        "l/s": (SpokenUnit("L/s", Quantity.AIRFLOW, 1.0),),
        "ls": (SpokenUnit("L/s", Quantity.AIRFLOW, 1.0),),
        "pa": (
            SpokenUnit("Pa", Quantity.STATIC_PRESSURE, 1.0),
            SpokenUnit("Pa", Quantity.VACUUM, 1.0),
        ),
        "inwc": (SpokenUnit("in. w.c.", Quantity.STATIC_PRESSURE, PA_PER_IN_WC),),
        "in": (SpokenUnit("in. w.c.", Quantity.STATIC_PRESSURE, PA_PER_IN_WC),),
        "lb": (SpokenUnit("lb", Quantity.MASS, KG_PER_LB),),
        "oz": (SpokenUnit("oz", Quantity.MASS, G_PER_OZ / 1000),),
        "kg": (SpokenUnit("kg", Quantity.MASS, 1.0),),
        "g": (SpokenUnit("g", Quantity.MASS, 0.001),),
        "micron": (SpokenUnit("micron", Quantity.VACUUM, PA_PER_MICRON),),
        "microns": (SpokenUnit("micron", Quantity.VACUUM, PA_PER_MICRON),),
        "a": (SpokenUnit("A", Quantity.CURRENT, 1.0),),
        "v": (SpokenUnit("V", Quantity.VOLTAGE, 1.0),),
        "w": (SpokenUnit("W", Quantity.POWER, 1.0),),
        "kw": (SpokenUnit("kW", Quantity.POWER, 1000.0),),
        "uf": (SpokenUnit("µF", Quantity.CAPACITANCE, 1.0),),
        "mfd": (SpokenUnit("µF", Quantity.CAPACITANCE, 1.0),),
        "%": (SpokenUnit("%", Quantity.HUMIDITY, 1.0),),
        "pf": (SpokenUnit("pf", Quantity.POWER_FACTOR, 1.0),),
        "rpm": (SpokenUnit("rpm", Quantity.SPEED, 1.0),),
    }
)

DEFAULT_UNIT: Mapping[UnitSystem, Mapping[Quantity, str]] = MappingProxyType(
    {
        "ip": {
            _P: "psig",
            _T: "f",
            Quantity.AIRFLOW: "cfm",
            Quantity.STATIC_PRESSURE: "inwc",
            Quantity.MASS: "lb",
            Quantity.VACUUM: "micron",
        },
        "si": {
            _P: "kpa",
            _T: "c",
            Quantity.AIRFLOW: "l/s",
            Quantity.STATIC_PRESSURE: "pa",
            Quantity.MASS: "kg",
            Quantity.VACUUM: "pa",
        },
        "si_bar": {
            _P: "bar",
            _T: "c",
            Quantity.AIRFLOW: "l/s",
            Quantity.STATIC_PRESSURE: "pa",
            Quantity.MASS: "kg",
            Quantity.VACUUM: "pa",
        },
    }
)
_EVERYWHERE = {
    Quantity.CURRENT: "a",
    Quantity.VOLTAGE: "v",
    Quantity.POWER: "w",
    Quantity.CAPACITANCE: "uf",
    Quantity.HUMIDITY: "%",
    Quantity.POWER_FACTOR: "pf",
    Quantity.SPEED: "rpm",
}


def unit_for(spoken: str, quantity: Quantity, units: UnitSystem) -> SpokenUnit | None:
    """The unit meant for a quantity: as spoken, or the system's own when nothing was said."""
    key = spoken.lower().rstrip(".") or DEFAULT_UNIT[units].get(quantity) or _EVERYWHERE[quantity]
    return next((u for u in SPOKEN_UNITS.get(key, ()) if u.quantity is quantity), None)


def units_of(quantity: Quantity) -> list[str]:
    """Every spoken unit of a quantity, for the explanation of a wrong one."""
    return [key for key, rows in SPOKEN_UNITS.items() if any(u.quantity is quantity for u in rows)]


def value_si(given: float, label: str, quantity: Quantity) -> float:
    """A stored reading back in core units: the number as given and its unit's label.

    Raises: KeyError, for a label no spoken unit of the quantity has.
    """
    return _BY_LABEL[label, quantity].to_si(given)


def unit_said(text: str, quantity: Quantity) -> SpokenUnit:
    """The unit a word means for a quantity: `psi`, `F`, `in. w.c.`. Raises: UnknownName."""
    word = text.strip().lower()
    for unit in SPOKEN_UNITS.get(word, ()):
        if unit.quantity is quantity:
            return unit
    for unit in {u for rows in SPOKEN_UNITS.values() for u in rows if u.quantity is quantity}:
        if unit.label.lower() == word:
            return unit
    fitting = {word for word, rows in SPOKEN_UNITS.items() for u in rows if u.quantity is quantity}
    raise UnknownName("unit", text, fitting)


_BY_LABEL = {(u.label, u.quantity): u for rows in SPOKEN_UNITS.values() for u in rows}
