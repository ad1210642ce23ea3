"""Tests with time over HTTP: in both units, refused in words, as CSV and as a certificate."""

import csv
import io

from pypdf import PdfReader

from tests.temporary import WithClient

OPENED = "/api/visits/kitchen-valve-live"
HERE = "/api/visits/pottery-now"


class TimedTestRoutesTest(WithClient):
    def tests(self, units="ip"):
        return self.http.get(f"{OPENED}/tests", params={"units": units}).json()

    def begin(self, test, run="r", where=HERE, units="ip", **settings):
        body = {"id": run, "test": test, "settings": settings}
        return self.http.post(f"{where}/tests", json=body, params={"units": units})

    def words(self, path):
        read = PdfReader(io.BytesIO(self.http.get(path).content))
        return " ".join(" ".join(page.extract_text() for page in read.pages).split())

    def test_the_demo_has_proven_it_tight_and_leaves_the_decay_running(self):
        found = {(t["key"], t["state"]): t for t in self.tests()["tests"]}
        self.assertIn(("nitrogen", "failed"), found)
        self.assertEqual(found["nitrogen", "passed"]["proves"], ["Tight, by nitrogen and bubbles"])
        visit = self.http.get(OPENED).json()
        self.assertEqual((visit["tests"], visit["tests_running"]), (4, 1))
        self.assertTrue(visit["circuit_is_open"])
        self.assertEqual(visit["assessment"]["decision"]["key"], "open_circuit")
        self.assertIsNone(visit["look"])
        self.assertEqual(visit["nudge"]["response"], "")
        steps = {s["key"]: s for g in visit["order"]["stages"] for s in g["steps"]}
        self.assertEqual(
            (steps["pressure_test"]["state"], steps["vacuum"]["test"]), ("done", "decay")
        )

    def test_numbers_are_said_in_the_readers_units(self):
        for units, unit in (("ip", "micron"), ("si", "Pa")):
            with self.subTest(units):
                decay = next(t for t in self.tests(units)["tests"] if t["key"] == "decay")
                level = next(n for n in decay["numbers"] if n["key"] == "vacuum")
                self.assertTrue(level["text"].endswith(unit), level)
        kinds = {k["key"]: k for k in self.tests("si")["kinds"]}
        pressure = next(b for b in kinds["nitrogen"]["blanks"] if b["key"] == "pressure")
        self.assertEqual(pressure["unit"], "kPa")

    def test_a_typed_reading_is_taken_in_its_unit(self):
        self.begin("decay", oil="new")
        for unit, value, shown in (("ip", 300.0, 300.0), ("si", 40.0, 300.0)):
            body = {"id": f"x-{unit}", "run_id": "r", "point": "vacuum_level", "value": value}
            params = {"units": unit}
            answer = self.http.post(f"{HERE}/test-readings", json=body, params=params)
            self.assertEqual(answer.status_code, 200, answer.text)
            rows = list(
                csv.DictReader(io.StringIO(self.http.get(f"{HERE}/tests/r/trace.csv").text))
            )
            self.assertAlmostEqual(float(rows[-1]["vacuum_level [micron]"]), shown, delta=0.1)

    def test_refusals_name_the_value_and_the_fix(self):
        cases = (
            ("nitrogen", {"gas": "oxygen"}, "explodes"),
            ("nitrogen", {"pressure": 500}, "500.0 psig is over 200.0 psig"),
            ("nitrogn", {}, "nitrogen"),
            ("decay", {"gauge": "somewhere"}, "where the gauge sits"),
            ("decay", {"colour": "red"}, "setting"),
            ("ice_bath", {}, "needed before"),
        )
        for test, settings, words in cases:
            with self.subTest(test=test, settings=settings):
                answer = self.begin(test, **settings)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, answer.text)
        self.begin("ice_bath", clamp="suction_line_temp")
        bad = {"id": "y", "run_id": "r", "point": "vacuum_level", "value": 3}
        self.assertEqual(self.http.post(f"{HERE}/test-readings", json=bad).status_code, 422)
        off = {"id": "z", "run_id": "r", "breaks_off": True}
        self.assertIn("Say why", self.http.post(f"{HERE}/test-ends", json=off).text)
        lost = {"id": "q", "run_id": "nobody", "mark": "warmed"}
        self.assertEqual(self.http.post(f"{HERE}/test-marks", json=lost).status_code, 404)

    def test_the_certificate_says_what_it_proves_and_what_it_does_not(self):
        tight = next(t for t in self.tests()["tests"] if t["proves"] and t["key"] == "nitrogen")
        said = self.words(f"{OPENED}/tests/{tight['id']}/certificate.pdf")
        for words in ("Nitrogen test", "Passed. It holds", "Tight, by nitrogen and bubbles",
                      "lower design pressure", "Ferry Hall, Kitchen split", "Signature"):  # fmt: skip
            self.assertIn(words, said)
        decay = next(t for t in self.tests()["tests"] if t["key"] == "decay")
        said = self.words(f"{OPENED}/tests/{decay['id']}/certificate.pdf")
        self.assertIn("Tightness is proven by nitrogen alone", said)
        self.assertIn("Customs of the trade", said)

    def test_the_files_paper_and_the_customers_name_what_was_proven(self):
        said = self.words(f"{OPENED}/report.pdf")
        self.assertIn("Proves: tight, by nitrogen and bubbles", said)
        self.assertIn("Do not start it", said)
        # 5 lb 7.3 oz came out of 5.1 lb + 10 ft x 0.62 oz/ft = 5 lb 7.8 oz: it did not run short.
        self.assertIn("of what belongs in it came out: it did not run short", said)
        number = self.http.get(OPENED).json()["recovered"]["number"]
        self.assertAlmostEqual(number["value"], 100 * 87.3 / 87.8, delta=0.5)
        customers = self.words(f"{OPENED}/report.pdf?whom=customer")
        self.assertIn("Proven: tight", customers)
        self.assertIn("It is open for repair", customers)
        self.assertNotIn("outside what is safe", customers)

    def test_a_bundle_carries_its_tests_and_older_ones_have_none(self):
        bundle = self.http.get(f"{OPENED}/bundle.json").json()
        self.assertEqual(len(bundle["test_runs"]), 4)
        self.assertEqual(sum(e["kind"] == "ended" for e in bundle["test_entries"]), 3)
        from nudge.services.bundle_shape import Bundle

        for key in ("test_runs", "test_entries"):
            del bundle[key]
        Bundle.model_validate(bundle)
