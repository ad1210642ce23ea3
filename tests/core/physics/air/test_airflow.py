import unittest

from nudge.core.language.errors import CoreError
from nudge.core.physics.air.airflow import balance_airflow, blower_amps_say, strip_airflow
from nudge.core.physics.air.coil import RATED_KG_PER_S_PER_W, expected_coil
from nudge.core.physics.air.heat import actual_flow, standard_flow
from nudge.core.physics.air.moist_air import moist_air
from nudge.core.physics.air.static import DuctReading, read_static
from tests.core.field import celsius

IN_WC = 249.089


class AirflowTest(unittest.TestCase):
    def test_strips_by_the_field_formula(self):
        # CFM = watts x 3.412 / (1.08 x rise): 9,600 W over 26 °F is 1,166 standard CFM.
        air = moist_air(celsius(70), 0, relative_humidity=40)
        found = standard_flow(air, strip_airflow(9_600, 26 / 1.8, air)) / 0.4719474
        self.assertAlmostEqual(
            found, 9_600 * 3.412 / (1.08 * 26), delta=20
        )  # moist air holds a little more
        with self.assertRaises(CoreError) as caught:
            strip_airflow(9_600, 1, air)
        self.assertIn("1.8 °F", caught.exception.text("ip"))

    def test_balance_finds_the_flow_the_coil_model_was_given(self):
        entering, out = moist_air(celsius(80), 0, celsius(67)), celsius(95)
        for cfm in (320, 400, 460):
            per_w = RATED_KG_PER_S_PER_W * cfm / 400
            leaving = expected_coil(entering, out, per_w).leaving
            wanted = actual_flow(leaving, per_w * 10_000)
            self.assertAlmostEqual(
                balance_airflow(10_000, entering, leaving, out) / wanted, 1, delta=0.02
            )
        with self.assertRaises(CoreError):
            balance_airflow(10_000, entering, moist_air(celsius(95), 0, celsius(80)), out)

    def test_motors_choke_in_opposite_ways(self):
        for motor, amps, word in (("psc", 2.5, "fall"), ("ecm", 4.5, "rise"), ("psc", 6, "over")):
            self.assertIn(word, blower_amps_say(motor, amps, 5.0).sentence)
        self.assertIn("does not prove", blower_amps_say("psc", 4.5, 5.0).sentence)


class StaticTest(unittest.TestCase):
    def says(self, *given: float | None) -> str:
        pa = [None if v is None else v * IN_WC for v in given]
        return " ".join(said.text("ip") for said in read_static(DuctReading(*pa)))

    def test_what_the_pressures_say(self):
        for given, words in (
            ((0.2, -0.25), "within the usual design"),
            ((0.3, -0.35), "is over 0.50 in. w.c., the usual design"),
            ((0.3, -0.65), "return side: filter"),
            ((0.75, -0.15), "supply side: coil"),
            ((None, None, 0.9), "0.90 in. w.c. is over 0.80"),
            ((None, None, None, 0.25), "dirty, or too restrictive"),
            ((None, None, None, 0.17), "thin filter"),
            ((0.3, 0.3), "with its minus"),
            ((None, None, 0.0), "the blower stands"),
            ((None, None, None, 0.05), "it passes air"),
        ):
            with self.subTest(given):
                self.assertIn(words, self.says(*given))
        self.assertEqual(self.says(None, None, None, None), "")
