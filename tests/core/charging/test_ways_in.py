"""Ways in: the one for today, the collar's two figures, what a hose holds, what a scale says."""

import unittest

from nudge.core.charging.guides import guides, hose_kg
from nudge.core.charging.scale import poured
from nudge.core.charging.ways import CONNECTIONS
from nudge.core.settling.trace import Trace
from tests.core.field import case, plate

OZ = 0.028349523125


def case_at(outdoor, **more):
    return case(plate(rated_seer=14), oa=outdoor, **more)


class GuidesTest(unittest.TestCase):
    def first(self, case, of=None):
        of = of or plate(rated_seer=14)
        return guides(of, case, 0.0, "subcooling")[0]

    def test_a_warm_day_is_trimmed_and_a_cold_one_gets_a_collar(self):
        self.assertEqual(self.first(case_at(88)).way.key, "trim_by_subcooling")
        self.assertEqual(self.first(case_at(48)).way.key, "cold_with_collar")

    def test_under_freezing_it_is_weighed_in_and_left_for_the_season(self):
        freezing = self.first(case_at(20))
        self.assertEqual(freezing.way.key, "weigh_in")
        self.assertIn("in season", freezing.why.text("ip"))

    def test_an_inverter_is_charged_in_its_own_mode(self):
        of = plate("eev")
        self.assertEqual(self.first(None, of).way.key, "inverter_charge_mode")

    def test_the_collar_is_set_by_condensing_and_by_the_valve(self):
        # R-410A: 274 psig is 90 °F, 318 psig is 100 °F, by the saturation table; SEER 15 stands
        # 20 °F over its air, so a day of 80 °F condenses at 100, and the valve wants 160 psi.
        cold = case_at(48, suct=118, liq=260)
        found = guides(plate(rated_seer=15), cold, 0, "subcooling")[0]
        figures = {figure.label: figure for figure in found.figures}
        self.assertEqual(figures["Condensing"].stands, "low")
        self.assertEqual(figures["Across the valve"].stands, "low")
        self.assertIn("95.0 °F to 105.0 °F", figures["Condensing"].said.text("ip"))
        right = case_at(48, suct=118, liq=318)
        figures = guides(plate(rated_seer=15), right, 0, "subcooling")[0].figures
        self.assertEqual([f.stands for f in figures], ["right", "right"])

    def test_a_weigh_in_counts_what_has_gone_in(self):
        of = plate(factory_charge_kg=3.0)
        found = guides(of, None, 1.0, "subcooling")
        figures = next(g for g in found if g.way.key == "weigh_in").figures
        self.assertIn("4 lb 6.5 oz to go", figures[1].said.text("ip"))  # 2 kg of 3

    def test_a_plant_with_many_rooms_has_one_way_and_no_trim(self):
        (only,) = guides(plate("eev", liquid_pipes=()), case_at(88), 0.0, "subcooling")
        self.assertEqual(only.way.key, "weigh_in")
        self.assertNotIn("burst", " ".join(step.text for step in only.steps))
        self.assertIn("never trimmed", only.why.text("ip"))

    def test_every_dangerous_step_has_its_caution_beside_it(self):
        for guide in guides(plate(), None, 0.0, "subcooling"):
            with self.subTest(guide.way.key):
                self.assertTrue(any(step.caution for step in guide.steps))


class HoseTest(unittest.TestCase):
    def test_five_feet_of_quarter_inch_hold_about_an_ounce(self):
        self.assertAlmostEqual(hose_kg(CONNECTIONS["hose_manifold"], "R-410A") / OZ, 1.0, delta=0.1)
        self.assertEqual(hose_kg(CONNECTIONS["probes"], "R-410A"), 0.0)


class ScaleTest(unittest.TestCase):
    def read(self, weights, removes=False, apart=1.0):
        times = tuple(apart * i for i in range(len(weights)))
        return poured(Trace(times, tuple(weights)), removes)

    def test_a_burst_is_what_the_cylinder_lost(self):
        found = self.read([9.5] * 3 + [9.5 - 0.006 * i for i in range(15)] + [9.41] * 4)
        self.assertAlmostEqual(found.gone_kg, 0.09, places=6)
        self.assertIsNone(found.doubt)
        self.assertIsNone(poured(Trace((), ())))

    def test_a_recovery_cylinder_gains(self):
        found = self.read([5.0] * 3 + [5.0 + 0.01 * i for i in range(12)], removes=True)
        self.assertAlmostEqual(found.gone_kg, 0.1, places=6)
        self.assertIsNone(found.doubt)

    def test_a_knock_a_wrong_way_and_a_creep_are_named(self):
        self.assertIn("jumped", self.read([9.5] * 5 + [9.7] * 5).doubt.text("ip"))
        rising = self.read([9.5] * 3 + [9.5 + 0.01 * i for i in range(10)])
        self.assertIn("wrong way", rising.doubt.text("ip"))
        creeping = self.read([9.5 - 0.00015 * i for i in range(90)])
        self.assertIn("creeps", creeping.doubt.text("ip"))


if __name__ == "__main__":
    unittest.main()
