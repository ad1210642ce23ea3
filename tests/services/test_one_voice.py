"""One voice: after every act on a visit, everything that speaks of it says the same.

Random visits of twelve acts: readings, corrections, ticks, doses, waits, withdrawals, in any
order, from two windows. The decision, the card, the rail, both papers, the guest's page and Today
are asked after every one.
"""

import unittest
from datetime import timedelta
from random import Random

from nudge.presenters.visits import visit_out
from nudge.reports.written import verdict_lines
from nudge.services.errors import NotUnderstood
from tests.temporary import WithClient
from tools.one_voice import ACTS, Voice

VISITS = 5


class OneVoiceTest(WithClient):
    def voice(self) -> Voice:
        def paper(name: str) -> list[str]:
            return verdict_lines(visit_out(self.workshop.visits.snapshot(name), "ip"))

        return Voice(self.http, self.clock, self.clock.pass_minutes, paper)

    def test_random_visits_speak_with_one_voice(self):
        rng, voice, judged = Random(20261128), self.voice(), 0
        for visit in range(VISITS):
            name = f"voice-{visit}"
            voice.begin(name, rng, "seed-library")
            for number in range(ACTS):
                kind = voice.act(name, number, rng)
                with self.subTest(visit=visit, act=number, kind=kind):
                    self.assertEqual(voice.contradictions(name), [])
                    judged += 1
        self.assertEqual(judged, VISITS * ACTS)


class DoseInTimeTest(WithClient):
    def begin(self) -> None:
        system = {
            "id": "time",
            "site_id": "seed-library",
            "name": "time",
            "refrigerant": "R-410A",
            "metering_device": "txv",
            "nominal_capacity": 36000,
            "rated_seer": 14,
            "target_subcooling": 10,
            "factory_charge": 6.6,
        }
        self.http.post("/api/systems", json=system)
        self.http.post("/api/visits", json={"id": "time", "system_id": "time"})

    LOW = "suct 108 liq 320 sl 56 ll 97 oa 86 ra 76 wb 63"

    def low(self) -> dict:
        self.begin()
        self.say("event", kind="system_started", happened_at=self.clock().isoformat())
        self.clock.pass_minutes(30)
        for key in (
            "filter_clean",
            "evaporator_coil_clean",
            "condenser_coil_clean",
            "condenser_fan_ok",
            "readings_confirmed",
        ):
            self.say("observation", key=key, seen=True)
        return self.read(self.LOW)

    def say(self, what: str, **body: object) -> dict:
        self.count = getattr(self, "count", 0) + 1
        answer = self.http.post(f"/api/visits/time/{what}s", json={"id": f"w{self.count}", **body})
        self.assertLess(answer.status_code, 300, answer.text)
        return answer.json()

    def read(self, text: str) -> dict:
        return self.say("callout", text=text, heard_at=self.clock().isoformat())

    def dose(self, ounces: float) -> dict:
        return self.say(
            "event", kind="refrigerant_added", amount=ounces, happened_at=self.clock().isoformat()
        )

    def decision(self) -> dict:
        return self.http.get("/api/visits/time").json()["assessment"]["decision"]

    def test_a_reading_during_the_wait_does_not_close_the_moment_of_its_dose(self):
        self.assertEqual(self.low()["assessment"]["decision"]["advice"], "add")
        self.dose(6.5)
        ready = self.decision()["ready_at"]
        self.clock.pass_minutes(3)
        self.read(self.LOW)  # too soon to answer anything
        self.assertEqual(self.decision()["ready_at"], ready)
        self.clock.pass_minutes(12)
        self.read(self.LOW)
        past = self.workshop.visits.snapshot("time").context.past
        self.assertAlmostEqual(past.added_since_kg, 6.5 * 0.0283495, places=4)
        self.assertEqual(len(past.moments), 1)
        self.dose(11.5)
        self.clock.pass_minutes(15)
        self.read(self.LOW)
        self.assertEqual(
            (self.decision()["key"], self.decision()["advice"]), ("in_vain", "do_not_charge")
        )

    def test_two_things_asked_in_one_breath_are_said_by_all(self):
        self.low()
        self.say("observation", key="readings_confirmed", seen=False)
        self.read("suct 104 liq 300 sl 46 ll 96 oa 90 ra 76")
        decision = self.decision()
        asked = [decision["hangs_on"], *decision["also_hangs_on"]]
        self.assertEqual(
            [one["key"] for one in asked], ["liquid_line_temp_indoor", "standing_pressure"]
        )
        lines = verdict_lines(visit_out(self.workshop.visits.snapshot("time"), "ip"))
        self.assertIn(f"It hangs on: {asked[0]['label']}, and {asked[1]['label']}.", lines)
        card = self.http.get("/api/visits/time/nudge").json()
        self.assertNotIn(card["action"], ("add", "remove"))
        guest = self.http.get("/api/visits/time").json()["assessment"]["charge"]
        self.assertEqual(guest["headline"], decision["headline"])

    def test_the_moment_to_read_is_stored_and_absolute(self):
        self.low()
        self.dose(3)
        event = self.workshop.visits.snapshot("time").visit.standing_events[-1]
        self.assertEqual(event.ready_at, self.clock() + timedelta(minutes=10))
        said = {self.decision()["ready_at"]}
        for _ in range(3):
            self.clock.pass_minutes(2)
            said.add(self.decision()["ready_at"])
            said.add(self.http.get("/api/visits/time/nudge").json()["ready_at"])
        self.assertEqual(len(said), 1)

    def test_a_withdrawn_reading_takes_the_advice_that_hung_on_it(self):
        self.low()
        self.assertEqual(self.decision()["advice"], "add")
        rows = self.http.get("/api/visits/time").json()["readings"]
        liquid = next(row["id"] for row in rows if row["point"] == "liquid_line_temp")
        after = self.say("withdrawal", reading_id=liquid)["assessment"]["decision"]
        self.assertEqual((after["advice"], after["dose"]), ("do_not_charge", None))
        self.assertIn(
            "Taken back: liquid line. What was advised on it no longer stands", after["reason"]
        )

    def test_a_clock_set_back_does_not_turn_the_visit_round(self):
        self.low()
        self.dose(6.5)
        self.clock.pass_minutes(-120)  # the machine's clock was put right in the middle of it
        self.clock.pass_minutes(12)
        visit = self.read("suct 113 liq 329 sl 53 ll 96.4 oa 86 ra 76 wb 63")
        self.assertNotEqual(visit["assessment"]["decision"]["ready_at"], None)
        moments = [row["taken_at"] for row in visit["readings"]]
        self.assertEqual(max(moments), visit["readings"][-1]["taken_at"])

    def test_the_plate_changed_in_mid_visit_asks_and_is_judged_again(self):
        self.low()
        path = "/api/systems/time"
        asked = self.http.patch(path, json={"refrigerant": "R-22"})
        self.assertEqual(asked.status_code, 409)
        self.assertIn("wrong until now", asked.json()["errors"][0]["message"])
        self.assertEqual(self.http.get(path).json()["system"]["refrigerant"], "R-410A")
        wrong = self.http.patch(path, json={"refrigerant": "R-32", "wrong_until_now": True})
        self.assertEqual(wrong.status_code, 200)
        self.assertIn("Judged again as R-32", self.decision()["reason"])
        self.http.patch(path, json={"metering_device": "eev", "wrong_until_now": False})
        self.assertEqual(self.decision()["order"], "clocks")
        kinds = [e.kind for e in self.workshop.visits.snapshot("time").visit.standing_events]
        self.assertEqual(kinds[-2:], ["plate_corrected", "plate_changed"])
        today = self.http.get("/api/today").json()["under_way"]
        self.assertEqual(
            next(v["headline"] for v in today if v["id"] == "time"), self.decision()["headline"]
        )

    def test_suction_in_a_vacuum_is_written_down_and_not_refused(self):
        self.begin()
        visit = self.read("suct -9 liq 300 sl 70 ll 88 oa 85 ra 77")
        self.assertIn("in_vacuum", [h["key"] for h in visit["assessment"]["hazards"]])
        with self.assertRaises(NotUnderstood):
            self.workshop.visits.hear("time", "x", "liq 3000", "ip", self.clock())


if __name__ == "__main__":
    unittest.main()
