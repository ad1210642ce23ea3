"""Generate the packaged state tables: density, enthalpy, entropy. Run by `make tables`.

Liquid and vapour of each fluid on a grid of pressure against the offset from saturation:
subcooling under bubble, superheat over dew, at pressures of its packaged saturation table.
CoolProp is told which phase it is in, so every state is one density solve with no flash.
Enthalpy and entropy count from the IIR reference (200 kJ/kg and 1 kJ/(kg K), liquid at 0 °C).
"""

import json

import CoolProp

from nudge.core.physics.refrigerant.catalogue import CATALOGUE, Refrigerant
from nudge.core.physics.refrigerant.curve import SaturationCurve
from nudge.core.physics.refrigerant.table import load_table
from tools.make_tables import TABLES, reference_state

STATES = TABLES / "states"
JUST_INSIDE_K = 1e-6
SUPERHEATS_K = (JUST_INSIDE_K, 3, 7, 12, 18, 26, 36, 50, 66, 84, 104)
SUBCOOLINGS_K = (-40, -28, -20, -14, -9, -5, -2, -JUST_INSIDE_K)
ROW_STEP_K = 2.5
_IIR_ENTHALPY, _IIR_ENTROPY = 200.0, 1.0


class PhaseSolver:
    """One fluid in one imposed phase."""

    def __init__(self, fluid: Refrigerant, phase: int) -> None:
        self._state = reference_state(fluid)
        self._state.specify_phase(phase)  # type: ignore[arg-type]

    def at(self, kpa_abs: float, temp_c: float) -> tuple[float, float, float]:
        """Density [kg/m³], enthalpy [kJ/kg], entropy [kJ/(kg K)], CoolProp's own zero."""
        self._state.update(CoolProp.PT_INPUTS, kpa_abs * 1e3, temp_c + 273.15)
        return self._state.rhomass(), self._state.hmass() / 1e3, self._state.smass() / 1e3


def phase_grid(
    solver: PhaseSolver,
    curve: SaturationCurve,
    offsets_k: tuple[float, ...],
    zero: tuple[float, float],
) -> dict[str, object]:
    """States at pressures of a saturation curve, each at every offset from saturation [K]."""
    pressures, last_c = [], float("-inf")
    for kpa in curve.kpa:
        if curve.temperature(kpa) - last_c >= ROW_STEP_K or kpa == curve.kpa[-1]:
            pressures.append(kpa)
            last_c = curve.temperature(kpa)
    grid = [[solver.at(kpa, curve.temperature(kpa) + k) for k in offsets_k] for kpa in pressures]
    return {
        "kpa_abs": pressures,
        "offset_k": [round(k, 3) for k in offsets_k],
        "density": [[_short(cell[0]) for cell in row] for row in grid],
        "enthalpy": [[_short(cell[1] - zero[0]) for cell in row] for row in grid],
        "entropy": [[_short(cell[2] - zero[1]) for cell in row] for row in grid],
    }


def _short(value: float) -> float:
    return float(f"{value:.7g}")


def main() -> None:
    STATES.mkdir(exist_ok=True)
    for fluid in CATALOGUE.values():
        table = load_table(fluid.name)
        liquid = PhaseSolver(fluid, CoolProp.iphase_liquid)
        gas = PhaseSolver(fluid, CoolProp.iphase_gas)
        _, enthalpy, entropy = liquid.at(table.bubble.pressure(0.0), 0.0)
        zero = (enthalpy - _IIR_ENTHALPY, entropy - _IIR_ENTROPY)
        states = {
            "name": fluid.name,
            "source": f"CoolProp {CoolProp.__version__}, HEOS, doi:10.1021/ie4033999",
            "liquid": phase_grid(liquid, table.bubble, SUBCOOLINGS_K, zero),
            "vapour": phase_grid(gas, table.dew, SUPERHEATS_K, zero),
        }
        (STATES / f"{fluid.name}.json").write_text(json.dumps(states) + "\n")
        print(fluid.name, "states")


if __name__ == "__main__":
    main()
