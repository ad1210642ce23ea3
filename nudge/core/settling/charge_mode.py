"""An inverter is judged at the speed its maker's charge mode states, and at no other."""

from nudge.core.behaviours.case import Case
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity
from nudge.core.targets.choose import Targets

IN_MODE_MIN = 30.0
"""Minutes at its speed before it is read; trade."""
PARTIAL_MOST_MIN = 120.0
"""What a partial speed is good for: load and weather move on; trade."""


def mode_off(case: Case, _: Targets) -> Said | None:
    """Shut where this call asks for the mode, and it is not on."""
    mode = case.context.charge_mode
    if mode == "needed":
        return say(
            "An inverter is judged at the speed its maker’s charge mode states. Start the mode, "
            "and say which speed it confirms."
        )
    if mode == "lapsed":
        return say(
            "Its charge mode ended by itself: what was read since is of no known speed. Start it "
            "again, and read again after {wait}.",
            wait=_minutes(IN_MODE_MIN),
        )
    return None


def mode_short(case: Case, _: Targets) -> Said | None:
    """Shut until it has held its speed."""
    ran = case.context.minutes_in_mode
    if case.context.charge_mode not in ("full", "partial") or ran is None or ran >= IN_MODE_MIN:
        return None
    return say(
        "In its charge mode for {ran}; it wants {need} at its speed. Let it run.",
        ran=_minutes(ran),
        need=_minutes(IN_MODE_MIN),
    )


def mode_long(case: Case, _: Targets) -> Said | None:
    """Shut where a partial speed was held too long."""
    ran = case.context.minutes_in_mode
    if case.context.charge_mode != "partial" or ran is None or ran <= PARTIAL_MOST_MIN:
        return None
    return say(
        "Partial speed for {ran}: it holds for {most}. End the mode and start it again.",
        ran=_minutes(ran),
        most=_minutes(PARTIAL_MOST_MIN),
    )


def minutes_short(case: Case) -> float:
    """Minutes until the mode has been on long enough; 0 where nothing waits for it."""
    ran = case.context.minutes_in_mode
    if case.context.charge_mode not in ("full", "partial") or ran is None:
        return 0.0
    return max(IN_MODE_MIN - ran, 0.0)


def _minutes(value: float) -> Measure:
    return Measure(value, Quantity.MINUTES)
