"""Generate the packaged saturation tables from CoolProp. Run by `make tables`.

Pure fluids: their Helmholtz equations of state. Blends: the multi-fluid mixture model, not
the pseudo-pure fits, so that bubble, dew and everything between come from one source.
The mixture solver fails at scattered states when started cold: each row is started from
the one below it, may move by up to 0.6 K to step round a failure, and must carry on the
curve of the rows below it. A hole wider than its curve allows stops the run.
"""

import json
from dataclasses import dataclass
from datetime import date
from math import log
from pathlib import Path
from typing import Any

import CoolProp
from CoolProp.CoolProp import AbstractState, PyGuessesStructure

from nudge.core.physics.refrigerant.catalogue import CATALOGUE, COMPONENTS, Refrigerant

TABLES = Path(__file__).parents[1] / "nudge/core/physics/refrigerant/tables"
LOW_C, HIGH_C, STEP_K = -54.0, 72.0, 1.5
BELOW_CRITICAL_K = 1.9  # the range wanted ends 4 °F (2.22 K) below critical
REQUIRED_LOW_C, REQUIRED_BELOW_CRITICAL_K = -51.11, 2.22
SIDESTEPS_K = (0, 0.15, -0.15, 0.3, -0.3, 0.45, -0.45, 0.6, -0.6)
Row = tuple[float, float]
Curve = dict[str, list[float]]


@dataclass(frozen=True)
class Need:
    """What one curve must reach: a coil is fed at quality 0.2 only where evaporators work."""

    quality: float
    high_c: float
    largest_gap_k: float


NEEDS = {
    "bubble": Need(0.0, 65.56, 2.2),
    "valve_outlet": Need(0.2, 30.0, 5.0),
    "dew": Need(1.0, 65.56, 2.2),
}


def reference_state(fluid: Refrigerant) -> AbstractState:
    """CoolProp's state of a catalogue fluid, at its mass fractions."""
    names = [COMPONENTS[c].reference_name for c in fluid.mass_fractions]
    state = AbstractState("HEOS", "&".join(names))
    if fluid.is_blend:
        state.set_mass_fractions(list(fluid.mass_fractions.values()))
    return state


def critical_point(state: AbstractState, blend: bool) -> tuple[float, float]:
    """Critical temperature [°C] and pressure [kPa]: of a blend, its stable critical point."""
    if not blend:
        return state.T_critical() - 273.15, state.p_critical() / 1e3
    (point,) = [c for c in state.all_critical_points() if c.stable]
    return point.T - 273.15, point.p / 1e3


class RowSolver:
    """Solves saturation rows upwards, each started from the one below it."""

    def __init__(self, state: AbstractState, quality: float, blend: bool) -> None:
        self._state, self._quality = state, quality
        self._warm = blend and quality in (0.0, 1.0)  # CoolProp takes guesses only there
        self._guess: PyGuessesStructure | None = None

    def solve(self, wanted_c: float) -> Row | None:
        """A solved (temperature, pressure) at or beside the wanted temperature, or None."""
        for step in SIDESTEPS_K:
            temp_c = round(wanted_c + step, 3)
            try:
                self._update(temp_c + 273.15)
            except ValueError:
                continue
            self._remember()
            return temp_c, self._state.p() / 1e3
        return None

    def _update(self, kelvin: float) -> None:
        if self._guess is not None:
            try:
                self._state.update_with_guesses(
                    CoolProp.QT_INPUTS, self._quality, kelvin, self._guess
                )
                return
            except ValueError:
                pass
        self._state.update(CoolProp.QT_INPUTS, self._quality, kelvin)

    def _remember(self) -> None:
        if self._warm:
            state, guess = self._state, PyGuessesStructure()
            guess.T, guess.p = state.T(), state.p()
            guess.rhomolar_liq = state.saturated_liquid_keyed_output(CoolProp.iDmolar)
            guess.rhomolar_vap = state.saturated_vapor_keyed_output(CoolProp.iDmolar)
            guess.x = list(state.mole_fractions_liquid())
            guess.y = list(state.mole_fractions_vapor())
            self._guess = guess


def continues(rows: list[Row], row: Row) -> bool:
    """Whether a row carries on the curve of the three below it, to 0.02 K, in ln p - 1/T."""
    if len(rows) < 3:
        return True
    (x1, y1), (x2, y2), (x3, y3), (x, y) = (
        (1 / (t + 273.15), log(p)) for t, p in (*rows[-3:], row)
    )
    steep, steep_before = (y3 - y2) / (x3 - x2), (y2 - y1) / (x2 - x1)
    bend = (steep - steep_before) / (x3 - x1)
    predicted = y3 + (x - x3) * (steep + bend * (x - x2))
    return abs((predicted - y) / steep) * (row[0] + 273.15) ** 2 < 0.02


def one_curve(solver: RowSolver, name: str, key: str, critical_c: float) -> Curve:
    """Rows of one quality, checked for smoothness, gaps and reach; stops on a hole."""
    need = NEEDS[key]
    top = min(HIGH_C, critical_c - BELOW_CRITICAL_K)
    needed = min(need.high_c, critical_c - REQUIRED_BELOW_CRITICAL_K)
    count = int((top - LOW_C - STEP_K / 2) / STEP_K)
    wanted = [*(LOW_C + STEP_K * i for i in range(count + 1)), (top + needed) / 2, top]
    rows: list[Row] = []
    for row in (solver.solve(t) for t in wanted):
        if row is None or (rows and row[0] - rows[-1][0] < STEP_K / 8):
            continue
        if not continues(rows, row):
            print(f"  {name} {key}: {row[0]:.2f} °C is off the curve, left out")
        elif rows and row[0] - rows[-1][0] > need.largest_gap_k:
            if rows[-1][0] < needed:
                raise SystemExit(f"{name} {key}: a hole above {rows[-1][0]:.2f} °C")
            break
        else:
            rows.append(row)
    if rows[0][0] > REQUIRED_LOW_C or rows[-1][0] < needed:
        raise SystemExit(f"{name} {key}: {rows[0][0]} to {rows[-1][0]} °C, not {needed:.2f}")
    return {"temp_c": [t for t, _ in rows], "kpa_abs": [float(f"{p:.8g}") for _, p in rows]}


def main() -> None:
    for fluid in CATALOGUE.values():
        state = reference_state(fluid)
        critical_c, critical_kpa = critical_point(state, fluid.is_blend)
        table: dict[str, Any] = {
            "name": fluid.name,
            "source": f"CoolProp {CoolProp.__version__}, HEOS, doi:10.1021/ie4033999",
            "critical_c": round(critical_c, 3),
            "critical_kpa": round(critical_kpa, 2),
            **{
                key: one_curve(
                    RowSolver(state, need.quality, fluid.is_blend), fluid.name, key, critical_c
                )
                for key, need in NEEDS.items()
            },
        }
        (TABLES / f"{fluid.name}.json").write_text(json.dumps(table, indent=1) + "\n")
        print(fluid.name, round(critical_c, 2), len(table["bubble"]["temp_c"]), "rows")
    (TABLES / "SOURCES.md").write_text(
        "# Where these tables come from\n\n"
        f"Generated {date.today().isoformat()} by `make tables` (`tools/make_tables.py`) from "
        f"CoolProp {CoolProp.__version__}, Helmholtz equations of state and, for blends, the "
        "multi-fluid mixture model (Bell et al. 2014, doi:10.1021/ie4033999) at the mass "
        "fractions in `catalogue.py`.\n\nRows: saturation temperature [°C], absolute pressure "
        "[kPa], at quality 0 (bubble), 0.2 (valve outlet) and 1 (dew).\n\n`states/` is made from "
        "them by `tools/make_states.py`: density [kg/m³], enthalpy [kJ/kg] and entropy [kJ/(kg K)] "
        "of liquid and vapour on pressure [kPa] against offset from saturation [K], IIR "
        "reference.\n"
    )


if __name__ == "__main__":
    main()
