"""One saturation curve: pressure against temperature at a fixed vapour quality."""

from bisect import bisect_right
from collections.abc import Sequence
from math import exp, log
from typing import Final

from nudge.core.language.errors import OutOfRange
from nudge.core.language.units import ZERO_C_IN_K


class SaturationCurve:
    """A vapour-pressure curve as rows (temperature, absolute pressure), read both ways.

    Linear in ln p against 1/T between rows, the straight-line form of Clausius-Clapeyron,
    so one segment is two numbers: 1/T = a + b ln p. Rows are at most 2 K apart; the error
    between them is under 0.005 K (measured by tests/core/physics/refrigerant/test_tables.py).
    """

    __slots__ = ("_a", "_b", "_inverse_k", "high_c", "high_kpa", "kpa", "low_c", "low_kpa")

    def __init__(self, temp_c: Sequence[float], kpa_abs: Sequence[float]) -> None:
        """Rows in rising order: `temp_c` [°C], `kpa_abs` [kPa], the same length, two or more."""
        inverse_k = [1 / (t + ZERO_C_IN_K) for t in temp_c]
        ln_p = [log(p) for p in kpa_abs]
        slope = [
            (inverse_k[i + 1] - inverse_k[i]) / (ln_p[i + 1] - ln_p[i])
            for i in range(len(ln_p) - 1)
        ]
        self._b: Final = slope
        self._a: Final = [inverse_k[i] - slope[i] * ln_p[i] for i in range(len(slope))]
        self._inverse_k: Final = [-x for x in inverse_k]  # rising, for bisect
        self.kpa: Final = tuple(kpa_abs)
        self.low_c, self.high_c = temp_c[0], temp_c[-1]
        self.low_kpa, self.high_kpa = kpa_abs[0], kpa_abs[-1]

    def temperature(self, kpa_abs: float) -> float:
        """Temperature at an absolute pressure [kPa] → [°C].

        Raises: OutOfRange, off the table or NaN. Never extrapolates.
        """
        if self.low_kpa <= kpa_abs < self.high_kpa:
            i = bisect_right(self.kpa, kpa_abs) - 1
        elif kpa_abs == self.high_kpa:
            i = len(self._b) - 1
        else:
            raise OutOfRange("pressure", kpa_abs, self.low_kpa, self.high_kpa, "kPa abs")
        return 1 / (self._a[i] + self._b[i] * log(kpa_abs)) - ZERO_C_IN_K

    def pressure(self, temp_c: float) -> float:
        """Absolute pressure at a temperature [°C] → [kPa]. Exact inverse of `temperature`.

        Raises: OutOfRange, off the table or NaN. Never extrapolates.
        """
        if not self.low_c <= temp_c <= self.high_c:
            raise OutOfRange("temperature", temp_c, self.low_c, self.high_c, "°C")
        inverse = 1 / (temp_c + ZERO_C_IN_K)
        i = min(bisect_right(self._inverse_k, -inverse) - 1, len(self._b) - 1)
        return exp((inverse - self._a[i]) / self._b[i])
