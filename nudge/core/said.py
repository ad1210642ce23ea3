"""A sentence with numbers in it, kept apart from the units it will be read in.

The core speaks in templates and core values; `Said.text` writes the sentence in field or SI
units at the edge. So no rule is written twice and no number is rounded before it is shown.
"""

from dataclasses import dataclass
from typing import NamedTuple

from nudge.core.units import Quantity, UnitSystem, decimals, from_si, unit_label


class Measure(NamedTuple):
    """A core value with the quantity that decides how it is written; `bare` leaves the unit off."""

    value: float
    quantity: Quantity
    bare: bool = False

    def text(self, units: UnitSystem) -> str:
        """The number and its unit: `12.0 °F`."""
        unit = "" if self.bare else unit_label(self.quantity, units)
        return f"{self.number(units)} {unit}" if unit else self.number(units)

    def number(self, units: UnitSystem) -> str:
        shown = f"{from_si(self.value, self.quantity, units):.{decimals(self.quantity, units)}f}"
        return "0" + shown[2:] if float(shown) == 0 and shown.startswith("-") else shown


@dataclass(frozen=True)
class Said:
    """A template such as `Superheat {superheat} is high.` with the measures that fill it."""

    template: str
    measures: tuple[tuple[str, Measure], ...] = ()

    def text(self, units: UnitSystem) -> str:
        """The sentence in `units`."""
        return self.template.format(**{name: m.text(units) for name, m in self.measures})


def say(template: str, **measures: Measure) -> Said:
    """`say("Superheat {sh}.", sh=temp_difference(5.0))`"""
    return Said(template, tuple(measures.items()))


def temperature(celsius: float) -> Measure:
    return Measure(celsius, Quantity.TEMPERATURE)


def difference(kelvin: float) -> Measure:
    return Measure(kelvin, Quantity.TEMPERATURE_DIFFERENCE)


def pressure_difference(kpa: float) -> Measure:
    return Measure(kpa, Quantity.PRESSURE_DIFFERENCE)


def ratio(value: float) -> Measure:
    return Measure(value, Quantity.RATIO)


def minutes(value: float) -> Measure:
    return Measure(value, Quantity.MINUTES)


def fahrenheit(value: float) -> float:
    """A field-unit temperature limit in core units [°C], for tables of trade rules."""
    return (value - 32) * 5 / 9


def degrees_f(value: float) -> float:
    """A field-unit temperature *difference* in core units [K], for tables of trade rules."""
    return value * 5 / 9
