"""Windows of subcooling read before the metering device and superheat read at the coil.

Units without lines outdoors to clamp (packaged, water-source) are judged there, by their own
windows: liquid gives a little of its subcooling up on the way, and gas gathers none yet.
"""

from nudge.core.language.units import degrees_f
from nudge.core.targets.school import Target

ON_THE_WAY_K = degrees_f(1)
"""What liquid loses to drier and pressure on a short way: the window is wider by it below."""
TOLERANCE_K = degrees_f(3)
SUCTION_GAIN_K = degrees_f(2)
"""What suction gas gathers on a short way: a target at the unit is this much over one here."""


def at_device(value_k: float, method: str, source: str) -> Target:
    """A subcooling target [K] as it is read before the device."""
    low = value_k - TOLERANCE_K - ON_THE_WAY_K
    return Target(value_k, low, value_k + TOLERANCE_K, method, f"{source}, read at the device")
