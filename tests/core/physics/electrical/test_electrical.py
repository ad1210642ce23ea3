import unittest

from nudge.core.physics.electrical.capacitor import capacitance_under_load, judge_capacitor
from nudge.core.physics.electrical.strips import judge_circuit, strip_amps_each
from nudge.core.physics.tightness.pressure_test import pressure_test


class CapacitorTest(unittest.TestCase):
    def test_against_its_label(self):
        for rated, measured, state in (
            (45, 45, "good"),
            (45, 42.3, "good"),
            (45, 42.2, "weak"),
            (45, 40.5, "weak"),
            (45, 40.4, "worn_out"),
            (45, 0.1, "worn_out"),
            (45, 47.7, "good"),
            (45, 48, "over"),
        ):
            with self.subTest(measured):
                self.assertEqual(judge_capacitor(rated, measured)[1].state, state)
        self.assertEqual(judge_capacitor(45, 41.5, tolerance=10)[1].state, "good")

    def test_under_load(self):
        # The trade's 2652 x amps / volts at 60 Hz: 3.9 A on 240 V is 43.1 µF.
        self.assertAlmostEqual(capacitance_under_load(3.9, 240).value, 2652 * 3.9 / 240, delta=0.05)
        self.assertAlmostEqual(
            capacitance_under_load(3.9, 240, 50).value, 3183 * 3.9 / 240, delta=0.05
        )


class StripsTest(unittest.TestCase):
    def test_five_kilowatts_at_240_is_about_21_amps(self):
        self.assertAlmostEqual(strip_amps_each(5, 240).value, 20.83, delta=0.01)
        self.assertAlmostEqual(strip_amps_each(5, 208).value, 18.06, delta=0.01)

    def test_judged_by_circuit(self):
        each = strip_amps_each(5, 240)
        for strips, amps, words in (
            (2, 41.0, "Every strip"),
            (2, 20.5, "About 1 of 2"),
            (1, 0.0, "About 0 of 1"),
            (1, 41.0, "another circuit"),
            (3, 40.0, "About 2 of 3"),
        ):
            said = judge_circuit(each, strips, amps)[1]
            assert said is not None
            self.assertIn(words, said.text("ip"))
        self.assertIsNone(judge_circuit(each, 2, None)[1])


class NitrogenTest(unittest.TestCase):
    def test_a_tank_that_cools_ten_degrees_loses_two_percent(self):
        # 164.7 psia x 529.67 / 539.67 = 161.6: 3.1 psi, 1.9 %.
        found = pressure_test(150 * 6.894757, 26.667, 21.111, 147 * 6.894757, 15)
        self.assertAlmostEqual(found.expected.value / 6.894757, 146.9, delta=0.1)
        self.assertEqual(found.outcome, "holds")

    def test_what_it_comes_to(self):
        for now, minutes, outcome, words in (
            (143, 15, "leaks", "Bubbles on every joint"),
            (150, 5, "holds", "so far"),
            (156, 15, "rises", "Read temperature again"),
        ):
            found = pressure_test(150 * 6.894757, 25, 25, now * 6.894757, minutes)
            self.assertEqual(found.outcome, outcome)
            self.assertIn(words, found.said[0].text("ip"))
        high = pressure_test(400 * 6.894757, 25, 25, None)
        self.assertIsNone(high.outcome)
        self.assertIn("lower design pressure", high.said[0].text("ip"))
