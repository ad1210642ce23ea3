"""Units without lines outdoors: charge is judged before the device, the valve at the coil."""

import unittest

from nudge.core.behaviours.workings import derived_workings
from nudge.core.judgement.departures import departures
from tests.core.field import case, judged, plate, settled

CLEAN = settled(
    "filter_clean",
    "evaporator_coil_clean",
    "condenser_coil_clean",
    "condenser_fan_ok",
    "readings_confirmed",
)
AIR = {"oa": 88, "ra": 76, "wb": 63, "sa": 57}


class AtDeviceTest(unittest.TestCase):
    def test_the_number_carries_its_place(self):
        # R-410A, 352 psig: bubble 107.2 °F; 119 psig: dew 40.2 °F (saturation charts).
        found = case(suct=119, liq=352, eo=50, lli=97, **AIR)
        self.assertAlmostEqual(found.derived.subcooling * 1.8, 10.2, delta=0.3)
        self.assertAlmostEqual(found.derived.superheat * 1.8, 9.8, delta=0.5)
        self.assertTrue(found.derived.subcooling_at_device)
        self.assertTrue(found.derived.superheat_at_coil)
        opened = derived_workings(found)
        self.assertEqual(opened["subcooling"].formula.label, "Subcooling at the device")
        self.assertEqual(opened["superheat"].formula.label, "Superheat at the coil")

    def test_a_clamp_outdoors_comes_first(self):
        both = case(suct=119, liq=352, sl=55, ll=96, eo=50, lli=97, **AIR)
        self.assertFalse(both.derived.subcooling_at_device)
        self.assertFalse(both.derived.superheat_at_coil)
        self.assertIn("subcooling", departures(both))
        self.assertNotIn("device_subcooling", departures(both))

    def test_each_by_its_own_window(self):
        there = judged(plate(rated_seer=14), CLEAN, suct=119, liq=352, eo=50, lli=97, **AIR)
        window = there.targets.windows["subcooling"]
        # The plate's 10, three either side, and one more below for the way: 6 to 13.
        self.assertAlmostEqual(window.low * 1.8, 6)
        self.assertAlmostEqual(window.high * 1.8, 13)
        self.assertIn("at the device", window.source)
        valve = there.targets.windows["superheat"]
        self.assertAlmostEqual(valve.low * 1.8, 8)
        self.assertAlmostEqual(valve.high * 1.8, 12)
        self.assertEqual(there.decision.state, "right")
        self.assertEqual(there.suspects[0].suspect.key, "none")

    def test_an_orifices_target_is_less_at_the_coil(self):
        of = plate("fixed_orifice", subcooling=None)
        at_unit, at_coil = (
            judged(of, suct=119, liq=352, **{point: 55}, **AIR).targets.windows["superheat"].value
            for point in ("sl", "eo")
        )
        self.assertAlmostEqual((at_unit - at_coil) * 1.8, 2)

    def test_short_and_over_are_told_there(self):
        short = judged(plate(rated_seer=14), CLEAN, suct=108, liq=315, eo=52, lli=98, **AIR)
        self.assertEqual(short.decision.state, "low")
        self.assertEqual(short.suspects[0].suspect.key, "undercharge")
        over = judged(plate(rated_seer=14), CLEAN, suct=121, liq=395, eo=50, lli=96, **AIR)
        self.assertEqual(over.decision.state, "high")
        self.assertFalse(over.decision.advice == "add")


if __name__ == "__main__":
    unittest.main()
