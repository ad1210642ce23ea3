"""Each test with time on curves written by hand: what it says, and what it refuses to say."""

import math
import unittest
from dataclasses import replace

from nudge.core.language.errors import CoreError
from nudge.core.language.units import KPA_PER_PSI, PA_PER_MICRON, degrees_f, fahrenheit
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.settling.trace import Trace
from nudge.core.tests.adjusting import next_turn
from nudge.core.tests.row import check_mark, check_settings
from nudge.core.tests.run import Run, TestMark
from nudge.core.tests.table import TESTS, judged, test_named

PLATE = Plate(
    "R-410A", MeteringDevice.TXV, nominal_capacity_w=10_550, design_pressure_low_kpa=1_600
)
MICRON = PA_PER_MICRON


def trace(law, minutes, every_s=10.0):
    seconds = [n * every_s for n in range(int(minutes * 60 / every_s) + 1)]
    return Trace(tuple(seconds), tuple(law(s / 60) for s in seconds))


def run(key, minutes, marks=(), settings=None, typed=(), plate=PLATE, **laws):
    traces = {p: trace(law, minutes) for p, law in laws.items()}
    return Run(
        key,
        plate,
        0.0,
        minutes * 60,
        settings or {},
        traces,
        {p: traces[p] for p in typed},
        tuple(TestMark(kind, at * 60) for kind, at in marks),
    )


def flat(value):
    return lambda _: value


def words(said):
    return " ".join(one.text("ip") for one in said)


class DecayJudgeTest(unittest.TestCase):
    def decay(self, law, minutes=22, **more):
        return run("decay", minutes, vacuum_level=law, suction_line_temp=flat(21.0), **more)

    def test_begun_before_the_pump_was_shut_counts_from_its_least(self):
        def law(t):
            return 400 * math.exp(-t) + 30 if t < 4 else 38 + 0.05 * t

        shown = judged(self.decay(law, 26))
        self.assertIn("still fell", words(shown.warnings))
        self.assertEqual(shown.key, "dry")

    def test_a_gauge_at_the_pump_proves_nothing(self):
        shown = judged(self.decay(flat(40.0001), settings={"gauge": "pump"}))
        self.assertEqual(shown.proves, ())
        self.assertIn("shows the hose", words(shown.warnings))

    def test_a_gauge_that_never_moves_is_asked_about(self):
        self.assertIn("valve shut", words(judged(self.decay(flat(40.0))).warnings))

    def test_two_gauges_that_disagree_are_named_with_both_values(self):
        one = self.decay(lambda t: 40 + 0.05 * t)
        typed = {"vacuum_level": Trace((605.0,), (90.0,))}
        shown = judged(Run(**{**_fields(one), "typed": typed}))
        self.assertIn("Two gauges disagree: 675 micron and 304 micron", words(shown.warnings))

    def test_left_for_a_day_its_first_hour_is_the_test(self):
        shown = judged(self.decay(lambda t: 40 + 0.001 * t, 24 * 60))
        self.assertIn("Left for hours", words(shown.warnings))

    def test_a_hole_in_the_readings_takes_nothing_back_unless_it_rose_meanwhile(self):
        """Dry before its server slept, and no higher since; or a core was pulled meanwhile."""

        def read(after, marks=()):
            whole = trace(lambda t: 38 + 0.05 * t if t <= 16 else after, 42)
            heard = [
                (s, v)
                for s, v in zip(whole.seconds, whole.values, strict=True)
                if not 16 * 60 < s < 40 * 60
            ]
            one = self.decay(flat(38.0), 42, marks=marks)
            seconds, values = zip(*heard, strict=True)
            return judged(
                replace(one, traces={**one.traces, "vacuum_level": Trace(seconds, values)})
            )

        self.assertEqual(read(40.0).key, "dry")
        self.assertIn("silent for 24", words(read(40.0).warnings))
        for shown in (read(140.0), read(40.0, marks=[("swept", 20)])):
            self.assertEqual((shown.key, shown.proves), ("too_short", ()))

    def test_the_customs_stand_beside_it_with_what_each_lets_pass(self):
        shown = judged(self.decay(lambda t: 30 + 8 * t))
        says = [one.text("ip") for one in shown.schools]
        self.assertIn("Under 1000 micron after ten minutes, old oil in it: passes", says[0])
        self.assertIn("Under 500 micron after ten minutes: fails", says[1])
        self.assertIn("lb a year pass", says[0])

    def test_what_would_tell_is_offered_in_order(self):
        straight = judged(self.decay(lambda t: 30 + 4 * t))
        self.assertEqual([one.key for one in straight.then], ["warm", "stand", "nitrogen"])


class NitrogenJudgeTest(unittest.TestCase):
    def stand(self, law, minutes=20, **more):
        return run("nitrogen", minutes, test_pressure=law, suction_line_temp=flat(21.0), **more)

    def test_over_the_plate_it_is_danger(self):
        shown = judged(self.stand(flat(1_700.0)))
        self.assertIn("over the lower design pressure on the plate", words(shown.hazards))
        self.assertEqual(shown.proves, ())

    def test_without_a_temperature_nothing_is_proven(self):
        one = run("nitrogen", 20, [("joints_dry", 19)], test_pressure=flat(1_034.0))
        self.assertEqual((judged(one).key, judged(one).proves), ("no_temperature", ()))

    def test_every_joint_by_itself_is_as_good_as_all_at_once(self):
        from nudge.core.tests.joints import JOINTS

        base = self.stand(lambda t: 1_034.0 + 0.01 * math.sin(t))
        marks = tuple(TestMark("joint_dry", 600.0 + n, key) for n, key in enumerate(JOINTS))
        some = judged(Run(**{**_fields(base), "marks": marks[:-1]}))
        every = judged(Run(**{**_fields(base), "marks": marks}))
        self.assertEqual((some.proves, every.proves), ((), ("tight",)))

    def test_a_valved_off_gauge_does_not_follow_its_pipe(self):
        one = run(
            "nitrogen", 30, test_pressure=flat(1_000.0), suction_line_temp=lambda t: 21 + t / 8
        )
        self.assertIn("valve shut off", words(judged(one).warnings))

    def test_not_raised_yet_is_no_stand(self):
        self.assertEqual(judged(self.stand(flat(20.0))).key, "waiting")

    def test_begun_on_a_vacuum_it_waits_for_nitrogen(self):
        self.assertEqual(judged(self.stand(flat(-96.5))).key, "waiting")


class EvacuationJudgeTest(unittest.TestCase):
    def test_narrow_hoses_and_cores_are_told_what_they_cost(self):
        one = run(
            "evacuation", 5, settings={"hose": "1/4", "cores": "in"},
            vacuum_level=lambda t: 101_000 * math.exp(-1.5 * t) + 20,
        )  # fmt: skip
        said = words(judged(one).warnings)
        self.assertIn("3/8 in. hoses", said)
        self.assertIn("Cores are in", said)

    def test_the_ballast_is_shut_under_three_thousand(self):
        one = run("evacuation", 8, settings={"ballast": "open"},
                  vacuum_level=lambda t: 101_000 * math.exp(-1.2 * t) + 20)  # fmt: skip
        self.assertIn("shut the gas ballast", words(judged(one).says))

    def test_current_in_a_vacuum_is_danger(self):
        one = run("evacuation", 5, vacuum_level=lambda t: 60 + t, compressor_amps=flat(9.0))
        self.assertIn("compressor arcs", words(judged(one).hazards))


class DoseJudgeTest(unittest.TestCase):
    """Suction −8 psig; a dose lifts it by 12 psi for half a minute; the head by 3 psi."""

    def dose(self, marks=("bulb_dead", "walk_clean"), stays=0.0, line=31.0, head=3.0, **more):
        def suction(t):
            bump = 12 * max(1 - (t - 2) / 0.5, 0) if t >= 2 else 0
            return (-8 + bump + (stays if t >= 2.5 else 0)) * KPA_PER_PSI

        noted = [("dose_given", 2), *((kind, 4.5) for kind in marks)]
        return judged(
            run(
                "test_dose",
                5,
                noted,
                suction_pressure=suction,
                liquid_pressure=lambda t: (274 + (head if 2 <= t < 2.5 else 0)) * KPA_PER_PSI,
                suction_line_temp=lambda t: line if t > 3 else 31.0,
                **more,
            )
        )

    def test_all_of_it_proves_the_valve_shut(self):
        shown = self.dose()
        self.assertEqual(
            (shown.proves, shown.observations), (("valve_shut",), ("valve_proven_shut",))
        )

    def test_anything_missing_and_it_is_not_proven(self):
        for marks, head, wanted in (
            (("walk_clean",), 3, "bulb"), (("bulb_dead",), 3, "walked"),
            (("bulb_dead", "walk_clean"), 0, "head bumped"),
        ):  # fmt: skip
            with self.subTest(wanted):
                shown = self.dose(marks, head=head)
                self.assertEqual(shown.proves, ())
                self.assertIn(wanted, shown.headline.text("ip"))

    def test_suction_that_stays_up_or_superheat_that_falls_is_a_valve_that_feeds(self):
        self.assertIn(self.dose(stays=14.0, line=44.0).key, ("feeds", "answers"))
        self.assertEqual(self.dose(line=20.0).key, "answers")

    def test_heat_and_a_vacuum_with_what_burns_stop_it(self):
        hot = self.dose(discharge_line_temp=flat(fahrenheit(240)))
        self.assertIn("let it cool", words(hot.hazards))
        burns = self.dose(plate=Plate("R-32", MeteringDevice.TXV))
        self.assertIn("air may get in", words(burns.hazards))

    def test_more_than_six_ounces_is_no_test(self):
        with self.assertRaises(CoreError) as refused:
            check_settings(test_named("test_dose"), PLATE, {"dose": 230.0})
        self.assertIn("8.1 oz is more than a test: at most 6.0 oz", refused.exception.text("ip"))


class ValveJudgeTest(unittest.TestCase):
    def superheat(self, law):
        table = load_table("R-410A")
        dew = table.dew.temperature(900.0 + 101.325)
        return {"suction_pressure": flat(900.0), "suction_line_temp": lambda t: dew + law(t)}

    def test_the_bulb_answers_or_it_does_not(self):
        marks = [("bulb_warm", 1), ("bulb_cold", 4)]
        for law, key in (
            (lambda t: 9 - (4 if 1 < t < 4 else 0), "reacts"),
            (flat(9), "no_reaction"),
        ):
            with self.subTest(key):
                self.assertEqual(judged(run("bulb", 8, marks, **self.superheat(law))).key, key)

    def test_at_two_loads_a_valve_holds_and_an_orifice_moves(self):
        def wet(t):
            return 18 if t < 10 else 23

        for moved, key in ((0.5, "holds"), (4.0, "moves")):
            laws = self.superheat(lambda t, m=moved: 6 + (m if t > 12 else 0))
            one = run("two_loads", 30, [("load_changed", 9)], return_air_wet_bulb=wet, **laws)
            with self.subTest(key):
                self.assertEqual(judged(one).key, key)
        same = run("two_loads", 30, [("load_changed", 9)], return_air_wet_bulb=flat(18),
                   **self.superheat(flat(6)))  # fmt: skip
        self.assertEqual(judged(same).key, "same_load")

    def test_a_valve_is_turned_by_what_its_turns_did(self):
        # By hand: 5 K short at 2 K a turn before anything is known, one turn at most at first;
        # it added 3 K, so 2 K more want about two thirds of a turn: five eighths.
        first = next_turn(8.0, [(0.0, 3.0)])
        self.assertEqual(first.turns, 1.0)
        second = next_turn(8.0, [(0.0, 3.0), (1.0, 6.0)])
        self.assertEqual(second.turns, 0.625)
        self.assertIsNone(next_turn(8.0, [(0.0, 3.0), (1.0, 6.0), (1.625, 7.9)]))
        self.assertLess(next_turn(8.0, [(0.0, 12.0)]).turns, 0)

    def test_a_valve_not_made_for_it_is_never_opened(self):
        for settings in ({"adjustable": "no"}, {}):
            with self.subTest(settings), self.assertRaises(CoreError):
                check_settings(test_named("valve_adjust"), PLATE, settings)
        orifice = Plate("R-410A", MeteringDevice.FIXED_ORIFICE)
        with self.assertRaises(CoreError):
            check_settings(test_named("valve_adjust"), orifice, {"adjustable": "yes"})


class OtherTests(unittest.TestCase):
    def test_standing_pressure_over_its_temperature_is_another_gas(self):
        # R-410A at 90 °F: 274 psig.
        for psig, key in ((274, "right"), (300, "high"), (230, "low")):
            one = run("standing_pressure", 25, liquid_pressure=flat(psig * KPA_PER_PSI),
                      suction_pressure=flat(psig * KPA_PER_PSI),
                      outdoor_air_temp=flat(fahrenheit(90)))  # fmt: skip
            with self.subTest(psig):
                self.assertEqual(judged(one).key, key)

    def test_the_filter_costs_what_it_takes_away(self):
        for fell, key in ((20, "passes"), (110, "restricts")):

            def law(t, fell=fell):
                return 200 - (fell if t > 2 else 0)

            one = run("filter", 5, [("filter_out", 2)], total_external_static=law)
            with self.subTest(fell):
                shown = judged(one)
                self.assertEqual((shown.key, shown.state), (key, "running"))
                self.assertIn("Put it back in", shown.headline.text("ip"))

    def test_a_clamp_shows_ice_water_as_ice_water(self):
        for off_f, key in ((0.4, "true"), (3.0, "off")):
            one = run("ice_bath", 4, settings={"clamp": "suction_line_temp"},
                      suction_line_temp=flat(degrees_f(off_f)))  # fmt: skip
            with self.subTest(off_f):
                self.assertEqual(judged(one).key, key)

    def test_every_row_waits_for_its_readings_and_says_how(self):
        for row in TESTS.values():
            with self.subTest(row.key):
                shown = judged(Run(row.key, PLATE, 0.0, 60.0))
                self.assertEqual((shown.state, shown.proves), ("running", ()))
                self.assertTrue(shown.headline.text("ip"))

    def test_unknown_names_are_refused_with_the_nearest(self):
        for wrong in (
            lambda: test_named("nitrogn"),
            lambda: check_mark(test_named("decay"), "warmd"),
            lambda: check_settings(test_named("decay"), PLATE, {"gauge": "pmp"}),
        ):
            with self.assertRaises(CoreError) as refused:
                wrong()
            self.assertTrue(refused.exception.text("ip"))


def _fields(one):
    return {name: getattr(one, name) for name in one.__dataclass_fields__}
