"""A sentence with numbers in it, kept apart from the units it will be read in.

The core speaks in templates and core values; `Said.text` writes the sentence in field or SI
units at the edge. So no rule is written twice and no number is rounded before it is shown.
"""

import re
from functools import lru_cache
from math import floor, log10
from typing import NamedTuple

from nudge.core.language.units import (
    Quantity,
    UnitSystem,
    decimals,
    from_si,
    pounds_and_ounces,
    to_si,
    unit_label,
)

GROUPED_FROM = 9_999.5
"""Numbers from here on are written in groups of three: 36,000."""


class Measure(NamedTuple):
    """A core value with the quantity that decides how it is written; `bare` leaves the unit off."""

    value: float
    quantity: Quantity
    bare: bool = False

    def text(self, units: UnitSystem) -> str:
        """The number and its unit: `12.0 °F`; a charge in field units as `7 lb 4.5 oz`."""
        if self.quantity is Quantity.CHARGE and units == "ip":
            return pounds_and_ounces(self.value)
        unit = "" if self.bare else unit_label(self.quantity, units)
        return f"{self.number(units)} {unit}" if unit else self.number(units)

    def number(self, units: UnitSystem) -> str:
        value = from_si(self.value, self.quantity, units)
        places = decimals(self.quantity, units)
        if self.quantity is Quantity.YEARLY_LOSS:  # two figures: no more of it is known
            value = float(f"{value:.2g}")
            places = max(0, 1 - floor(log10(abs(value)))) if value else 0
        shown = f"{value:,.{places}f}" if abs(value) >= GROUPED_FROM else f"{value:.{places}f}"
        if not shown.startswith("-"):
            return shown
        return "−" + shown[1:] if shown.strip("-0.") else shown[1:]


class Said(NamedTuple):
    """A template such as `Superheat {superheat} is high.`, the measures that fill it, and a
    plain tail, so that sentences which begin alike can share their beginning.
    """

    template: str
    measures: tuple[tuple[str, Measure], ...] = ()
    tail: str = ""

    def text(self, units: UnitSystem) -> str:
        """The sentence in `units`."""
        filled = self.template.format(**{name: m.text(units) for name, m in self.measures})
        return filled + self.tail


class Reader:
    """Reads many sentences in one system of units, filling each shared beginning once."""

    def __init__(self, units: UnitSystem) -> None:
        self._units = units
        self._filled: dict[tuple[str, int], str] = {}

    def read(self, said: Said) -> str:
        """Same as `said.text(units)`. Sentences given to one reader must outlive it."""
        key = (said.template, id(said.measures))
        filled = self._filled.get(key)
        if filled is None:
            filled = self._filled[key] = Said(said.template, said.measures).text(self._units)
        return filled + said.tail


def say(template: str, **measures: Measure) -> Said:
    """`say("Superheat {sh}.", sh=temp_difference(5.0))`"""
    return Said(template, tuple(measures.items()))


_LIMIT = re.compile(r"\{([dtpslaf])(-?[\d.]+)\}")
_LIMIT_QUANTITY = {
    "d": Quantity.TEMPERATURE_DIFFERENCE,
    "t": Quantity.TEMPERATURE,
    "p": Quantity.PRESSURE_DIFFERENCE,
    "s": Quantity.STATIC_PRESSURE,
    "l": Quantity.LENGTH,
    "a": Quantity.AIRFLOW_PER_CAPACITY,
    "f": Quantity.AIRFLOW,
}


@lru_cache(maxsize=2048)
def worded(text: str, units: UnitSystem) -> str:
    """A fixed text whose limits, written in field units as `{d10}`, are read in `units`.

    d difference, t temperature, p pressure difference, s static, l length, a airflow per ton,
    f airflow: `over {t65} outdoors, ±{d2}`.
    """

    def shown(found: re.Match[str]) -> str:
        quantity, number = _LIMIT_QUANTITY[found[1]], found[2]
        if units == "ip":
            return f"{number} {unit_label(quantity, 'ip')}"
        value = from_si(to_si(float(number), quantity, "ip"), quantity, units)
        places = 1 if abs(value) < 10 else 0
        return f"{value:.{places}f} {unit_label(quantity, units)}"

    return _LIMIT.sub(shown, text) if "{" in text else text


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


def numbered(said: Said, tail: str) -> Said:
    """The same sentence with its measures renamed, so that it can stand beside others."""
    template = said.template
    for name, _ in said.measures:
        template = template.replace("{" + name + "}", "{" + name + tail + "}")
    return Said(template, tuple((name + tail, m) for name, m in said.measures), said.tail)
