"""The table generator refuses what it must: a wrong row, a hole, a curve that stops short."""

import math
import unittest
from unittest.mock import patch

from nudge.core.physics.refrigerant.catalogue import refrigerant
from tools import make_tables
from tools.make_tables import RowSolver, continues, critical_point, one_curve, reference_state


def _clapeyron(temp_c: float) -> float:
    return 500 * math.exp(2500 * (1 / 273.15 - 1 / (temp_c + 273.15)))


class _Solver:
    """Stands in for the reference library: a clean curve, with places where it fails."""

    def __init__(self, fails: tuple[float, float] = (0, 0), wrong_at: float = math.inf) -> None:
        self._fails, self._wrong_at = fails, wrong_at

    def solve(self, wanted_c: float) -> tuple[float, float] | None:
        if self._fails[0] < wanted_c < self._fails[1]:
            return None
        factor = 1.1 if wanted_c >= self._wrong_at else 1.0
        return wanted_c, _clapeyron(wanted_c) * factor


class GeneratorTest(unittest.TestCase):
    def test_a_row_off_the_curve_is_seen(self):
        rows = [(t, _clapeyron(t)) for t in (0.0, 1.5, 3.0)]
        self.assertTrue(continues(rows, (4.5, _clapeyron(4.5))))
        for wrong in (1.01, 0.99, 1.3):
            self.assertFalse(continues(rows, (4.5, _clapeyron(4.5) * wrong)))

    def test_a_clean_curve_is_kept_whole(self):
        curve = one_curve(_Solver(), "x", "bubble", 100.0)
        self.assertGreater(len(curve["temp_c"]), 80)
        self.assertEqual(curve["temp_c"], sorted(curve["temp_c"]))

    def test_a_hole_stops_the_run(self):
        with self.assertRaises(SystemExit) as caught:
            one_curve(_Solver(fails=(40, 47)), "x", "dew", 100.0)
        self.assertIn("hole", str(caught.exception))

    def test_a_curve_that_stops_short_stops_the_run(self):
        with self.assertRaises(SystemExit), patch("builtins.print"):
            one_curve(_Solver(wrong_at=50), "x", "dew", 100.0)

    def test_rows_are_stepped_round_a_failure(self):
        class Failing:
            def __init__(self) -> None:
                self.asked: list[float] = []

            def update(self, _pair: int, _quality: float, kelvin: float) -> None:
                self.asked.append(kelvin)
                if len(self.asked) < 3:
                    raise ValueError("no solution")

            def p(self) -> float:
                return 1e6

        state = Failing()
        row = RowSolver(state, 0.2, blend=True).solve(20.0)  # type: ignore[arg-type]
        self.assertEqual(row, (19.85, 1000.0))
        self.assertEqual(make_tables.SIDESTEPS_K[:3], (0, 0.15, -0.15))

    def test_the_stable_critical_point_is_the_one_taken(self):
        # Published: R-410A 71.3 °C and 4.90 MPa, R-32 78.1 °C and 5.78 MPa.
        for name, celsius, kpa in (("R-410A", 71.3, 4900), ("R-32", 78.1, 5780)):
            fluid = refrigerant(name)
            found = critical_point(reference_state(fluid), fluid.is_blend)
            self.assertAlmostEqual(found[0], celsius, delta=0.2)
            self.assertAlmostEqual(found[1], kpa, delta=20)
