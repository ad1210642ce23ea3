import unittest

from nudge.core.language.said import Reader, difference, say, temperature
from nudge.core.language.units import UNITS, Quantity, atmospheric_kpa, from_si, to_si


class UnitsTest(unittest.TestCase):
    def test_known_conversions(self):
        # NIST SP 811 factors.
        for quantity, ip, si in (
            (Quantity.TEMPERATURE, 32, 0),
            (Quantity.TEMPERATURE, 212, 100),
            (Quantity.TEMPERATURE_DIFFERENCE, 18, 10),
            (Quantity.PRESSURE, 100, 689.476),
            (Quantity.AIRFLOW, 1200, 566.337),
            (Quantity.STATIC_PRESSURE, 0.5, 124.545),
            (Quantity.CAPACITY, 36_000, 10_550.6),
            (Quantity.SMALL_MASS, 16, 453.592),
            (Quantity.MASS, 1, 0.453592),
            (Quantity.LENGTH, 50, 15.24),
            (Quantity.VACUUM, 500, 66.661),
        ):
            with self.subTest(quantity):
                self.assertAlmostEqual(to_si(ip, quantity, "ip"), si, delta=abs(si) * 1e-5 + 1e-9)

    def test_a_difference_has_no_offset(self):
        self.assertEqual(to_si(0, Quantity.TEMPERATURE_DIFFERENCE, "ip"), 0)
        self.assertAlmostEqual(to_si(0, Quantity.TEMPERATURE, "ip"), -17.7778, 4)

    def test_every_quantity_comes_back_unchanged(self):
        for quantity in UNITS:
            for value in (-40.0, 0.0, 0.37, 1234.5):
                back = from_si(to_si(value, quantity, "ip"), quantity, "ip")
                self.assertAlmostEqual(back, value, 9)

    def test_standard_atmosphere(self):
        # ISO 2533: 1000 m 89.875 kPa, 3000 m 70.109 kPa.
        for metres, kpa in ((0, 101.325), (1000, 89.875), (3000, 70.109)):
            self.assertAlmostEqual(atmospheric_kpa(metres), kpa, delta=0.02)

    def test_a_sentence_is_written_in_the_readers_units(self):
        said = say("Superheat {sh} at {t}.", sh=difference(5), t=temperature(10))
        self.assertEqual(said.text("ip"), "Superheat 9.0 °F at 50.0 °F.")
        self.assertEqual(said.text("si"), "Superheat 5.0 K at 10.0 °C.")
        self.assertEqual(say("{d}", d=difference(-0.01)).text("si"), "0.0 K")
        self.assertEqual(Reader("ip").read(said), said.text("ip"))
