import unittest

from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.targets.choose import choose_targets
from nudge.core.targets.formula_superheat import formula_superheat
from tests.core.field import Application, case, celsius, plate


class FormulaTest(unittest.TestCase):
    def test_worked_by_hand(self):
        # (3 x wet bulb - 80 - outdoor) / 2, °F.
        for wet, outdoor, target in ((63, 95, 7), (64, 90, 11), (67, 85, 18), (70, 75, 27.5)):
            with self.subTest(wet=wet, outdoor=outdoor):
                self.assertAlmostEqual(
                    formula_superheat(celsius(wet), celsius(outdoor)) * 1.8, target, 6
                )


class WindowsTest(unittest.TestCase):
    def _window(self, of, quantity, **spoken):
        target = choose_targets(case(of, **spoken)).windows[quantity]
        return [round(v * 1.8, 2) for v in (target.value, target.low, target.high)], target.method

    def test_each_device_gets_its_school(self):
        for name, of, quantity, window, method in (
            ("valve, plate", plate(subcooling=12), "subcooling", [12, 9, 15], "plate_subcooling"),
            ("inverter", plate("eev"), "subcooling", [10, 9, 11], "plate_subcooling"),
            ("no plate", plate(subcooling=None), "subcooling", [10, 7, 13], "fallback_subcooling"),
            ("valve health", plate(), "superheat", [11, 6, 15], "valve_health"),
            ("long line", plate(line_set_length_m=24.4), "superheat", [11, 6, 20], "valve_health"),
            ("orifice", plate("fixed_orifice"), "superheat", [11, 6, 16], "formula_superheat"),
            (
                "orifice, plate",
                plate("fixed_orifice", target_superheat_k=15 / 1.8),
                "superheat",
                [15, 10, 20],
                "plate_superheat",
            ),
            (
                "cold room",
                plate(target_superheat_k=8 / 1.8, application=Application.REFRIGERATION),
                "evaporator_superheat",
                [8, 5, 11],
                "refrigeration_superheat",
            ),
        ):
            with self.subTest(name):
                found = self._window(of, quantity, suct=118, wb=64, oa=90, box=36)
                self.assertEqual(found, (window, method))

    def test_the_fallback_says_it_is_a_guess(self):
        target = choose_targets(case(plate(subcooling=None))).windows["subcooling"]
        self.assertIn("guess", target.source)

    def test_an_orifice_without_a_wet_bulb_has_no_deciding_school(self):
        self.assertIsNone(choose_targets(case(plate("fixed_orifice"), oa=90)).deciding)

    def test_the_ends_of_a_window_count_as_in(self):
        target = choose_targets(case()).windows["subcooling"]
        for fahrenheit, where in ((7, "in"), (13, "in"), (6.98, "low"), (13.02, "high")):
            self.assertEqual(target.place(fahrenheit / 1.8), where)

    def test_a_method_can_be_asked_for(self):
        chosen = choose_targets(case(plate(subcooling=14)), "fallback_subcooling")
        assert chosen.deciding is not None
        self.assertEqual(chosen.deciding.key, "fallback_subcooling")
        self.assertEqual([s.key for s in chosen.others], ["plate_subcooling"])
        with self.assertRaises(UnknownName) as caught:
            choose_targets(case(), "plate_subcoling")
        self.assertEqual(caught.exception.nearest[0], "plate_subcooling")
        with self.assertRaises(CoreError):
            choose_targets(case(), "valve_health")
