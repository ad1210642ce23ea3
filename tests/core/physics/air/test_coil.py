"""The expected split, against the trade's sanity figures and by hand, and as physics."""

import unittest
from itertools import pairwise

from nudge.core.language.errors import CoreError
from nudge.core.physics.air.coil import (
    RATED_KG_PER_S_PER_W,
    ExpectedCoil,
    capacity_share,
    expected_coil,
)
from nudge.core.physics.air.heat import actual_flow, heat_taken
from nudge.core.physics.air.moist_air import moist_air
from tests.core.field import case, celsius, judged, plate


def coil(dry: float, wet: float, out: float = 95, cfm: float = 400, up: float = 0) -> ExpectedCoil:
    air = moist_air(celsius(dry), up, celsius(wet))
    return expected_coil(air, celsius(out), RATED_KG_PER_S_PER_W * cfm / 400)


class ExpectedSplitTest(unittest.TestCase):
    def test_the_trades_sanity_figures(self):
        # Return dry/wet bulb at 400 CFM/ton, 95 °F out: split in °F.
        for dry, wet, low, high in (
            (80, 67, 19, 21.5),
            (75, 63, 17.5, 20.5),
            (83, 76, 12, 16),
            (75, 57, 21, 24.5),
        ):
            with self.subTest(dry=dry, wet=wet):
                self.assertTrue(low <= coil(dry, wet).split_k * 1.8 <= high)

    def test_by_hand_at_the_rating_point(self):
        # 12,000 + 498 Btu/h of blower heat over 4.5 x 400 is 6.94 Btu/lb; over 1 - 0.19 it is
        # 8.57. 31.45 - 8.57 = 22.88 Btu/lb is saturated at 54.3 °F. 0.19 of the air passes:
        # 54.3 + 0.19 x 25.7 = 59.2, and the blower adds 1.15: 60.4, a split of 19.6.
        self.assertAlmostEqual(coil(80, 67).split_k * 1.8, 19.6, delta=0.4)
        self.assertAlmostEqual(coil(80, 67).saturation_c * 1.8 + 32, 45, delta=0.7)

    def test_less_air_makes_a_bigger_split_and_a_colder_coil(self):
        for dry, wet in ((80, 67), (75, 57), (83, 76)):
            found = [coil(dry, wet, cfm=cfm) for cfm in range(200, 640, 20)]
            splits = [one.split_k for one in found]
            cold = [one.saturation_c for one in found]
            self.assertEqual(splits, sorted(splits, reverse=True))
            self.assertEqual(cold, sorted(cold))
            self.assertEqual([c.total_w for c in found], sorted(c.total_w for c in found))

    def test_heat_adds_up(self):
        for dry, wet, cfm in ((80, 67, 400), (83, 76, 350), (75, 57, 450), (72, 60, 300)):
            found = coil(dry, wet, cfm=cfm)
            entering = moist_air(celsius(dry), 0, celsius(wet))
            flow = actual_flow(found.leaving, RATED_KG_PER_S_PER_W * cfm / 400)
            heat = heat_taken(entering, found.leaving, flow)
            with self.subTest(dry=dry, wet=wet):
                self.assertAlmostEqual(heat.total_w / found.total_w, 1, delta=0.015)
                self.assertAlmostEqual(heat.sensible_w / found.sensible_w, 1, delta=0.01)
                self.assertLessEqual(found.sensible_w, found.total_w * 1.001)

    def test_wet_and_dry_coils_meet_without_a_jump(self):
        splits = [coil(75, 54 + i * 0.1).split_k for i in range(60)]
        self.assertTrue(coil(75, 54).is_dry)
        self.assertFalse(coil(75, 60).is_dry)
        self.assertLess(max(abs(a - b) for a, b in pairwise(splits)), 0.1)

    def test_it_does_not_reach_for_ever(self):
        for made in ((110, 70), (80, 45), (80, 52, 140), (80, 67, 95, 100)):
            with self.subTest(made), self.assertRaises(CoreError):
                coil(*made)

    def test_capacity_goes_with_wet_bulb_and_against_the_heat_outdoors(self):
        self.assertEqual(capacity_share(celsius(67), celsius(95)), 1.0)
        self.assertAlmostEqual(capacity_share(celsius(72), celsius(95)), 1.0675, 4)
        self.assertAlmostEqual(capacity_share(celsius(67), celsius(105)), 0.945, 4)


class TargetTest(unittest.TestCase):
    def test_the_window_is_the_airs_own(self):
        humid = judged(sa=69, ra=83, wb=76, oa=95, suct=140, liq=400).targets.windows
        split = humid["temperature_split"]
        self.assertTrue(split.low * 1.8 < 14 < split.high * 1.8)
        self.assertEqual(split.method, "coil_model")
        self.assertNotIn("temperature_split", case_windows(ra=83, oa=95))

    def test_measured_airflow_narrows_it(self):
        of = plate(nominal_capacity_w=36_000 * 0.29307)
        loose = judged(of, ra=80, wb=67, sa=60, oa=95).targets.windows["temperature_split"]
        tight = judged(of, ra=80, wb=67, sa=60, oa=95, cfm=1190).targets.windows[
            "temperature_split"
        ]
        self.assertLess(tight.high - tight.low, loose.high - loose.low)
        starved = judged(of, ra=80, wb=67, sa=54, oa=95, cfm=700)
        self.assertGreater(starved.targets.windows["temperature_split"].value, tight.value + 3)
        self.assertIn("airflow_out_of_range", [b.gate.key for b in starved.breaches])


def case_windows(**spoken: float) -> object:
    from nudge.core.targets.choose import choose_targets

    return choose_targets(case(**spoken)).windows
