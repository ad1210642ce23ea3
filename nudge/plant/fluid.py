"""A refrigerant's properties on one fine pressure axis, quick enough to step a plant in time.

Made from the packaged state tables when a fluid is first asked for. Pressures are absolute
[kPa], temperatures [°C], enthalpies [kJ/kg], entropies [kJ/(kg K)], densities [kg/m³].
"""

from bisect import bisect_right
from dataclasses import dataclass
from functools import cache
from itertools import pairwise
from math import exp, log
from typing import NamedTuple

from nudge.core.language.units import ZERO_C_IN_K
from nudge.core.physics.refrigerant.catalogue import refrigerant
from nudge.core.physics.refrigerant.states import StateTable, load_states

ROWS = 240
SUBCOOL_STEP_K = 9.0
SUPERHEATS_K = (0.0, 7.0, 18.0, 36.0, 66.0, 104.0)
LAST_ROW = ROWS - 2
"""From which there is a next one to go to."""
LAST_BAND = len(SUPERHEATS_K) - 2


class Saturated(NamedTuple):
    """Both ends of boiling at one pressure, with the specific heats just beyond them."""

    bubble_c: float
    dew_c: float
    liquid_h: float
    vapour_h: float
    liquid_rho: float
    vapour_rho: float
    vapour_s: float
    liquid_cp: float
    vapour_cp: float

    @property
    def latent(self) -> float:
        return self.vapour_h - self.liquid_h

    @property
    def middle_c(self) -> float:
        return (self.bubble_c + self.dew_c) / 2

    def temp_at(self, quality: float) -> float:
        """Temperature inside the dome: the glide taken as straight between its ends."""
        return self.bubble_c + (self.dew_c - self.bubble_c) * min(max(quality, 0.0), 1.0)

    def quality(self, enthalpy: float) -> float:
        return (enthalpy - self.liquid_h) / (self.vapour_h - self.liquid_h)


class Vapour(NamedTuple):
    """Superheated or dew vapour at one point."""

    temp_c: float
    enthalpy: float
    entropy: float
    rho: float


_Band = tuple[float, ...]
_Bands = tuple[_Band, _Band, _Band]
"""Enthalpy, entropy and density × temperature ÷ pressure of vapour, by `SUPERHEATS_K`."""


@dataclass(frozen=True, slots=True)
class Fluid:
    """Properties of one refrigerant by pressure. Beyond the table's ends: the last slope."""

    name: str
    low_kpa: float
    high_kpa: float
    _low_ln: float
    _step: float
    _rows: tuple[Saturated, ...]
    _rises: tuple[Saturated, ...]
    _vapour: tuple[_Bands, ...]

    def at(self, kpa: float) -> Saturated:
        """Saturation at an absolute pressure."""
        i, of = self._place(kpa)
        a, b, c, d, e, f, g, h, k = self._rows[i]
        da, db, dc, dd, de, df, dg, dh, dk = self._rises[i]
        return Saturated(
            a + da * of,
            b + db * of,
            c + dc * of,
            d + dd * of,
            e + de * of,
            f + df * of,
            g + dg * of,
            h + dh * of,
            k + dk * of,
        )

    def vapour(self, kpa: float, temp_c: float, saturated: Saturated) -> Vapour:
        """Vapour at a pressure and a temperature at or over dew."""
        return self._vapour_at(kpa, max(temp_c - saturated.dew_c, 0.0), saturated)

    def vapour_by_enthalpy(self, kpa: float, enthalpy: float, saturated: Saturated) -> Vapour:
        """Vapour at a pressure and an enthalpy at or over that of dew vapour."""
        return self._vapour_by(kpa, 0, enthalpy, saturated)

    def vapour_by_entropy(self, kpa: float, entropy: float, saturated: Saturated) -> Vapour:
        """Vapour at a pressure and an entropy at or over that of dew vapour."""
        return self._vapour_by(kpa, 1, entropy, saturated)

    def dew_kpa(self, temp_c: float) -> float:
        """Pressure at which vapour is at its dew point."""
        return self._kpa_of(temp_c, 1)

    def bubble_kpa(self, temp_c: float) -> float:
        """Pressure at which liquid is at its bubble point."""
        return self._kpa_of(temp_c, 0)

    def _place(self, kpa: float) -> tuple[int, float]:
        x = (log(kpa) - self._low_ln) / self._step
        i = int(x) if 0 < x < LAST_ROW else 0 if x <= 0 else LAST_ROW
        return i, x - i

    def _kpa_of(self, temp_c: float, column: int) -> float:
        low, high = 0, ROWS - 1
        while high - low > 1:
            middle = (low + high) // 2
            if self._rows[middle][column] <= temp_c:
                low = middle
            else:
                high = middle
        a, b = self._rows[low][column], self._rows[low + 1][column]
        return exp(self._low_ln + self._step * (low + (temp_c - a) / (b - a)))

    def _vapour_at(self, kpa: float, superheat_k: float, saturated: Saturated) -> Vapour:
        i, share = self._place(kpa)
        j = min(bisect_right(SUPERHEATS_K, superheat_k) - 1, LAST_BAND)
        along = (superheat_k - SUPERHEATS_K[j]) / (SUPERHEATS_K[j + 1] - SUPERHEATS_K[j])
        return self._vapour_in(i, share, j, along, kpa, saturated.dew_c + superheat_k)

    def _vapour_by(self, kpa: float, which: int, value: float, saturated: Saturated) -> Vapour:
        i, share = self._place(kpa)
        low, high = self._vapour[i][which], self._vapour[i + 1][which]
        j, here = 0, low[0] + (high[0] - low[0]) * share
        after = low[1] + (high[1] - low[1]) * share
        while after <= value and j < LAST_BAND:
            j, here = j + 1, after
            after = low[j + 1] + (high[j + 1] - low[j + 1]) * share
        along = max((value - here) / (after - here), 0.0)
        superheat_k = SUPERHEATS_K[j] + along * (SUPERHEATS_K[j + 1] - SUPERHEATS_K[j])
        return self._vapour_in(i, share, j, along, kpa, saturated.dew_c + superheat_k)

    def _vapour_in(
        self, i: int, share: float, j: int, along: float, kpa: float, temp_c: float
    ) -> Vapour:
        """Vapour a share of the way from row i to the next, along a band of superheat."""
        (a, b, c), (d, e, f) = self._vapour[i], self._vapour[i + 1]
        compact = _between(c[j], c[j + 1], f[j], f[j + 1], share, along)
        return Vapour(
            temp_c,
            _between(a[j], a[j + 1], d[j], d[j + 1], share, along),
            _between(b[j], b[j + 1], e[j], e[j + 1], share, along),
            compact * kpa / (temp_c + ZERO_C_IN_K),
        )


def _between(a: float, b: float, c: float, d: float, share: float, along: float) -> float:
    """Between a and b on one row and c and d on the next."""
    start = a + (c - a) * share
    return start + (b + (d - b) * share - start) * along


def load_fluid(name: str) -> Fluid:
    """The quick properties of a catalogue refrigerant. Raises: UnknownName."""
    return _load(refrigerant(name).name)


@cache
def _load(name: str) -> Fluid:
    states = load_states(name)
    low, high = states.saturation.low_kpa * 1.03, states.saturation.high_kpa * 0.97
    step = log(high / low) / (ROWS - 1)
    pressures = [low * exp(step * i) for i in range(ROWS)]
    rows = tuple(_saturated(states, kpa) for kpa in pressures)
    return Fluid(
        name,
        low,
        high,
        log(low),
        step,
        rows,
        tuple(
            Saturated._make(b - a for a, b in zip(here, after, strict=True))
            for here, after in pairwise(rows)
        ),
        tuple(_superheated(states, kpa) for kpa in pressures),
    )


def _saturated(states: StateTable, kpa: float) -> Saturated:
    bubble = states.saturation.bubble.temperature(kpa)
    dew = states.saturation.dew.temperature(kpa)
    liquid, vapour = states.liquid(bubble, kpa), states.vapour(kpa, dew)
    cold = states.liquid(bubble - SUBCOOL_STEP_K, kpa)
    warm = states.vapour(kpa, dew + SUPERHEATS_K[1])
    return Saturated(
        bubble,
        dew,
        liquid.enthalpy,
        vapour.enthalpy,
        liquid.density,
        vapour.density,
        vapour.entropy,
        (liquid.enthalpy - cold.enthalpy) / SUBCOOL_STEP_K,
        (warm.enthalpy - vapour.enthalpy) / SUPERHEATS_K[1],
    )


def _superheated(states: StateTable, kpa: float) -> _Bands:
    dew = states.saturation.dew.temperature(kpa)
    row = [states.vapour(kpa, dew + superheat) for superheat in SUPERHEATS_K]
    return (
        tuple(state.enthalpy for state in row),
        tuple(state.entropy for state in row),
        tuple(state.density * (state.temp_c + ZERO_C_IN_K) / kpa for state in row),
    )
