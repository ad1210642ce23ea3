"""One expectation a quantity: computed strokes, plates, weather, and windows that derive from it."""

import unittest

from CoolProp.CoolProp import PropsSI

from nudge.core.behaviours.case import open_case
from nudge.core.expectations.expected import WINDOW_SIGMAS, expected
from nudge.core.expectations.signs import FAR_REACHING, SIGNS
from nudge.core.gaugeless.estimate import OwnHistory, estimate
from nudge.core.judgement.departures import departures, moved
from nudge.core.judgement.features import features
from nudge.core.language.vocabulary.accuracy import accuracy_of
from nudge.core.physics.circuit.compression import (
    ISENTROPIC,
    SHELL_LOSS,
    expected_discharge_c,
    expected_power_w,
    stroke_of,
)
from nudge.core.targets.choose import choose_targets
from tests.core.field import case, plate, readings

RIGHT = {"suct": 119, "liq": 352, "sl": 55, "ll": 97, "oa": 88, "ra": 76, "wb": 63, "sa": 57}


def _pressure_of_middle(fluid: str, middle_c: float, fed: float) -> float:
    """The pressure at which a coil fed at a quality and left at dew has its middle there [Pa]."""
    least, most = 100e3, 4500e3
    for _ in range(60):
        at = (least + most) / 2
        ends = [PropsSI("T", "P", at, "Q", q, fluid) - 273.15 for q in (fed, 1)]
        least, most = (at, most) if sum(ends) / 2 < middle_c else (least, at)
    return least


class ComputedStrokeTest(unittest.TestCase):
    def test_discharge_by_the_reference_equation_of_state(self):
        # First law by CoolProp: h2 = h1 + (h2s - h1) / 0.67 × 0.94, then the temperature there.
        for fluid, low, high, drawn_c in (
            ("R32", 950e3, 2700e3, 16),
            ("R22", 590e3, 1750e3, 15),
            ("R134a", 360e3, 1100e3, 16),
        ):
            h1 = PropsSI("H", "P", low, "T", drawn_c + 273.15, fluid)
            s1 = PropsSI("S", "P", low, "T", drawn_c + 273.15, fluid)
            ideal = PropsSI("H", "P", high, "S", s1, fluid)
            left = h1 + (ideal - h1) / ISENTROPIC * (1 - SHELL_LOSS)
            by_reference = PropsSI("T", "P", high, "H", left, fluid) - 273.15
            of = plate("txv", f"R-{fluid[1:]}")
            read = {
                "suction_pressure": low / 1e3 - 101.325,
                "liquid_pressure": high / 1e3 - 101.325,
                "suction_line_temp": drawn_c,
            }
            with self.subTest(fluid):
                stroke = stroke_of(of, read)
                assert stroke is not None
                self.assertAlmostEqual(stroke.discharge_c, by_reference, delta=1.5)
                self.assertAlmostEqual(stroke.work, (ideal - h1) / ISENTROPIC / 1e3, delta=0.6)

    def test_neither_is_said_while_the_gas_may_be_wet(self):
        of = plate(nominal_capacity_w=10_550, rated_seer=14)
        for line, there in ((48, True), (42, False), (36, False)):  # dew is about 41 °F at 119 psig
            read = readings(suct=119, liq=352, sl=line)
            self.assertEqual(expected_discharge_c(of, read) is not None, there)
            self.assertEqual(expected_power_w(of, read, 11.0) is not None, there)

    def test_power_goes_with_capacity_and_head(self):
        of, twice = (plate(nominal_capacity_w=w, rated_seer=14) for w in (10_000, 20_000))
        read, hot = readings(suct=119, liq=352, sl=52), readings(suct=119, liq=420, sl=52)
        one = expected_power_w(of, read, 11.0)
        assert one is not None
        self.assertAlmostEqual(expected_power_w(twice, read, 11.0), 2 * one)
        self.assertGreater(expected_power_w(of, hot, 11.0), 1.1 * one)
        # A three-ton machine of ordinary efficiency draws 2 to 3 kW.
        self.assertTrue(2000 < one < 3000, one)

    def test_a_gliding_fluid_is_rated_at_the_middle_of_its_glide(self):
        # By CoolProp: coils whose middle is at 7.6 and 46 °C, whatever dew and bubble are there.
        for fluid, capacity_w in (("R407C", 10_000), ("R410A", 10_000), ("R32", 10_000)):
            low = _pressure_of_middle(fluid, 7.6, fed=0.2)
            high = _pressure_of_middle(fluid, 46.0, fed=0.0)
            drawn = PropsSI("T", "P", low, "Q", 1, fluid) + 7.3
            h1, s1 = (PropsSI(x, "P", low, "T", drawn, fluid) for x in "HS")
            work = (PropsSI("H", "P", high, "S", s1, fluid) - h1) / ISENTROPIC
            bubble = PropsSI("T", "P", high, "Q", 0, fluid)
            liquid = PropsSI("H", "P", high, "T", bubble - 5.5, fluid)
            read = {
                "suction_pressure": low / 1e3 - 101.325,
                "liquid_pressure": high / 1e3 - 101.325,
                "suction_line_temp": drawn - 273.15,
            }
            of = plate("txv", f"R-{fluid[1:]}", nominal_capacity_w=capacity_w)
            with self.subTest(fluid):
                usual = expected_power_w(of, read, 11.0)
                assert usual is not None
                self.assertAlmostEqual(usual / (capacity_w * work / (h1 - liquid)), 1, delta=0.02)

    def test_one_base_serves_every_refrigerant(self):
        # Ordinary gas through an ordinary stroke is what is expected, R-32 like R-410A.
        for fluid, suct, liq in (("R-410A", 119, 352), ("R-32", 121, 362)):
            read = case(plate("txv", fluid, rated_seer=14), suct=suct, liq=liq, sl=54, oa=88)
            usual = expected_discharge_c(read.plate, read.readings)
            self.assertLess(abs(expected(read, "discharge_over_stroke").value), 3, usual)


class OneExpectationTest(unittest.TestCase):
    def test_windows_departures_and_estimates_are_the_same_figure(self):
        found = case(plate(rated_seer=14), **RIGHT)
        key = "condensing_over_ambient"
        one = expected(found, key)
        mark = features(found, choose_targets(found))[key]
        self.assertAlmostEqual((mark.low + mark.high) / 2, one.value)
        self.assertAlmostEqual(mark.high - mark.low, 2 * WINDOW_SIGMAS * one.sigma)
        self.assertAlmostEqual(departures(found)[key].expected, one.value)
        way = estimate(found, OwnHistory()).condenser[0]
        self.assertAlmostEqual(way.value - found.readings["outdoor_air_temp"], one.value)

    def test_a_plates_own_figure_is_uncorrected_and_surer(self):
        key = "condensing_over_ambient"
        by_class = expected(case(plate(rated_seer=14), **RIGHT), key)
        own = expected(case(plate(rated_seer=14, condensing_over_ambient_k=9.0), **RIGHT), key)
        self.assertEqual(own.value, 9.0)
        self.assertLess(own.sigma, by_class.sigma)
        self.assertTrue(own.is_own)

    def test_with_no_class_an_old_fluid_condenses_further_over_the_air(self):
        spoken = {"suct": 68, "liq": 240, "sl": 52, "ll": 100, "oa": 88, "ra": 76, "wb": 63}
        old = expected(case(plate("txv", "R-22"), **spoken), "condensing_over_ambient")
        told = expected(
            case(plate("txv", "R-22", rated_seer=14), **spoken), "condensing_over_ambient"
        )
        self.assertGreater(old.value, told.value + 1)
        self.assertGreater(old.sigma, told.sigma)

    def test_an_orifice_due_a_high_superheat_is_due_a_smaller_split(self):
        dry, humid = (
            expected(
                case(plate("fixed_orifice", subcooling=None), suct=119, oa=80, ra=78, wb=wb),
                "temperature_split",
            ).value
            * 1.8
            for wb in (60, 70)
        )
        self.assertGreater(dry, humid + 3)

    def test_only_the_signs_a_reading_moves_are_worked_out_again(self):
        found = case(plate(rated_seer=14, nominal_capacity_w=10_550), dl=165, cfm=1200, **RIGHT)
        here = departures(found)
        for point, value in found.record.items():
            more = {**found.record, point: value + accuracy_of(point).limit(value)}
            opened = open_case(found.plate, more, found.context)
            few = moved(here, opened, point)
            if few is None:
                continue
            self.assertNotIn(point, FAR_REACHING)
            for key, one in departures(opened).items():
                self.assertAlmostEqual(few[key].off, one.off, places=9, msg=f"{point} {key}")

    def test_in_a_vacuum_a_moved_reading_is_held_like_the_case_itself(self):
        # Below R-410A's table: starved at least so far, however the reading is moved.
        spoken = {"suct": -6, "liq": 250, "sl": 70, "ll": 90, "oa": 85, "ra": 77, "wb": 64}
        found = case(plate(rated_seer=14), **spoken)
        here = departures(found)
        for point in ("suction_line_temp", "suction_pressure", "liquid_line_temp"):
            step = accuracy_of(point).limit(found.record[point])
            opened = open_case(
                found.plate, {**found.record, point: found.record[point] + step}, found.context
            )
            few, whole = moved(here, opened, point), departures(opened)
            assert few is not None
            for key in ("superheat", "evaporator_difference", "subcooling"):
                self.assertAlmostEqual(few[key].off, whole[key].off, places=9, msg=f"{point} {key}")
        self.assertAlmostEqual(here["superheat"].off * 1.8, 75)
        self.assertAlmostEqual(here["evaporator_difference"].off * 1.8, 50)
        self.assertEqual(here["subcooling"].value, 0)  # vapour in the line: no subcooling at all

    def test_a_sign_counts_only_where_all_it_needs_is_there(self):
        split, power = SIGNS["temperature_split"], SIGNS["compressor_power"]
        self.assertFalse(split.can_be_told({"supply_air_temp"}))
        self.assertTrue(split.can_be_told({"supply_air_temp", "return_air_temp"}))
        four = {"suction_pressure", "liquid_pressure", "suction_line_temp"}
        self.assertFalse(power.can_be_told(four))
        self.assertTrue(power.can_be_told(four | {"compressor_amps"}))


if __name__ == "__main__":
    unittest.main()
