"""The sentences of the board: what they say, what they point at, what would settle a suspect."""

import unittest

from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.checks.table import LOOK_OF
from nudge.core.expectations.signs import SIGNS
from nudge.core.judgement.departures import Departure
from nudge.core.judgement.evidence import sentence_of, sign_ratios
from nudge.core.judgement.pairs import PAIRS
from nudge.core.judgement.signatures import scale_of
from nudge.core.judgement.suspect_table import SUSPECTS
from nudge.core.judgement.trade_marks import TRADE_MARKS
from tests.core.field import MODELS, judged, plate, settled

LOW = {"suct": 106, "liq": 300, "sl": 60, "ll": 94, "oa": 86, "ra": 76, "wb": 63, "sa": 62}
AS_IT_SHOULD = {"suct": 122, "liq": 330, "sl": 54, "ll": 92, "oa": 86, "ra": 76, "wb": 63}


def departed(sign: str, value: float, expected: float) -> Departure:
    return Departure(SIGNS[sign], value, expected, 0.0)


class SentenceTest(unittest.TestCase):
    def test_numbers_in_the_readers_units(self):
        # 2 K and 7 K: 3.6 and 12.6 °F, so 9.0 °F apart.
        said = sentence_of(departed("subcooling", 2.0, 7.0))
        self.assertEqual(said.text("ip"), "Subcooling 3.6 °F is 9.0 °F under what is expected")
        self.assertEqual(said.text("si"), "Subcooling 2.0 K is 5.0 K under what is expected")

    def test_a_temperature_is_a_temperature_and_its_step_is_not(self):
        said = sentence_of(departed("return_air", 20.0, 25.0))
        self.assertEqual(said.text("ip"), "Return air 68.0 °F is 9.0 °F under what is expected")

    def test_shares_are_told_as_shares(self):
        # 100 ln(0.5) = −69.3: half of what is expected.
        said = sentence_of(departed("airflow", -69.3, 0.0))
        self.assertEqual(said.text("ip"), "Airflow is 50.0 % under what is expected")
        said = sentence_of(departed("compressor_power", 18.2, 0.0))  # 100 ln(1.2)
        self.assertIn("20.0 % over", said.text("ip"))

    def test_what_is_as_expected_says_so(self):
        for one in (
            departed("subcooling", 5.5, 5.4),
            departed("airflow", 2.0, 0.0),
            departed("pressure_ratio", 3.0, 3.05),
        ):
            self.assertTrue(sentence_of(one).text("ip").endswith("is what is expected"))


class BoardTest(unittest.TestCase):
    def setUp(self):
        self.result = judged(plate(), settled("filter_clean"), **LOW)
        self.board = {belief.suspect.key: belief for belief in self.result.suspects}

    def test_every_suspect_is_on_it_likeliest_first(self):
        beliefs = [belief.belief for belief in self.result.suspects]
        self.assertEqual(beliefs, sorted(beliefs, reverse=True))
        self.assertEqual(set(self.board), set(SUSPECTS))

    def test_at_most_three_of_each_and_each_points_at_what_it_speaks_of(self):
        known = set(SIGNS) | set(OBSERVATIONS) | {"readings"}
        for belief in self.board.values():
            for sentences, signs in (
                (belief.speaks_for, belief.for_signs),
                (belief.speaks_against, belief.against_signs),
                (belief.missing, belief.missing_signs),
            ):
                self.assertLessEqual(len(sentences), 3)
                self.assertEqual(len(sentences), len(signs))
                self.assertLessEqual(set(signs), known)
            self.assertFalse(set(belief.for_signs) & set(belief.against_signs))
            self.assertFalse(set(belief.missing_signs) & set(self.result.measured))

    def test_what_was_seen_speaks_against_the_suspect_it_acquits(self):
        likely = judged(plate(), settled("filter_clean"), **AS_IT_SHOULD)
        air = {belief.suspect.key: belief for belief in likely.suspects}["low_indoor_airflow"]
        self.assertIn("filter_clean", air.against_signs)
        self.assertFalse(self.board["low_indoor_airflow"].against_signs)  # not believed: not told
        self.assertIn("filter_clean", air.acquits)
        self.assertIn("filter_dirty", air.convicts)

    def test_where_a_suspect_would_stand_is_where_its_row_says(self):
        low, right = self.board["undercharge"].lands, self.board["none"].lands
        assert low is not None
        assert right is not None
        self.assertLess(low[2], right[2])  # less subcooling than a system with nothing wrong
        self.assertIsNone(self.board["sensor_suspect"].lands)
        self.assertIsNone(judged(plate(), suct=118, sl=50).suspects[0].lands)

    def test_a_ratio_over_one_is_commoner_with_it_than_with_the_others(self):
        ratios = sign_ratios(self.result.weighing, self.result.measured)
        self.assertGreater(ratios["undercharge"]["subcooling"], 5)
        self.assertLess(ratios["overcharge"]["subcooling"], 0.2)
        self.assertLess(ratios["liquid_line_restriction"]["subcooling"], 0.5)

    def test_the_likeliest_fault_of_a_suspect_is_named(self):
        step = judged(
            plate(), settled(), suct=88, liq=310, sl=68, ll=86, di=86, do=74, oa=82, ra=77
        )
        self.assertEqual(step.suspects[0].fault, "drier_restricted")
        kinked = judged(
            plate(), settled("kink_found"), suct=88, liq=310, sl=68, ll=86, lli=75, oa=82, ra=77
        )
        self.assertEqual(kinked.suspects[0].fault, "line_kinked")


class WrittenRowsTest(unittest.TestCase):
    def test_trade_marks_stand_in_the_table_as_written(self):
        rows = {
            (v, r.variant, r.severity): r.moves for v, m in MODELS.items() for r in m.signatures
        }
        for mark in TRADE_MARKS:
            found = [
                moves
                for key, moves in rows.items()
                if key[:2] == (mark.device, mark.fault) and mark.severity in ("", key[2])
            ]
            self.assertTrue(found, mark)
            for moves in found:
                middle, spread = (v / scale_of(mark.sign) for v in moves[mark.sign])
                self.assertAlmostEqual(middle, mark.middle_f, places=6)
                self.assertAlmostEqual(spread, mark.spread_f, places=6)

    def test_pairs_are_of_different_suspects_and_say_their_order(self):
        for pair in PAIRS:
            self.assertNotEqual(*pair.faults)
            self.assertGreater(pair.prior, 0)
            self.assertTrue(pair.reason)
        self.assertEqual(len({pair.faults for pair in PAIRS}), len(PAIRS))

    def test_every_look_that_convicts_is_asked_for_by_some_check(self):
        from nudge.core.checks.table import CHECKS

        asked = {id(check.look) for check in CHECKS.values() if check.look}
        unasked = {look.yes for look in LOOK_OF.values() if id(look) not in asked}
        # Told by a reading, or noticed in passing.
        self.assertEqual(
            unasked, {"airflow_low", "ice_on_coil", "sight_glass_bubbles", "reversing_valve_passes"}
        )


if __name__ == "__main__":
    unittest.main()
