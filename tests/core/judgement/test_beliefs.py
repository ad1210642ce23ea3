"""How departures become beliefs: sums, blur, pairs, doubts, and whitening by hand."""

import unittest
from dataclasses import replace
from math import log

from nudge.core.circuit.case import Context
from nudge.core.judgement.beliefs import FREEDOM, hypotheses, weigh
from nudge.core.judgement.departures import SIGNS, departures
from nudge.core.judgement.pairs import PAIRS
from nudge.core.judgement.signatures import CORRELATIONS, EXPECTATIONS, together
from nudge.core.judgement.suspect_table import SUSPECTS
from nudge.core.vocabulary.equipment import ReversingValve
from tests.core.field import SETTLED, case, judged, plate

LOW = {"suct": 106, "liq": 300, "sl": 60, "ll": 94, "oa": 86, "ra": 76, "wb": 63, "sa": 62}
RIGHT = {"suct": 119, "liq": 352, "sl": 51, "ll": 97, "oa": 88, "ra": 76, "wb": 63, "sa": 57}


class DeparturesTest(unittest.TestCase):
    def test_what_is_not_read_is_not_there(self):
        self.assertEqual(set(departures(case(suct=118, sl=50))) - {"boiling"}, {"superheat"})
        self.assertNotIn("evaporator_superheat", departures(case(suct=118, sl=50, eo=48)))
        self.assertIn("evaporator_superheat", departures(case(suct=118, eo=48)))

    def test_a_departure_is_measured_less_expected(self):
        found = departures(case(**RIGHT))
        # 352 psig R-410A: bubble 107.2 °F; 97 °F line: 10.2 of subcooling against the plate's 10.
        self.assertAlmostEqual(found["subcooling"].value * 1.8, 10.2, delta=0.3)
        self.assertLess(abs(found["subcooling"].off * 1.8), 2.5)
        for key, one in found.items():
            self.assertAlmostEqual(one.off, one.value - one.expected, msg=key)

    def test_the_plate_moves_what_is_expected(self):
        ten, fifteen = (departures(case(plate(subcooling=n), **RIGHT)) for n in (10, 15))
        moved = fifteen["subcooling"].expected - ten["subcooling"].expected
        self.assertAlmostEqual(moved * 1.8, 5)

    def test_its_own_past_moves_what_is_expected(self):
        plain = departures(case(**RIGHT))["condensing_over_ambient"]
        own = replace(SETTLED, own={"condensing_over_ambient": 2.0})
        self.assertAlmostEqual(
            departures(case(context=own, **RIGHT))["condensing_over_ambient"].expected,
            plain.expected + 2.0,
        )

    def test_weather_nobody_read_and_readings_nobody_trusts_blur(self):
        rated = plate(rated_seer=14)
        read = departures(case(rated, **RIGHT))["superheat"]
        self.assertEqual(read.blur, 0)
        unrated = departures(case(**RIGHT))
        self.assertGreater(unrated["condensing_over_ambient"].blur, 0)
        unread = {k: v for k, v in RIGHT.items() if k not in ("oa", "wb")}
        orifice = plate("fixed_orifice", subcooling=None)
        self.assertGreater(departures(case(orifice, **unread))["superheat"].blur, 2)
        guessed = Context(20, 15, estimated=frozenset({"suction_line_temp"}))
        # Three times a clamp's ±1 °F, halved to one σ: 1.5 °F.
        blur = departures(case(rated, guessed, **RIGHT))["superheat"].blur
        self.assertAlmostEqual(blur * 1.8, 1.5)

    def test_weather_beyond_the_fit_is_held_at_its_edge(self):
        cold, colder = (
            departures(case(**{**RIGHT, "oa": oa, "liq": 250, "ll": 70}))["subcooling"].expected
            for oa in (50, 20)
        )
        self.assertEqual(cold, colder)


class WeighingTest(unittest.TestCase):
    def weighed(self, **spoken: float):
        return weigh(True, departures(case(**spoken)))

    def test_beliefs_sum_to_one_and_every_suspect_is_there(self):
        for spoken in (LOW, RIGHT, {"suct": 118}, {"oa": 88}, {**LOW, "sl": 150}):
            with self.subTest(spoken):
                beliefs = self.weighed(**spoken).suspects
                self.assertEqual(set(beliefs), set(SUSPECTS))
                self.assertAlmostEqual(sum(beliefs.values()), 1)

    def test_nothing_measured_leaves_the_priors(self):
        beliefs = weigh(True, {}).suspects
        rare, common = beliefs["reversing_valve_leak"], beliefs["undercharge"]
        # 1 to 16 of a hundred, and half of each pair besides.
        self.assertLess(rare, common / 10)

    def test_blur_brings_a_belief_back_towards_its_prior(self):
        sharp = departures(case(**LOW))
        dull = {key: replace(one, blur=20.0) for key, one in sharp.items()}
        self.assertGreater(weigh(True, sharp).suspects["undercharge"], 0.8)
        self.assertLess(weigh(True, dull).suspects["undercharge"], 0.4)

    def test_an_absurd_reading_is_something_else_or_a_probe(self):
        first = judged(suct=118, liq=341, sl=51, ll=20, oa=88, ra=76).suspects[0]
        self.assertEqual(first.suspect.key, "sensor_suspect")

    def test_doubt_makes_it_the_probe(self):
        found = departures(case(**RIGHT))
        self.assertLess(weigh(True, found).suspects["sensor_suspect"], 0.2)
        self.assertGreater(weigh(True, found, doubted=True).suspects["sensor_suspect"], 0.9)

    def test_a_plate_without_a_reversing_valve_rules_its_leak_out(self):
        def belief(has: ReversingValve) -> float:
            suspects = judged(plate(reversing_valve=has), **RIGHT).suspects
            return next(b.belief for b in suspects if b.suspect.key == "reversing_valve_leak")

        unknown, present, absent = map(belief, ReversingValve)
        self.assertLess(absent, 1e-4)
        self.assertGreater(present, unknown)

    def test_a_pair_shares_its_belief_between_its_two(self):
        both = {**LOW, "suct": 92, "sl": 46, "sa": 55}
        looks = ("filter_dirty",)
        found = weigh(True, departures(case(**both)), looks)
        pair = found.pairs.get(("filter_dirty", "undercharge"), 0.0)
        self.assertGreater(pair, 0.02)
        self.assertGreaterEqual(found.suspects["low_indoor_airflow"], pair / 2 - 1e-9)
        self.assertLess(found.alone("undercharge"), found.suspects["undercharge"])

    def test_every_pair_is_swept_on_some_device(self):
        swept = {h.faults for valve in (True, False) for h in hypotheses(valve, ("superheat",))}
        for pair in PAIRS:
            self.assertIn(pair.faults, swept)

    def test_likelihood_by_hand_for_one_sign(self):
        # One sign needs no whitening: weight = prior × (1 + z²/6)^(−7/2) ÷ s.
        found = {"subcooling": departures(case(plate(rated_seer=14), **LOW))["subcooling"]}
        by_hand = {}
        for row in hypotheses(True, ("subcooling",)):
            z = (found["subcooling"].off - row.middle[0]) / row.spread[0]
            score = row.log_prior - log(row.spread[0])
            score -= (FREEDOM + 1) / 2 * log(1 + z * z / FREEDOM)
            by_hand[row.signature.variant, row.signature.severity] = score
        rows = weigh(True, found).rows
        one, other = rows[0], rows[3]
        names = [(r.hypothesis.signature.variant, r.hypothesis.signature.severity)
                 for r in (one, other)]  # fmt: skip
        self.assertAlmostEqual(
            log(one.belief / other.belief), by_hand[names[0]] - by_hand[names[1]], places=6
        )

    def test_whitening_undoes_the_correlation(self):
        keys = ("subcooling", "condensing_over_ambient", "approach", "superheat")
        rows = together(True, keys).rows
        known = CORRELATIONS[True]
        for i, a in enumerate(rows):
            for j, b in enumerate(rows):
                # W C Wᵀ must be the identity.
                value = sum(
                    a[m] * b[n] * (1 if m == n else known.get((keys[m], keys[n]), 0.0))
                    for m in range(len(a)) for n in range(len(b))
                )  # fmt: skip
                self.assertAlmostEqual(value, 1.0 if i == j else 0.0, places=6)

    def test_every_sign_has_its_expectation_and_its_correlations_are_sane(self):
        for valve in (True, False):
            self.assertEqual(set(EXPECTATIONS[valve]), set(SIGNS))
            self.assertTrue(all(abs(c) < 0.99 for c in CORRELATIONS[valve].values()))


if __name__ == "__main__":
    unittest.main()
