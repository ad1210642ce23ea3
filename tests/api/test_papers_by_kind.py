"""What each kind of visit puts on paper: heat, the look with caps on, checks, a rest left behind."""

import io
import unittest

from pypdf import PdfReader

from tests.temporary import WithClient

HALL = "school-hall-live"
HERE = "/api/visits/pottery-now"
IN_WINTER = "ra 69 rh 37 sa 92 oa 37 cfm 1180 suct 97 liq 325 ts 38 ll 87"


class PapersByKindTest(WithClient):
    def words(self, visit="pottery-now", **query):
        """A paper read back, its lines joined."""
        answer = self.http.get(f"/api/visits/{visit}/report.pdf", params=query)
        self.assertEqual(answer.status_code, 200, answer.text[:300])
        pages = PdfReader(io.BytesIO(answer.content)).pages
        return " ".join(" ".join(page.extract_text() for page in pages).split())

    def write(self, what, visit="pottery-now", **body):
        answer = self.http.post(f"/api/visits/{visit}/{what}", json={"id": f"w-{what}", **body})
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def in_winter(self):
        now = self.clock().isoformat()
        self.write("events", HALL, kind="system_started", happened_at=now)
        self.clock.pass_minutes(45)
        return self.write("callouts", HALL, text=IN_WINTER, heard_at=self.clock().isoformat())

    def test_a_winter_s_heat_stands_on_its_record_as_on_the_screen(self):
        seen = self.in_winter()
        words = self.words(HALL, whom="file")
        self.assertIn("Heat", words)
        shown = [row for row in seen["heat"]["rows"] if row["now"]]
        self.assertTrue(shown)
        for row in shown:
            self.assertIn(" ".join(row["label"].split()), words)
            self.assertIn(row["now"]["text"], words)
        self.assertIn(" ".join(seen["assessment"]["decision"]["headline"].split()), words)

    def test_the_heating_line_is_drawn_with_the_screen_s_own_words(self):
        line = self.in_winter()["heat"]["line"]
        self.assertTrue(line)
        words = self.words(HALL, whom="file")
        for letter in line[-1]["letters"]:
            self.assertIn(" ".join(letter["text"].split()), words)

    def test_in_other_units_nothing_of_the_first_is_left(self):
        self.in_winter()
        words = self.words(HALL, whom="file", units="si")
        heat = words.partition("Heat")[2].partition("Order of work")[0]
        self.assertRegex(heat, r"kW|W\b")
        self.assertNotRegex(heat, r"Btu|°F|CFM")

    def test_a_summer_s_record_has_no_heat_on_it(self):
        self.assertNotIn("heating line", self.words(whom="file"))

    def test_what_a_check_found_wrong_is_told_to_the_customer_in_its_words(self):
        found = self.write("checks", key="filter", entries={"face": "dirty", "second": "none"})
        (said,) = next(c["said"] for c in found["order"]["checks"] if c["key"] == "filter")
        self.assertIn(f"Filter: {said}", self.words(whom="customer"))
        self.assertIn(said, self.words(whom="file"))

    def test_what_was_right_is_on_the_record_and_not_the_customer_s_trouble(self):
        found = self.write("checks", key="drain", entries={"runs": "yes", "pan": "dry"})
        (said,) = next(c["said"] for c in found["order"]["checks"] if c["key"] == "drain")
        self.assertIn(said, self.words(whom="file"))
        self.assertNotIn(f"Drain: {said}", self.words(whom="customer"))

    def test_looked_at_with_its_caps_on_the_customer_reads_that_it_was_not_opened(self):
        self.http.post("/api/visits", json={"id": "look", "system_id": "seed-library-stacks"})
        self.write("kinds", "look", kind="yearly_check")
        now = self.clock().isoformat()
        self.write("events", "look", kind="system_started", happened_at=now)
        self.clock.pass_minutes(30)
        line = "oa 85 ra 76 wb 63 sa 57 sl 52 ll 96"
        seen = self.write("callouts", "look", text=line, heard_at=self.clock().isoformat())
        self.assertIsNotNone(seen["look"])
        words = self.words("look", whom="customer")
        opens = seen["look"]["decision"] != "leave_caps_on"
        self.assertEqual("it was not opened" in words, not opens)
        self.assertEqual("ask for a closer look with gauges" in words, opens)

    def test_what_is_left_for_another_day_is_on_both(self):
        text = "Straighten the fins of the outdoor coil"
        answer = self.http.post(f"{HERE}/deferred", json={"id": "d1", "text": text})
        self.assertIn(answer.status_code, (200, 201), answer.text)
        for whom in ("file", "customer"):
            self.assertIn(text, self.words(whom=whom))

    def test_a_step_skipped_with_a_reason_prints_the_reason(self):
        self.write("ticks", step="history", state="skipped", reason="new owner, no book")
        self.assertIn("because: new owner, no book", self.words(whom="file"))


if __name__ == "__main__":
    unittest.main()
