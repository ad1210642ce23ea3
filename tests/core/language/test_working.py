"""The ± of every number against Monte Carlo, and what numbers open to."""

import random
import statistics
import unittest
from collections.abc import Callable, Mapping

from nudge.contract.opened import opened
from nudge.core.behaviours.workings import OWN_SHARE, derived_workings, reading_limits
from nudge.core.calculators.pocket import fill_pocket
from nudge.core.language.working import Input, Working, propagate
from nudge.core.physics.circuit.derived import derive
from nudge.core.physics.circuit.derived_table import DERIVED
from nudge.core.targets.workings import target_workings
from tests.core.field import judged, plate

FULL = {
    "suct": 118.0,
    "liq": 341.0,
    "sl": 52.0,
    "ll": 96.0,
    "lli": 94.0,
    "oa": 88.0,
    "ra": 78.0,
    "wb": 65.0,
    "sa": 58.5,
    "swb": 56.0,
    "cfm": 1180.0,
    "ow": 2900.0,
    "iw": 420.0,
    "eo": 50.0,
}
DRAWS = 4000


def monte_carlo(
    value: Callable[[Mapping[str, float]], float],
    values: Mapping[str, float],
    limits: Mapping[str, float],
    draws: int = DRAWS,
) -> float:
    """± at 19 in 20 by brute force: twice the standard deviation of normal draws."""
    chance = random.Random(11)
    found = []
    for _ in range(draws):
        moved = {k: chance.gauss(v, limits.get(k, 0.0) / 2) for k, v in values.items()}
        found.append(value(moved))
    return 2 * statistics.stdev(found)


class UncertaintyTest(unittest.TestCase):
    def test_derived_numbers_agree_with_monte_carlo(self):
        result = judged(plate(nominal_capacity_w=10_551), **FULL)
        case, workings = result.case, derived_workings(result.case)
        limits = reading_limits(case)
        chance = random.Random(7)
        draws: dict[str, list[float]] = {key: [] for key in workings}
        for _ in range(DRAWS):
            moved = {k: chance.gauss(v, limits[k] / 2) for k, v in case.readings.items()}
            derived = derive(case.plate, moved)
            for key, into in draws.items():
                if (value := derived.get(key)) is not None:
                    into.append(value)
        self.assertGreater(len(workings), 20)
        for key, working in workings.items():
            if key == "condenser_glide":
                continue  # a few ten-thousandths of a degree: the table's own grain
            with self.subTest(key):
                own = OWN_SHARE.get(key, 0) * working.value
                spread = (4 * statistics.variance(draws[key]) + own**2) ** 0.5
                assert working.uncertainty is not None
                self.assertAlmostEqual(working.uncertainty / spread, 1, delta=0.15)

    def test_pocket_numbers_agree_with_monte_carlo(self):
        entries = {
            "return_air_temp": 78.0,
            "return_air_wet_bulb": 65.0,
            "outdoor_air_temp": 95.0,
            "test_pressure_start": 150.0,
            "test_temp_start": 80.0,
            "test_temp_now": 70.0,
            "strip_volts": 238.0,
            "strip_circuit_amps": 41.0,
            "heated_air_temp": 104.0,
        }

        def number(key: str) -> Callable[[Mapping[str, float]], float]:
            def value(given: Mapping[str, float]) -> float:
                pocket = fill_pocket(dict(given), "si")
                return found(pocket, key).value

            return value

        def found(pocket, key: str) -> Working:  # type: ignore[no-untyped-def]
            lines = [line.working for f in pocket.filled for line in f.outcome.lines]
            return next(w for w in lines if w.formula.key == key)

        pocket = fill_pocket(entries, "ip")
        for key in ("expected_split", "dew_point", "airflow_by_strips", "test_pressure_expected"):
            working = found(pocket, key)
            limits = {i.key: i.uncertainty or 0.0 for i in working.inputs}
            brute = monte_carlo(number(key), dict(pocket.entered), limits, 250)
            with self.subTest(key):
                spread = (brute**2 + working.formula.own_error**2) ** 0.5
                assert working.uncertainty is not None
                self.assertAlmostEqual(working.uncertainty / spread, 1, delta=0.15)

    def test_an_input_at_the_edge_of_the_possible_is_moved_one_way(self):
        def root(values: Mapping[str, float]) -> float:
            if values["x"] > 1:
                raise ValueError
            return 3 * values["x"]

        self.assertAlmostEqual(propagate(root, {"x": 1.0}, {"x": 0.1}) or 0, 0.3)
        self.assertIsNone(propagate(root, {"x": 1.0}, {}))


class OpenedTest(unittest.TestCase):
    def test_every_derived_number_and_target_opens(self):
        result = judged(plate(nominal_capacity_w=10_551), **FULL)
        workings = derived_workings(result.case, {"suction_pressure": "live"})
        workings |= target_workings(result.case, result.targets)
        for units in ("ip", "si", "si_bar"):
            for key, working in workings.items():
                shown = opened(working, units)  # type: ignore[arg-type]
                with self.subTest(key=key, units=units):
                    for text in (shown.meaning, shown.formula, shown.today, shown.reference):
                        self.assertTrue(text)
                        self.assertNotIn("{", text)
                    if units != "ip" and "in °F" not in shown.formula:
                        self.assertNotIn("°F", shown.meaning + shown.formula + shown.today)
        superheat = opened(workings["superheat"], "ip")
        self.assertEqual(superheat.today, "52.0 °F − 39.8 °F = 12.2 °F")
        sources = {i.key: (i.text, i.source) for i in superheat.inputs}
        self.assertEqual(sources["suction_pressure"], ("118 psig", "from a probe"))
        self.assertEqual(sources["suction_line_temp"], ("52.0 °F", "typed"))
        self.assertEqual(superheat.uncertainty_text, "±1.1 °F")
        target = opened(workings["target_subcooling"], "ip")
        self.assertEqual(target.today, "plate: 10.0 °F")

    def test_the_number_shown_is_the_number_judged(self):
        result = judged(plate(nominal_capacity_w=10_551), **FULL)
        for key, working in derived_workings(result.case).items():
            self.assertEqual(working.value, result.case.derived.get(key))
            self.assertTrue(all(isinstance(i, Input) for i in working.inputs))
        self.assertLessEqual(set(derived_workings(result.case)), set(DERIVED))
