"""Nitrogen as it is, not as an ideal gas: what a closed pipe of it should show."""

from nudge.core.language.errors import OutOfRange
from nudge.core.language.units import ZERO_C_IN_K, Quantity

GAS_CONSTANT = 8.314462618
"""J/(mol·K). Source: SI, 2019."""
LOW_C, HIGH_C = -40.0, 65.0
LOW_KPA, HIGH_KPA = 1.0, 6_000.0
_B = (4.42608156e-05, -4.00020529e-05, -8.84897182e-06)
_C = (6.36251337e-10, 8.09810458e-10)
_STEPS = 40


def compressibility(kpa_abs: float, celsius: float) -> float:
    """pV/nRT of nitrogen at an absolute pressure [kPa] and a temperature [°C].

    Within 0.01 % of the source from −40 to 65 °C and up to 6,000 kPa.
    Raises: OutOfRange, off those limits or for NaN.
    Source: virial form Z = 1 + Bρ + Cρ², B and C fitted to CoolProp 8.0.0's nitrogen.
    """
    kelvin = _kelvin(celsius)
    if not LOW_KPA <= kpa_abs <= HIGH_KPA:
        raise OutOfRange(
            "nitrogen pressure", kpa_abs, LOW_KPA, HIGH_KPA, Quantity.ABSOLUTE_PRESSURE
        )
    density = kpa_abs * 1000 / (GAS_CONSTANT * kelvin)
    z = 1.0
    for _ in range(_STEPS):
        z = _z(density / z, kelvin)
    return z


def amount(kpa_abs: float, celsius: float) -> float:
    """Nitrogen in a closed space [mol/m³]. Raises: OutOfRange, as `compressibility`."""
    z = compressibility(kpa_abs, celsius)
    return kpa_abs * 1000 / (z * GAS_CONSTANT * (celsius + ZERO_C_IN_K))


def pressure_of(mol_m3: float, celsius: float) -> float:
    """Absolute pressure [kPa] of so much nitrogen [mol/m³] at a temperature [°C].

    Raises: OutOfRange, for a temperature off the limits.
    """
    kelvin = _kelvin(celsius)
    return _z(mol_m3, kelvin) * mol_m3 * GAS_CONSTANT * kelvin / 1000


def _kelvin(celsius: float) -> float:
    if not LOW_C <= celsius <= HIGH_C:
        raise OutOfRange("nitrogen temperature", celsius, LOW_C, HIGH_C, Quantity.TEMPERATURE)
    return celsius + ZERO_C_IN_K


def _z(density: float, kelvin: float) -> float:
    x = 300.0 / kelvin
    b = _B[0] + _B[1] * x + _B[2] * x * x
    return 1 + density * (b + density * (_C[0] + _C[1] * x))
