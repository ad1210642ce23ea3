"""What a vacuum hose lets through, and what is left of a pump's speed behind it."""

from dataclasses import dataclass

from nudge.core.physics.circuit.tubes import hose_named

CORE_BORE_CM, CORE_LENGTH_CM = 0.30, 1.4
"""The way round a valve core left in its port."""
CM_PER_IN = 2.54


@dataclass(frozen=True, slots=True)
class Hookup:
    """How a pump is connected: its speed [L/s] and the least it reaches [Pa]; hoses by bore and
    length [cm], how many stand beside one another, and whether the port's cores are in.
    """

    pump_l_s: float = 2.4
    ultimate_pa: float = 4.0
    bore_cm: float = 0.95
    length_cm: float = 180.0
    hoses: int = 1
    cores_in: bool = False

    def conductance(self, pa: float) -> float:
        """What hoses and cores let through at a mean pressure [Pa abs → L/s]."""
        each = conductance(self.bore_cm, self.length_cm, pa)
        if self.cores_in:
            each = 1 / (1 / each + 1 / conductance(CORE_BORE_CM, CORE_LENGTH_CM, pa))
        return each * self.hoses

    def speed(self, pa: float) -> float:
        """Speed at the system [L/s] at its pressure [Pa abs]."""
        at_pump = self.pump_l_s * max(1 - self.ultimate_pa / max(pa, 1e-3), 0.0)
        if at_pump <= 0:
            return 0.0
        return 1 / (1 / at_pump + 1 / self.conductance((pa + self.ultimate_pa) / 2))


def conductance(bore_cm: float, length_cm: float, pa: float) -> float:
    """Air through a round hose [L/s]: bore and length [cm], mean pressure [Pa abs].

    Laminar and molecular flow together: C = 135 d⁴p̄/L + 12.1 d³/L, p̄ in mbar, at 20 °C.
    Source: Knudsen's formula as vacuum handbooks print it.
    """
    return (135 * bore_cm**4 * pa / 100 + 12.1 * bore_cm**3) / length_cm


def bore_of(hose: str) -> float:
    """Bore of a hose by its nominal size [cm]: a charging hose is narrower than its name, a
    vacuum hose from 3/8 on is as wide. Raises: CoreError, naming the sizes there are.
    """
    if hose == "1/4":
        return hose_named(hose).inside_in * CM_PER_IN
    return float(_FULL[hose]) * CM_PER_IN if hose in _FULL else hose_named(hose).inside_in


_FULL = {"3/8": 0.375, "1/2": 0.5, "3/4": 0.75}
