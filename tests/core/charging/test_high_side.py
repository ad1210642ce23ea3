"""Both pressures beside the refusal of the high side; the class rule without its steps."""

import re
import unittest
from itertools import pairwise

from nudge.core.charging.high_side import high_side
from nudge.core.expectations.expected import SEER_FROM, SEER_TO, expected, held_seer
from nudge.core.judgement.departures import departures
from nudge.core.targets.condensing import class_seer, condensing_over_ambient_near
from tests.core.field import case, plate


class HighSideTest(unittest.TestCase):
    def pressures(self, **spoken):
        said = high_side(case(**spoken)).text("ip")
        return [float(number) for number in re.findall(r"(\d+) psig", said)], said

    def test_both_pressures_are_shown_and_the_cylinder_is_the_lower(self):
        # R-410A at 85 °F: 255 psig, at 90 °F: 274 psig (a pressure chart).
        (liquid, cylinder), said = self.pressures(suct=118, liq=341, oa=86)
        self.assertEqual(liquid, 341)
        self.assertTrue(255 < cylinder < 274, said)
        self.assertIn("Never into the high side", said)

    def test_without_a_gauge_the_cylinders_own_is_shown(self):
        found, said = self.pressures(suct=118, oa=86)
        self.assertEqual(len(found), 1)
        self.assertIn("would push back", said)

    def test_weather_off_the_table_is_held_at_its_edge(self):
        cold = case(plate("txv", "R-744", subcooling=None), suct=400, oa=100)
        self.assertIn("psig", high_side(cold).text("ip"))


class ClassTest(unittest.TestCase):
    def test_between_classes_it_takes_part_of_each_and_never_jumps(self):
        steps = [6 + 0.25 * n for n in range(60)]
        values = [condensing_over_ambient_near(seer) * 1.8 for seer in steps]
        for before, after in pairwise(values):
            self.assertLessEqual(after, before + 1e-9)
            self.assertLess(before - after, 0.5)
        # The trade's classes, in their middles: 30 °F for SEER 6 to 9, 25 to 12, 20 to 16, then 15.
        for seer, rule in ((8, 30), (11.5, 25), (15, 20), (18.5, 15)):
            self.assertAlmostEqual(condensing_over_ambient_near(seer) * 1.8, rule)

    def test_with_no_class_a_machine_is_as_old_as_its_refrigerant(self):
        self.assertEqual(class_seer(plate("txv", "R-22")), 10)
        self.assertEqual(class_seer(plate("txv", "R-22", rated_seer=13)), 13)
        self.assertGreater(class_seer(plate("txv", "R-32")), class_seer(plate("txv", "R-410A")))

    def test_the_plates_own_figure_comes_first(self):
        spoken = {"suct": 118, "liq": 341, "ll": 96, "sl": 52, "oa": 88, "ra": 76, "wb": 63}
        ruled, told = (
            departures(case(of, **spoken))["condensing_over_ambient"].expected * 1.8
            for of in (plate(rated_seer=14), plate(rated_seer=14, condensing_over_ambient_k=7.0))
        )
        self.assertAlmostEqual(told, 12.6)  # 7 K, uncorrected
        one = expected(case(plate(rated_seer=14), **spoken), "condensing_over_ambient")
        self.assertAlmostEqual(ruled, one.value * 1.8)  # the one figure every rule uses
        self.assertLess(abs(ruled - condensing_over_ambient_near(14) * 1.8), 6)

    def test_efficiency_beyond_the_fit_is_held(self):
        self.assertEqual(held_seer(40), held_seer(SEER_TO))
        self.assertEqual(held_seer(3), held_seer(SEER_FROM))
        self.assertEqual(held_seer(14), 0)


if __name__ == "__main__":
    unittest.main()
