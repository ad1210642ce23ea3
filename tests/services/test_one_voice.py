"""One voice: after every act on a visit, everything that speaks of it says the same.

Random visits of twelve acts: readings, corrections, ticks, doses, waits, withdrawals, in any
order, from two windows. The decision, the card, the rail, both papers, the guest's page and Today
are asked after every one.
"""

import unittest
from datetime import timedelta
from random import Random

from nudge.core.visit.calls import call_named
from nudge.services.errors import NotUnderstood
from tests.temporary import WithClient

VISITS, ACTS = 12, 12
LINES = (
    "suct 108 liq 320 sl 56 ll 97 oa 86 ra 76 wb 63", "suct 120.6 liq 356 sl 51 ll 98 oa 88 ra 76",
    "suct 126 liq 400 sl 53 ll 95 oa 90 ra 76 wb 64 sa 57", "suct 113 liq 329 sl 53 ll 96.4",
    "suct 118 liq 345 sl 52 ll 96.3", "sl 58", "ll 101", "lli 96", "sa 61", "suct -4", "liq 560",
    "oa 58", "ra 66", "wb 63", "dl 231", "suct 341 liq 118", "cea 80", "suct 60 sl 74",
)  # fmt: skip
SEEN = ("filter_clean", "filter_dirty", "evaporator_coil_clean", "condenser_coil_clean",
        "condenser_coil_dirty", "condenser_fan_ok", "readings_confirmed", "condenser_wet",
        "condenser_dry", "circuit_never_opened", "standing_pressure_right", "collar_on",
        "oil_seen_at_joint", "bulb_test_no_reaction")  # fmt: skip
EVENTS = ("system_started", "filter_changed", "condenser_cleaned", "refrigerant_added",
          "collar_on", "collar_off", "system_stopped")  # fmt: skip
FAULTS_OF_CHARGE = {"add": "undercharge", "find_leak": "undercharge", "remove": "overcharge"}


class OneVoice(WithClient):
    """What both the test and the study of one voice do."""

    def begin(self, name: str, rng: Random) -> None:
        system = {"id": name, "site_id": "seed-library", "name": name, "refrigerant": "R-410A",
                  "metering_device": rng.choice(("txv", "fixed_orifice", "eev")),
                  "nominal_capacity": 36000, "rated_seer": 14, "target_subcooling": 10,
                  "factory_charge": 6.6}  # fmt: skip
        self.assertEqual(self.http.post("/api/systems", json=system).status_code, 201)
        self.http.post("/api/visits", json={"id": name, "system_id": name})
        link = self.http.post(f"/api/visits/{name}/links", json={}).json()
        self.token = link["path"].removeprefix("/look/")

    def act(self, name: str, number: int, rng: Random) -> str:
        """One act from one of two windows, each with its own idea of the time."""
        act_id, path = f"{name}-{number}", f"/api/visits/{name}"
        now = (self.clock() - timedelta(minutes=rng.choice((0, 0, 0, 4)))).isoformat()
        kind = rng.choice(("read", "read", "read", "tick", "tick", "dose", "event", "wait", "wait",
                           "correct", "undo"))  # fmt: skip
        if kind == "read":
            body = {"id": act_id, "text": rng.choice(LINES), "heard_at": now}
            self.http.post(f"{path}/callouts", json=body)
        elif kind == "tick":
            body = {"id": act_id, "key": rng.choice(SEEN), "seen": rng.random() < 0.85}
            self.http.post(f"{path}/observations", json=body)
        elif kind in ("event", "dose"):
            what = "refrigerant_added" if kind == "dose" else rng.choice(EVENTS)
            body = {"id": act_id, "kind": what, "happened_at": now}
            if what == "refrigerant_added":
                body["amount"] = rng.choice((0.5, 3, 6.5, 20))
            self.http.post(f"{path}/events", json=body)
        elif kind == "wait":
            self.clock.pass_minutes(rng.choice((2, 7, 16, 40)))
        elif kind == "correct":
            readings = self.http.get(path).json()["readings"]
            if readings:
                row = rng.choice(readings)
                body = {"id": act_id, "reading_id": row["id"], "text": f"{row['value'] + 1:.1f}"}
                self.http.post(f"{path}/corrections", json=body)
        else:
            self.http.post(f"{path}/withdrawals", json={"id": act_id})
        return kind

    def contradictions(self, name: str) -> list[str]:
        """Everything that says something else than the decision."""
        visit = self.http.get(f"/api/visits/{name}").json()
        if visit["assessment"] is None:
            return []
        decision, charge = visit["assessment"]["decision"], visit["assessment"]["charge"]
        found = []

        def same(who: str, said: object, meant: object) -> None:
            if said != meant:
                found.append(f"{who}: {said!r}, not {meant!r}")

        for key in ("state", "advice", "headline", "reason"):
            same(f"charge.{key}", charge[key], decision[key])
        card = self.http.get(f"/api/visits/{name}/nudge").json()
        moves = decision["advice"] in ("add", "remove")
        same("card moves", card["action"] in ("add", "remove"), moves)
        same("card's decision", card["assessment"]["decision"]["key"], decision["key"])
        same("card's moment", card["ready_at"], decision["ready_at"])
        if moves:
            same("card's amount", card["amount"], abs(decision["dose"]["amount"]))
            same("card's way", card["action"], decision["advice"])
        else:
            same("no dose", decision["dose"], None)
        order = self.http.get(f"/api/visits/{name}/order").json()
        if decision["stage"] in call_named("").stages:
            same("rail", order["here"], decision["stage"])
        guest = self.http.get(f"/api/guest/{self.token}").json()["visit"]["assessment"]["decision"]
        same("guest", guest, decision)
        today = self.http.get("/api/today").json()["under_way"]
        line = next(one for one in today if one["id"] == name)
        same(
            "today", (line["headline"], line["advice"]), (decision["headline"], decision["advice"])
        )
        suspects = visit["assessment"]["suspects"]
        wants = FAULTS_OF_CHARGE.get(decision["advice"])
        if wants and suspects and not visit["doses"]:
            same("its leading suspect", suspects[0]["fault"], wants)
        if decision["advice"] == "leave" and decision["key"] == "right" and not visit["doses"]:
            leads = suspects[0]["fault"] if suspects[0]["belief"] >= 0.5 else ""
            same("left alone", leads in ("undercharge", "overcharge"), False)
        return found


class OneVoiceTest(OneVoice):
    def test_random_visits_speak_with_one_voice(self):
        rng = Random(20261128)
        judged = 0
        for visit in range(VISITS):
            name = f"voice-{visit}"
            self.begin(name, rng)
            for number in range(ACTS):
                kind = self.act(name, number, rng)
                with self.subTest(visit=visit, act=number, kind=kind):
                    self.assertEqual(self.contradictions(name), [])
                    judged += 1
        self.assertEqual(judged, VISITS * ACTS)

    def test_the_papers_say_the_decision(self):
        name = "papers"
        self.begin(name, Random(3))
        line = {"id": "c", "text": LINES[0], "heard_at": self.clock().isoformat()}
        self.http.post(f"/api/visits/{name}/callouts", json=line)
        from nudge.reports.written import verdict_lines

        visit = self.http.get(f"/api/visits/{name}").json()
        decision = visit["assessment"]["decision"]
        snapshot = self.workshop.visits.snapshot(name)
        from nudge.api.schemas.visits import visit_out

        said = verdict_lines(visit_out(snapshot, "ip"))
        self.assertEqual(said[:2], [decision["headline"], decision["reason"]])


class DoseInTimeTest(OneVoice):
    LOW = "suct 108 liq 320 sl 56 ll 97 oa 86 ra 76 wb 63"

    def low(self) -> dict:
        self.begin("time", Random(1))
        self.http.patch("/api/systems/time", json={"metering_device": "txv"})
        self.say("event", kind="system_started", happened_at=self.clock().isoformat())
        self.clock.pass_minutes(30)
        for key in ("filter_clean", "evaporator_coil_clean", "condenser_coil_clean",
                    "condenser_fan_ok", "readings_confirmed"):  # fmt: skip
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
        return self.say("event", kind="refrigerant_added", amount=ounces,
                        happened_at=self.clock().isoformat())  # fmt: skip

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
        self.assertEqual((self.decision()["key"], self.decision()["advice"]),
                         ("in_vain", "do_not_charge"))  # fmt: skip

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
        self.assertIn("liquid line", after["reason"])

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
        self.assertEqual(next(v["headline"] for v in today if v["id"] == "time"),
                         self.decision()["headline"])  # fmt: skip

    def test_suction_in_a_vacuum_is_written_down_and_not_refused(self):
        self.begin("time", Random(5))
        visit = self.read("suct -9 liq 300 sl 70 ll 88 oa 85 ra 77")
        self.assertIn("in_vacuum", [h["key"] for h in visit["assessment"]["hazards"]])
        with self.assertRaises(NotUnderstood):
            self.workshop.visits.hear("time", "x", "liq 3000", "ip", self.clock())


if __name__ == "__main__":
    unittest.main()
