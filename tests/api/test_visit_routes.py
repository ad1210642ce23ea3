"""The routes of a visit: what they take, what they refuse, and that a refusal stores nothing."""

from datetime import UTC, datetime, timedelta

from tests.temporary import WithClient

SOON = (datetime.now(UTC) + timedelta(hours=20)).isoformat()
VISIT = "/api/visits/seed-library-now"
AT = "2026-07-14T12:00:00Z"


class VisitRoutesTest(WithClient):
    def readings(self, **query):
        body = self.http.get(VISIT, params=query).json()
        return {r["point"]: r for r in body["readings"] if r["state"] == "current"}

    def test_correct_withdraw_and_undo(self):
        old = self.readings()["liquid_line_temp"]
        fixed = self.http.post(
            f"{VISIT}/corrections", json={"id": "k", "reading_id": old["id"], "text": "35c"}
        )
        self.assertEqual(fixed.status_code, 200)
        now = self.readings()["liquid_line_temp"]
        self.assertEqual((now["given"], now["value"], now["corrects"]), ("35 °C", 95.0, old["id"]))
        self.http.post(f"{VISIT}/withdrawals", json={"id": "w"})
        self.assertEqual(self.readings()["liquid_line_temp"]["id"], old["id"])
        self.http.post(f"{VISIT}/withdrawals", json={"id": "w2", "reading_id": old["id"]})
        self.assertNotIn("liquid_line_temp", self.readings())

    def test_one_entry_is_taken_back_by_its_id_and_nobody_elses(self):
        line = {"id": "mine", "text": "suct 100", "heard_at": AT}
        other = {"id": "theirs", "text": "liq 300", "heard_at": AT}
        before = self.readings()["suction_pressure"]["value"]
        for body in (line, other):
            self.http.post(f"{VISIT}/callouts", json=body)
        back = self.http.post(f"{VISIT}/withdrawals", json={"id": "w1", "of": "mine"})
        self.assertEqual(back.status_code, 200)
        now = self.readings()
        self.assertEqual(now["suction_pressure"]["value"], before)
        self.assertEqual(now["liquid_pressure"]["value"], 300)
        # asked twice it is one: and what is not there is said
        self.http.post(f"{VISIT}/withdrawals", json={"id": "w1", "of": "mine"})
        self.assertEqual(self.readings()["suction_pressure"]["value"], before)
        none = self.http.post(f"{VISIT}/withdrawals", json={"id": "w2", "of": "nobody"})
        self.assertEqual(none.status_code, 404)

    def test_a_tick_and_an_event_are_taken_back_as_well(self):
        seen = {"id": "t", "key": "filter_dirty", "seen": True}
        self.http.post(f"{VISIT}/observations", json=seen)
        self.assertIn("filter_dirty", self.http.get(VISIT).json()["observations"])
        self.http.post(f"{VISIT}/withdrawals", json={"id": "w3", "of": "t"})
        self.assertNotIn("filter_dirty", self.http.get(VISIT).json()["observations"])
        runs = self.http.get(VISIT).json()["running_since"]
        stop = {"id": "s", "kind": "system_stopped", "happened_at": AT}
        self.http.post(f"{VISIT}/events", json={**stop, "happened_at": SOON})
        self.assertIsNone(self.http.get(VISIT).json()["running_since"])
        self.http.post(f"{VISIT}/withdrawals", json={"id": "w4", "of": "s"})
        self.assertEqual(self.http.get(VISIT).json()["running_since"], runs)

    def test_bare_numbers_follow_the_units_of_the_request(self):
        line = {"id": "c", "text": "ll 35 suct 800", "heard_at": AT}
        answer = self.http.post(f"{VISIT}/callouts?units=si", json=line)
        self.assertEqual(answer.status_code, 200)
        self.assertEqual(self.readings()["liquid_line_temp"]["value"], 95.0)
        self.assertAlmostEqual(self.readings(units="si")["suction_pressure"]["value"], 800)

    def test_each_refusal_has_its_status_and_stores_nothing(self):
        before = self.http.get(VISIT).json()["readings"]
        reading = before[0]["id"]
        line = {"id": "c", "text": "suct 118", "heard_at": AT}
        for path, body, status, says in (
            ("callouts", {**line, "text": "suct"}, 422, "no number"),
            ("callouts", {**line, "text": ""}, 422, "no reading"),
            ("callouts", {**line, "text": "suct 118 " * 300}, 422, "2,700 characters"),
            ("callouts", {**line, "text": "s" * 1_000_001}, 413, "1,000,000 bytes"),
            ("callouts", {**line, "heard_at": "yesterday"}, 422, "heard_at"),
            ("callouts", {**line, "heard_at": "2026-07-14T12:00:00"}, 422, "heard_at"),
            ("callouts", {**line, "id": "a b/c"}, 422, "id"),
            ("callouts", {**line, "id": ""}, 422, "id"),
            ("callouts", {**line, "txt": "x"}, 422, "Unknown field"),
            ("callouts", {"id": "c", "heard_at": AT}, 422, "text is missing"),
            ("corrections", {"id": "k", "reading_id": "nope", "text": "3"}, 404, "no reading"),
            ("corrections", {"id": "k", "reading_id": reading, "text": "x"}, 422, "no number"),
            ("corrections", {"id": "k", "reading_id": reading, "text": "9999"}, 422, "outside"),
            (
                "corrections",
                {"id": "k", "reading_id": reading, "text": "1 ll 2"},
                422,
                "no reading",
            ),
            ("withdrawals", {"id": "w", "reading_id": "nope"}, 404, "no reading"),
            ("observations", {"id": "o", "key": "filter_clen", "seen": True}, 422, "filter_clean"),
            ("observations", {"id": "o", "key": "filter_clean", "seen": "maybe"}, 422, "seen"),
            ("events", {"id": "e", "kind": "exploded", "happened_at": AT}, 422, "Unknown event"),
            (
                "events",
                {"id": "e", "kind": "system_started", "happened_at": 5e300},
                422,
                "happened",
            ),
        ):
            with self.subTest(path, body=str(body)[:60]):
                answer = self.http.post(f"{VISIT}/{path}", json=body)
                self.assertEqual(answer.status_code, status)
                self.assertIn(says, " ".join(e["message"] for e in answer.json()["errors"]))
        self.assertEqual(self.http.get(VISIT).json()["readings"], before)

    def test_a_complaint_is_kept_as_it_is_written(self):
        words = "“Bläst” warm — 20 °C nur früh\n<b>2nd floor</b>"
        self.http.patch(VISIT, json={"complaint": words})
        self.assertEqual(self.http.get(VISIT).json()["complaint"], words)

    def test_started_stopped_and_changed_set_the_clock(self):
        for number, (kind, running, changed) in enumerate(
            (
                ("system_stopped", False, False),
                ("system_started", True, False),
                ("something_changed", True, True),
                ("system_started", True, False),
            )
        ):
            body = {"id": f"e{number}", "kind": kind, "happened_at": AT}
            answer = self.http.post(f"{VISIT}/events", json=body).json()
            self.assertEqual(answer["running_since"] is not None, running, kind)
            self.assertEqual(answer["changed_at"] is not None, changed, kind)

    def test_the_loop_is_given_laid_out_in_every_frame_and_unit(self):
        ip, si = (
            self.http.get(VISIT, params={"units": units}).json()["stage"] for units in ("ip", "si")
        )
        self.assertEqual([one["frame"] for one in ip], ["hand", "desk"])
        for field, metric in zip(ip, si, strict=True):
            # the same picture: only the figures on it change with the unit
            for one, other in zip(field["marks"], metric["marks"], strict=True):
                self.assertAlmostEqual((one["value"] - 32) / 1.8, other["value"], delta=0.01)
                self.assertAlmostEqual(one["x"], other["x"])
                self.assertAlmostEqual(one["y"], other["y"], delta=4)
            places = {one["key"]: one["x"] for one in field["places"]}
            self.assertLess(places["liquid_line"], places["suction_line"])


class DocumentTest(WithClient):
    def test_every_route_says_what_a_refusal_looks_like(self):
        document = self.http.get("/openapi.json").json()
        self.assertLessEqual(
            {"/api/assess", "/api/saturation", "/api/refrigerants", "/api/health"},
            set(document["paths"]),
        )
        for path, methods in document["paths"].items():
            for method, operation in methods.items():
                with self.subTest(f"{method} {path}"):
                    named = operation["responses"]["422"]["$ref"].rpartition("/")[2]
                    answer = document["components"]["responses"][named]
                    refusal = answer["content"]["application/json"]["schema"]
                    self.assertTrue(refusal["$ref"].endswith("/ErrorsOut"))
