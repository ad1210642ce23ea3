"""Density, enthalpy and entropy of liquid and vapour, from the packaged state tables."""

import json
from bisect import bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from math import log
from typing import Any

from nudge.core.language.errors import OutOfRange
from nudge.core.language.units import ZERO_C_IN_K, Quantity
from nudge.core.physics.refrigerant.catalogue import refrigerant
from nudge.core.physics.refrigerant.curve import SaturationCurve
from nudge.core.physics.refrigerant.table import SaturationTable, load_table

_ROUNDING_K = 0.01


@dataclass(frozen=True, slots=True)
class State:
    """A state of a refrigerant: [kPa abs], [°C], [kg/m³], [kJ/kg], [kJ/(kg K)].

    Enthalpy and entropy count from the IIR reference: 200 and 1, saturated liquid at 0 °C.
    """

    kpa_abs: float
    temp_c: float
    density: float
    enthalpy: float
    entropy: float


class PhaseGrid:
    """One phase of one fluid, on (pressure, offset from its saturation curve).

    Linear in ln p and in the offset; density as density × T / p in vapour, which hardly
    changes. tests/core/physics/refrigerant/test_states.py measures the error between the rows.
    """

    def __init__(
        self, what: str, curve: SaturationCurve, grid: Mapping[str, Any], ideal: bool
    ) -> None:
        self._what, self._curve, self._ideal = what, curve, ideal
        self._ln_kpa = [log(kpa) for kpa in grid["kpa_abs"]]
        self._offsets: Sequence[float] = grid["offset_k"]
        density = grid["density"]
        if ideal:
            density = [
                [
                    rho * self._kelvin(kpa, k) / kpa
                    for rho, k in zip(row, self._offsets, strict=True)
                ]
                for row, kpa in zip(density, grid["kpa_abs"], strict=True)
            ]
        self._columns = (density, grid["enthalpy"], grid["entropy"])

    def at(self, kpa_abs: float, temp_c: float) -> State:
        """The state at a pressure [kPa abs] and temperature [°C].

        Raises: OutOfRange, off the table or on the other side of saturation.
        """
        saturation_c = self._curve.temperature(kpa_abs)
        offset, low, high = temp_c - saturation_c, self._offsets[0], self._offsets[-1]
        if not low - _ROUNDING_K <= offset <= high + _ROUNDING_K:
            raise OutOfRange(
                self._what, temp_c, saturation_c + low, saturation_c + high, Quantity.TEMPERATURE
            )
        i, up = _place(self._ln_kpa, log(kpa_abs))
        j, across = _place(self._offsets, offset)
        density, enthalpy, entropy = (
            (1 - up) * _between(column[i], j, across) + up * _between(column[i + 1], j, across)
            for column in self._columns
        )
        if self._ideal:
            density *= kpa_abs / (temp_c + ZERO_C_IN_K)
        return State(kpa_abs, temp_c, density, enthalpy, entropy)

    def reach(self, kpa_abs: float) -> tuple[float, float]:
        """Lowest and highest temperature held at a pressure [kPa abs] → [°C]."""
        saturation_c = self._curve.temperature(kpa_abs)
        return saturation_c + self._offsets[0], saturation_c + self._offsets[-1]

    def _kelvin(self, kpa_abs: float, offset: float) -> float:
        return self._curve.temperature(kpa_abs) + offset + ZERO_C_IN_K


@dataclass(frozen=True, slots=True)
class StateTable:
    """Everything packaged about the states of one fluid."""

    saturation: SaturationTable
    liquid_grid: PhaseGrid
    vapour_grid: PhaseGrid
    source: str

    def liquid(self, temp_c: float, kpa_abs: float | None = None) -> State:
        """Liquid at a temperature [°C]: saturated, or subcooled under `kpa_abs` [kPa].

        Raises: OutOfRange, off the table, or when that would be vapour.
        """
        kpa = self.saturation.bubble.pressure(temp_c) if kpa_abs is None else kpa_abs
        return self.liquid_grid.at(kpa, temp_c)

    def vapour(self, kpa_abs: float, temp_c: float | None = None) -> State:
        """Vapour at a pressure [kPa abs]: at dew, or superheated to `temp_c` [°C].

        Raises: OutOfRange, off the table, or when that would be wet.
        """
        temp = self.saturation.dew.temperature(kpa_abs) if temp_c is None else temp_c
        return self.vapour_grid.at(kpa_abs, temp)

    def vapour_at_entropy(self, kpa_abs: float, entropy: float) -> State:
        """Vapour at a pressure [kPa abs] and entropy [kJ/(kg K)]: the end of an ideal stroke.

        Raises: OutOfRange, when that state is wet or off the table.
        """
        low, high = self.vapour_grid.reach(kpa_abs)
        ends = self.vapour(kpa_abs, low).entropy, self.vapour(kpa_abs, high).entropy
        if not ends[0] <= entropy <= ends[1]:
            raise OutOfRange("vapour entropy", entropy, *ends, "kJ/(kg K)")
        for _ in range(40):
            middle = (low + high) / 2
            if self.vapour(kpa_abs, middle).entropy < entropy:
                low = middle
            else:
                high = middle
        return self.vapour(kpa_abs, (low + high) / 2)


def load_states(name: str) -> StateTable:
    """The state table of a catalogue fluid, under any spelling. Raises: UnknownName."""
    return _load(refrigerant(name).name)


@cache
def _load(name: str) -> StateTable:
    folder = files("nudge.core.physics.refrigerant").joinpath("tables", "states")
    data = json.loads(folder.joinpath(f"{name}.json").read_text("utf-8"))
    table = load_table(name)
    return StateTable(
        table,
        PhaseGrid(f"{name} liquid", table.bubble, data["liquid"], ideal=False),
        PhaseGrid(f"{name} vapour", table.dew, data["vapour"], ideal=True),
        data["source"],
    )


def _place(axis: Sequence[float], value: float) -> tuple[int, float]:
    """The row at or under a value, and how far to the next; the ends hold rounding only."""
    i = min(max(bisect_right(axis, value) - 1, 0), len(axis) - 2)
    return i, min(max((value - axis[i]) / (axis[i + 1] - axis[i]), 0.0), 1.0)


def _between(column: Sequence[float], i: int, share: float) -> float:
    return column[i] + (column[i + 1] - column[i]) * share
