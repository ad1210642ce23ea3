import unittest
from itertools import pairwise

from nudge.core.physics.circuit.cycle import chart_of, run_cycle
from nudge.core.physics.refrigerant.catalogue import CATALOGUE
from nudge.core.physics.refrigerant.table import load_table
from tests.core.field import readings

RUNNING = readings(suct=118, liq=341, sl=52, ll=96, dl=160)


class CycleTest(unittest.TestCase):
    def test_a_running_cycle(self):
        cycle = run_cycle("R-410A", RUNNING)
        self.assertEqual([c.key for c in cycle.corners], ["suction", "discharge", "liquid", "fed"])
        suction, discharge, liquid, fed = cycle.corners
        self.assertEqual(liquid.enthalpy, fed.enthalpy)  # a valve does no work
        self.assertGreater(discharge.enthalpy, suction.enthalpy)
        # R-410A at 40/105 °F, 12 of superheat, 9 of subcooling: about 74 Btu/lb of effect.
        self.assertAlmostEqual((cycle.effect_kj_kg or 0) / 2.326, 74, delta=1)
        assert cycle.compression is not None
        self.assertTrue(0.5 < cycle.compression < 1.0)

    def test_without_a_discharge_line_the_stroke_is_estimated(self):
        kept = {k: v for k, v in RUNNING.items() if k != "discharge_line_temp"}
        cycle = run_cycle("R-410A", kept)
        self.assertTrue(cycle.corners[1].estimated)
        self.assertIsNone(cycle.compression)
        self.assertEqual(run_cycle("R-410A", {}).corners, ())
        wet = run_cycle("R-410A", RUNNING | {"suction_line_temp": -5.0})
        self.assertNotIn("suction", [c.key for c in wet.corners])  # wet suction is off the chart

    def test_every_fluid_has_a_chart(self):
        for name in CATALOGUE:
            chart = chart_of(name)
            with self.subTest(name):
                for bubble, dew in zip(chart.bubble, chart.dew, strict=True):
                    self.assertLess(bubble[0], dew[0])
                self.assertGreater(len(chart.isotherms), 4)
                self.assertGreater(len(chart.isentropes), 2)
                for line in chart.isotherms.values():
                    # Down the chart an isotherm goes right; the liquid part is all but upright.
                    self.assertTrue(all(b[0] > a[0] - 0.5 for a, b in pairwise(line)))
                pressures = [p for _, p in chart.dew]
                self.assertGreaterEqual(pressures[0], load_table(name).low_kpa)
