"""Every stop rule, shut just past its limit and open before it."""

import unittest
from dataclasses import replace

from nudge.core.charging.shortfall import Settled, learn
from nudge.core.charging.stops import HEAD_LIMIT_C, MOST_ADDED, STOPS, Step, stopped
from tests.core.field import judged, plate, settled

SEEN = settled("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")
LOW = {"suct": 108, "liq": 320, "sl": 56, "ll": 97, "oa": 86, "ra": 76, "wb": 63}
K = 1 / 1.8


def step(spoken=LOW, added=(0.0,), offs=None, whole=3.0):
    """A step of a charging visit; `offs` are (subcooling, superheat) off target [°F]."""
    rows = offs or [(-5.5, 4.0)] * len(added)
    readings = [
        Settled(kg, sc * K, None if sh is None else sh * K)
        for kg, (sc, sh) in zip(added, rows, strict=True)
    ]
    assessed = judged(plate(), SEEN, **spoken)
    return Step(assessed, tuple(added), learn(True, "subcooling", whole, 0.05, readings), readings)


class StopsTest(unittest.TestCase):
    def key(self, *args, **kwargs):
        found = stopped(step(*args, **kwargs))
        return found.key if found else None

    def test_a_healthy_start_stops_nothing(self):
        self.assertIsNone(self.key())

    def test_superheat_under_five_stops_adding_and_not_taking_out(self):
        # R-410A at 118 psig boils at 40.0 °F: 45.2 °F is over its floor, 44 °F is under it.
        over = {**LOW, "suct": 118, "sl": 45.6}
        under = {**LOW, "suct": 118, "sl": 44.0}
        self.assertIsNone(self.key(over, (0.0, 0.1)))
        self.assertEqual(self.key(under, (0.0, 0.1)), "superheat_falls")
        self.assertIsNone(self.key(under, (0.0, -0.1), [(6.0, -8.0), (4.0, -6.0)]))

    def test_a_head_near_its_switch_stops_whatever_is_going_on(self):
        hot = {**LOW, "liq": 612, "ll": 130, "oa": 110}
        found = step(hot)
        self.assertGreater(found.assessed.case.derived.condenser_saturation, HEAD_LIMIT_C)
        self.assertEqual(stopped(found).key, "head_over")

    def test_two_doses_in_vain_and_not_one(self):
        still = [(-5.5, 4.0)] * 3
        self.assertIsNone(self.key(LOW, (0.0, 0.25), still[:2]))
        self.assertEqual(self.key(LOW, (0.0, 0.25, 0.25), still), "in_vain")
        moved = [(-5.5, 4.0), (-4.0, 3.0), (-2.0, 2.0)]
        self.assertIsNone(self.key(LOW, (0.0, 0.1, 0.1), moved))

    def test_near_zero_subcooling_small_doses_may_show_nothing_yet(self):
        flat = [(-10.0, 5.0)] * 3
        self.assertIsNone(self.key(LOW, (0.0, 0.1, 0.1), flat))

    def test_superheat_that_rises_while_subcooling_stands_stops_it(self):
        rows = [(-5.5, 4.0), (-5.4, 8.0)]
        self.assertEqual(self.key(LOW, (0.0, 0.1), rows), "wrong_way")
        with_charge = [(-5.5, 4.0), (-3.0, 8.0)]  # the load rose: subcooling came up all the same
        self.assertIsNone(self.key(LOW, (0.0, 0.1), with_charge))

    def test_half_a_charge_is_too_much(self):
        rows = [(-10.0, 20.0), (-10.0, 15.0), (-9.0, 10.0), (-7.0, 6.0)]
        share = MOST_ADDED * 3.0 * 1.3 / 3
        self.assertEqual(self.key(LOW, (0.0, share, share, share), rows), "too_much_in")

    def test_another_suspect_ends_it_only_once_refrigerant_moved(self):
        # A plugged drier: superheat far up, the liquid line full, a step across the drier.
        plugged = {**LOW, "suct": 85, "sl": 72, "liq": 330, "ll": 86, "di": 85, "do": 70, "sa": 66}
        found = step(plugged, (0.0, 0.1), [(4.0, 25.0), (4.5, 25.0)])
        self.assertEqual(next(iter(found.assessed.weighing.suspects)), "liquid_line_restriction")
        self.assertIn(stopped(found).key, ("another_suspect", "in_vain"))
        self.assertIsNone(stopped(replace(found, added_kg=(0.0, 0.0))))

    def test_every_rule_has_its_reason_and_its_own_key(self):
        self.assertEqual(len({row.key for row in STOPS}), len(STOPS))
        for row in STOPS:
            self.assertRegex(row.reason, r"^[A-Z].*\.$")


if __name__ == "__main__":
    unittest.main()
