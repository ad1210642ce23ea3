"""A cold room's rungs against pressure charts, and the curve of a box that is pulled down."""

import unittest
from math import exp

from nudge.core.language.errors import CoreError
from nudge.core.language.units import degrees_f, fahrenheit
from nudge.core.physics.circuit.equipment import Application, MeteringDevice, Plate
from nudge.core.physics.circuit.plate_fields import PLATE_NUMBERS, check_plate_number
from nudge.core.physics.cold_room.ladder import rungs
from nudge.core.physics.cold_room.pull_down import pull_down
from nudge.core.physics.cold_room.workings import room_workings

PSI = 6.894757


def room(fluid: str, coil: float | None, condenser: float | None, set_point: float = 35) -> Plate:
    return Plate(
        fluid,
        MeteringDevice.TXV,
        Application.REFRIGERATION,
        box_set_point_c=fahrenheit(set_point),
        coil_class_k=None if coil is None else degrees_f(coil),
        condenser_class_k=None if condenser is None else degrees_f(condenser),
    )


class LadderTest(unittest.TestCase):
    def test_suction_follows_from_the_box_and_the_coils_class(self):
        # Box and class in °F, suction in psig off printed pressure charts (vapour for the blend).
        for fluid, box, coil, psig, near in (
            ("R-404A", -5, 10, 19.7, 1.0),
            ("R-404A", 10, 10, 32.8, 1.0),
            ("R-404A", -10, 10, 16.5, 0.9),
            ("R-134a", 35, 15, 18.4, 0.4),
            ("R-134a", 10, 10, 6.5, 0.4),
            ("R-22", 35, 15, 43.0, 0.5),
            ("R-22", 10, 10, 24.0, 0.5),
        ):
            with self.subTest(fluid, box=box):
                found = rungs(room(fluid, coil, 25), fahrenheit(box), None)
                self.assertAlmostEqual(found.suction_kpa / PSI, psig, delta=near)
                self.assertIsNone(found.head_kpa)

    def test_head_follows_from_outdoor_air_and_the_condensers_class(self):
        for fluid, outdoor, condenser, psig, near in (
            ("R-404A", 72, 25, 227.0, 2.0),
            ("R-134a", 80, 30, 146.4, 1.0),
            ("R-134a", 75, 25, 124.2, 1.0),
            ("R-22", 80, 20, 195.9, 1.5),
            ("R-22", 85, 25, 226.4, 1.5),
        ):
            with self.subTest(fluid, outdoor=outdoor):
                found = rungs(room(fluid, 10, condenser), fahrenheit(35), fahrenheit(outdoor))
                self.assertAlmostEqual(found.head_kpa / PSI, psig, delta=near)
                self.assertFalse(found.is_guessed)

    def test_every_rung_opens_to_its_class(self):
        of = room("R-404A", 10, None)
        opened = room_workings(
            of, {"box_air_temp": fahrenheit(-5), "outdoor_air_temp": fahrenheit(72)}
        )
        self.assertAlmostEqual(opened["design_evaporating"].value, fahrenheit(-15), places=6)
        self.assertAlmostEqual(opened["design_suction"].value / PSI, 19.7, delta=1.0)
        self.assertIn("−5.0 °F − 10.0 °F = −15.0 °F", opened["design_evaporating"].today.text("ip"))
        sources = {given.key: given.source for given in opened["design_head"].inputs}
        self.assertEqual(sources["condenser"], "the usual class")
        self.assertEqual(room_workings(of, {}), {})

    def test_without_a_class_the_usual_one_stands_in_and_says_so(self):
        found = rungs(room("R-134a", None, 30), fahrenheit(35), fahrenheit(80))
        self.assertTrue(found.is_guessed)
        self.assertAlmostEqual(found.evaporating_c, fahrenheit(25), places=6)

    def test_a_class_that_is_none_is_refused_with_those_there_are(self):
        rows = {row.key: row for row in PLATE_NUMBERS}
        for key, good, bad in (("coil_class", 12, 9), ("condenser_class", 25, 22)):
            check_plate_number(rows[key], degrees_f(good))
            with self.assertRaisesRegex(CoreError, "none of its classes"):
                check_plate_number(rows[key], degrees_f(bad))
        check_plate_number(rows["coil_class"], 5.6)  # 10 °F, as somebody in kelvin rounds it
        with self.assertRaises(CoreError):
            check_plate_number(rows["box_set_point"], fahrenheit(95))


class PullDownTest(unittest.TestCase):
    def box(self, ends: float, over: float, tau: float, minutes: int, noise: float = 0.0):
        return [
            (float(m), ends + over * exp(-m / tau) + (noise if m % 2 else -noise))
            for m in range(0, minutes + 1, 2)
        ]

    def test_the_forecast_is_where_the_curve_comes_near(self):
        # Towards −24 °C from 16 K over it, τ 40 min: −18.2 °C (5 °F over −21) is crossed at 40.6.
        crosses = 40.0 * 1.01508  # ln(16 / 5.7778) by hand
        for watched in (20, 34):
            found = pull_down(self.box(-24.0, 16.0, 40.0, watched), -21.0)
            self.assertLessEqual(found.near_in_min, crosses - watched + 1.0)
            self.assertGreaterEqual(found.near_in_min, crosses - watched - 5.0)
            if found.latest_in_min is not None:
                self.assertGreaterEqual(found.latest_in_min, crosses - watched - 1.0)
        self.assertIsNotNone(found.latest_in_min)  # watched long enough it is told both ways
        self.assertLess(found.latest_in_min - found.near_in_min, 6.0)

    def test_a_probe_that_wavers_moves_the_forecast_little(self):
        found = pull_down(self.box(-24.0, 16.0, 40.0, 30, noise=0.05), -21.0)
        self.assertAlmostEqual(found.near_in_min, 10.6, delta=4.0)

    def test_a_box_that_stalls_far_off_has_no_forecast(self):
        stalled = self.box(-10.0, 6.0, 8.0, 40)
        self.assertIsNone(pull_down(stalled, -21.0).near_in_min)

    def test_a_box_that_does_not_fall_or_was_hardly_watched_says_nothing(self):
        self.assertIsNone(pull_down([(0, -5.0), (10, -5.0), (20, -4.9)], -21.0))
        self.assertIsNone(pull_down([(0, -5.0), (2, -6.0), (4, -7.0)], -21.0))
        self.assertIsNone(pull_down([(0, -5.0)], -21.0))


if __name__ == "__main__":
    unittest.main()
