"""The tool that makes the judge's table: least squares, spreads, correlations, what it leaves out."""

import csv
import tempfile
import unittest
from dataclasses import replace
from itertools import pairwise
from pathlib import Path
from random import Random

from nudge.core.expectations.signs import SIGNS
from nudge.core.judgement.signatures import SEVERITIES, read_signatures
from nudge.core.physics.circuit.derived import derive
from nudge.core.physics.circuit.equipment import FEEDS
from nudge.plant.machine import Conditions
from nudge.plant.steady import steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import air_of
from tools.gather import BANDS, Job, jobs
from tools.make_signatures import (
    LEAST_EIGENVALUE,
    Seen,
    correlations,
    expectations,
    nodes,
    residual,
    write,
)
from tools.sweep import site
from tools.swept_rows import LEAST_CARRIED, LEAST_CASES, LEAST_SPREAD, Rows

HEALTHY = Job("home", "valve", ("none",), "none", "", (), "", 40)
LOW = Job("home", "valve", ("undercharge",), "undercharge", "severe", ("undercharge",), "", 40)


def _cases(job: Job, move: float = 0.0, count: int = 40) -> list[Seen]:
    """Subcooling that goes by a known straight line in the weather, with a move on top."""
    rng = Random(f"{job}{move}")
    found = []
    for _ in range(count):
        out, wet, seer = rng.uniform(-12, 5), rng.uniform(-5, 2), rng.uniform(-5, 5)
        noise = rng.gauss(0, 0.3)
        off = 0.5 - 0.1 * out + 0.2 * wet - 0.3 * seer + move + noise
        found.append(
            Seen(
                job,
                0.8,
                out,
                wet,
                seer,
                {"subcooling": off, "approach": -off + 0.05 * noise, "superheat": rng.gauss(0, 1)},
            )
        )
    return found


class SignaturesToolTest(unittest.TestCase):
    def setUp(self):
        self.seen = _cases(HEALTHY) + _cases(LOW, -5.0)
        self.expected = expectations(self.seen)

    def test_the_weather_is_found_and_taken_out(self):
        row = self.expected["subcooling"]
        self.assertAlmostEqual(row.base, 0.5, delta=0.2)
        self.assertAlmostEqual(row.per_outdoor, -0.1, delta=0.03)
        self.assertAlmostEqual(row.per_house, 0.2, delta=0.06)
        self.assertAlmostEqual(row.per_seer, -0.3, delta=0.05)
        left = [residual(one, self.expected)["subcooling"] for one in _cases(LOW, -5.0)]
        self.assertAlmostEqual(sum(left) / len(left), -5.0, delta=0.15)

    def test_a_swept_system_does_what_its_plate_says(self):
        # The plate against heat worked out from the air readings at the rated point, not from
        # the plant's own sum.
        for kind in ("valve", "strange orifice"):
            with self.subTest(kind):
                of = site(4, kind)
                air = air_of(26.7, 51.0), air_of(35.0, 40.0)
                at = steady(of.machine, Conditions(*air, of.machine.charge_kg))
                found = derive(of.plate, running_truth(at))
                self.assertAlmostEqual(
                    found.capacity_total / of.plate.nominal_capacity_w, 1, delta=0.15
                )

    def test_weather_itself_is_expected_flat(self):
        for sign in SIGNS.values():
            if sign.is_weather:
                self.assertEqual(self.expected[sign.key].per_outdoor, 0)

    def test_a_spread_is_what_is_left_at_its_severity_and_never_nothing(self):
        rows = Rows(tuple(SIGNS), ())
        rng = Random(3)
        for _ in range(400):
            severity = rng.uniform(0.4, 0.7)
            rows.departures.append({"airflow": 40 * severity + rng.gauss(0, 2), "superheat": 1.0})
            rows.severities.append(severity)
            rows.airs.append((rng.uniform(-15, 5), 0.0, 0.0))
        middle, wide, slope, carried = rows.fit("airflow")
        self.assertEqual(carried, (0, 0, 0))
        # 40 a whole severity, 22 in the middle, noise of 2: by how it was made.
        self.assertAlmostEqual(slope, 40, delta=4)
        self.assertAlmostEqual(middle, 22, delta=0.5)
        self.assertAlmostEqual(wide, 2, delta=0.25)
        self.assertAlmostEqual(rows.fit("superheat")[1] * 1.8, LEAST_SPREAD)
        self.assertIsNone(rows.fit("approach"))

    def test_what_a_fault_does_is_carried_by_the_air_and_the_class_it_was_met_in(self):
        # Half a kelvin more for each kelvin outdoors, a quarter less for each in the house and
        # a tenth a point of SEER: by how it was made. What is not to be carried is not.
        def met(count: int) -> Rows:
            rows, rng = Rows(tuple(SIGNS), ("superheat",)), Random(4)
            for _ in range(count):
                out, wet, seer = rng.uniform(-15, 5), rng.uniform(-5, 2), rng.uniform(-5, 5)
                off = 3 + 0.5 * out - 0.25 * wet + 0.1 * seer + rng.gauss(0, 0.5)
                rows.departures.append({"superheat": off, "subcooling": off})
                rows.severities.append(rng.uniform(0.4, 0.7))
                rows.airs.append((out, wet, seer))
            return rows

        rows = met(400)
        found, flat = rows.fit("superheat"), rows.fit("subcooling")
        for got, made in zip(found.carried, (0.5, -0.25, 0.1), strict=True):
            self.assertAlmostEqual(got, made, delta=0.04)
        self.assertAlmostEqual(found.wide, 0.5, delta=0.05)
        self.assertEqual(flat.carried, (0, 0, 0))
        self.assertGreater(flat.wide, 2.5)  # 0.5 of a spread of 20/√12 outdoors, left in it
        self.assertAlmostEqual(found.middle, 3 + 0.5 * rows.about[0] - 0.25 * rows.about[1]
                               + 0.1 * rows.about[2], delta=0.1)  # fmt: skip
        self.assertEqual(met(LEAST_CARRIED - 1).fit("superheat").carried, (0, 0, 0))

    def test_what_moves_together_is_found_once(self):
        found = correlations(nodes(self.seen, self.expected), SIGNS)
        self.assertTrue(all(one < other for one, other in found))
        self.assertTrue(all(abs(value) <= 1 for value in found.values()))
        self.assertLess(found["approach", "subcooling"], -0.5)  # made as its opposite

    def test_correlations_that_could_not_be_are_drawn_together_until_they_can(self):
        # Three signs as one: singular, whatever it is drawn to by the usual share.
        seen = []
        for job, move in ((HEALTHY, 0.0), (LOW, -5.0)):
            for one in _cases(job, move):
                off = one.offs["subcooling"]
                alike = {"subcooling": off, "airflow": 9 * off, "static": -8 * off}
                seen.append(replace(one, offs=alike))
        found = correlations(nodes(seen, expectations(seen)), SIGNS)
        pairs = {("airflow", "static"), ("airflow", "subcooling"), ("static", "subcooling")}
        self.assertEqual(set(found), pairs)
        a, b, c = (found[pair] for pair in sorted(pairs))
        # The determinant of the 3 by 3 correlation, and so every eigenvalue, is over nothing.
        self.assertGreater(1 + 2 * a * b * c - a * a - b * b - c * c, LEAST_EIGENVALUE**3)

    def test_a_node_the_plant_hardly_reached_is_left_out(self):
        few = _cases(LOW, -5.0, LEAST_CASES - 1)
        self.assertEqual(
            [variant for _, _, variant, _ in nodes(_cases(HEALTHY) + few, self.expected)], ["none"]
        )

    def test_every_fault_at_every_severity_on_every_device_is_a_job(self):
        listed = list(jobs("home"))
        for device in FEEDS:
            for severity in SEVERITIES:
                self.assertIn(
                    (device, "undercharge", severity),
                    [(j.device, j.variant, j.severity) for j in listed],
                )
        bands = [BANDS[s] for s in SEVERITIES]
        self.assertTrue(all(a[1] == b[0] for a, b in pairwise(bands)))
        self.assertEqual(len({(j.device, j.variant, j.severity) for j in listed}), len(listed))

    def test_the_files_can_be_read_back(self):
        with tempfile.TemporaryDirectory() as folder:
            write(self.seen, Path(folder))
            lines = (Path(folder) / "signatures.csv").read_text("utf-8").splitlines()
            self.assertIn("80 simulated cases", lines[0])
            rows = {row["fault"]: row for row in csv.DictReader(lines[1:])}
            # −5 K is −9 °F; what the trade knows better (superheat) stands in its place.
            middle, _ = rows["undercharge"]["subcooling"].split("±")
            self.assertAlmostEqual(float(middle), -9.0, delta=0.4)
            self.assertEqual(rows["undercharge"]["superheat"], "26.0±15.0")
            read = read_signatures(Path(folder))["valve"]
            low = next(row for row in read if row.variant == "undercharge")
            # At the air it was swept in it is the cell; the fault was made the same in any air.
            self.assertAlmostEqual(low.at("subcooling", low.about), -5.0, delta=0.2)
            hot = (low.about[0] + 10, *low.about[1:])
            self.assertAlmostEqual(low.at("subcooling", hot), -5.0, delta=0.5)
            self.assertEqual(low.carried["superheat"], (0, 0, 0))  # the trade's figure is flat
            together = (Path(folder) / "together.csv").read_text("utf-8")
            self.assertNotIn(",1.000", together)


if __name__ == "__main__":
    unittest.main()
