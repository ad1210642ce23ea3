"""What leaves Nudge: reports, readings, bundles; and what comes back from another one."""

import csv
import io
import json
import zlib
from pathlib import Path

from pypdf import PdfReader

from nudge.services.bundle_shape import bundle_schema
from nudge.services.workshop import Workshop
from nudge.store.database import Database
from tests.api.test_whole_visit import picture
from tests.temporary import HandClock, WithClient

ROOT = Path(__file__).parents[2]
HERE = "/api/visits/pottery-now"


def streams(pdf: bytes) -> bytes:
    """Every compressed stream of a PDF, opened."""
    found = b""
    for part in pdf.split(b"stream\n")[1:]:
        try:
            found += zlib.decompress(part.split(b"\nendstream")[0])
        except zlib.error:
            continue
    return found


class ReportTest(WithClient):
    def report(self, visit="pottery-now", **query):
        answer = self.http.get(f"/api/visits/{visit}/report.pdf", params=query)
        self.assertEqual(answer.status_code, 200, answer.text[:300])
        self.assertTrue(answer.content.startswith(b"%PDF"))
        return answer

    def words(self, visit, **query):
        """A paper read back, its lines joined."""
        read = PdfReader(io.BytesIO(self.report(visit, **query).content))
        return " ".join(" ".join(page.extract_text() for page in read.pages).split())

    def test_both_papers_say_whose_they_are_and_the_customers_who_to_call(self):
        card = {"name": "The Slip", "call": "Skerrow 300", "licence": "Licence of the harbour"}
        self.assertEqual(self.http.patch("/api/workshop", json=card).status_code, 200)
        customer = self.words("clinic-2", whom="customer")
        self.assertIn("Who to call Skerrow 300 · Licence of the harbour", customer)
        for words in (customer, self.words("clinic-2")):
            self.assertIn("The Slip", words)
        self.http.patch("/api/workshop", json=dict.fromkeys(card, ""))
        self.assertNotIn("Who to call", self.words("clinic-2", whom="customer"))

    def test_a_paper_with_a_danger_open_does_not_say_that_nothing_is_left(self):
        dangers = self.http.get("/api/visits/clinic-2").json()["order"]["dangers"]
        words = self.words("clinic-2", whom="customer")
        for danger in dangers:
            self.assertIn(danger, words)
        self.assertTrue(dangers)
        self.assertNotIn("Nothing is left open", words)

    def test_the_customer_sees_before_and_after_where_something_was_changed(self):
        seen = self.http.get("/api/visits/clinic-2").json()["footprints"]
        words = self.words("clinic-2", whom="customer")
        first, last = seen[0]["superheat"], seen[-1]["superheat"]
        self.assertRegex(words, rf"how well the indoor coil is fed {first:.1f} °F {last:.1f} °F")
        self.assertNotIn("Before and after", self.words("pottery-now", whom="customer"))
        metric = self.words("clinic-2", whom="customer", units="si")
        self.assertRegex(metric, rf"is fed {first / 1.8:.1f} K {last / 1.8:.1f} K")

    def test_the_papers_say_the_decision_of_the_screen(self):
        for visit in ("pottery-now", "clinic-2", "seed-library-now"):
            decision = self.http.get(f"/api/visits/{visit}").json()["assessment"]["decision"]
            self.assertIn(" ".join(decision["headline"].split()), self.words(visit))

    def test_the_map_and_the_strips_on_paper_carry_the_screens_words(self):
        seen = self.http.get("/api/visits/clinic-2").json()["target_map"][-1]
        words = self.words("clinic-2")
        for letters in seen["letters"]:
            self.assertIn(letters["text"], words)
        live = self.words("radio-room-live", zone="Asia/Kathmandu")
        self.assertIn("Settling", live)
        self.assertIn("started", live)

    def test_the_record_draws_the_loop_as_vectors_and_embeds_pictures(self):
        without = self.report()
        self.assertNotIn(b"/Subtype /Image", without.content)
        drawn = streams(without.content)
        self.assertGreater(drawn.count(b" l S"), 40)  # lines of the Loop, the map, the tables
        for number in range(4):
            self.http.put(
                f"{HERE}/photos/p{number}?subsystem=outdoor", content=picture((2000, 1500))
            )
        with_four = self.report()
        self.assertEqual(with_four.content.count(b"/Subtype /Image"), 4)
        self.assertLess(len(with_four.content), 2_000_000)

    def test_the_customers_page_is_one_page(self):
        text = " ".join(["needs a long look"] * 30)
        for number in range(12):
            self.http.post(f"{HERE}/deferred", json={"id": f"d{number}", "text": text[:490]})
        self.http.patch(HERE, json={"complaint": text * 3})
        pdf = self.report(whom="customer").content
        self.assertEqual(pdf.count(b"/Type /Page\n"), 1)

    def test_names_in_any_script_and_very_long_ones(self):
        for name in ("港の図書館", "مكتبة البذور", "Гавань", "Λιμάνι", "S" * 1900):
            self.http.patch("/api/sites/pottery-studio", json={"name": name})
            for whom in ("file", "customer"):
                answer = self.report(whom=whom)
            self.assertIn("filename*=UTF-8''", answer.headers["content-disposition"])

    def test_times_stand_on_the_readers_clock_across_the_change_of_the_hour(self):
        from datetime import UTC, datetime
        from zoneinfo import ZoneInfo

        from nudge.reports.attached import Subject

        subject = Subject(None, None, "ip", "", ZoneInfo("Europe/Lisbon"))
        before, after = (
            datetime(2026, 10, 25, 0, 30, tzinfo=UTC),
            datetime(2026, 10, 25, 1, 30, tzinfo=UTC),
        )
        self.assertEqual(subject.at(before), "2026-10-25 01:30 WEST")
        self.assertEqual(subject.at(after), "2026-10-25 01:30 WET")

    def test_a_visit_with_nothing_on_it_has_a_report_too(self):
        self.http.post("/api/visits", json={"id": "empty", "system_id": "fish-cold-room"})
        self.report("empty")
        self.report("empty", whom="customer", units="si", zone="No/Where")
        self.assertEqual(self.http.get("/api/visits/none/report.pdf").status_code, 404)

    def test_readings_leave_as_csv(self):
        rows = list(csv.DictReader(io.StringIO(self.http.get(f"{HERE}/readings.csv").text)))
        suction = next(row for row in rows if row["point"] == "suction_pressure")
        self.assertEqual((suction["unit"], suction["source"]), ("psig", "typed"))
        self.assertEqual(len(rows), len(self.http.get(HERE).json()["readings"]))


class BundleTest(WithClient):
    def other(self):
        """Another, empty Nudge."""
        import tempfile

        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        database = Database(Path(folder.name))
        self.addCleanup(database.close)
        return Workshop(database, HandClock())

    def bundle(self, path="/api/systems/pottery-kiln/bundle.json"):
        return self.http.get(path).json()

    def test_a_system_goes_into_an_empty_nudge_and_comes_out_identical(self):
        self.http.put(f"{HERE}/photos/p1?subsystem=outdoor&caption=港", content=picture())
        self.http.post(f"{HERE}/notes", json={"id": "n1", "subsystem": "site", "text": "Ключ"})
        self.http.post(f"{HERE}/ticks", json={"id": "t1", "step": "tools", "state": "done"})
        self.http.post(f"{HERE}/doses", json={"id": "d1", "cylinder_id": "shelf-22", "amount": 4})
        for system in ("pottery-kiln", "lighthouse-lamp", "radio-transmitter"):
            given = self.bundle(f"/api/systems/{system}/bundle.json")
            other = self.other()
            found = other.bundles.take_in(json.dumps(given).encode())
            self.assertEqual(found.systems, 1)
            back = json.loads(json.dumps(other.bundles.of_system(system)))
            for key in given:
                if key != "made_at":
                    self.assertEqual(back[key], given[key], (system, key))
            again = other.bundles.take_in(json.dumps(given).encode())
            self.assertEqual((again.visits, again.already_here), (0, len(given["visits"])))
        self.assertEqual(other.shelf.all(), [])  # what is not ours does not stand on our shelf

    def test_what_does_not_fit_is_refused_with_reasons_and_nothing_changes(self):
        good = self.bundle()
        other = self.other()

        def refused(change):
            given = json.loads(json.dumps(good))
            change(given)
            with self.assertRaises(Exception) as caught:
                other.bundles.take_in(json.dumps(given).encode())
            self.assertEqual(other.book.sites(), [])
            return caught.exception.text("ip")

        self.assertIn("version 9", refused(lambda b: b.update(version=9)))
        self.assertIn("nudge-bundle", refused(lambda b: b.update(format="something-else")))
        self.assertIn("R-999", refused(lambda b: b["systems"][0].update(refrigerant="R-999")))
        self.assertIn("not in the bundle", refused(lambda b: b["systems"].clear()))
        self.assertIn("furlong", refused(lambda b: b["readings"][0].update(given_unit="furlong")))
        self.assertIn("extra", refused(lambda b: b["visits"][0].update(grade="A")).lower())
        self.assertIn("danced", refused(lambda b: b["events"][0].update(kind="danced")))
        for data in (b"[]", b"\xff\xfe"):
            self.assertEqual(self.http.post("/api/bundles", content=data).status_code, 422)

    def test_a_visit_that_is_here_and_says_something_else_is_refused(self):
        given = self.bundle("/api/visits/pottery-now/bundle.json")
        given["readings"][0]["given_value"] += 1
        answer = self.http.post("/api/bundles", content=json.dumps(given))
        self.assertEqual(answer.status_code, 422)
        self.assertIn("says something else", answer.json()["errors"][0]["message"])

    def test_the_published_schema_is_the_one_that_is_kept_to(self):
        text = (ROOT / "docs/formats/nudge-bundle.schema.json").read_text("utf-8")
        self.assertEqual(json.loads(text), bundle_schema())
