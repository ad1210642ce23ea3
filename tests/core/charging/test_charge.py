"""Charge arithmetic, against hand calculation."""

import unittest
from math import pi

from nudge.core.charging.cylinder import check_cylinder, recovery_limit_kg
from nudge.core.charging.leak_rate import annualised, rolling
from nudge.core.language.errors import CoreError
from nudge.core.language.units import pounds_and_ounces
from nudge.core.physics.circuit.tubes import (
    HOSES,
    LiquidPipe,
    hose_contents,
    liquid_per_length,
    tube_of,
)
from nudge.core.physics.circuit.weigh_in import weigh_in
from nudge.core.physics.circuit.whole import whole_charge
from tests.core.field import celsius, plate

OZ_FT, FT, LB = 93.0102, 0.3048, 0.45359237


def by_hand(bore_in: float, lb_ft3: float) -> float:
    """Ounces a foot: area in square feet x density x 16."""
    return pi * (bore_in / 24) ** 2 * lb_ft3 * 16


class LineTest(unittest.TestCase):
    def test_liquid_lines_by_hand(self):
        # ASTM B280 bores; liquid at 100 °F: R-410A 61.5, R-22 71.2, R-32 56.3, R-134a 71.7
        # lb/ft³ (ASHRAE Fundamentals 2017, chapter 30).
        for fluid, outside, bore, density in (
            ("R-410A", 9.52, 0.311, 61.5),
            ("R-410A", 12.7, 0.436, 61.5),
            ("R-410A", 6.35, 0.190, 61.5),
            ("R-22", 9.52, 0.311, 71.2),
            ("R-32", 9.52, 0.311, 56.3),
            ("R-134a", 15.88, 0.555, 71.7),
        ):
            with self.subTest(fluid=fluid, outside=outside):
                found = liquid_per_length(fluid, outside) / OZ_FT
                self.assertAlmostEqual(found, by_hand(bore, density), delta=found * 0.015)
        self.assertTrue(0.48 <= liquid_per_length("R-410A", 9.525) / OZ_FT <= 0.62)

    def test_a_size_nobody_makes(self):
        with self.assertRaises(CoreError) as caught:
            tube_of(11.0)
        self.assertIn("3/8, 1/2", caught.exception.text("ip"))

    def test_a_hose_of_liquid_is_about_an_ounce(self):
        self.assertAlmostEqual(hose_contents("R-410A", HOSES[0], 5 * FT) / 28.35, 1.0, delta=0.1)


class WeighInTest(unittest.TestCase):
    def sheet(self, **more: object):  # type: ignore[no-untyped-def]
        return weigh_in(plate(factory_charge_kg=7 * LB, line_set_length_m=45 * FT, **more))

    def test_a_plant_with_many_rooms_is_its_plate_and_its_pipes_size_by_size(self):
        written = (LiquidPipe(12.7, 40.0, 110.0), LiquidPipe(9.525, 20.0, 54.0))
        # 7 lb, + 40 m x 110 g and 20 m x 54 g, + 4 oz coil; one line set's length says nothing.
        found = self.sheet(
            liquid_pipes=written, coil_adder_g=4 * 28.3495, charge_g_per_m=0.6 * OZ_FT
        )
        self.assertAlmostEqual(found.total.value, 7 * LB + 4.4 + 1.08 + 0.1134, places=4)
        self.assertEqual([round(one.value, 2) for one in found.pipes], [4.4, 1.08])
        self.assertEqual(whole_charge(plate(liquid_pipes=written, factory_charge_kg=9.0)).kg, 14.48)
        # By the bore where no maker's figure is written: 7.9 mm of liquid at 100 °F.
        own = self.sheet(liquid_pipes=(LiquidPipe(9.525, 10.0),)).pipes[0]
        self.assertAlmostEqual(own.value, 10 * pi / 4 * 0.0079**2 * 980, delta=0.02)
        unwritten = self.sheet(liquid_pipes=())
        self.assertIsNone(unwritten.total)
        self.assertIn("liquid pipes", unwritten.missing[0])

    def test_by_the_plates_figure(self):
        # 7 lb + (45 - 15) x 0.6 oz = 18 oz, + 4 oz coil - and 2 oz drier = 8 lb 8 oz.
        found = self.sheet(
            charge_g_per_m=0.6 * OZ_FT,
            line_length_included_m=15 * FT,
            coil_adder_g=4 * 28.3495,
            drier_adder_g=2 * 28.3495,
        )
        self.assertEqual(pounds_and_ounces(found.total.value), "8 lb 8.0 oz")
        self.assertEqual(found.notes, ())

    def test_worked_out_from_the_tube_with_the_usual_length_said_aloud(self):
        found = self.sheet(liquid_line_mm=9.525, vapour_line_mm=19.05)
        self.assertEqual(found.allowance.formula.key, "line_allowance")
        self.assertAlmostEqual(found.allowance.value / OZ_FT, 0.52 + 0.10, delta=0.02)
        self.assertIn("15 ft is taken", found.notes[0].text("ip"))

    def test_a_shorter_line_takes_out_and_says_so(self):
        found = weigh_in(
            plate(
                factory_charge_kg=3.0,
                line_set_length_m=3.0,
                line_length_included_m=5.0,
                charge_g_per_m=50.0,
            )
        )
        assert found.total is not None
        self.assertAlmostEqual(found.total.value, 2.9)
        self.assertIn("only what the maker says", found.notes[0].text("ip"))

    def test_what_is_missing_is_named(self):
        self.assertEqual(
            weigh_in(plate()).missing,
            ("Factory charge", "Line set length", "Charge per length, or the liquid line's size"),
        )

    def test_written_as_on_the_door(self):
        for kg, text in ((3.3, "7 lb 4.4 oz"), (0.2, "7.1 oz"), (-0.2, "−7.1 oz"), (0, "0.0 oz")):
            self.assertEqual(pounds_and_ounces(kg), text)
        self.assertEqual(pounds_and_ounces(15.999 * LB / 16), "1 lb 0.0 oz")


class CylinderTest(unittest.TestCase):
    def test_contents_by_pressure_and_temperature(self):
        # R-410A at 80 °F: 236 psig (published tables).
        for psig, contents in ((236, "pure"), (262, "air"), (200, "not_liquid")):
            found = check_cylinder("R-410A", celsius(80), psig * 6.894757)
            self.assertEqual(found.contents, contents)
        self.assertAlmostEqual(found.expected_kpa / 6.894757, 235.5, delta=1.5)

    def test_eighty_percent(self):
        # 47.7 lb of water capacity, R-410A at 77 °F 66.2 lb/ft³ (SG 1.06): 40.5 lb.
        found = recovery_limit_kg("R-410A", 47.7 * LB) / LB
        self.assertAlmostEqual(found, 0.8 * 47.7 * 66.2 / 62.24, delta=0.4)


class LeakRateTest(unittest.TestCase):
    def test_both_ways(self):
        # 1.5 lb of 10 in 120 days: 15 % x 365 / 120 = 45.6 %; two pounds in the year: 20 %.
        self.assertAlmostEqual(annualised(1.5 * LB, 10 * LB, 120).value, 45.625)
        self.assertAlmostEqual(annualised(1.5 * LB, 10 * LB, 900).value, 15.0)
        self.assertAlmostEqual(rolling(2 * LB, 10 * LB).value, 20.0)
        for made in ((1, 0, 10), (1, 10, 0)):
            with self.assertRaises(CoreError):
                annualised(*made)
