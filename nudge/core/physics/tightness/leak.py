"""A leak by what it does to a gauge, and by what it lets out of a charged system in a year."""

from nudge.core.language.units import SEA_LEVEL_KPA, ZERO_C_IN_K, fahrenheit
from nudge.core.physics.refrigerant.states import load_states
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.physics.tightness.nitrogen import GAS_CONSTANT

SECONDS_A_YEAR = 365.25 * 86_400
RUNNING_C = fahrenheit(45)
"""The low side while it runs: where most joints are."""
ROOM_C = fahrenheit(70)
NITROGEN_UPAS, AIR_UPAS, REFRIGERANT_UPAS = 17.8, 18.2, 13.0
"""Viscosities at 21 °C. Source: CoolProp 8.0.0; refrigerant vapours are 11.5 to 13.8."""
NITROGEN_G, AIR_G = 28.0134, 28.9647


def throughput(litres: float, kpa_s: float) -> float:
    """What crosses a leak that moves a pressure so fast in a volume [mbar·L/s]."""
    return litres * kpa_s * 10


def microns_a_minute(litres: float, mbar_l_s: float) -> float:
    """How fast a leak lifts a vacuum in a volume [Pa/min]."""
    return mbar_l_s / litres * 100 * 60


def lost_a_year(refrigerant: str, mbar_l_s: float, high_kpa: float, *, air: bool = False) -> float:
    """Refrigerant that leaves in a year [kg] by a leak that let gas through in a test.

    `mbar_l_s` is the test's throughput, `high_kpa` [kPa abs] the pressure it stood under:
    nitrogen against the air round it or, with `air`, the air itself against a vacuum. The larger
    of laminar (fine, long leaks) and choked flow (holes), at the low side's running pressure.

    Source: Poiseuille for a gas, Q ∝ (p₁² − p₂²)/μ; choked flow, Q ∝ p/√M.
    """
    runs_kpa = load_table(refrigerant).dew.pressure(RUNNING_C)
    molar_g = _molar_g(refrigerant)
    viscosity, mass = (AIR_UPAS, AIR_G) if air else (NITROGEN_UPAS, NITROGEN_G)
    outside = 0.0 if air else SEA_LEVEL_KPA
    driven = max(high_kpa**2 - outside**2, 1.0)
    drives = max(runs_kpa**2 - SEA_LEVEL_KPA**2, 0.0)
    laminar = drives / driven * viscosity / REFRIGERANT_UPAS
    choked = runs_kpa / high_kpa * (mass / molar_g) ** 0.5
    mol_s = mbar_l_s * max(laminar, choked) * 0.1 / (GAS_CONSTANT * (ROOM_C + ZERO_C_IN_K))
    return float(mol_s * molar_g / 1000 * SECONDS_A_YEAR)


def _molar_g(refrigerant: str) -> float:
    """Molar mass [g/mol], out of the density of its thin, warm vapour: within 2 %."""
    states = load_states(refrigerant)
    kpa = max(SEA_LEVEL_KPA, states.saturation.low_kpa)
    low_c, high_c = states.vapour_grid.reach(kpa)
    vapour = states.vapour(kpa, min(max(ROOM_C, low_c), high_c))
    return vapour.density * GAS_CONSTANT * (vapour.temp_c + ZERO_C_IN_K) / kpa
