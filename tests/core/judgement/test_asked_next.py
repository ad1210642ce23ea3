"""What a low reading that is not proven asks for: the one thing that would answer it."""

import unittest
from dataclasses import replace

from nudge.core.checks.in_cold_rooms import COLD_ROOM_CHECKS
from nudge.core.checks.in_heating import HEATING_CHECKS
from nudge.core.checks.on_vehicles import VEHICLE_CHECKS
from nudge.core.checks.on_zones import ZONE_CHECKS
from nudge.core.checks.table import CHECKS
from nudge.core.judgement.decision.hangs import hang_on_check
from nudge.core.judgement.decision.holds import ANOTHER
from nudge.core.judgement.decision.robust import SECOND_SENSORS
from nudge.core.language.vocabulary.points import POINTS
from tests.core.field import judged, plate, settled

CLEAN = ("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")
SEEN = settled(*CLEAN)
OVERFED = {"suct": 120, "liq": 318, "sl": 48, "ll": 95, "oa": 86, "ra": 76}
"""A little short, or a valve that overfeeds: superheat low in its band and subcooling down."""
SHORT = {"suct": 104, "liq": 300, "sl": 46, "ll": 96, "oa": 90, "ra": 76}
"""Low by the liquid line and its gauge, superheat right, no supply air."""


WARM = {"suct": 136, "liq": 330, "sl": 58, "ll": 100, "oa": 86, "ra": 76, "wb": 63, "sa": 60}
"""Low by the liquid line, with a coil that boils warmer than its class should."""


class WhatWouldAnswerTest(unittest.TestCase):
    def test_an_unsure_belief_asks_for_what_parts_it_and_is_settled_by_it(self):
        unsure = judged(plate(), SEEN, **OVERFED)
        self.assertEqual(unsure.decision.key, "low_unsure")
        self.assertLess(unsure.decision.belief, 0.9)
        self.assertEqual(unsure.decision.hangs_on.key, "test_bulb")
        # A valve that answers its bulb is short of liquid; one that does not is what is wrong.
        answers = judged(plate(), settled(*CLEAN, "bulb_test_reacts"), **OVERFED)
        self.assertGreater(answers.decision.belief, unsure.decision.belief)
        self.assertEqual(answers.suspects[0].suspect.key, "undercharge")
        dead = judged(plate(), settled(*CLEAN, "bulb_test_no_reaction"), **OVERFED)
        overfed = {b.suspect.key: b.belief for b in dead.suspects}["metering_overfeed"]
        self.assertGreater(overfed, 0.4)
        self.assertEqual(dead.decision.advice, "do_not_charge")

    def test_what_is_asked_was_not_done_and_stands_first_among_the_checks(self):
        for readings in (OVERFED, {**OVERFED, "suct": 108, "sl": 46}, {**OVERFED, "sl": 52}):
            found = judged(plate(), SEEN, **readings)
            hangs = found.decision.hangs_on
            with self.subTest(hangs.key):
                brings = found.checks[0].check
                self.assertIn(hangs.key, (brings.key, *brings.points))
                self.assertNotIn(hangs.key, found.case.record)
                self.assertFalse({brings.look.no} & set(CLEAN) if brings.look else False)

    def test_sure_to_be_low_it_asks_for_what_stands_beside_it(self):
        # Low beyond doubt, and air that is short as well: the blower's capacitor comes first.
        of = plate(nominal_capacity_w=36000 * 0.29307, rated_seer=14)
        both = {
            "suct": 108,
            "liq": 318,
            "sl": 50,
            "ll": 99.5,
            "oa": 86,
            "ra": 76,
            "wb": 63,
            "sa": 54,
            "lli": 99,
        }
        found = judged(of, SEEN, **both).decision
        self.assertGreater(found.belief, 0.9)
        self.assertEqual(found.hangs_on.key, "test_blower_capacitor")
        self.assertIn("is likely there as well", found.reason.text("ip"))
        good = judged(of, settled(*CLEAN, "blower_capacitor_ok"), **both).decision
        self.assertNotEqual(good.hangs_on and good.hangs_on.key, "test_blower_capacitor")
        self.assertNotIn("Blower electrics", good.reason.text("ip"))


class TwoAtOnceTest(unittest.TestCase):
    """Where two readings have to be borne out, both are asked for in one breath."""

    def hangs(self, *seen: str, **more: float):
        return judged(plate(), settled(*CLEAN, *seen), **SHORT, **more).decision

    def test_what_would_be_asked_next_is_asked_at_once(self):
        both = self.hangs()
        self.assertEqual((both.key, both.advice), ("low_hangs", "do_not_charge"))
        first, (second,) = both.hangs_on, both.hangs_on.also
        self.assertEqual((first.key, second.key), ("liquid_line_temp_indoor", "standing_pressure"))
        self.assertEqual(both.headline, "Looks low. Prove two readings before you add.")
        said = both.reason.text("ip")
        self.assertIn("hangs on the liquid clamp, and on the liquid gauge", said)
        # The first alone: the second is what is asked for then, and nothing besides.
        left = self.hangs(lli=95.5)
        self.assertEqual((left.key, left.hangs_on.key), ("low_hangs", "standing_pressure"))
        self.assertEqual(left.hangs_on.also, ())
        self.assertEqual(self.hangs("standing_pressure_right", lli=95.5).advice, "add")

    def test_both_stand_first_among_the_checks(self):
        found = judged(plate(), SEEN, **SHORT)
        first, second = (proposal.check for proposal in found.checks[:2])
        self.assertIn("liquid_line_temp_indoor", first.points)
        self.assertEqual(second.key, "standing_pressure")

    def test_one_that_answers_wrongly_adds_nothing(self):
        # The line indoors is six degrees cooler than the clamp said: the clamp was in the sun.
        cool = self.hangs("standing_pressure_right", lli=90)
        self.assertNotEqual(cool.advice, "add")
        gauge_off = self.hangs("standing_pressure_high", lli=95.5)
        self.assertNotEqual(gauge_off.advice, "add")

    def test_a_resting_plant_proves_both_gauges_and_is_asked_for_once(self):
        for readings in (SHORT, {**SHORT, "suct": 116}, {**SHORT, "liq": 310}):
            found = judged(plate(), SEEN, **readings).decision.hangs_on
            asked = [one.key for one in (found, *found.also)]
            with self.subTest(readings):
                self.assertEqual(len(asked), len(set(asked)))
                self.assertLessEqual(len(asked), 2)


class ContradictedTest(unittest.TestCase):
    """What contradicts low charge is read again first; once that is confirmed, what the sentence
    names is tested, and a test that passes answers it.
    """

    def decided(self, *seen: str):
        of = plate(nominal_capacity_w=36000 * 0.29307, rated_seer=14)
        return judged(of, settled(*CLEAN, *seen), **WARM).decision

    def test_the_reading_then_the_compressor_then_it_is_answered(self):
        first = self.decided()
        self.assertEqual((first.key, first.hangs_on.key), ("contradicted", "return_air_temp"))
        self.assertIn("check the compressor", first.reason.text("ip"))
        self.assertIn("second probe in the same air", first.hangs_on.why.text("ip"))  # it was read
        sure = self.decided("readings_confirmed")
        self.assertEqual((sure.key, sure.hangs_on.key), ("contradicted", "test_compressor"))
        self.assertEqual(self.decided("readings_confirmed", "compressor_pumps").advice, "add")
        weak = self.decided("readings_confirmed", "compressor_weak")
        self.assertEqual((weak.key, weak.advice), ("contradicted", "do_not_charge"))

    def test_a_passed_test_answers_only_what_it_looked_for(self):
        # The compressor pumps; the drier drops ten degrees all the same.
        of = plate(nominal_capacity_w=36000 * 0.29307, rated_seer=14)
        seen = settled(*CLEAN, "readings_confirmed", "compressor_pumps")
        found = judged(of, seen, **WARM, di=99, do=89).decision
        self.assertEqual(found.advice, "do_not_charge")


class OfItsKindTest(unittest.TestCase):
    def test_nothing_of_a_winter_a_cold_room_or_a_vehicle_is_asked_for_in_summer(self):
        elsewhere = {
            row.key
            for rows in (HEATING_CHECKS, COLD_ROOM_CHECKS, VEHICLE_CHECKS, ZONE_CHECKS)
            for row in rows
        }
        self.assertIn("look_for_ice", elsewhere)
        for found in (
            judged(plate(), SEEN, **OVERFED),
            judged(plate(), SEEN, **SHORT),
            judged(plate("fixed_orifice", subcooling=None), SEEN, **OVERFED),
        ):
            self.assertTrue(found.checks)
            self.assertFalse(elsewhere & {proposal.check.key for proposal in found.checks})
            self.assertFalse(elsewhere & set(found.weighing.model.checks))

    def test_a_walk_asks_for_both_sides_of_the_drier_in_one_breath(self):
        walk = hang_on_check(CHECKS["walk_liquid_line"])
        self.assertEqual(walk.key, "drier_inlet_temp")
        self.assertEqual([one.key for one in walk.also], ["drier_outlet_temp"])
        rest = hang_on_check(CHECKS["walk_liquid_line"], have={"drier_inlet_temp"})
        self.assertEqual(
            [rest.key, *(one.key for one in rest.also)],
            ["drier_outlet_temp", "liquid_line_temp_indoor"],
        )
        self.assertEqual(hang_on_check(CHECKS["test_compressor"]).also, ())


class AnotherInstrumentTest(unittest.TestCase):
    def test_every_second_place_is_one_that_proves_the_first(self):
        for point, places in ANOTHER.items():
            proving = {other for other, _ in SECOND_SENSORS[point]}
            for second, how in places:
                self.assertIn(second, proving)
                self.assertIn(second, POINTS)
                self.assertTrue(how[0].isupper())
        self.assertIn("standing_pressure", CHECKS)

    def test_one_second_place_already_read_the_next_is_asked(self):
        held = {"suct": 108, "liq": 330, "sl": 48, "ll": 99, "oa": 86, "ra": 76, "wb": 63}
        # The line indoors is over three degrees cooler: it proves nothing, a clamp at the drier may.
        sure = settled(*CLEAN, "readings_confirmed")
        cooler = judged(plate(), sure, **held, lli=95).decision
        self.assertEqual((cooler.key, cooler.hangs_on.key), ("low_hangs", "drier_inlet_temp"))
        self.assertEqual(judged(plate(), SEEN, **held, lli=97).decision.advice, "add")

    def test_an_old_second_reading_proves_nothing(self):
        held = {
            "suct": 108,
            "liq": 330,
            "sl": 48,
            "ll": 99,
            "oa": 86,
            "ra": 76,
            "wb": 63,
            "di": 98.5,
        }
        fresh = judged(plate(), SEEN, **held).decision
        old = judged(plate(), replace(SEEN, stale=frozenset({"drier_inlet_temp"})), **held).decision
        self.assertEqual(fresh.advice, "add")
        self.assertNotEqual(old.advice, "add")


class GuessedWindowTest(unittest.TestCase):
    def test_inside_a_guessed_window_subcooling_contradicts_no_low_charge_on_an_orifice(self):
        short = {
            "suct": 58,
            "liq": 196,
            "sl": 61,
            "ll": 91.5,
            "oa": 84,
            "ra": 76,
            "wb": 63,
            "sa": 61,
        }
        of = plate("fixed_orifice", "R-22", None)
        found = judged(of, settled(*CLEAN, "readings_confirmed"), **short)
        self.assertEqual((found.decision.state, found.decision.key), ("low", "low_unsure"))
        # A full liquid line still does: then it is held back.
        full = judged(of, settled(*CLEAN, "readings_confirmed"), **{**short, "ll": 80}).decision
        self.assertNotIn(full.advice, ("add", "find_leak"))

    def test_a_valve_set_at_the_edge_of_its_band_may_still_be_overcharged(self):
        seen = settled(*CLEAN, "circuit_never_opened", "readings_confirmed")
        high = {"suct": 122, "liq": 375, "ll": 91, "oa": 88, "ra": 76, "wb": 63}
        # In its band; over it within its own ±, where the beliefs decide; over it beyond.
        for line, key in ((52, "remove"), (57.5, "high_unsure"), (62, "high_contradicted")):
            with self.subTest(line):
                self.assertEqual(judged(plate(), seen, **high, sl=line).decision.key, key)


if __name__ == "__main__":
    unittest.main()
