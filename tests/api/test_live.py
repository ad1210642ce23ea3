"""Live readings over HTTP: what a device or a script may send, and what it is told."""

from tests.temporary import WithClient

MOMENT = "2026-07-14T12:00:00Z"


class LiveReadingsTest(WithClient):
    def setUp(self):
        super().setUp()
        self.http.post("/api/visits", json={"id": "v", "system_id": "seed-library-stacks"})

    def send(self, body, units="ip"):
        return self.http.post(f"/api/visits/v/readings?units={units}", json=body)

    def test_a_single_reading_and_a_batch_both_show_on_the_visit(self):
        one = {
            "id": "r1",
            "channel": "p1",
            "point": "suction_pressure",
            "value": 118.2,
            "at": MOMENT,
        }
        self.assertEqual(self.send(one).json()["kept"], 1)
        self.assertEqual(
            self.send(one).json(), {"kept": 0, "repeated": 1, "refused": [], "clock_moved": 0.0}
        )
        batch = {"id": "b1", "readings": [
            {"channel": "t1", "point": "suction_line_temp", "value": 11.1, "unit": "C", "at": MOMENT},
            {"channel": "t2", "point": "liquid_line_temp", "value": 96.0, "label": "Blue clamp"},
        ]}  # fmt: skip
        self.assertEqual(self.send(batch).json()["kept"], 2)
        visit = self.http.get("/api/visits/v").json()
        live = {r["point"]: r for r in visit["readings"] if r["state"] == "live"}
        self.assertAlmostEqual(live["suction_line_temp"]["value"], 51.98, places=2)
        self.assertEqual(live["liquid_line_temp"]["source"], "live")
        self.assertIn("Blue clamp", [i["label"] for i in visit["live"]["instruments"]])
        metric = self.http.get("/api/visits/v?units=si").json()
        shown = {i["key"]: (i["value"], i["unit"]) for i in metric["live"]["instruments"]}
        self.assertEqual(shown["p1"][1], "kPa")
        self.assertAlmostEqual(shown["p1"][0], 814.96, places=1)

    def test_bad_readings_are_refused_one_by_one_with_the_fix(self):
        rows = [
            {"channel": "a", "point": "liquid_line_temp", "value": 96, "at": MOMENT},
            {"channel": "b", "point": "liqid_line_temp", "value": 96, "at": MOMENT},
            {"channel": "c", "point": "suction_pressure", "value": 1e9, "at": MOMENT},
            {"channel": "d", "point": "suction_pressure", "value": 8, "unit": "bars", "at": MOMENT},
        ]
        answer = self.send({"id": "b", "readings": rows}).json()
        self.assertEqual((answer["kept"], [r["number"] for r in answer["refused"]]), (1, [1, 2, 3]))
        self.assertIn("liquid_line_temp", answer["refused"][0]["errors"][0]["nearest"])
        self.assertIn("bar", answer["refused"][2]["errors"][0]["nearest"])

    def test_shapes_that_are_no_readings_are_refused_whole(self):
        good = {"channel": "a", "point": "liquid_line_temp", "value": 96}
        for body in (
            {"id": "b", "readings": []},
            {"readings": [good]},
            {"id": "b", **good, "at": "noon"},
            {"id": "b", **good, "value": "96"},
            {"id": "b", **good, "at": "2026-07-14T12:00:00"},
            {"id": "b", **good, "extra": 1},
            [good],
        ):
            with self.subTest(body):
                answer = self.send(body)
                self.assertEqual(answer.status_code, 422)
                self.assertTrue(answer.json()["errors"][0]["message"])
        self.assertEqual(
            self.http.post("/api/visits/x/readings", json={"id": "b", **good}).status_code, 404
        )
        self.http.patch("/api/visits/v", json={"closed": True})
        self.assertEqual(self.send({"id": "b", **good}).status_code, 409)

    def test_series_and_placements_answer_in_the_units_asked_for(self):
        rows = [
            {
                "channel": "t",
                "point": "liquid_line_temp",
                "value": 95 + i,
                "at": f"2026-07-14T11:59:{i:02}Z",
            }
            for i in range(30)
        ]
        self.send({"id": "b", "readings": rows})
        series = self.http.get("/api/visits/v/series?width=50").json()
        self.assertEqual([t["key"] for t in series["traces"]], ["liquid_line_temp"])
        self.assertEqual(series["traces"][0]["rows"][0][1], 95)
        moved = self.http.post(
            "/api/visits/v/placements",
            json={"id": "p", "channel": "t", "point": "drier_inlet_temp"},
        ).json()
        self.assertEqual(moved["live"]["instruments"][0]["place"], "Drier inlet")
        self.assertEqual(self.http.get("/api/visits/v/series?width=5").status_code, 422)
        for path, body in (
            ("placements", {"id": "q", "channel": "t", "point": "nowhere"}),
            ("zeros", {"id": "z", "channel": "t"}),
            ("kept", {"id": "k"}),
            ("swaps", {"id": "s", "one": "t", "other": "u"}),
        ):
            with self.subTest(path):
                answer = self.http.post(f"/api/visits/v/{path}", json=body)
                self.assertIn(answer.status_code, (404, 422))
                self.assertTrue(answer.json()["errors"][0]["message"])

    def test_a_real_system_has_no_yard_and_a_simulated_one_takes_jobs(self):
        self.assertEqual(self.http.get("/api/visits/v/yard").status_code, 404)
        yard = self.http.get("/api/visits/radio-room-live/yard").json()
        self.assertTrue(yard["is_running"])
        job = {"id": "j", "job": "add_charge"}
        for amount in (None, 0, -2, 500):
            answer = self.http.post(
                "/api/visits/radio-room-live/yard/jobs", json=job | {"amount": amount}
            )
            self.assertEqual(answer.status_code, 422, amount)
        answer = self.http.post("/api/visits/radio-room-live/yard/jobs", json=job | {"amount": 4})
        self.assertAlmostEqual(answer.json()["yard"]["adding"], 4.0)
        cautions = [j["caution"] for j in yard["jobs"] if j["key"] == "add_charge"]
        self.assertIn("gloves", cautions[0])

    def test_a_log_file_goes_in_by_itself_and_comes_back_as_a_trace(self):
        text = "time,ll (F)\n2026-07-14T12:00:00Z,96\n2026-07-14T12:00:10Z,97\n"
        look = self.http.put(
            "/api/visits/v/imports/i1?name=a.csv&zone_minutes=60", content=text
        ).json()
        self.assertEqual(look["mapping"]["columns"][1]["point"], "liquid_line_temp")
        started = self.http.post("/api/visits/v/imports/i1/start", json=look["mapping"])
        self.assertEqual(started.status_code, 200)
        for _ in range(200):
            row = self.http.get("/api/visits/v/imports").json()[0]
            if row["state"] != "reading":
                break
        self.assertEqual((row["state"], row["readings"]), ("done", 2))
        refused = self.http.put("/api/visits/v/imports/i2?name=b.csv", content=b"nothing")
        self.assertEqual(refused.status_code, 422)
