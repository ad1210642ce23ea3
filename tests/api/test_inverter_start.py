"""A new inverter over HTTP: its factory charge, its charge mode, and a mode that goes off."""

from tests.temporary import WithClient

HERE = "/api/visits/new-machine"
TABLE = "length, 1/2, 5/8\n15, 2.4, 4.0\n25, 7.9, 10.4\n50, 21.8, 26.4"
READ = "suct 118 sl 58 liq 341 ll 95 oa 88 ra 76 wb 63"


class InverterStartTest(WithClient):
    def setUp(self):
        super().setUp()
        self.number = 0
        plate = {"factory_charge": 5.5, "line_set_length": 25.0, "vapour_line_size": 0.625}
        plate |= {"target_subcooling": 10.0, "nominal_capacity": 36_000.0}
        body = {"id": "inv", "site_id": "clinic", "name": "Inverter", "refrigerant": "R-410A",
                "metering_device": "eev", **plate}  # fmt: skip
        self.assertEqual(self.http.post("/api/systems", json=body).status_code, 201)
        chart = {"id": "table", "kind": "charge_by_line", "text": TABLE}
        got = self.http.post("/api/systems/inv/charts", json=chart)
        self.assertIn(got.status_code, (200, 201), got.text[:300])
        self.post("/api/visits", id="new-machine", system_id="inv")
        self.write("kinds", kind="new_installation")

    def post(self, path, **body):
        self.number += 1
        self.clock.pass_minutes(1)
        got = self.http.post(path, json={"id": f"x{self.number}", **body})
        self.assertIn(got.status_code, (200, 201), got.text[:400])
        return got.json()

    def write(self, what, **body):
        return self.post(f"{HERE}/{what}", **body)

    def happens(self, kind):
        return self.write("events", kind=kind, happened_at=self.clock.now.isoformat())

    def filled(self):
        for to in ("pressurised", "released", "evacuating", "isolated", "broken"):
            found = self.write("circuit", to=to, reason="for the test")
        return found

    def running(self, minutes=40):
        self.filled()
        self.write("doses", cylinder_id="shelf-410", amount=10.4)
        for step in ("filter", "coils"):
            self.write("ticks", step=step, state="skipped", reason="new")
        self.happens("system_started")
        self.clock.pass_minutes(minutes)

    def read(self):
        return self.write("callouts", text=READ, heard_at=self.clock.now.isoformat())

    def headline(self):
        return self.read()["assessment"]["decision"]["headline"]

    def test_it_begins_open_and_its_own_charge_counts(self):
        found = self.http.get(HERE).json()["circuit"]
        self.assertEqual((found["state"], found["is_empty"]), ("opened", True))
        found = self.filled()["circuit"]
        self.assertIn("the factory charge, 5 lb 8.0 oz, comes in", found["fill"]["said"])
        self.assertIn("weigh in 10.4 oz", found["fill"]["said"])
        self.assertEqual((found["state"], found["live_sum"]["left"]), ("broken", 10.4))
        found = self.write("doses", cylinder_id="shelf-410", amount=10.4)["circuit"]
        self.assertEqual((found["state"], found["sum"]), ("weighed", "R-410A: 6 lb 2.4 oz"))
        self.assertEqual((found["live_sum"]["target"], found["live_sum"]["slot"]), (10.0, 1.0))

    def test_it_is_judged_in_its_charge_mode_and_not_when_that_ends_by_itself(self):
        self.running()
        self.assertEqual(self.headline(), "Start its charge mode.")
        self.happens("charge_mode_full")
        self.clock.pass_minutes(12)
        self.assertEqual(self.headline(), "Wait.")
        self.clock.pass_minutes(25)
        judged = self.read()["assessment"]["decision"]
        self.assertNotIn(judged["headline"], ("Wait.", "Start its charge mode."))
        found = self.happens("charge_mode_lapsed")
        self.assertEqual(found["circuit"]["charge_mode"], "lapsed")
        self.clock.pass_minutes(15)
        self.assertIn("ended by itself", self.read()["assessment"]["decision"]["reason"])

    def test_a_stop_ends_its_mode_too(self):
        self.running()
        self.happens("charge_mode_full")
        self.clock.pass_minutes(35)
        self.assertEqual(self.happens("system_stopped")["circuit"]["charge_mode"], "lapsed")

    def test_it_is_not_left_in_it(self):
        self.running()
        found = self.happens("charge_mode_partial")
        self.assertIn("Charge mode ended", " ".join(found["order"]["dangers"]))
        found = self.happens("charge_mode_ended")
        self.assertNotIn("Charge mode ended", " ".join(found["order"]["dangers"]))

    def test_the_heater_s_hours_are_asked_before_it_is_started(self):
        entries = {"has": "yes", "hours": 3}
        found = self.write("checks", key="crankcase_heater", entries=entries)
        check = next(c for c in found["order"]["checks"] if c["key"] == "crankcase_heater")
        self.assertEqual(check["state"], "bad")
        self.assertIn("Do not start it yet", " ".join(check["said"]))
