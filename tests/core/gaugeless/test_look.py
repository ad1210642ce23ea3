"""The look without gauges: estimates with their ±, and when they ask for gauges."""

import unittest

from nudge.core.behaviours.case import Context
from nudge.core.expectations.expected import expected
from nudge.core.gaugeless.decide import Gaugeless, look
from nudge.core.gaugeless.estimate import OwnHistory
from nudge.core.physics.circuit.equipment import Application, Plate
from nudge.core.targets.choose import choose_targets
from tests.core.field import SETTLED, case, plate

HEALTHY = {"sl": 52.0, "ll": 96.0, "oa": 88.0, "ra": 76.0, "wb": 64.0, "sa": 57.0}
UNKNOWN = OwnHistory()


def looked(
    of: Plate | None = None, own: OwnHistory = UNKNOWN, context: Context = SETTLED, **spoken: float
) -> Gaugeless:
    found = case(of or plate(rated_seer=14), context, **spoken)
    return look(found, choose_targets(found), own)


class EstimateTest(unittest.TestCase):
    def test_several_ways_and_the_best_first(self):
        found = looked(**HEALTHY).estimates
        self.assertEqual(
            [w.formula.key for w in found.evaporator],
            ["evaporator_by_model", "evaporator_by_35", "evaporator_by_30"],
        )
        self.assertAlmostEqual(found.evaporator[1].value * 1.8 + 32, 41)
        # What is expected of its class in this air, over that air, less the line at 96 °F; ± two σ
        # of it beside the clamp's and the air's ±1 °F.
        assert found.subcooling is not None
        over = expected(case(plate(rated_seer=14), **HEALTHY), "condensing_over_ambient")
        self.assertAlmostEqual(found.subcooling.value * 1.8, 88 + over.value * 1.8 - 96)
        wide = ((2 * over.sigma * 1.8) ** 2 + 1 + 1) ** 0.5
        self.assertAlmostEqual((found.subcooling.uncertainty or 0) * 1.8, wide, delta=0.2)

    def test_what_a_gauge_should_show_is_the_tables_pressure_at_the_estimate(self):
        # Published card: R-410A at 40 °F is 118 psig, so a coil said to boil near there shows that.
        found = looked(plate(rated_seer=14), **HEALTHY).estimates
        assert found.suction is not None
        assert found.liquid is not None
        boils_f = found.evaporator[0].value * 1.8 + 32
        shown = found.suction.value / 6.894757
        card = {36.0: 109.2, 40.0: 118.0, 44.0: 127.3, 48.0: 137.0}  # psig by °F
        low, high = max(f for f in card if f <= boils_f), min(f for f in card if f > boils_f)
        between = card[low] + (card[high] - card[low]) * (boils_f - low) / (high - low)
        self.assertAlmostEqual(shown, between, delta=1.5)
        # its ± is the temperature's, carried over: about 2.2 psi a degree there
        give = (found.evaporator[0].uncertainty or 0) * 1.8
        self.assertAlmostEqual((found.suction.uncertainty or 0) / 6.894757, 2.25 * give, delta=0.7)
        self.assertGreater(found.liquid.value, found.suction.value)

    def test_higher_up_a_gauge_shows_more(self):
        # 5,000 ft: 12.23 psia instead of 14.70, so the same coil reads 2.47 psi higher.
        sea = looked(plate(rated_seer=14), **HEALTHY).estimates.liquid
        high = looked(plate(rated_seer=14, elevation_m=5000 * 0.3048), **HEALTHY).estimates.liquid
        assert sea is not None
        assert high is not None
        self.assertAlmostEqual((high.value - sea.value) / 6.894757, 2.47, delta=0.1)

    def test_plate_and_own_history_win(self):
        own = OwnHistory(36 / 1.8, 17 / 1.8, 8 / 1.8)
        found = looked(own=own, **HEALTHY).estimates
        self.assertEqual(found.evaporator[0].formula.key, "evaporator_by_history")
        self.assertEqual(found.condenser[0].formula.key, "condenser_by_history")
        self.assertAlmostEqual(found.condenser[0].value * 1.8 + 32, 105)
        of = plate(condensing_over_ambient_k=12 / 1.8)
        found = looked(of, own, **HEALTHY).estimates
        self.assertEqual(found.condenser[0].formula.key, "condenser_by_plate")


class DecisionTest(unittest.TestCase):
    def test_nothing_asks(self):
        self.assertEqual(looked(**HEALTHY).decision, "leave_caps_on")

    def test_what_asks_for_gauges(self):
        for change, words in (
            ({"sl": 68.0}, "Superheat looks like"),
            ({"sa": 64.0}, "Temperature split 12.0 °F is under"),
            ({"sa": 48.0}, "over the"),
            ({"sl": 34.0}, "liquid or ice"),
            ({"ll": 115.0}, "over outdoor air"),
            ({"ll": 84.0}, "which a condenser cannot do"),
            ({"lli": 88.0}, "A step of 8.0 °F"),
        ):
            with self.subTest(change):
                found = looked(**(HEALTHY | change))
                self.assertEqual(found.decision, "connect")
                self.assertIn(words, " ".join(said.text("ip") for said in found.reasons))

    def test_each_thing_asks_just_past_its_limit_and_not_at_it(self):
        own = OwnHistory(36 / 1.8, 17 / 1.8, 8 / 1.8)
        by_approach = plate(rated_seer=14, approach_k=8 / 1.8)
        for words, asks, quiet, more in (
            ("liquid or ice", {"sl": 35.9}, {"sl": 36.1}, {}),
            ("over outdoor air", {"ll": 113.1}, {"ll": 112.9}, {}),
            ("which a condenser cannot do", {"ll": 85.9}, {"ll": 86.1}, {}),
            ("along the liquid line", {"lli": 90.9}, {"lli": 91.1}, {}),
            ("along the liquid line", {"di": 96, "do": 90.9}, {"di": 96, "do": 91.1}, {}),
            ("when this system was right", {"ll": 100.1}, {"ll": 99.9}, {"own": own}),
            ("when this system was right", {"ll": 91.9}, {"ll": 92.1}, {"own": own}),
            ("outside the plate's", {"ll": 98.1}, {"ll": 97.9}, {"of": by_approach}),
            ("outside the plate's", {"ll": 93.9}, {"ll": 94.1}, {"of": by_approach}),
        ):
            with self.subTest(words, asks=asks):
                said = [r.text("ip") for r in looked(**more, **(HEALTHY | asks)).reasons]
                self.assertIn(words, " ".join(said))
                still = [r.text("ip") for r in looked(**more, **(HEALTHY | quiet)).reasons]
                self.assertNotIn(words, " ".join(still))

    def test_its_own_past_is_what_it_should_be(self):
        own = OwnHistory(36 / 1.8, 17 / 1.8, 2 / 1.8)
        found = looked(own=own, **HEALTHY)
        self.assertEqual(found.decision, "connect")
        self.assertIn("it was 2.0 °F when this system was right", found.reasons[0].text("ip"))

    def test_it_does_not_decide_on_half_a_look(self):
        half = {k: v for k, v in HEALTHY.items() if k not in ("sa", "oa")}
        found = looked(**half)
        self.assertEqual(found.decision, "cannot_tell")
        self.assertEqual(found.missing, ("Supply air", "Outdoor air"))
        early = looked(context=Context(4), **HEALTHY)
        self.assertEqual((early.decision, early.headline), ("cannot_tell", "Wait."))
        room = plate(application=Application.REFRIGERATION)
        self.assertEqual(looked(room, **HEALTHY).decision, "cannot_tell")
