"""The judge over HTTP: history in the request, contradictions, estimates, changes of mind."""

from nudge.contract.answer_shapes import AssessOut
from nudge.contract.assessing import assess_request
from nudge.contract.plain import plain_text
from nudge.contract.request import AssessIn
from tests.temporary import WithClient

SYSTEM = {
    "refrigerant": "R-410A",
    "metering_device": "txv",
    "target_subcooling": 10,
    "nominal_capacity": 36000,
    "rated_seer": 14,
}
LOW = {
    "suction_pressure": 106,
    "liquid_pressure": 300,
    "suction_line_temp": 60,
    "liquid_line_temp": 94,
    "outdoor_air_temp": 86,
    "return_air_temp": 76,
    "return_air_wet_bulb": 63,
}
SETTLED = {"minutes_running": 30, "minutes_since_change": 30}


def request(**context: object) -> dict[str, object]:
    return {"system": SYSTEM, "readings": LOW, "context": {**SETTLED, **context}}


def answered(**context: object) -> AssessOut:
    return assess_request(AssessIn.model_validate(request(**context)))


class JudgingTest(WithClient):
    def assess(self, **context):
        answer = self.http.post("/api/assess", json=request(**context))
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_the_answer_holds_what_the_screen_speaks_of(self):
        answer = self.assess()
        self.assertEqual(answer["charge"]["advice"], "add")
        self.assertAlmostEqual(sum(s["belief"] for s in answer["suspects"]), 1, delta=0.002)
        leader = answer["suspects"][0]
        self.assertEqual(leader["fault"], "undercharge")
        self.assertEqual(len(leader["for"]), len(leader["for_signs"]))
        signs = {sign["key"]: sign for sign in answer["signs"]}
        self.assertAlmostEqual(
            signs["subcooling"]["off"],
            signs["subcooling"]["value"] - signs["subcooling"]["expected"],
            delta=0.02,
        )
        self.assertIn("liquid_line_temp", signs["subcooling"]["points"])
        self.assertIsNotNone(leader["lands"])
        air = next(s for s in answer["suspects"] if s["fault"] == "condenser_airflow")
        self.assertIn("condenser_coil_clean", air["acquits"])
        self.assertIn("condenser_coil_dirty", air["convicts"])

    def test_contradicting_ticks_are_set_aside_and_said(self):
        answer = self.assess(observations=["condenser_coil_clean", "condenser_coil_dirty"])
        warned = {gate["key"]: gate["message"] for gate in answer["readiness"]}
        self.assertIn("condenser coil clean, condenser coil dirty", warned["looks_contradict"])
        self.assertEqual(answer["charge"]["advice"], self.assess()["charge"]["advice"])

    def test_a_gate_passed_in_the_request_is_printed_and_adds_nothing(self):
        shut = self.assess(minutes_since_change=1)
        self.assertEqual(
            [g["may_pass"] for g in shut["readiness"] if g["effect"] == "blocks"], [True]
        )
        passed = self.assess(minutes_since_change=1, passed={"just_changed": "no time"})
        self.assertEqual(passed["charge"]["advice"], "do_not_charge")
        self.assertEqual(passed["charge"]["state"], "low")
        self.assertIn("no time", next(g["message"] for g in passed["readiness"] if g["passed"]))
        wrong = self.http.post("/api/assess", json=request(passed={"just_change": "no time"}))
        self.assertEqual(wrong.status_code, 422)
        self.assertIn("just_changed", wrong.text)

    def test_estimates_and_stale_readings_prove_nothing(self):
        answer = self.assess(estimated=list(LOW))
        self.assertNotEqual(answer["charge"]["advice"], "add")
        self.assertIn("nothing here is proven", str(answer["readiness"]))
        answer = self.assess(stale=["liquid_line_temp"])
        self.assertEqual(answer["charge"]["advice"], "do_not_charge")
        self.assertIn("liquid line", str(answer["readiness"]).lower())

    def test_history_travels_with_the_request(self):
        earlier = {"minutes_ago": 20, "readings": {**LOW, "suction_line_temp": 60}}
        answer = self.assess(earlier=[earlier], added_since=6)
        self.assertEqual([e["key"] for e in answer["over_time"]], ["dose_did_nothing"])
        self.assertIn("6.0 oz", answer["over_time"][0]["message"])
        self.assertEqual(self.assess(additions_before=2)["charge"]["advice"], "find_leak")
        self.assertEqual(self.assess(recovered_share=0.8)["charge"]["advice"], "find_leak")

    def test_bad_history_names_the_value_and_the_fix(self):
        for context, says in (
            ({"estimated": ["suction_presure"]}, "suction_pressure"),
            ({"done_since": "condenser_clean"}, "condenser_cleaned"),
            ({"earlier": [{"minutes_ago": 3, "readings": {"liquid_pressure": 99999}}]}, "99,999"),
            ({"additions_before": -1}, "greater than or equal to 0"),
            ({"observations": ["bulb_lose"]}, "bulb_loose"),
        ):
            with self.subTest(says):
                answer = self.http.post("/api/assess", json=request(**context))
                self.assertEqual(answer.status_code, 422)
                self.assertIn(says, answer.text)

    def test_what_would_change_its_mind(self):
        answer = self.http.post("/api/changes-of-mind", json=request())
        changes = answer.json()["changes"]
        self.assertTrue(changes)
        self.assertNotIn("undercharge", [change["leads"] for change in changes])

    def test_plain_text_holds_verdict_evidence_and_checks(self):
        text = plain_text(answered(observations=["filter_clean", "readings_confirmed"]))
        for part in (
            "Verdict: Add refrigerant",
            "Care:",
            "Suspect, ",
            "  For: Subcooling",
            "Mind: ",
            "Check 1, ",
        ):
            self.assertIn(part, text)
        self.assertNotRegex(text, r"[{}]|None")

    def test_a_visit_says_what_would_change_its_verdict(self):
        answer = self.http.get("/api/visits/clinic-now/changes-of-mind")
        self.assertEqual(answer.status_code, 200)
        for change in answer.json()["changes"]:
            self.assertTrue(change["what"].endswith("."))

    def test_a_dose_is_written_with_its_ounces(self):
        body = {
            "id": "dose-1",
            "kind": "refrigerant_added",
            "amount": 4.0,
            "happened_at": "2026-01-01T10:00:00Z",
        }
        answer = self.http.post("/api/visits/pottery-now/events?units=ip", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        refused = self.http.post(
            "/api/visits/pottery-now/events?units=ip",
            json={**body, "id": "dose-2", "kind": "filter_changed"},
        )
        self.assertEqual(refused.status_code, 422)
        self.assertIn("refrigerant", refused.text)
