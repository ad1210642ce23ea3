"""A maker's chart: looked up, refused beyond its edges, read from whatever was pasted."""

import unittest

from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.physics.chart.chart import KINDS, OffChart
from nudge.core.physics.chart.chart_text import UnreadableChart, read_chart
from tests.core.field import celsius

GRID = "outdoor, 60, 64, 68\n75, 13, 19, 25\n85, 8, 14, 21\n95, , 10, 16"
COILS = "outdoor\tA\tB\n75\t11\t9\n85\t10\t8\n95\t9\t7"


def grid(out: float, wet: float) -> float:
    return read_chart("superheat_by_wet_bulb", GRID, "ip").value(celsius(out), celsius(wet)) * 1.8


def coils(text: str, out: float, column: str | None = None, units: str = "ip") -> float:
    chart = read_chart("subcooling_by_outdoor", text, units)  # type: ignore[arg-type]
    return chart.value(celsius(out), column) * 1.8


class LookUpTest(unittest.TestCase):
    def test_between_the_points_in_both_directions(self):
        self.assertAlmostEqual(grid(85, 64), 14)
        self.assertAlmostEqual(grid(80, 62), (13 + 19 + 8 + 14) / 4)
        self.assertAlmostEqual(grid(95, 66), 13)
        self.assertAlmostEqual(coils(COILS, 78, "B"), 8.7)

    def test_beyond_the_edge_the_nearest_point_is_offered_and_nothing_guessed(self):
        for out, wet, near in (
            (105, 66, "outdoor air 95.0 °F and return wet bulb 66.0 °F, says 13.0 °F"),
            (95, 61, "outdoor air 95.0 °F and return wet bulb 64.0 °F, says 10.0 °F"),
            (60, 50, "outdoor air 75.0 °F and return wet bulb 60.0 °F, says 13.0 °F"),
        ):
            with self.subTest(out), self.assertRaises(OffChart) as caught:
                grid(out, wet)
            self.assertIn(near, caught.exception.text("ip"))
            self.assertIn(f"nothing at outdoor air {out}.0 °F", caught.exception.text("ip"))
        with self.assertRaises(OffChart) as caught:
            coils(COILS, 110, "A")
        self.assertAlmostEqual(caught.exception.nearest.value * 1.8, 9)

    def test_the_column_is_named_or_asked_for(self):
        self.assertAlmostEqual(coils(COILS, 75, " a "), 11)
        with self.assertRaises(UnknownName) as caught:
            coils(COILS, 75, "C")
        self.assertIn("indoor unit", caught.exception.text("ip"))
        with self.assertRaises(CoreError) as several:
            coils(COILS, 75)
        self.assertIn("A, B", several.exception.text("ip"))
        self.assertAlmostEqual(coils("75 11\n85 10", 80), 10.5)

    def test_blower_table(self):
        chart = read_chart("blower_airflow", KINDS["blower_airflow"].example, "ip")
        self.assertAlmostEqual(chart.value(0.4 * 249.089, "medium") / 0.4719474, 1150, delta=0.1)
        with self.assertRaises(OffChart):
            chart.value(0.7 * 249.089, "low")


class ReadingTest(unittest.TestCase):
    def test_whatever_parts_the_cells(self):
        for text in (
            COILS,
            COILS.replace("\t", ";"),
            COILS.replace("\t", ","),
            COILS.replace("\t", " | "),
            COILS.replace("\t", "   "),
            COILS.replace("\t", " "),
            "\ufeff" + COILS.replace("\t", ",").replace("\n", "\r\n") + "\r\n\r\n",
            "outdoor;A;B\n75;11,0;9,0\n85;10,0;8,0\n95;9,0;7,0",
            "outdoor °F,A,B\n95 °F,9,7\n85 °F,10,8\n75 °F,11,9",
            "A,B\n75,11,9\n85,10,8\n95,9,7",
        ):
            with self.subTest(text):
                self.assertAlmostEqual(coils(text, 80, "A"), 10.5)

    def test_decimal_commas(self):
        self.assertAlmostEqual(coils("75 10,5\n85 9,5", 80), 10.0)
        self.assertAlmostEqual(coils("75;10,5\n85;9,5", 80), 10.0)

    def test_a_chart_written_the_other_way_round_is_turned_or_asked_about(self):
        turned = "wet bulb;75;85;95\n60;13;8;\n64;19;14;10\n68;25;21;16"
        chart = read_chart("superheat_by_wet_bulb", turned, "ip")
        same = read_chart("superheat_by_wet_bulb", GRID, "ip")
        self.assertEqual(
            (chart.rows, chart.columns, chart.cells), (same.rows, same.columns, same.cells)
        )
        with self.assertRaises(UnreadableChart) as caught:
            read_chart("superheat_by_wet_bulb", turned.replace("wet bulb", "°F"), "ip")
        self.assertIn("Turn the chart", caught.exception.text("ip"))

    def test_a_chart_in_celsius_is_not_taken_for_fahrenheit(self):
        with self.assertRaises(UnreadableChart) as caught:
            read_chart("subcooling_by_outdoor", "25;6\n35;5", "ip")
        self.assertIn("the units you read in", caught.exception.text("ip"))

    def test_si_charts_are_read_in_si(self):
        self.assertAlmostEqual(coils("25 6\n35 5", 86, units="si") / 1.8, 5.5)

    def test_every_problem_is_named_with_its_place(self):
        for text, words in (
            ("", "no chart in that text"),
            ("hello", "Only one column"),
            ("75;10", "One row is no chart"),
            ("out;A\n75;10\n75;9\n85;8", "Row 3, column 1: Outdoor air 75 stands twice"),
            ("out;A\n75;10\n95;9\n85;8", "Row 4, column 1: Outdoor air 85 is out of order"),
            ("out;A\n75;ten\n85;9", "Row 2, column 2: “ten” is not a number"),
            ("out;A;A\n75;10;9\n85;9;8", "“A” heads two columns"),
            ("out;A;\n75;10;9\n85;9;8", "no indoor unit. Name it"),
            ("out;A\n75;10;9\n85;9;8", "2 cells under 1 headings"),
            ("out;A\n75;10\n850;9", "850 °F is outside 45 to 140 °F"),
            ("out;A\n75;\n85;", "Every cell of that chart is blank"),
            ("out;A\n75;10\n;9", "a number is missing"),
            ("out;A\n75;nan\n85;9", "is not a number"),
            ("x" * 30_000, "at most 20,000"),
            ("1 2\n" * 100, "at most 60 rows"),
        ):
            with self.subTest(text[:30]), self.assertRaises(UnreadableChart) as caught:
                read_chart("subcooling_by_outdoor", text, "ip")
            self.assertIn(words.lower(), caught.exception.text("ip").lower())
        with self.assertRaises(UnreadableChart) as caught:
            read_chart("subcooling_by_outdoor", "out;A\n" + "zz;yy\n" * 20, "ip")
        self.assertIn("more.", caught.exception.text("ip"))
        with self.assertRaises(UnknownName):
            read_chart("superheat_chart", GRID, "ip")
