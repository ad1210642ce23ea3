"""What machines of one kind of plant are off together, whatever is wrong with them.

A table is swept from many machines, but not from every law a machine may obey: what is left over
moves several signs at once. Source: linear Gaussian factors.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from types import MappingProxyType

from nudge.core.language.units import degrees_f


@dataclass(frozen=True, slots=True)
class Shared:
    """One thing a machine may be off by, and what it drags along: one row a thing.

    `sigma` is how far machines are off (1 σ [K]); `drags` what a kelvin of it does to each sign.
    """

    key: str
    sigma: float
    drags: Mapping[str, float]
    reason: str


SHARED: tuple[Shared, ...] = (
    Shared("condensing", degrees_f(1.0), MappingProxyType({
        "condensing_over_ambient": 1.0, "approach": 0.6, "compressor_power": 1.8,
        "pressure_ratio": 0.06, "valve_pressure": 4.0,
    }), "surface and air outdoors are off together: approach, power and ratio follow the head"),
    Shared("evaporator", degrees_f(0.5), MappingProxyType({
        "evaporator_difference": 1.0, "boiling": -1.0, "pressure_ratio": 0.07,
        "compressor_power": -1.0, "capacity": -2.0,
    }), "surface and air indoors are off together: what the coil boils at moves ratio and power"),
    Shared("superheat", degrees_f(0.6), MappingProxyType({
        "superheat": 1.0, "evaporator_superheat": 1.0,
    }), "valves are set differently, and keep it differently in other weather"),
    Shared("air rise", degrees_f(0.35), MappingProxyType({"condenser_air_rise": 1.0}),
           "outdoor air is never rated"),
    Shared("split", degrees_f(0.25), MappingProxyType({"temperature_split": 1.0, "capacity": 7.0}),
           "how dry a coil works differs from coil to coil"),
    Shared("stroke", degrees_f(1.2), MappingProxyType({
        "discharge_over_stroke": 1.0, "compressor_power": 3.9,
    }), "strokes lose more or less on the way: discharge gas and power are off together"),
)  # fmt: skip
"""Sigmas as measured in cooling: how far a family of machines stands, over all its rows, from a
table that knows nothing of it (root mean square of eight families, the wider of two devices)."""

EARLIER = MappingProxyType(
    {
        "condensing": degrees_f(2),
        "evaporator": degrees_f(2),
        "superheat": degrees_f(2),
        "air rise": degrees_f(1.8),
        "split": degrees_f(0.8),
    }
)
"""Sigmas as measured before there were families: for kinds of plant where nobody measured them
since."""

WIDE: tuple[Shared, ...] = tuple(
    replace(row, sigma=EARLIER[row.key]) for row in SHARED if row.key in EARLIER
)
"""The same things by those."""
