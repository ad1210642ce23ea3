"""How departures become beliefs: sums, blur, pairs, doubts, and whitening by hand."""

import unittest
from dataclasses import replace
from math import log

from nudge.core.behaviours.case import Context
from nudge.core.expectations.expected import AT_RATING
from nudge.core.expectations.signs import SIGNS
from nudge.core.expectations.table import expectations_of
from nudge.core.judgement.beliefs import FREEDOM, Told, signed, told_of, weigh, weigh_each
from nudge.core.judgement.covariance import (
    SEVERITY_SIGMA,
    correlation,
    covariance,
    shape,
)
from nudge.core.judgement.departures import air_of, departures
from nudge.core.judgement.hypotheses import hypotheses, moves
from nudge.core.judgement.pairs import PAIRS
from nudge.core.judgement.shared import SHARED
from nudge.core.judgement.suspect_table import SUSPECTS
from nudge.core.physics.air.load import load_of
from nudge.core.physics.circuit.equipment import FEEDS, ReversingValve
from tests.core.field import COOLING, MODELS, SETTLED, VALVE, case, judged, plate

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
        return weigh(VALVE, departures(case(**spoken)))

    def test_beliefs_sum_to_one_and_every_suspect_is_there(self):
        for spoken in (LOW, RIGHT, {"suct": 118}, {"oa": 88}, {**LOW, "sl": 150}):
            with self.subTest(spoken):
                beliefs = self.weighed(**spoken).suspects
                self.assertEqual(set(beliefs), set(SUSPECTS))
                self.assertAlmostEqual(sum(beliefs.values()), 1)

    def test_nothing_measured_leaves_the_priors(self):
        beliefs = weigh(VALVE, {}).suspects
        rare, common = beliefs["reversing_valve_leak"], beliefs["undercharge"]
        # 1 to 16 of a hundred, and half of each pair besides.
        self.assertLess(rare, common / 10)

    def test_blur_brings_a_belief_back_towards_its_prior(self):
        sharp = departures(case(**LOW))
        dull = {key: one._replace(blur=20.0) for key, one in sharp.items()}
        self.assertGreater(weigh(VALVE, sharp).suspects["undercharge"], 0.8)
        self.assertLess(weigh(VALVE, dull).suspects["undercharge"], 0.4)

    def test_an_absurd_reading_is_something_else_or_a_probe(self):
        first = judged(suct=118, liq=341, sl=51, ll=20, oa=88, ra=76).suspects[0]
        self.assertEqual(first.suspect.key, "sensor_suspect")

    def test_doubt_makes_it_the_probe(self):
        found = departures(case(**RIGHT))
        self.assertLess(weigh(VALVE, found).suspects["sensor_suspect"], 0.2)
        self.assertGreater(weigh(VALVE, found, Told(doubted=True)).suspects["sensor_suspect"], 0.9)

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
        found = weigh(VALVE, departures(case(**both)), Told(looks))
        pair = found.pairs.get(("filter_dirty", "undercharge"), 0.0)
        self.assertGreater(pair, 0.02)
        self.assertGreaterEqual(found.suspects["low_indoor_airflow"], pair / 2 - 1e-9)
        self.assertLess(found.alone("undercharge"), found.suspects["undercharge"])

    def test_every_pair_is_swept_on_some_device(self):
        swept = {h.faults for valve in FEEDS for h in hypotheses(MODELS[valve])}
        for pair in PAIRS:
            self.assertIn(pair.faults, swept)

    def test_likelihood_by_hand_for_one_sign(self):
        # One sign: middle = the row's, carried to today's air; variance = its own + what machines
        # are off together + one step of severity; weight = prior × (1 + z²/6)^(−7/2) ÷ s.
        key = "superheat"
        found = {key: departures(case(plate(rated_seer=14), **LOW))[key]}
        cells, air = moves(VALVE, (key,)), air_of(found)
        # 86 °F is 9 °F under 95, a wet bulb of 63 is 4 under 67; the plate says SEER 14.
        self.assertEqual(tuple(round(one, 3) for one in air), (-5.0, -2.222, 0.0))
        together = sum((one.sigma * one.drags.get(key, 0.0)) ** 2 for one in SHARED)
        by_hand = {}
        for row in hypotheses(VALVE):
            middle, spread, along = (float(part[row.row, 0]) for part in cells[:3])
            steps = zip(cells.carried[row.row, 0], air, cells.about[row.row], strict=True)
            middle += sum(slope * (now - then) for slope, now, then in steps)
            wide = (spread**2 + together + (SEVERITY_SIGMA * along) ** 2) ** 0.5
            z = (found[key].off - middle) / wide
            score = row.log_prior - log(wide) - (FREEDOM + 1) / 2 * log(1 + z * z / FREEDOM)
            by_hand[row.row] = score
        rows = weigh(VALVE, found).rows
        one, other = rows[0], rows[3]
        self.assertAlmostEqual(
            log(one.belief / other.belief),
            by_hand[one.hypothesis.row] - by_hand[other.hypothesis.row],
            places=6,
        )

    def test_whitening_undoes_the_covariance(self):
        keys = ("subcooling", "condensing_over_ambient", "compressor_power", "superheat")
        known = shape(VALVE, keys, (0.0,) * 4, (0.0,) * 4)
        spread = covariance(VALVE, keys, (0.0,) * 4, (0.0,) * 4)
        for row in (0, 7, 60):
            inverse = known.inverse[row, :, :4]
            white = inverse @ spread[row] @ inverse.T
            for i in range(4):
                for j in range(4):
                    self.assertAlmostEqual(white[i, j], 1.0 if i == j else 0.0, places=6)

    def test_air_nobody_read_widens_what_is_carried_by_it_and_nothing_else(self):
        keys = ("condensing_over_ambient", "superheat")
        read = covariance(VALVE, keys, (0.0, 0.0), (0.0, 0.0))
        unread = covariance(VALVE, keys, (0.0, 0.0), (0.0, 0.0), unsure=(6.0, 0.0, 0.0))
        slopes = moves(VALVE, keys).carried[:, :, 0]
        for row, (a, b) in enumerate(slopes):  # a straight line in x of σ 6: its slopes times 6
            added = unread[row] - read[row]
            self.assertAlmostEqual(added[0, 0], 36 * a * a, places=9)
            self.assertAlmostEqual(added[0, 1], 36 * a * b, places=9)
        self.assertEqual(slopes[-1].tolist(), [0, 0])  # a probe anywhere is the same in any air
        self.assertGreater(abs(slopes).max(), 0.05)

    def test_air_itself_stays_what_every_row_is_carried_by(self):
        for device in FEEDS:
            for row in MODELS[device].signatures:
                for sign in ("outdoor_air", "return_air", "return_wet_bulb", "valve_pressure"):
                    self.assertEqual(row.carried.get(sign, AT_RATING), AT_RATING, row.variant)

    def test_what_machines_are_off_together_moves_together(self):
        # A condenser two degrees off drags power with it: 1.8 % a kelvin, as the row says.
        keys = ("condensing_over_ambient", "compressor_power")
        spread = covariance(VALVE, keys, (0.0, 0.0), (0.0, 0.0))
        row = next(r for r in hypotheses(VALVE) if r.signature.suspects == ("none",))
        own = correlation(VALVE, keys)[0, 1] * moves(VALVE, keys).spread[row.row].prod()
        sigma = SHARED[0].sigma
        self.assertEqual(SHARED[0].key, "condensing")
        self.assertAlmostEqual(spread[row.row][0, 1] - own, 1.8 * sigma**2, places=6)

    def test_every_set_that_can_be_read_has_a_correlation_that_can_be(self):
        # By numpy's eigenvalues, on the packaged table: nothing is clamped where it is used.
        import numpy as np

        stands_in = {sign.key for sign in SIGNS.values() if sign.in_place_of}
        replaced = {sign.in_place_of for sign in SIGNS.values()}
        for valve in FEEDS:
            for left in (stands_in, replaced):
                signs = tuple(key for key in SIGNS if key not in left)
                least = np.linalg.eigvalsh(correlation(MODELS[valve], signs))[0]
                self.assertGreater(least, 0.01)

    def test_several_cases_at_once_are_weighed_as_one_by_one(self):
        cases = [case(**spoken) for spoken in (LOW, RIGHT, {"suct": 118, "sl": 50}, {})]
        told = told_of(cases[0], ())
        many = weigh_each(
            VALVE, [(signed(departures(c)), load_of(c.readings)) for c in cases], told
        )
        for one, shares in zip(cases, many, strict=True):
            alone = weigh_each(VALVE, [(signed(departures(one)), load_of(one.readings))], told)[0]
            for a, b in zip(shares, alone, strict=True):
                self.assertAlmostEqual(a, b, places=12)

    def test_the_air_itself_says_low_and_high_load(self):
        # Defined by it: 69.5 °F dry, 82.5 dry or 71.5 wet; a degree or two over the edge is sure.
        for air, leads, other in (
            ({"ra": 66, "wb": 56}, "low_indoor_load", "high_indoor_load"),
            ({"ra": 85, "wb": 66}, "high_indoor_load", "low_indoor_load"),
            ({"ra": 79, "wb": 73.5}, "high_indoor_load", "low_indoor_load"),
        ):
            with self.subTest(air):
                high_side = {k: RIGHT[k] for k in ("liq", "ll", "oa")}
                suspects = {b.suspect.key: b.belief for b in judged(**high_side, **air).suspects}
                self.assertGreater(suspects[leads], 0.5)
                self.assertLess(suspects[other], 0.01)
        ordinary = {b.suspect.key: b.belief for b in judged(**RIGHT).suspects}
        self.assertLess(ordinary["low_indoor_load"] + ordinary["high_indoor_load"], 0.01)

    def test_every_sign_has_its_expectation_and_its_correlations_are_sane(self):
        for valve in FEEDS:
            self.assertEqual(set(expectations_of(COOLING)[valve]), set(SIGNS))
            self.assertTrue(all(abs(c) < 1 for c in MODELS[valve].correlations.values()))
            self.assertTrue(
                all(
                    row.sigma > 0
                    for key, row in expectations_of(COOLING)[valve].items()
                    if not SIGNS[key].is_weather
                )
            )


if __name__ == "__main__":
    unittest.main()
