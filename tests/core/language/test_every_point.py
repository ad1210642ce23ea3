"""Every point that can be read: said in any unit it is one reading, and only what can be is taken."""

import unittest

from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.language.callout.parser import parse_callout
from nudge.core.language.errors import CoreError
from nudge.core.language.units import Quantity, decimals, from_si, to_si, unit_label
from nudge.core.language.vocabulary.accuracy import accuracy_of
from nudge.core.language.vocabulary.parts import PARTS
from nudge.core.language.vocabulary.points import POINTS, check_believable
from nudge.core.physics.circuit.derived_table import DERIVED

UNITS = ("ip", "si", "si_bar")
SAID = {  # what people say after a number, and what one of it is in core units, by a table of units
    Quantity.PRESSURE: (("psi", 6.894757293), ("kpa", 1.0), ("bar", 100.0)),
    Quantity.STATIC_PRESSURE: (("pa", 1.0),),
    Quantity.AIRFLOW: (("cfm", 0.471947443), ("l/s", 1.0)),
    Quantity.CURRENT: (("a", 1.0),),
}


def middle(point):
    """A believable value of a point, in field units, that needs no decimals of its own."""
    return round(point.low + (point.high - point.low) * 0.4)


def heard(text, units="ip"):
    line = parse_callout(text, units)
    return line, {one.point.key: one for one in line.spoken}


class EveryPointTest(unittest.TestCase):
    def test_its_short_form_its_key_and_its_name_are_heard_as_it(self):
        for point in POINTS.values():
            value = middle(point)
            for name in (point.key, *point.short):
                with self.subTest(point.key, said=name):
                    line, found = heard(f"{name} {value}")
                    self.assertEqual(line.misheard, ())
                    self.assertEqual(found[point.key].given_value, value)

    def test_no_short_form_is_two_points(self):
        taken = {}
        for point in POINTS.values():
            for name in point.short:
                self.assertNotIn(name, taken, point.key)
                taken[name] = point.key

    def test_all_points_of_a_long_line_are_heard_together(self):
        some = list(POINTS.values())[:12]
        text = " ".join(f"{point.short[0]} {middle(point)}" for point in some)
        line, found = heard(text)
        self.assertEqual(line.misheard, ())
        self.assertEqual(set(found), {point.key for point in some})

    def test_said_with_its_unit_it_is_the_same_in_core_units(self):
        for point in POINTS.values():
            for unit, core in SAID.get(point.quantity, ()):
                value = round(to_si(middle(point), point.quantity, "ip") / core, 3)
                if value <= 0:
                    continue
                with self.subTest(point.key, unit=unit):
                    _, found = heard(f"{point.short[0]} {value} {unit}", "si")
                    one = found[point.key]
                    self.assertAlmostEqual(one.value_si, value * core, delta=1e-6 * value * core)

    def test_in_and_out_of_every_unit_it_is_what_it_was(self):
        for point in POINTS.values():
            for units in UNITS:
                value = to_si(middle(point), point.quantity, "ip")
                shown = from_si(value, point.quantity, units)
                self.assertAlmostEqual(to_si(shown, point.quantity, units), value, places=9)

    def test_what_no_instrument_shows_is_refused_in_the_units_it_was_said_in(self):
        for point in POINTS.values():
            low, high = (to_si(v, point.quantity, "ip") for v in (point.low, point.high))
            for value in (low - abs(high - low) * 0.05 - 1, high + abs(high - low) * 0.05 + 1):
                with self.subTest(point.key, value=value):
                    with self.assertRaises(CoreError) as refused:
                        check_believable(point, value)
                    for units in UNITS:
                        self.assertIn(unit_label(point.quantity, units).strip()[:3],
                                      refused.exception.text(units))  # fmt: skip
            check_believable(point, low)
            check_believable(point, high)

    def test_nothing_that_is_no_number_is_a_reading(self):
        for text in ("nan", "inf", "-inf", "1e999"):
            line, found = heard(f"suct {text}")
            with self.subTest(text):
                self.assertEqual(found, {})
                self.assertTrue(line.misheard)

    def test_it_has_a_name_a_unit_decimals_and_how_far_its_instrument_errs(self):
        for point in POINTS.values():
            with self.subTest(point.key):
                self.assertTrue(point.label[0].isupper())
                self.assertIn(point.side, ("low", "high", "air", "work", "electrical", "circuit"))
                for units in UNITS:
                    self.assertIsInstance(unit_label(point.quantity, units), str)
                    self.assertIn(decimals(point.quantity, units), range(5))
                value = to_si(middle(point), point.quantity, "ip")
                self.assertGreater(accuracy_of(point.key).limit(value), 0.0)


class EveryNameTest(unittest.TestCase):
    def test_opposites_are_each_other_s(self):
        for seen in OBSERVATIONS.values():
            if seen.opposite is not None:
                with self.subTest(seen.key):
                    self.assertEqual(OBSERVATIONS[seen.opposite].opposite, seen.key)
                    self.assertNotEqual(seen.opposite, seen.key)

    def test_what_is_seen_is_seen_at_a_part_there_is(self):
        for seen in OBSERVATIONS.values():
            self.assertIn(seen.part, {"", *PARTS}, seen.key)

    def test_no_key_names_two_things(self):
        self.assertFalse(POINTS.keys() & DERIVED.keys())
        self.assertFalse(POINTS.keys() & OBSERVATIONS.keys())
        self.assertFalse(DERIVED.keys() & OBSERVATIONS.keys())

    def test_every_derived_number_says_its_formula_in_words(self):
        for row in DERIVED.values():
            with self.subTest(row.key):
                self.assertTrue(row.formula)
                self.assertTrue(row.label[0].isupper())
                self.assertIsInstance(unit_label(row.quantity, "ip"), str)


if __name__ == "__main__":
    unittest.main()
