import unittest

from nudge.core.air.moist_air import moist_air, total_capacity
from nudge.core.errors import CoreError
from tests.core.field import case, celsius


class MoistAirTest(unittest.TestCase):
    def test_chart_enthalpy(self):
        # ASHRAE psychrometric chart 1: 80/67 °F is 31.5 Btu/lb over 0 °F dry air. The SI zero
        # is 0 °C, so differences are compared: 80/67 against 60/58 (25.2) is 6.3 Btu/lb.
        warm = moist_air(celsius(80), 0, celsius(67))
        cool = moist_air(celsius(60), 0, celsius(58))
        per_lb = (warm.enthalpy_j_per_kg - cool.enthalpy_j_per_kg) / 2326
        self.assertAlmostEqual(per_lb, 6.3, delta=0.15)

    def test_field_rule_four_and_a_half(self):
        # 4.5 x CFM x Δh at standard air: 1,200 CFM and 6.3 Btu/lb come to 34,000 Btu/h.
        warm, cool = moist_air(celsius(80), 0, celsius(67)), moist_air(celsius(60), 0, celsius(58))
        btu_h = total_capacity(warm, cool, 1200 * 0.4719474) / 0.29307107
        self.assertAlmostEqual(btu_h, 34_000, delta=1_200)

    def test_thin_air_carries_less(self):
        low = total_capacity(moist_air(27, 0, 19), moist_air(15, 0, 14), 500)
        high = total_capacity(moist_air(27, 1600, 19), moist_air(15, 1600, 14), 500)
        self.assertLess(high, low)

    def test_wet_bulb_over_dry_bulb_is_refused(self):
        with self.assertRaises(CoreError):
            moist_air(20, 0, 21)

    def test_capacity_of_a_running_system(self):
        found = case(cfm=1200, ra=80, wb=67, sa=60, swb=58).derived.capacity_total
        assert found is not None
        self.assertAlmostEqual(found / 0.29307107, 34_000, delta=1_200)
        self.assertIsNone(case(cfm=1200, ra=80, wb=82, sa=60, swb=58).derived.capacity_total)
