"""Low and high indoor load, defined by the air that comes back: nothing else is called so."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import erf, sqrt

from nudge.core.language.units import degrees_f, fahrenheit

LOW_LOAD_C = fahrenheit(69.5)
"""Return air under this is low load, whatever the system shows."""
HIGH_LOAD_C, HIGH_LOAD_WET_BULB_C = fahrenheit(82.5), fahrenheit(71.5)
"""Return air over this, dry bulb or wet bulb, is high load."""
READ_SIGMA_K = degrees_f(0.6)
"""How far a return air reading may be off at the edge (1 σ)."""


@dataclass(frozen=True, slots=True)
class Load:
    """How surely the air says low load, or high load [0 to 1]; None while it is not read."""

    low: float | None
    high: float | None


UNREAD = Load(None, None)


def load_of(readings: Mapping[str, float]) -> Load:
    """What the return air says of the load."""
    dry, wet = readings.get("return_air_temp"), readings.get("return_air_wet_bulb")
    warm = [
        _over(value, edge)
        for value, edge in ((dry, HIGH_LOAD_C), (wet, HIGH_LOAD_WET_BULB_C))
        if value is not None
    ]
    return Load(None if dry is None else 1 - _over(dry, LOW_LOAD_C), max(warm, default=None))


def _over(value: float, edge: float) -> float:
    """The chance that a reading is truly over an edge."""
    return 0.5 * (1 + erf((value - edge) / READ_SIGMA_K / sqrt(2)))
