"""The house's loss and the balance point, against a line drawn by hand."""

import unittest

from nudge.core.calculators.pocket import fill_pocket


def filled(**entries):
    pocket = fill_pocket(entries, "ip", ["house"])
    return pocket.filled[0].outcome


RATED = {"heat_at_47": 36_000, "heat_at_17": 22_500}


class HouseTest(unittest.TestCase):
    def test_by_hand(self):
        # At 38 °F it delivers 28,380 Btu/h; 60 % of an hour is 17,028; over 32 °F: 532 for each.
        found = filled(**RATED, set_point=70, outdoor_air_temp=38, run_share=60)
        loss, even = (line.working for line in found.lines)
        self.assertAlmostEqual(loss.value / 0.29307107 / 1.8, 532, delta=1)
        # 22,500 + 280 x (t - 17) meets 532 x (70 - t) at (37,240 - 17,740) / 812 = 24.0 °F.
        self.assertAlmostEqual(even.value * 1.8 + 32, 24.0, delta=0.2)
        self.assertGreater(loss.uncertainty, 0)

    def test_strips_are_heat_as_well(self):
        bare = filled(**RATED, set_point=70, outdoor_air_temp=30, run_share=100)
        helped = filled(**RATED, set_point=70, outdoor_air_temp=30, run_share=100, strips_mean=2)
        off = helped.lines[0].working.value - bare.lines[0].working.value
        self.assertAlmostEqual(off, 2_000 / (40 / 1.8), delta=1)  # 2 kW over 40 °F

    def test_a_small_loss_has_no_balance_point(self):
        found = filled(**RATED, set_point=70, outdoor_air_temp=38, run_share=2)
        self.assertEqual(len(found.lines), 1)
        self.assertIn("do not meet", found.words[0].text("ip"))

    def test_what_is_missing_is_asked_for_and_no_winter_is_refused(self):
        self.assertIn("outdoor air", " ".join(filled(**RATED, set_point=70).needs))
        pocket = fill_pocket(
            RATED | {"set_point": 70, "outdoor_air_temp": 69.5, "run_share": 10},
            "ip",
            ["house"],
        )
        self.assertIsNotNone(pocket.filled[0].problem)


if __name__ == "__main__":
    unittest.main()
