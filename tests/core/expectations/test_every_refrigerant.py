"""One machine, drawn up for each refrigerant in turn, reads the same against what is expected."""

import unittest
from dataclasses import replace

from nudge.core.behaviours.case import Context, open_case
from nudge.core.judgement.departures import departures
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.targets.choose import choose_targets
from nudge.plant.presets import PRESETS
from nudge.plant.rating import rated_conditions
from nudge.plant.sizing import sized
from nudge.plant.steady import steady
from nudge.plant.truth import running_truth

FLUIDS = ("R-22", "R-32", "R-454B", "R-407C", "R-407A", "R-417A", "R-422D", "R-448A", "R-454C")
WITHIN = {
    "subcooling": 1.0,
    "superheat": 1.0,
    "condensing_over_ambient": 1.0,
    "evaporator_difference": 1.5,
    "temperature_split": 0.6,
    "compressor_power": 6.0,
    "discharge_over_stroke": 3.0,
    "condenser_air_rise": 0.6,
}
"""How far a fluid may stand from R-410A's own reading: half to two thirds of what healthy ones of
one fluid differ by [K or %]."""


def _glide_k(fluid: str, dew_c: float) -> float:
    table = load_table(fluid)
    return dew_c - table.bubble.temperature(table.dew.pressure(dew_c))


def _healthy(fluid: str) -> dict[str, float]:
    """Every departure of the same comfort system, healthy at its rated point, on this fluid."""
    usual = next(
        row.rating
        for row in PRESETS.values()
        if row.rating.fluid == "R-410A" and row.rating.device == "txv"
    )
    rating = replace(
        usual,
        fluid=fluid,
        # Its coils do the same work: the middle of the glide stays where it was.
        over_ambient_k=usual.over_ambient_k - _glide_k(fluid, 45) / 2,
        evaporating_c=usual.evaporating_c + 0.4 * _glide_k(fluid, 5),
    )
    machine = sized(rating)
    at = steady(machine, rated_conditions(rating, machine.charge_kg))
    of = Plate(
        fluid,
        MeteringDevice.TXV,
        nominal_capacity_w=1000 * rating.nominal_kw,
        rated_seer=14.0,
        target_subcooling_k=rating.subcooling_k,
    )
    case = open_case(of, running_truth(at), Context(40, 40))
    found = departures(case, targets=choose_targets(case, None, ()))
    return {key: found[key].off for key in WITHIN}


class EveryRefrigerantTest(unittest.TestCase):
    def test_no_fluid_reads_otherwise_only_for_being_another(self):
        usual = _healthy("R-410A")
        for fluid in FLUIDS:
            found = _healthy(fluid)
            for key, within in WITHIN.items():
                with self.subTest(fluid, sign=key):
                    self.assertLess(abs(found[key] - usual[key]), within)
