"""What keeps a vehicle from being tested: not made ready, not steady yet, its engine cold."""

from nudge.core.behaviours.case import Case
from nudge.core.language.said import Said, minutes, say, temperature
from nudge.core.physics.vehicle.three_tests import COLD_ENGINE_C
from nudge.core.targets.choose import Targets

STEADY_MINUTES = 5.0


def not_ready(case: Case, _: Targets) -> Said | None:
    if case.vehicle is None:
        return None
    ran = case.context.minutes_running
    if not case.saw("vehicle_ready"):
        return say(
            "Make it ready first: in the sun or its warmth, doors and windows open, engine warm, "
            "maximum cold, blower high; five minutes steady."
        )
    if ran is not None and ran < STEADY_MINUTES:
        return say(
            "Running {ran}, and the three tests want {need} steady.",
            ran=minutes(ran),
            need=minutes(STEADY_MINUTES),
        )
    return None


def engine_cold(case: Case, _: Targets) -> Said | None:
    coolant = case.readings.get("coolant_temp")
    if case.vehicle is None or coolant is None or coolant >= COLD_ENGINE_C:
        return None
    return say(
        "The coolant is at {now}, under {least}: the engine is cold. Let it warm, and read again.",
        now=temperature(coolant),
        least=temperature(COLD_ENGINE_C),
    )
