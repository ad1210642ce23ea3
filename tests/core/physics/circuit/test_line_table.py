"""What a line set adds: by hand, by the maker's table, and where a table says nothing."""

import unittest
from math import pi

from nudge.core.physics.chart.chart_text import UnreadableChart, read_chart
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.physics.circuit.weigh_in import weigh_in

FT, IN, OZ = 0.3048, 0.0254, 0.0283495
TABLE = "length, 3/8, 1/2, 5/8\n15, 0, 0, 0\n25, 2.1, 3.6, 5.4\n50, , 12.9, 19.4\n75, , 22.2,"


def plate(fluid="R-32", **more):
    usual = {"factory_charge_kg": 1.2, "liquid_line_mm": 6.35, "line_length_included_m": 4.572}
    return Plate(fluid, MeteringDevice.EEV, **{**usual, **more})


def by_table(length_ft, size_in, text=TABLE):
    chart = read_chart("charge_by_line", text, "ip")
    return weigh_in(
        plate(charts=(chart,), line_set_length_m=length_ft * FT, vapour_line_mm=size_in * 25.4)
    )


def words(sheet):
    return " ".join(note.text("ip") for note in sheet.notes)


class ByHandTest(unittest.TestCase):
    """Bores from ASTM B280; densities read off CoolProp at 100 °F (liquid) and 45 °F (dew)."""

    def test_ten_lines_worked_out_by_hand(self):
        for fluid, liquid_in, wall, vapour_in, vapour_wall, dense, thin in (
            ("R-410A", 0.375, 0.032, 0.75, 0.035, 989.0, 38.4),
            ("R-410A", 0.25, 0.030, 0.5, 0.032, 989.0, 38.4),
            ("R-22", 0.375, 0.032, 0.875, 0.045, 1138.0, 26.5),
            ("R-32", 0.25, 0.030, 0.5, 0.032, 904.0, 27.7),
            ("R-32", 0.375, 0.032, 0.625, 0.035, 904.0, 27.7),
            ("R-134a", 0.3125, 0.032, 0.625, 0.035, 1156.0, 18.5),
            ("R-404A", 0.375, 0.032, 0.875, 0.045, 978.0, 38.2),
            ("R-290", 0.25, 0.030, 0.375, 0.032, 471.0, 12.7),
            ("R-407C", 0.375, 0.032, 0.75, 0.035, 1079.0, 25.1),
            ("R-410A", 0.5, 0.032, 1.125, 0.050, 989.0, 38.4),
        ):
            with self.subTest(fluid=fluid, liquid=liquid_in):
                liquid = pi / 4 * ((liquid_in - 2 * wall) * IN) ** 2 * dense
                vapour = pi / 4 * ((vapour_in - 2 * vapour_wall) * IN) ** 2 * thin
                by_hand = (50 - 15) * FT * (liquid + vapour)
                sheet = weigh_in(
                    plate(
                        fluid,
                        liquid_line_mm=liquid_in * 25.4,
                        vapour_line_mm=vapour_in * 25.4,
                        line_set_length_m=50 * FT,
                    )
                )
                self.assertAlmostEqual(sheet.line_charge.value / by_hand, 1.0, delta=0.03)


class ByTableTest(unittest.TestCase):
    def test_on_a_point_and_between_two(self):
        self.assertAlmostEqual(by_table(50, 0.5).line_charge.value / OZ, 12.9, places=3)
        between = 3.6 + (12.9 - 3.6) * 10 / 25
        self.assertAlmostEqual(by_table(35, 0.5).line_charge.value / OZ, between, places=3)

    def test_the_total_stands_on_it_and_ounces_a_foot_no_longer_count(self):
        found = by_table(50, 0.625)
        self.assertAlmostEqual(found.total.value, 1.2 + 19.4 * OZ, places=5)
        self.assertIsNone(found.allowance)

    def test_a_hole_in_the_table_is_not_filled(self):
        for length, size in ((50, 0.375), (70, 0.625)):
            found = by_table(length, size)
            self.assertIsNone(found.total)
            self.assertIn("Nothing is guessed", words(found))
            self.assertIn("What the maker’s table says here", found.missing)

    def test_a_length_in_the_other_unit_is_asked_about(self):
        self.assertIn("Meant in metres? Then it is 33 ft", words(by_table(10, 0.5)))
        self.assertIn("Meant in feet? Then it is 50 ft", words(by_table(50 / FT, 0.5)))

    def test_a_size_the_table_does_not_have_is_no_average_of_its_neighbours(self):
        found = by_table(50, 0.75)
        self.assertIsNone(found.line_charge)
        self.assertIn("no column for a 3/4 in. vapour line: it has 3/8, 1/2, 5/8", words(found))

    def test_sizes_are_read_as_inches_millimetres_and_fractions(self):
        self.assertEqual(
            [
                round(float(one), 3)
                for text, units in (("length;1 1/8\n10;1\n20;2", "ip"), (TABLE, "si"))
                for one in read_chart("charge_by_line", text, units).columns[:1]
            ],
            [28.575, 9.525],
        )
        with self.assertRaisesRegex(UnreadableChart, "wide"):
            read_chart("charge_by_line", "length, wide\n10, 1\n20, 2", "ip")


if __name__ == "__main__":
    unittest.main()
