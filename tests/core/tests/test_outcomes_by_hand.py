"""Outcomes of tests with time that are seldom met: each on a curve written by hand."""

import math
import unittest
from dataclasses import replace
from random import Random

from nudge.core.language.errors import CoreError
from nudge.core.language.units import KPA_PER_PSI, PA_PER_MICRON, fahrenheit
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.physics.tightness.hoses import Hookup, bore_of
from nudge.core.tests.row import check_settings
from nudge.core.tests.table import judged, test_named
from tests.core.tests.test_judges import PLATE, flat, run, words

RAISED_KPA = 1_034.0
"""150 psig of dry nitrogen."""
LITRES = {"gas": "nitrogen", "litres": 11.0}
UNITS = ("ip", "si", "si_bar")
STEADY = flat(21.0)


class NitrogenTest(unittest.TestCase):
    def stand(self, law, minutes=60, pipe=STEADY, **more):
        return judged(
            run("nitrogen", minutes, settings=LITRES, test_pressure=law, suction_line_temp=pipe,
                **more)
        )  # fmt: skip

    def test_what_falls_beyond_its_temperature_leaks(self):
        shown = self.stand(lambda t: RAISED_KPA - 0.8 * t)
        self.assertEqual((shown.key, shown.state, shown.proves), ("leaks", "failed", ()))
        self.assertEqual([advice.key for advice in shown.then], ["bubbles"])

    def test_what_its_pipe_explains_is_no_leak(self):
        # 1,135 kPa absolute at 21 °C falls by 3.9 kPa a kelvin.
        def pipe(t):
            return 21.0 - t / 30

        law = lambda t: (RAISED_KPA + 101.325) * (pipe(t) + 273.15) / 294.15 - 101.325  # noqa: E731
        shown = self.stand(law, pipe=pipe)
        self.assertNotEqual(shown.key, "leaks")
        self.assertIn("At today’s temperature it should show", words(shown.says))

    def test_what_rises_has_the_sun_on_it(self):
        shown = self.stand(lambda t: RAISED_KPA + 0.8 * t)
        self.assertEqual((shown.key, shown.state), ("rises", "cannot_tell"))
        self.assertIn("bubbles", [advice.key for advice in shown.then])

    def test_what_swings_more_than_a_leak_would_tells_nothing(self):
        dice = Random(3)
        shown = self.stand(lambda _: RAISED_KPA + dice.uniform(-25, 25))
        self.assertEqual(shown.key, "unsteady")

    def test_started_under_nitrogen_is_danger_whatever_it_shows(self):
        one = run("nitrogen", 20, settings=LITRES, test_pressure=flat(RAISED_KPA))
        shown = judged(replace(one, started_s=(300.0,)))
        self.assertIn("it may burst", words(shown.hazards))
        self.assertEqual(shown.proves, ())

    def test_a_joint_mended_begins_the_stand_anew(self):
        def law(t):
            return RAISED_KPA - 3 * t if t < 20 else RAISED_KPA - 60

        before = self.stand(law, minutes=19)
        after = self.stand(law, marks=[("joint_mended", 21)])
        self.assertEqual(before.key, "leaks")
        self.assertNotEqual(after.key, "leaks")

    def test_no_other_gas_is_let_in(self):
        for gas in ("oxygen", "air"):
            with self.subTest(gas), self.assertRaises(CoreError):
                check_settings(test_named("nitrogen"), PLATE, LITRES | {"gas": gas})


class VacuumTest(unittest.TestCase):
    def test_a_pump_at_its_end_comes_no_further_and_says_what_to_do(self):
        shown = judged(run("evacuation", 60, vacuum_level=lambda t: 4e3 + 9e4 * math.exp(-t)))
        self.assertEqual((shown.key, shown.state), ("at_its_end", "cannot_tell"))
        self.assertEqual([advice.key for advice in shown.then], ["decay"])
        self.assertEqual(shown.proves, ())

    def test_with_the_water_frozen_out_a_leak_that_holds_it_up_is_no_promise(self):
        # Pipes at −20 °C: water there holds 770 micron at most, and it stands at 2,250.
        law = lambda t: 300 + 9e4 * math.exp(-t)  # noqa: E731
        shown = judged(run("evacuation", 60, vacuum_level=law, suction_line_temp=flat(-20.0)))
        self.assertEqual(shown.key, "at_its_end")
        self.assertIsNone(shown.ready_in)

    def test_a_large_system_behind_a_long_narrow_hose_still_comes(self):
        # 80 L behind 3 m of quarter-inch hose, by Knudsen's formula; pipes too cold for water.
        hookup, litres = Hookup(2.0, 2.0, bore_of("1/4"), 300.0), 80.0
        levels, pa, step = [], 2_000.0, 1 / 6
        while pa > 220.0:
            levels.append(pa)
            pa -= pa * hookup.speed(pa) * 60 / litres * step
        for minutes in range(6, int(len(levels) * step), 20):
            one = run(
                "evacuation", minutes, settings={"hose": "1/4", "hose_length": 3.0},
                vacuum_level=lambda t: levels[round(t * 6)], suction_line_temp=flat(-20.0),
            )  # fmt: skip
            self.assertNotEqual(judged(one).key, "at_its_end", minutes)

    def test_a_gauge_at_the_pump_shows_the_pump(self):
        one = run(
            "evacuation", 20, settings={"gauge": "pump"},
            vacuum_level=lambda t: 9e4 * math.exp(-t) + 20,
        )  # fmt: skip
        self.assertIn("the pump’s vacuum", words(judged(one).warnings))

    def test_a_gauge_on_a_cold_pipe_hides_water(self):
        one = run(
            "decay", 22, settings={"gauge": "cold_pipe"},
            vacuum_level=lambda t: 40 + 0.05 * t, suction_line_temp=flat(21.0),
        )  # fmt: skip
        self.assertIn("water falls out before it", words(judged(one).warnings))

    def test_a_rise_past_what_its_water_can_hold_is_a_leak(self):
        # At 10 °C water holds 9,200 micron: a straight rise to three times that is no water.
        law = lambda t: (300 + 900 * t) * PA_PER_MICRON  # noqa: E731
        shown = judged(run("decay", 32, vacuum_level=law, suction_line_temp=flat(10.0)))
        self.assertEqual((shown.key, shown.proves), ("leaking", ()))
        self.assertEqual([advice.key for advice in shown.then], ["nitrogen"])


class DoseTest(unittest.TestCase):
    DEW_C = 7.0

    def dose(self, minutes=8.0, given=2.0, suction=None, superheat=14.0, plate=PLATE, **more):
        level = load_table("R-410A").dew.pressure(self.DEW_C) - 101.325

        def bumped(t):
            return level + (60 * math.exp(-((t - given) / 0.4)) if t >= given else 0.0)

        return run(
            "test_dose", minutes, [("dose_given", given)], plate=plate,
            suction_pressure=suction or bumped, suction_line_temp=flat(self.DEW_C + superheat),
            **more,
        )  # fmt: skip

    def test_without_a_bump_nothing_was_tested(self):
        shown = judged(self.dose(suction=flat(900.0)))
        self.assertEqual((shown.key, shown.state), ("no_bump", "cannot_tell"))
        self.assertEqual(shown.observations, ())

    def test_soon_after_it_is_watched_and_nothing_said(self):
        shown = judged(self.dose(minutes=2.6))
        self.assertEqual(shown.state, "running")
        self.assertIn("Watch it fall back", shown.headline.text("ip"))

    def test_an_orifice_has_no_valve_to_prove_shut(self):
        orifice = Plate("R-410A", MeteringDevice.FIXED_ORIFICE)
        with self.assertRaisesRegex(CoreError, "no valve to prove shut"):
            check_settings(test_named("test_dose"), orifice, {})

    def test_a_hot_discharge_and_a_run_too_long_stop_it(self):
        hot = judged(self.dose(discharge_line_temp=flat(fahrenheit(230))))
        self.assertIn("let it cool", words(hot.hazards))
        long = judged(replace(self.dose(), started_s=(60.0,)))
        self.assertIn("stop it, let it rest", words(long.hazards))

    def test_a_vacuum_is_danger_with_what_burns_and_a_warning_without(self):
        burns = Plate("R-32", MeteringDevice.TXV, nominal_capacity_w=10_550)
        for plate, kind in ((burns, "hazards"), (PLATE, "warnings")):
            shown = judged(self.dose(suction=flat(-20.0), plate=plate))
            with self.subTest(plate.refrigerant):
                self.assertIn("in a vacuum", words(getattr(shown, kind)))


class StandingTest(unittest.TestCase):
    def stand(self, minutes=25, **laws):
        level = 274 * KPA_PER_PSI
        usual = {
            "liquid_pressure": flat(level),
            "suction_pressure": flat(level),
            "outdoor_air_temp": flat(fahrenheit(90)),
        }
        return run("standing_pressure", minutes, **{**usual, **laws})

    def test_started_it_is_broken_off(self):
        self.assertEqual(judged(replace(self.stand(), started_s=(300.0,))).state, "aborted")

    def test_until_both_sides_are_the_same_and_still_nothing_is_said(self):
        level = 274 * KPA_PER_PSI
        for laws in (
            {"suction_pressure": flat(level - 60)},
            {"liquid_pressure": lambda t: level + 4 * t, "suction_pressure": flat(level + 100)},
        ):
            shown = judged(self.stand(**laws))
            self.assertEqual((shown.state, shown.key), ("running", "settling"))
        self.assertEqual(judged(self.stand(minutes=5)).key, "settling")


class SmallTests(unittest.TestCase):
    def test_a_filter_that_is_back_ends_its_test(self):
        for fell, state, seen in ((20, "passed", "filter_clean"), (110, "failed", "filter_dirty")):

            def law(t, fell=fell):
                return 200 - (fell if 2 < t < 5 else 0)

            one = run("filter", 8, [("filter_out", 2), ("filter_in", 4.9)],
                      total_external_static=law)  # fmt: skip
            shown = judged(one)
            with self.subTest(fell):
                self.assertEqual((shown.state, shown.observations), (state, (seen,)))
                self.assertNotIn("Put it back", shown.headline.text("ip"))

    def test_ice_water_that_moves_is_stirred(self):
        one = run("ice_bath", 4, settings={"clamp": "suction_line_temp"},
                  suction_line_temp=lambda t: 2.0 * math.sin(9 * t))  # fmt: skip
        shown = judged(one)
        self.assertEqual((shown.state, shown.key), ("running", "moves"))

    def test_every_outcome_here_is_said_in_every_unit(self):
        for one in (
            run("nitrogen", 60, settings=LITRES, test_pressure=lambda t: RAISED_KPA - t,
                suction_line_temp=flat(21.0)),
            run("evacuation", 60, vacuum_level=lambda t: 150 + 9e4 * math.exp(-t)),
            run("decay", 22, vacuum_level=lambda t: 40 + t, suction_line_temp=flat(21.0)),
        ):  # fmt: skip
            shown = judged(one)
            every = [shown.headline, *shown.says, *shown.hazards, *shown.warnings, *shown.schools]
            for said in every:
                for units in UNITS:
                    text = said.text(units)
                    self.assertNotRegex(text, r"[{}]|nan")
                    if units != "ip":
                        self.assertNotRegex(text, r"°F|psig|\boz\b|micron\b")


if __name__ == "__main__":
    unittest.main()
