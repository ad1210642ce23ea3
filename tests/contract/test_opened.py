"""How an opened number is written: units, ±, sources."""

import unittest

from nudge.contract.opened import opened
from nudge.core.language.said import Measure, worded
from nudge.core.language.units import Quantity, from_si, spread_from_si, to_si, unit_label
from nudge.core.language.working import Formula, Input, work


def number(quantity: Quantity, value: float, off: float):  # type: ignore[no-untyped-def]
    formula = Formula(
        "n", "Number", quantity, "It is {d9} more.", "a", "{a} = {result}", ("a",), "Over {t95}."
    )
    given = Input("a", "A", Measure(value, quantity), "typed", off)
    return work(formula, lambda v: v["a"], {"a": given})


class OpenedTest(unittest.TestCase):
    def test_a_spread_is_a_difference_and_has_no_offset(self):
        self.assertAlmostEqual(spread_from_si(1.0, Quantity.TEMPERATURE, "ip"), 1.8)
        self.assertAlmostEqual(spread_from_si(1.0, Quantity.TEMPERATURE, "si"), 1.0)
        self.assertAlmostEqual(spread_from_si(100.0, Quantity.PRESSURE, "si_bar"), 1.0)

    def test_how_the_spread_is_written(self):
        for quantity, value, off, units, text in (
            (Quantity.TEMPERATURE, 5.0, 0.5, "ip", "±0.9 °F"),
            (Quantity.TEMPERATURE, 5.0, 0.5, "si", "±0.5 °C"),
            (Quantity.PRESSURE, 800.0, 6.9, "ip", "±1 psig"),
            (Quantity.PRESSURE, 800.0, 6.9, "si_bar", "±0.07 bar"),
            (Quantity.PRESSURE, 800.0, 2.0, "ip", "±0.3 psig"),
            (Quantity.CAPACITY, 10_000.0, 800.0, "ip", "±2,730 Btu/h"),
            (Quantity.CHARGE, 3.0, 0.05, "ip", "±1.8 oz"),
            (Quantity.CHARGE, 3.0, 0.05, "si", "±0.05 kg"),
            (Quantity.RATIO, 2.5, 0.04, "ip", "±0.04"),
        ):
            with self.subTest(text):
                found = opened(number(quantity, value, off), units)  # type: ignore[arg-type]
                self.assertEqual(found.uncertainty_text, text)
                self.assertEqual(found.inputs[0].uncertainty, text)

    def test_fixed_words_follow_the_reader(self):
        found = opened(number(Quantity.PRESSURE, 800.0, 7.0), "si_bar")
        self.assertEqual(found.meaning, "It is 5.0 K more.")
        self.assertEqual(found.reference, "Over 35 °C.")
        self.assertEqual((found.text, found.today), ("8.00 bar", "8.00 bar = 8.00 bar"))

    def test_every_kind_of_limit_is_worded(self):
        text = "{d3} {t65} {p160} {s0.8} {l50} {a400} {f1200}"
        self.assertEqual(
            worded(text, "ip"), "3 °F 65 °F 160 psi 0.8 in. w.c. 50 ft 400 CFM per ton 1200 CFM"
        )
        self.assertEqual(
            worded(text, "si"), "1.7 K 18 °C 1103 kPa 199 Pa 15 m 54 L/s per kW 566 L/s"
        )
        self.assertEqual(worded("nothing to do", "si"), "nothing to do")


class BarTest(unittest.TestCase):
    def test_only_refrigerant_pressures_are_in_bar(self):
        for quantity in Quantity:
            there = from_si(to_si(12.5, quantity, "si_bar"), quantity, "si_bar")
            self.assertAlmostEqual(there, 12.5, 9)
            if "pressure" not in quantity:
                self.assertEqual(unit_label(quantity, "si_bar"), unit_label(quantity, "si"))
        self.assertEqual(to_si(8.0, Quantity.PRESSURE, "si_bar"), 800.0)
        self.assertEqual(unit_label(Quantity.STATIC_PRESSURE, "si_bar"), "Pa")
        self.assertEqual(unit_label(Quantity.PRESSURE_DIFFERENCE, "si_bar"), "bar")

    def test_large_numbers_are_grouped_and_minus_is_a_minus(self):
        for value, text in ((36_000.0, "36,000"), (9_000.0, "9000"), (-12.0, "−12"), (-0.2, "0")):
            self.assertEqual(Measure(value, Quantity.COUNT).number("ip"), text)
