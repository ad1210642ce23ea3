"""The balance of a heating visit, against figures worked out by hand; lockouts as numbers."""

import unittest

from nudge.core.language.units import to_si
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.physics.heating.balance import balance, heating_plate
from nudge.core.physics.heating.expected import btu_h
from nudge.core.physics.heating.lockouts import lockouts_said

W = 0.29307107
PLATE = Plate(
    "R-410A",
    MeteringDevice.TXV,
    heat_47_w=36_000 * W,
    heat_17_w=22_500 * W,
    power_47_w=3_000.0,
    power_17_w=2_600.0,
)
DAY = {
    "return_air_temp": 69.0,
    "return_air_rh": 40.0,
    "supply_air_temp": 92.0,
    "outdoor_air_temp": 38.0,
    "airflow": 1_150.0,
    "outdoor_unit_watts": 2_480.0,
    "indoor_unit_watts": 350.0,
}


def core(**field):
    return {key: to_si(value, POINTS[key].quantity, "ip") for key, value in field.items()}


def c(f):
    return (f - 32) / 1.8


class BalanceTest(unittest.TestCase):
    def test_by_hand(self):
        found = balance(PLATE, core(**DAY))
        self.assertAlmostEqual(btu_h(found.delivered.value), 27_430, delta=60)
        self.assertAlmostEqual(btu_h(found.expected.value), 28_380, delta=5)
        self.assertAlmostEqual(found.power.value, 2_830, delta=0.1)
        self.assertAlmostEqual(found.expected_power.value, 2_830, delta=1)
        # 27,430 Btu/h are 8,039 W; over 2,830 W that is 2.84.
        self.assertAlmostEqual(found.cop.value, 2.84, delta=0.01)
        self.assertEqual(found.place, "right")
        self.assertEqual(found.asides, ())
        self.assertFalse(found.is_guessed)

    def test_short_by_more_than_its_own_uncertainty(self):
        # 84 °F: 15 of 23 °F of rise is a third less heat; ± is about an eighth.
        short = balance(PLATE, core(**DAY | {"supply_air_temp": 84.0}))
        self.assertEqual(short.place, "short")
        self.assertLess(short.off_percent, -30)
        near = balance(PLATE, core(**DAY | {"supply_air_temp": 90.5}))
        self.assertEqual(near.place, "right")
        self.assertEqual(balance(PLATE, core(**DAY | {"supply_air_temp": 103.0})).place, "over")

    def test_without_a_meter_by_volts_amps_and_power_factor(self):
        given = {key: value for key, value in DAY.items() if key != "outdoor_unit_watts"}
        given |= {
            "outdoor_unit_volts": 240.0,
            "outdoor_unit_amps": 10.9,
            "outdoor_unit_power_factor": 0.95,
        }
        found = balance(PLATE, core(**given))
        self.assertAlmostEqual(found.power.value, 240 * 10.9 * 0.95 + 350, delta=0.5)
        self.assertGreater(
            found.power.uncertainty, balance(PLATE, core(**DAY)).power.uncertainty
        )  # three readings are less sure than a meter
        self.assertIsNone(balance(PLATE, core(**given | {"outdoor_unit_amps": 0.0})).power)

    def test_between_two_defrosts_a_clear_coil_is_not_too_much(self):
        # 35 °F: the plate's line with its defrosts says 27,540; clear of frost 30,600.
        cold = DAY | {"outdoor_air_temp": 35.0, "supply_air_temp": 95.5}
        found = balance(PLATE, core(**cold))
        self.assertAlmostEqual(btu_h(found.clear_w), 30_600, delta=10)
        self.assertAlmostEqual(found.clear_power_w, 2_840, delta=1)  # 2,600 + 0.6 x 400
        self.assertGreater(btu_h(found.delivered.value), 31_000)
        self.assertEqual(found.place, "right")

    def test_an_indoor_fan_nobody_measured_is_assumed_and_said_so(self):
        given = {key: value for key, value in DAY.items() if key != "indoor_unit_watts"}
        found = balance(PLATE, core(**given)).power
        self.assertAlmostEqual(found.value - 2_480, 1_150 * 0.365, delta=3)  # 365 W for 1,000 CFM
        self.assertEqual([one.source for one in found.inputs], ["typed", "assumed"])

    def test_what_spoils_the_rise_gives_no_heat(self):
        for given, seen, word in (
            (DAY, {"strips_on"}, "strips"),
            (DAY | {"strip_amps": 21.0}, frozenset(), "strips"),
            (DAY | {"supply_air_temp": 60.0}, frozenset(), "cooler"),
        ):
            found = balance(PLATE, core(**given), frozenset(seen))
            self.assertIsNone(found.delivered)
            self.assertEqual(found.place, "unknown")
            self.assertIn(word, found.asides[0].text("ip"))

    def test_kilowatts_typed_as_watts_are_asked_about(self):
        found = balance(PLATE, core(**DAY | {"outdoor_unit_watts": 2.8}))
        self.assertIsNone(found.power)
        self.assertIn("Kilowatts?", found.asides[0].text("ip"))
        self.assertIsNotNone(found.delivered)  # the heat is not the watts' fault

    def test_a_plate_without_its_winter_is_guessed_by_its_size(self):
        bare = Plate("R-410A", MeteringDevice.TXV, nominal_capacity_w=36_000 * W)
        found = balance(bare, core(**DAY))
        self.assertTrue(found.is_guessed)
        self.assertGreater(found.limit_percent, balance(PLATE, core(**DAY)).limit_percent)
        self.assertIsNone(heating_plate(Plate("R-410A", MeteringDevice.TXV)))
        self.assertIsNone(balance(Plate("R-410A", MeteringDevice.TXV), core(**DAY)).expected)

    def test_off_any_rating_nothing_is_expected(self):
        for outdoor in (-40.0, 80.0):
            found = balance(PLATE, core(**DAY | {"outdoor_air_temp": outdoor}))
            self.assertIsNone(found.expected)
            self.assertIsNotNone(found.delivered)


class LockoutsTest(unittest.TestCase):
    def said(self, balance_f=None, **numbers):
        plate = Plate("R-410A", MeteringDevice.TXV, strips_kw=10.0, **numbers)
        found = lockouts_said(plate, None if balance_f is None else c(balance_f))
        return " ".join(one.text("ip") for one in found)

    def test_crossed_is_a_finding(self):
        said = self.said(strips_off_over_c=c(30), compressor_off_under_c=c(35))
        self.assertIn("Crossed: between 30.0 °F and 35.0 °F", said)
        self.assertEqual(self.said(strips_off_over_c=c(40), compressor_off_under_c=c(20)), "")

    def test_both_off_is_a_question_where_there_are_strips(self):
        self.assertIn("Both lockouts off?", self.said())
        bare = Plate("R-410A", MeteringDevice.TXV)
        self.assertEqual(lockouts_said(bare, None), ())

    def test_the_balance_point_shows_what_they_cost(self):
        said = self.said(30, strips_off_over_c=c(45), compressor_off_under_c=c(38))
        self.assertIn("cost 15.0 °F of weather", said)
        self.assertIn("kept off under 38.0 °F", said)
        self.assertEqual(self.said(30, strips_off_over_c=c(34), compressor_off_under_c=c(20)), "")

    def test_never_under_the_rated_minimum(self):
        said = self.said(
            strips_off_over_c=c(40), compressor_off_under_c=c(5), lowest_outdoor_c=c(15)
        )
        self.assertIn("under its rated minimum of 15.0 °F", said)


if __name__ == "__main__":
    unittest.main()
