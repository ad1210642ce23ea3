"""What went wrong once, each as it was seen: the one decision must not say it again."""

import unittest
from dataclasses import replace
from typing import ClassVar

from nudge.core.behaviours.case import Context
from nudge.core.charging.advise import advise
from nudge.core.charging.sizing import Dosed
from nudge.core.charging.ways import KG_PER_OZ
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.circuit.past import Past
from tests.core.field import judged, plate, readings, settled

TICKS = ("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")
SEEN = settled(*TICKS)
VALVE = plate(subcooling=9, nominal_capacity_w=2.5 * 3517, rated_seer=15)
LOW = {"suct": 121, "liq": 341, "sl": 58.5, "ll": 102.5, "oa": 90, "ra": 77, "wb": 64}


class DosesNothingAnswersTest(unittest.TestCase):
    def given(self, *ounces: float, spoken=LOW, context=SEEN, of=VALVE):
        """The same numbers a quarter of an hour after every dose."""
        rows = [Dosed(0, 0, readings(**spoken))]
        rows += [
            Dosed(15.0 * n, oz * KG_PER_OZ, readings(**spoken))
            for n, oz in enumerate(ounces, start=1)
        ]
        return advise(of, rows, context)

    def test_the_card_never_adds_while_the_decision_does_not(self):
        for ounces in ((), (6.5,), (6.5, 11.5), (0.5, 0.5), (0.5,) * 5, (3, 20, 3)):
            said = self.given(*ounces)
            with self.subTest(ounces):
                adds = said.assessment.decision.advice == "add"
                self.assertEqual(said.action == "add", adds)
                if len(ounces) >= 2:
                    self.assertEqual((said.action, said.decision.key), ("stop", "in_vain"))

    def test_small_doses_and_a_broken_liquid_column_stop_as_well(self):
        column_broken = {**LOW, "ll": 104.6, "sl": 66}  # subcooling about nothing
        for ounces in ((0.5, 0.5), (1, 1, 1), (4, 4)):
            with self.subTest(ounces):
                self.assertEqual(self.given(*ounces, spoken=column_broken).action, "stop")

    def test_one_dose_unanswered_brings_the_whole_rule_back(self):
        said = self.given(6.5)
        self.assertNotEqual(said.decision.key, "add")


class AgainstItsOwnSuspectsTest(unittest.TestCase):
    def test_a_suction_in_a_vacuum_is_no_leak_while_the_valve_leads(self):
        result = judged(
            plate("txv", "R-22"),
            settled(*TICKS, "bulb_test_no_reaction"),
            suct=-3,
            liq=240,
            sl=72,
            ll=96,
            oa=85,
            ra=77,
            wb=64,
        )
        self.assertEqual(result.suspects[0].suspect.key, "metering_underfeed")
        self.assertNotEqual(result.decision.advice, "find_leak")

    def test_a_measured_step_comes_before_any_leak(self):
        result = judged(
            plate(), SEEN, suct=60, liq=300, sl=74, ll=95.5, lli=87.5, oa=86, ra=76, wb=63
        )
        self.assertNotIn(result.decision.advice, ("find_leak", "add"))

    def test_a_measured_step_waits_for_the_air_alone(self):
        dirty = ("filter_dirty", *TICKS[1:])
        said = [
            judged(
                plate(),
                settled(*seen),
                suct=105,
                liq=320,
                sl=66,
                ll=88,
                lli=78,
                oa=86,
                ra=76,
                wb=63,
            ).decision.headline
            for seen in (TICKS, dirty)
        ]
        self.assertEqual(
            said, ["Do not add. The liquid line is restricted.", "Change the filter first."]
        )

    def test_find_leak_only_where_low_charge_leads(self):
        for liquid in range(215, 330, 8):
            result = judged(plate(), SEEN, suct=60, liq=liquid, sl=74, ll=90, oa=80, ra=76, wb=63)
            if result.decision.advice == "find_leak":
                self.assertEqual(result.suspects[0].suspect.key, "undercharge")
                self.assertGreaterEqual(result.suspects[0].belief, 0.5)


class WarmDaysTest(unittest.TestCase):
    MILD: ClassVar = {
        "suct": 118,
        "liq": 262,
        "sl": 51,
        "ll": 77,
        "oa": 70,
        "ra": 76,
        "wb": 63,
        "sa": 56,
    }

    def test_the_rule_of_thumb_warns_on_a_mild_day_and_blocks_nothing(self):
        # R-410A 262 less 118 psig: 144 of the usual 160 across the valve, subcooling 10.
        result = judged(plate(), SEEN, **self.MILD)
        effects = {b.gate.key: b.effect for b in result.breaches}
        self.assertEqual(effects.get("valve_pressure_low"), "warns")
        self.assertNotIn("valve_starved", effects)
        self.assertEqual(result.decision.state, "right")

    def test_it_blocks_where_liquid_stacks_and_never_where_subcooling_is_low(self):
        stacked = {**self.MILD, "suct": 110, "sl": 60, "ll": 66}
        self.assertIn(
            "valve_starved", [b.gate.key for b in judged(plate(), SEEN, **stacked).breaches]
        )
        low = {**self.MILD, "suct": 104, "sl": 58, "ll": 86}
        self.assertNotIn(
            "valve_starved", [b.gate.key for b in judged(plate(), SEEN, **low).breaches]
        )


class RemoveWhileAirLeadsTest(unittest.TestCase):
    HIGH: ClassVar = {
        "suct": 126,
        "liq": 418,
        "sl": 53,
        "ll": 100,
        "oa": 90,
        "ra": 76,
        "wb": 64,
        "sa": 57,
    }

    def test_nothing_comes_out_while_air_in_the_system_is_not_parted(self):
        for of in (plate(), plate("fixed_orifice", subcooling=None)):
            spoken = (
                self.HIGH if of.metering_device.is_valve else {**self.HIGH, "suct": 140, "sl": 52}
            )
            result = judged(of, SEEN, **spoken)
            self.assertNotEqual(result.decision.advice, "remove")

    def test_the_standing_test_is_among_the_first_two_and_settles_it(self):
        result = judged(plate(), SEEN, **{**self.HIGH, "ll": 95})
        self.assertIn("standing_pressure", [p.check.key for p in result.checks[:2]])
        right = judged(
            plate(), settled(*TICKS, "standing_pressure_right"), **{**self.HIGH, "ll": 95}
        )
        self.assertEqual(right.decision.advice, "remove")
        wrong = judged(
            plate(), settled(*TICKS, "standing_pressure_high"), **{**self.HIGH, "ll": 95}
        )
        self.assertEqual(wrong.decision.advice, "do_not_charge")


class DangerFirstTest(unittest.TestCase):
    def test_an_extreme_head_is_stopped_at_any_minute(self):
        of = plate("fixed_orifice", subcooling=None)
        for minutes in (None, 0.0, 5.0, 60.0):
            result = judged(
                of, Context(minutes, minutes), suct=130, liq=560, sl=60, ll=115, oa=83, ra=78
            )
            with self.subTest(minutes):
                self.assertEqual(result.decision.headline, "Stop it.")
                self.assertEqual(result.decision.order, "danger")
                self.assertIn("high_head", [h.key for h, _ in result.hazards])

    def test_forty_warns_fifty_five_and_149_and_the_plate_stop(self):
        def effect(liquid: float, outdoor: float, **of: float) -> str:
            found = judged(plate(**of), suct=118, liq=liquid, sl=52, ll=100, oa=outdoor).hazards
            return next((h.effect for h, _ in found if h.key == "high_head"), "")

        # R-410A: 445 psig condenses at 124.6 °F, 611 at 149.2 °F by the saturation table.
        self.assertEqual(effect(445, 87), "")
        self.assertEqual(effect(445, 84), "warns")
        self.assertEqual(effect(445, 68), "stops")
        self.assertEqual(effect(613, 115), "stops")
        self.assertEqual(effect(445, 90, design_pressure_high_kpa=490 * 6.894757), "stops")


class AskedForWhatCanBeHadTest(unittest.TestCase):
    HELD: ClassVar = {
        "suct": 118.4,
        "liq": 337,
        "sl": 51,
        "ll": 101,
        "oa": 88,
        "ra": 76,
        "wb": 63,
        "sa": 58,
    }

    def test_what_hangs_on_one_clamp_says_so_and_a_second_one_answers_it(self):
        alone = judged(plate(rated_seer=14), SEEN, **self.HELD).decision
        self.assertEqual(alone.advice, "do_not_charge")
        self.assertEqual((alone.hangs_on.kind, alone.hangs_on.key), ("reading", "liquid_line_temp"))
        self.assertIn("% low charge", alone.reason.text("ip"))
        second = judged(plate(rated_seer=14), SEEN, **self.HELD, di=100.5).decision
        self.assertEqual(second.advice, "add")

    def test_never_for_what_is_ticked(self):
        for seen in (
            (),
            TICKS,
            (*TICKS, "readings_confirmed"),
            (*TICKS, "standing_pressure_right"),
        ):
            for spoken in (LOW, self.HELD, RemoveWhileAirLeadsTest.HIGH):
                result = judged(plate(), settled(*seen), **spoken)
                hangs = result.decision.hangs_on
                self.assertFalse(hangs and hangs.key in seen, hangs)


class DoubtedAndInVacuumTest(unittest.TestCase):
    def test_exchanged_hoses_raise_no_danger_of_liquid(self):
        result = judged(suct=341, liq=118, sl=52, ll=96, oa=88)
        self.assertEqual(result.decision.key, "impossible")
        self.assertEqual(result.hazards, ())

    def test_suction_in_a_vacuum_is_taken_judged_and_stopped(self):
        for fluid, warns in (("R-410A", False), ("R-22", False), ("R-290", True), ("R-32", True)):
            for suction in (-1, -6, -13):
                result = judged(
                    plate("txv", fluid),
                    SEEN,
                    suct=suction,
                    liq=250,
                    sl=70,
                    ll=90,
                    oa=85,
                    ra=77,
                    wb=64,
                )
                with self.subTest(fluid, suction=suction):
                    said = {h.key: s.text("ip") for h, s in result.hazards}
                    self.assertIn("in_vacuum", said)
                    self.assertEqual("air may have come in" in said["in_vacuum"], warns)
                    self.assertEqual(result.decision.order, "danger")
                    self.assertEqual(
                        result.suspects[0].suspect.key
                        in ("metering_underfeed", "liquid_line_restriction", "undercharge"),
                        True,
                    )

    def test_a_fluid_that_works_there_by_nature_is_not_warned_of(self):
        of = Plate(
            "R-600a",
            plate().metering_device,
            application=type(plate().application)("refrigeration"),
        )
        result = judged(of, SEEN, suct=-4, liq=60, sl=0, ll=85, oa=80, box=-5)
        self.assertNotIn("in_vacuum", [h.key for h, _ in result.hazards])


class OpenedAndWeighedTest(unittest.TestCase):
    SHORT: ClassVar = {
        "suct": 108,
        "liq": 320,
        "sl": 56,
        "ll": 97,
        "oa": 86,
        "ra": 76,
        "wb": 63,
        "sa": 62,
    }

    def test_a_proven_tight_freshly_weighed_system_is_not_sent_to_find_a_leak(self):
        for past in (Past(additions=3), Past(recovered_share=0.66)):
            leaks = judged(plate(), replace(SEEN, past=past), **self.SHORT).decision
            self.assertEqual(leaks.advice, "find_leak")
            tight = replace(past, weighed_in=True, proven_tight=True)
            weighed = judged(plate(), replace(SEEN, past=tight), **self.SHORT).decision
            self.assertEqual(weighed.advice, "add")
            self.assertNotIn("leak", weighed.reason.text("ip"))

    def test_whether_it_was_ever_open_reaches_the_decision(self):
        def air(*seen: str) -> float:
            result = judged(plate(), settled(*TICKS, *seen), **RemoveWhileAirLeadsTest.HIGH)
            return next(b.belief for b in result.suspects if b.suspect.key == "non_condensables")

        never, unasked, opened = air("circuit_never_opened"), air(), air("circuit_opened_recently")
        self.assertLess(never, unasked / 2)
        self.assertGreater(opened, unasked)


if __name__ == "__main__":
    unittest.main()
