"""In which mode a visit runs, or ran by what was read on it: like is laid beside like."""

from collections.abc import Mapping

from nudge.core.behaviours.behaviour import Mode
from nudge.core.behaviours.rows import behaviour_of
from nudge.core.language.units import degrees_f
from nudge.core.visit.calls import call_named
from nudge.services.plates import kind_plate_of
from nudge.store.tables import Visit

WARMED_K = degrees_f(5)
"""Air that left warmer than this over what came: it heated."""


def mode_of(visit: Visit) -> Mode:
    """How the plant of a visit is met on it."""
    return behaviour_of(kind_plate_of(visit.system), call_named(visit.kind).mode).mode


def was_heated(readings: Mapping[str, float]) -> bool:
    """Whether these readings (core units) were taken while it heated."""
    entering, leaving = readings.get("return_air_temp"), readings.get("supply_air_temp")
    return entering is not None and leaving is not None and leaving - entering > WARMED_K


def mode_read(readings: Mapping[str, float]) -> Mode:
    """The mode of a past visit, by what was read on it (core units)."""
    return "heating" if was_heated(readings) else "cooling"
