"""What the visit on one screen is answered with: stage, parts, probes, stops, search by year."""

from datetime import UTC, datetime, timedelta

from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.language.vocabulary.actions import STOP_REASONS
from nudge.core.language.vocabulary.parts import PARTS
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.visit.calls import CALLS
from nudge.core.visit.steps import STEPS
from tests.temporary import WithClient

VISIT = "/api/visits/seed-library-now"
AT = (datetime.now(UTC) + timedelta(hours=20)).isoformat()


class StageRoutesTest(WithClient):
    def seen(self, **query):
        return self.http.get(VISIT, params=query).json()

    def test_every_frame_holds_the_four_numbers_as_the_assessment_has_them(self):
        visit = self.seen()
        derived = visit["assessment"]["derived"]
        for drawn in visit["stage"]:
            shown = {one["key"]: one["text"] for one in drawn["numbers"]}
            for key, text in shown.items():
                self.assertEqual(text, f"{derived[key]:.1f}", drawn["frame"])
            self.assertIn(f"Superheat {shown['superheat']} °F", drawn["words"])

    def test_the_look_says_what_a_gauge_should_show_and_it_stays_beside_the_reading(self):
        look = self.http.get("/api/visits/ferry-hall-now").json()
        low = next(n for n in look["stage"][-1]["numbers"] if n["key"] == "evaporator_saturation")
        self.assertRegex(low["words"][1], r"a gauge should show \d+ ± \d+ psig")
        self.assertEqual(look["estimated"], {})
        visit = self.seen()
        self.assertEqual(set(visit["estimated"]), {"suction_pressure", "liquid_pressure"})
        self.assertRegex(visit["estimated"]["suction_pressure"], r"^\d+ psig ±")

    def test_why_it_does_not_run_is_kept_shown_and_taken_back(self):
        for key, words in STOP_REASONS.items():
            body = {"id": f"stop-{key}", "kind": "system_stopped", "happened_at": AT, "why": key}
            answer = self.http.post(f"{VISIT}/events", json=body)
            self.assertEqual(answer.status_code, 200, key)
            self.assertEqual(self.seen()["stopped_because"], words)
            self.http.post(f"{VISIT}/withdrawals", json={"id": f"w-{key}", "of": f"stop-{key}"})
            self.assertEqual(self.seen()["stopped_because"], "")
        wrong = {"id": "x", "kind": "system_stopped", "happened_at": AT, "why": "gremlins"}
        self.assertEqual(self.http.post(f"{VISIT}/events", json=wrong).status_code, 422)

    def test_a_call_lists_what_it_reads_and_what_is_missing(self):
        order = self.seen()["order"]
        probes = {one["point"]: one["is_read"] for one in order["probes"]}
        self.assertEqual(tuple(probes), CALLS["cooling_complaint"].probes)
        read = {r["point"] for r in self.seen()["readings"] if r["state"] == "current"}
        self.assertEqual({p for p, is_read in probes.items() if is_read}, read & set(probes))
        for call in CALLS.values():
            self.assertLessEqual(set(call.probes), set(POINTS), call.key)

    def test_every_fact_is_seen_at_a_part_that_can_be_touched(self):
        words = self.http.get("/api/vocabulary").json()
        parts = {one["key"] for one in words["parts"]}
        self.assertEqual(parts, set(PARTS))
        for fact in words["observations"]:
            self.assertIn(fact["part"], parts, fact["key"])
            self.assertEqual(fact["where"], OBSERVATIONS[fact["key"]].group)
        yard = self.http.get("/api/visits/radio-room-live/yard").json()
        for job in yard["jobs"]:
            self.assertIn(job["part"], parts, job["key"])
        for step in STEPS:
            self.assertIn(step.part, {"", *parts}, step.key)
            self.assertTrue(step.stage == "close" or step.part == "", step.key)

    def test_a_visit_is_found_by_its_year_and_by_its_house(self):
        def found(text):
            hits = self.http.get("/api/search", params={"text": text}).json()
            return [one for one in hits if one["kind"] == "visit"]

        year = str(self.clock().year)
        self.assertTrue(found(f"lighthouse {year}") or found(f"lighthouse {int(year) - 1}"))
        self.assertEqual(found("lighthouse 1931"), [])
        self.assertTrue(any(hit["below"].endswith(f", {year}") for hit in found("lamp room")))

    def test_several_visits_are_known_before_they_are_followed(self):
        params = [("visit", "seed-library-now"), ("visit", "no-such-visit")]
        self.assertEqual(self.http.get("/api/stream", params=params).status_code, 404)
        self.assertEqual(self.http.get("/api/stream").status_code, 422)
