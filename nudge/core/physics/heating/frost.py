"""Frost on an outdoor coil: how fast it grows, and how long it takes to melt."""

from nudge.core.language.units import LPS_PER_CFM, W_PER_BTU_H, W_PER_TON, degrees_f
from nudge.core.physics.air.moist_air import moist_air

CFM_PER_TON = 800.0
"""Air an outdoor unit moves; trade."""
SURFACE_UNDER_K = degrees_f(9)
"""The coil's face under its air; trade."""
BYPASS = 0.38
"""Of the air that passes without touching the coil; trade."""
MELT_J_PER_KG = 333_500.0 + 18_000.0
"""Ice melted and warmed from the coil's temperature."""
INTO_ICE = 0.72
"""Of a defrost's heat that reaches the ice: copper, water and the wind take the rest; trade."""
DEFROST_W = 20_000 * W_PER_BTU_H
"""Heat of a defrost where nothing better is known."""
OFTEN_MIN, LONG_MIN = 30.0, 10.0
"""Ten minutes each half hour is a finding in any weather; trade."""


def frost_rate(outdoor_c: float, humidity: float, nominal_w: float) -> float:
    """Frost [kg/s] on the coil of a machine of this size [W]; 0 where its face is over freezing.

    Air's water over what its coil's face can hold, times the air that touches it: 2.4 lb/h at
    35 °F and 75 % for three tons, 8.5 at 95 %.
    """
    face_c = outdoor_c - SURFACE_UNDER_K
    if face_c >= 0:
        return 0.0
    air = moist_air(outdoor_c, 0.0, relative_humidity=humidity)
    face = moist_air(face_c, 0.0, relative_humidity=100.0)
    flow_lps = CFM_PER_TON * LPS_PER_CFM * nominal_w / W_PER_TON
    dry = flow_lps / 1000 / air.volume_m3_per_kg
    return max(dry * (air.humidity_ratio - face.humidity_ratio) * (1 - BYPASS), 0.0)


def melt_minutes(frost_kg: float, heat_w: float = DEFROST_W) -> float:
    """How long a defrost takes for so much frost."""
    return frost_kg * MELT_J_PER_KG / (INTO_ICE * heat_w) / 60
