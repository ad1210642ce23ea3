"""In which mode a past visit ran, by what was read on it: like is laid beside like."""

from collections.abc import Mapping

from nudge.core.language.units import degrees_f

WARMED_K = degrees_f(5)
"""Air that left warmer than this over what came: it heated."""


def was_heated(readings: Mapping[str, float]) -> bool:
    """Whether these readings (core units) were taken while it heated."""
    entering, leaving = readings.get("return_air_temp"), readings.get("supply_air_temp")
    return entering is not None and leaving is not None and leaving - entering > WARMED_K
