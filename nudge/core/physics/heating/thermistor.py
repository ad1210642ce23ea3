"""A thermistor against its table: what it should read, and what temperature it says."""

from dataclasses import dataclass
from math import exp, log

ZERO_C_IN_K = 273.15
ROOM_K = 298.15


@dataclass(frozen=True, slots=True)
class Thermistor:
    """Resistance at 25 °C [Ω] and its beta [K]."""

    ohms_25: float = 10_000.0
    beta_k: float = 3_977.0

    def ohms(self, temp_c: float) -> float:
        """What it should read at a temperature [°C]."""
        return self.ohms_25 * exp(self.beta_k * (1 / (temp_c + ZERO_C_IN_K) - 1 / ROOM_K))

    def celsius(self, ohms: float) -> float:
        """What temperature a resistance says [°C]."""
        return 1 / (1 / ROOM_K + log(ohms / self.ohms_25) / self.beta_k) - ZERO_C_IN_K
