"""The next check is worth its minutes, is not asked twice, and says what it would mean."""

import unittest
from itertools import pairwise
from math import erf, log2, sqrt

import numpy as np

from nudge.core.checks.table import CHECKS, LOOK_OF
from nudge.core.expectations.expected import expectations_here, weather_blur
from nudge.core.judgement.beliefs import signed, weigh
from nudge.core.judgement.change_of_mind import changes_of_mind
from nudge.core.judgement.covariance import covariance
from nudge.core.judgement.departures import departures
from nudge.core.judgement.hypotheses import healthy, moves
from nudge.core.judgement.next_checks import next_checks
from nudge.core.judgement.predict import levels
from nudge.core.judgement.splits import Live, by_look
from nudge.core.judgement.suspect_table import SUSPECTS
from tests.core.field import MODELS, VALVE, case, judged, plate, settled

HOT = {"suct": 126, "liq": 455, "sl": 54, "ll": 116, "oa": 88, "ra": 76}
HIGH_HEAD = {"suct": 123, "liq": 405, "sl": 52, "ll": 98, "oa": 88, "ra": 76}
STARVED = {"suct": 88, "liq": 310, "sl": 60, "ll": 88, "oa": 84, "ra": 77}
FIVE = {"suct": 106, "liq": 300, "sl": 60, "ll": 94, "oa": 86}


def asked(*seen: str, device: str = "txv", **spoken: float) -> list[str]:
    return [p.check.key for p in judged(plate(device), settled(*seen), **spoken).checks]


class NextChecksTest(unittest.TestCase):
    def test_what_is_done_is_not_asked_again(self):
        first = asked(**STARVED)
        self.assertIn("walk_liquid_line", first)
        again = asked(**STARVED, di=88, do=87.5, lli=87)
        self.assertNotIn("walk_liquid_line", again)
        self.assertNotIn("look_at_condenser", asked("condenser_coil_clean", **HOT))

    def test_look_alikes_are_parted_by_their_own_test(self):
        for spoken, seen, wanted in (
            (HOT, (), {"look_at_condenser", "watch_condenser_fan"}),
            (HIGH_HEAD, ("condenser_coil_clean", "condenser_fan_ok"), {"standing_pressure"}),
            (STARVED, (), {"walk_liquid_line", "carry_one_clamp"}),
            ({**STARVED, "di": 88, "do": 87.5, "lli": 87}, ("no_liquid_step",), {"test_bulb"}),
            (
                {"suct": 92, "liq": 300, "sl": 36, "ll": 86, "oa": 84, "ra": 78, "sa": 48},
                ("filter_clean", "evaporator_coil_clean"),
                {"test_blower_capacitor"},
            ),
        ):
            with self.subTest(wanted):
                self.assertTrue(wanted & set(asked(*seen, **spoken)[:3]), asked(*seen, **spoken))

    def test_a_device_without_a_bulb_is_not_asked_for_one(self):
        for device in ("fixed_orifice", "eev"):
            keys = {
                p.check.key
                for p in next_checks(
                    case(plate(device), **STARVED),
                    weigh(
                        MODELS["valve" if device == "eev" else "orifice"],
                        departures(case(plate(device), **STARVED)),
                    ),
                    {},
                    limit=40,
                    worth=0.0,
                )
            }
            self.assertNotIn("test_bulb", keys)
            self.assertGreater(len(keys), 3)

    def test_what_stands_between_charge_and_its_proof_comes_first(self):
        low = {"suct": 108, "liq": 320, "sl": 56, "ll": 97, "oa": 86}
        self.assertEqual(
            asked(
                "filter_clean",
                "evaporator_coil_clean",
                "condenser_coil_clean",
                "condenser_fan_ok",
                **low,
            )[0],
            "read_return_air",
        )

    def test_each_outcome_says_who_would_lead(self):
        for proposal in judged(plate(), **HOT).checks:
            self.assertGreater(proposal.bits, 0)
            self.assertLessEqual(sum(o.chance for o in proposal.outcomes), 1.0001)
            for outcome in proposal.outcomes:
                self.assertIn(outcome.leads, SUSPECTS)
                self.assertTrue(0 < outcome.belief <= 1)
            self.assertTrue(set(proposal.separates) <= set(SUSPECTS))

    def test_entering_an_outcome_believes_what_was_promised(self):
        result = judged(plate(), settled(), **HIGH_HEAD)
        live = [row for row in result.weighing.rows if row.belief >= 0.003]
        split = by_look(VALVE, LOOK_OF["standing_pressure_high"], Live(live))
        for outcome in split.outcomes():
            after = judged(plate(), settled(outcome.key), **HIGH_HEAD)
            belief = next(b.belief for b in after.suspects if b.suspect.key == outcome.leads)
            self.assertAlmostEqual(belief, outcome.belief, delta=0.03)

    def test_bits_by_hand(self):
        # Two hypotheses, even odds; a look that comes out 0.98 with one and 0.02 with the other.
        rows = weigh(VALVE, departures(case(**HIGH_HEAD))).rows
        air = next(r for r in rows if r.hypothesis.faults == ("non_condensables",))
        fill = next(r for r in rows if r.hypothesis.faults == ("overcharge",))
        live = [air._replace(belief=0.5), fill._replace(belief=0.5)]

        def entropy(p: float) -> float:
            return -sum(q * log2(q) for q in (p, 1 - p) if q > 0)

        yes = (0.98 + 0.02) / 2
        by_hand = 1 - yes * entropy(0.49 / yes) - (1 - yes) * entropy(0.01 / (1 - yes))
        self.assertAlmostEqual(
            by_look(VALVE, LOOK_OF["standing_pressure_high"], Live(live)).bits, by_hand
        )

    def test_when_all_is_known_nothing_is_asked(self):
        known = judged(plate(), settled("filter_clean", "condenser_coil_dirty"), **HOT, sa=57)
        sure = known.suspects[0].belief
        self.assertGreater(sure, 0.9)
        bits = [p.bits for p in known.checks]
        self.assertTrue(all(b < 0.5 for b in bits), bits)

    def test_without_return_air_it_is_asked_before_supply_air(self):
        # Supply air says nothing without return air: there is no split. Return air does at once.
        for spoken in (
            FIVE,
            {"suct": 119, "liq": 352, "sl": 51, "ll": 97, "oa": 88},
            {"suct": 100, "liq": 330, "sl": 46, "ll": 92, "oa": 86},
            {"suct": 112, "liq": 340, "sl": 50, "ll": 95, "oa": 88},
        ):
            for device in ("txv", "fixed_orifice"):
                with self.subTest(device, **spoken):
                    of = plate(device, subcooling=10 if device == "txv" else None)
                    seen = settled("filter_clean", "condenser_coil_clean", "condenser_fan_ok")
                    keys = [p.check.key for p in judged(of, seen, **spoken).checks]
                    self.assertNotIn("read_supply_air", keys)
                    readings = [key for key in keys if key.startswith("read_")]
                    if readings:
                        self.assertEqual(readings[0], "read_return_air", keys)

    def test_every_check_can_move_one_of_the_first_two(self):
        for spoken in (FIVE, HOT, HIGH_HEAD, STARVED):
            found = case(plate(), settled("filter_clean"), **spoken)
            weighing = weigh(VALVE, departures(found))
            leaders = list(weighing.suspects.items())[:2]
            own = {key for name in SUSPECTS for key in SUSPECTS[name].own_test}
            for proposal in next_checks(found, weighing, departures(found)):
                if proposal.check.key in own:
                    continue  # what is condemned is proven, however sure it is
                far = [
                    abs(o.shares.get(name, 0) - belief)
                    for name, belief in leaders
                    for o in proposal.outcomes
                ]
                self.assertGreaterEqual(max(far), 0.05, proposal.check.key)

    def test_what_moves_with_a_sign_already_read_is_worth_less(self):
        # Evaporator superheat beside superheat says next to nothing that is not said.
        found = case(plate(rated_seer=14), **STARVED)
        weighing = weigh(VALVE, departures(found))
        live = [row for row in weighing.rows if row.belief >= 0.003]
        alone = levels(found, weighing, live, {}, ["capacity"])[:, 0]
        beside = levels(found, weighing, live, departures(found), ["capacity"])[:, 0]
        self.assertEqual(alone.shape, beside.shape)
        self.assertTrue(((beside.sum(axis=1) - 1) ** 2 < 1e-2).all())

    def test_levels_are_the_normal_distribution_given_what_is_read(self):
        # The textbook's conditional mean and variance, row by row, and its error function.
        found = case(plate(rated_seer=14), **FIVE)
        measured = departures(found)
        weighing = weigh(VALVE, measured)
        live = [row for row in weighing.rows if row.belief >= 0.003]
        new = ("evaporator_difference", "capacity")
        known = signed(measured)
        n, signs = len(known.signs), (*known.signs, *new)
        blurs = [weather_blur(known.unsure, expectations_here(found)[key]) for key in new]
        spread = covariance(
            VALVE,
            signs,
            (*known.blurs, *blurs),
            (*known.knowns, 0.0, 0.0),
            unsure=known.unsure,
        )
        shares = levels(found, weighing, live, measured, new)
        middles = moves(VALVE, signs).at(known.air)
        for place, row in enumerate(r.hypothesis.row for r in live):
            gain = np.linalg.solve(spread[row, :n, :n], spread[row, :n, n:])
            centre = middles[row, n:] + gain.T @ (np.array(known.offs) - middles[row, :n])
            left = spread[row, n:, n:] - gain.T @ spread[row, :n, n:]
            for number, usual in enumerate(healthy(VALVE, new)):
                sigma = sqrt(max(left[number, number], 0.05 * spread[row, n + number, n + number]))
                under = [
                    0.5 * (1 + erf((edge * usual - centre[number]) / sigma / sqrt(2)))
                    for edge in (-3.0, -1.4, 1.4, 3.0)
                ]
                by_hand = [b - a for a, b in pairwise([0.0, *under, 1.0])]
                for one, other in zip(shares[place, number], by_hand, strict=True):
                    self.assertAlmostEqual(one, other, delta=4e-4)
        self.assertGreater(len(live), 3)
        self.assertGreater(n, 3)

    def test_five_numbers_leave_something_to_ask(self):
        self.assertGreaterEqual(len(asked(**FIVE)), 2)
        self.assertLessEqual(len(asked(**FIVE)), 4)
        self.assertEqual(len({c.label for c in CHECKS.values()}), len(CHECKS))


class ChangeOfMindTest(unittest.TestCase):
    def test_each_change_would_put_another_in_front(self):
        result = judged(plate(), settled("filter_clean"), **HIGH_HEAD)
        leader = result.suspects[0].suspect.key
        changes = changes_of_mind(result)
        self.assertTrue(changes)
        for change in changes:
            self.assertNotEqual(change.leads, leader)
            for units in ("ip", "si"):
                self.assertRegex(change.said.text(units), r"^[A-Z].*\.$")  # type: ignore[arg-type]

    def test_a_reading_taken_back_is_really_what_changes_it(self):
        spoken = {**STARVED, "lli": 76}
        result = judged(plate(), **spoken)
        self.assertEqual(result.suspects[0].suspect.key, "liquid_line_restriction")
        change = next(c for c in changes_of_mind(result) if c.sign == "liquid_line_drop")
        self.assertRegex(
            change.said.text("ip"), r"Liquid line drop −?\d+\.\d °F or less, not 12\.0"
        )
        for line in (88 - 2.9, 88 - 1.5, 88):  # at what was said, or less
            again = judged(plate(), **{**spoken, "lli": line})
            self.assertNotEqual(again.suspects[0].suspect.key, "liquid_line_restriction")


if __name__ == "__main__":
    unittest.main()
