"""What holds for any chart: bounds, nodes, order, writing and reading back."""

import random
import unittest

from nudge.core.physics.chart.chart import Chart, OffChart, chart_kind
from nudge.core.physics.chart.chart_text import UnreadableChart, read_chart


def _chart(chance: random.Random, holes: float = 0.0) -> Chart:
    kind = chart_kind("superheat_by_wet_bulb")
    rows = sorted(chance.sample(range(10, 45), chance.randint(2, 7)))
    columns = sorted(chance.sample(range(8, 26), chance.randint(2, 6)))
    cells = tuple(
        tuple(None if chance.random() < holes else chance.uniform(0, 30) for _ in columns)
        for _ in rows
    )
    return Chart(kind, tuple(map(float, rows)), tuple(map(float, columns)), cells)


def _written(chart: Chart, separator: str) -> str:
    lines = [separator.join(["out", *(f"{c:g}" for c in chart.columns)])]
    for row, cells in zip(chart.rows, chart.cells, strict=True):
        shown = ("" if cell is None else repr(cell) for cell in cells)
        lines.append(separator.join([f"{row:g}", *shown]))
    return "\n".join(lines)


class AnyChartTest(unittest.TestCase):
    def setUp(self):
        self.chance = random.Random(8)

    def test_inside_it_stays_between_its_neighbours_and_meets_its_points(self):
        for _ in range(200):
            chart = _chart(self.chance)
            flat = [cell for line in chart.cells for cell in line if cell is not None]
            row = self.chance.uniform(chart.rows[0], chart.rows[-1])
            column = self.chance.uniform(float(chart.columns[0]), float(chart.columns[-1]))
            self.assertTrue(min(flat) - 1e-9 <= chart.value(row, column) <= max(flat) + 1e-9)
            i = self.chance.randrange(len(chart.rows))
            j = self.chance.randrange(len(chart.columns))
            found = chart.value(chart.rows[i], chart.columns[j])
            self.assertAlmostEqual(found, chart.cells[i][j] or 0.0)

    def test_a_small_step_makes_a_small_change(self):
        for _ in range(200):
            chart = _chart(self.chance)
            row = self.chance.uniform(chart.rows[0], chart.rows[-1] - 0.01)
            column = self.chance.uniform(float(chart.columns[0]), float(chart.columns[-1]))
            step = abs(chart.value(row + 0.001, column) - chart.value(row, column))
            self.assertLess(step, 0.04)

    def test_outside_or_in_a_hole_it_offers_a_point_it_has(self):
        silent = 0
        for _ in range(400):
            chart = _chart(self.chance, holes=0.3)
            if not any(cell is not None for line in chart.cells for cell in line):
                continue
            row, column = self.chance.uniform(5, 50), self.chance.uniform(5, 30)
            try:
                chart.value(row, column)
            except OffChart as off:
                silent += 1
                near = off.nearest
                self.assertAlmostEqual(chart.value(near.row, near.column), near.value)
                self.assertNotIn("{", off.text("ip"))
        self.assertGreater(silent, 150)

    def test_written_and_read_it_is_the_same_chart(self):
        for _ in range(60):
            chart = _chart(self.chance, holes=0.2)
            for separator in ("\t", ";", ",", " | ", ", "):
                text = _written(chart, separator)
                try:
                    back = read_chart(chart.kind.key, text, "si")
                except UnreadableChart as refused:
                    self.assertIn("blank", str(refused))  # every cell was a hole
                    continue
                self.assertEqual((back.rows, back.columns), (chart.rows, chart.columns))
                self.assertEqual(back.cells, chart.cells)

    def test_nonsense_is_refused_and_never_breaks_it(self):
        alphabet = "0123456789.,;\t|- \nabc°F\"'{}%\u00a0\ufeff"
        for _ in range(800):
            text = "".join(self.chance.choices(alphabet, k=self.chance.randint(0, 60)))
            for kind in ("subcooling_by_outdoor", "superheat_by_wet_bulb", "blower_airflow"):
                try:
                    chart = read_chart(kind, text, "ip")
                except UnreadableChart as refused:
                    self.assertTrue(refused.problems)
                else:
                    self.assertGreaterEqual(len(chart.rows), 2)
                    self.assertEqual(list(chart.rows), sorted(set(chart.rows)))
