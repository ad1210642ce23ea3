import random
import unittest
from concurrent.futures import ThreadPoolExecutor

import psychrolib

from nudge.core.language.errors import CoreError, OutOfRange
from nudge.core.physics.air.heat import flow_from_standard, heat_taken, standard_flow
from nudge.core.physics.air.moist_air import moist_air
from tests.core.field import case, celsius


class MoistAirTest(unittest.TestCase):
    def test_chart_values(self):
        # ASHRAE psychrometric chart 1 (sea level): dry, wet → RH, dew point, grains/lb, ft³/lb.
        for dry, wet, humidity, dew, grains, volume in (
            (80, 67, 51, 60.3, 78.5, 13.85),
            (75, 63, 52, 56.0, 67.0, 13.67),
            (95, 75, 40, 67.0, 98.4, 14.30),
        ):
            with self.subTest(dry):
                air = moist_air(celsius(dry), 0, celsius(wet))
                self.assertAlmostEqual(air.relative_humidity, humidity, delta=1)
                self.assertAlmostEqual(air.dew_point_c * 1.8 + 32, dew, delta=0.5)
                self.assertAlmostEqual(air.humidity_ratio * 7000, grains, delta=0.8)
                self.assertAlmostEqual(air.volume_m3_per_kg / 0.0624280, volume, delta=0.03)

    def test_it_is_psychrolibs_own(self):
        chance = random.Random(4)
        for _ in range(200):
            dry, pressure = chance.uniform(15, 45), 101325.0
            wet = dry - chance.uniform(0, 6)
            air = moist_air(dry, 0, wet)
            ratio = psychrolib.GetHumRatioFromTWetBulb(dry, wet, pressure)
            self.assertAlmostEqual(air.humidity_ratio, ratio, 9)
            self.assertAlmostEqual(air.wet_bulb_c, wet, delta=0.02)
            by_humidity = moist_air(dry, 0, relative_humidity=air.relative_humidity)
            self.assertAlmostEqual(by_humidity.humidity_ratio, air.humidity_ratio, 7)

    def test_chart_enthalpy(self):
        # 80/67 against 60/58 (31.5 and 25.2 Btu/lb on the chart) is 6.3 Btu/lb.
        warm, cool = moist_air(celsius(80), 0, celsius(67)), moist_air(celsius(60), 0, celsius(58))
        per_lb = (warm.enthalpy_j_per_kg - cool.enthalpy_j_per_kg) / 2326
        self.assertAlmostEqual(per_lb, 6.3, delta=0.15)

    def test_impossible_air_is_refused_in_the_readers_units(self):
        with self.assertRaises(CoreError) as caught:
            moist_air(20, 0, 21)
        self.assertIn("69.8 °F is over dry bulb 68.0 °F", caught.exception.text("ip"))
        with self.assertRaises(CoreError) as dry:
            moist_air(40, 0, 5)
        self.assertIn("bone-dry air at 104.0 °F", dry.exception.text("ip"))
        for humidity in (100.5, -1, float("nan")):
            with self.assertRaises(OutOfRange):
                moist_air(20, 0, relative_humidity=humidity)
        with self.assertRaises(OutOfRange):
            moist_air(500, 0, 20)
        self.assertAlmostEqual(moist_air(20, 0, 20.4).relative_humidity, 100, delta=0.01)

    def test_requests_side_by_side_do_not_disturb_each_other(self):
        def one(i: int) -> float:
            return moist_air(20 + i % 7, 100 * (i % 5), 15 + i % 4).humidity_ratio

        alone = [one(i) for i in range(200)]
        with ThreadPoolExecutor(8) as pool:
            self.assertEqual(list(pool.map(one, range(200))), alone)


class HeatTest(unittest.TestCase):
    def test_field_rules_at_standard_air(self):
        # 4.5 x CFM x Δh and 1.08 x CFM x ΔT, 1,200 standard CFM: 34,000 and 25,900 Btu/h.
        warm, cool = moist_air(celsius(80), 0, celsius(67)), moist_air(celsius(60), 0, celsius(58))
        heat = heat_taken(warm, cool, flow_from_standard(cool, 1200 * 0.4719474))
        self.assertAlmostEqual(heat.total_w / 0.29307107, 4.5 * 1200 * 6.3, delta=700)
        self.assertAlmostEqual(heat.sensible_w / 0.29307107, 1.08 * 1200 * 20, delta=600)
        self.assertAlmostEqual(heat.latent_w + heat.sensible_w, heat.total_w, 6)
        self.assertAlmostEqual(heat.sensible_share or 0, 0.76, delta=0.02)

    def test_thin_air_carries_less(self):
        flows = [standard_flow(moist_air(15, up, 14), 500) for up in (0, 800, 1600)]
        self.assertEqual(flows, sorted(flows, reverse=True))
        # Denver, 1600 m: 83.5 kPa, 0.824 of sea level, so 0.824 of the standard flow.
        self.assertAlmostEqual(flows[2] / flows[0], 0.824, delta=0.003)

    def test_capacity_of_a_running_system(self):
        found = case(cfm=1200, ra=80, wb=67, sa=60, swb=58).derived
        assert found.capacity_total is not None
        self.assertAlmostEqual(found.capacity_total / 0.29307107, 34_000, delta=1_200)
        self.assertIsNone(case(cfm=1200, ra=80, wb=82, sa=60, swb=58).derived.capacity_total)
        self.assertIsNone(found.eer)
        eer = case(cfm=1200, ra=80, wb=67, sa=60, swb=58, ow=2800, iw=450).derived.eer
        assert eer is not None
        self.assertAlmostEqual(eer * 3.412, 34_000 / 3250, delta=0.5)
