import json

from nudge.api.body_limit import MOST_BYTES
from tests.temporary import WithClient

ASSESS = {
    "units": "ip",
    "system": {
        "application": "comfort_cooling",
        "refrigerant": "R-410A",
        "metering_device": "txv",
        "nominal_capacity": 36000,
        "rated_seer": 14,
        "target_subcooling": 10,
        "target_superheat": None,
        "condensing_over_ambient": None,
        "approach": None,
        "elevation": 0,
        "line_set_length": 30,
    },
    "readings": {
        "suction_pressure": 122.0,
        "liquid_pressure": 352.0,
        "suction_line_temp": 53.0,
        "liquid_line_temp": 97.5,
        "outdoor_air_temp": 90.0,
        "return_air_temp": 76.0,
        "return_air_wet_bulb": 64.0,
    },
    "context": {
        "minutes_running": 20,
        "minutes_since_change": 15,
        "observations": ["filter_clean", "condenser_coil_clean"],
    },
    "method": None,
}


def _with(path, value):
    body = json.loads(json.dumps(ASSESS))
    place = body
    *way, last = path.split("/")
    for step in way:
        place = place[step]
    place[last] = value
    return body


class AssessTest(WithClient):
    def test_the_contracts_own_example(self):
        answer = self.http.post("/api/assess", json=ASSESS)
        self.assertEqual(answer.status_code, 200)
        body = answer.json()
        self.assertEqual(
            set(body),
            {
                "units",
                "derived",
                "targets",
                "readiness",
                "decision",
                "charge",
                "suspects",
                "next_checks",
                "hazards",
                "diagnosis",
                "pairs",
                "signs",
                "over_time",
                "walk",
            },
        )
        # By the R-410A card: 122 psig is 41.6 °F, 352 psig 107.1 °F.
        self.assertAlmostEqual(body["derived"]["superheat"], 53 - 41.6, delta=0.3)
        self.assertAlmostEqual(body["derived"]["subcooling"], 107.1 - 97.5, delta=0.3)
        self.assertEqual(
            {k: body["targets"]["subcooling"][k] for k in ("value", "low", "high")},
            {"value": 10, "low": 7, "high": 13},
        )
        self.assertEqual((body["charge"]["state"], body["charge"]["advice"]), ("right", "leave"))
        self.assertAlmostEqual(sum(s["belief"] for s in body["suspects"]), 1, delta=0.002)
        self.assertIn("for", body["suspects"][0])

    def test_si_in_is_si_out_and_the_same_verdict(self):
        si = {
            "units": "si",
            "system": {
                "refrigerant": "R-410A",
                "metering_device": "txv",
                "target_subcooling": 10 / 1.8,
            },
            "readings": {
                "suction_pressure": 841.16,
                "liquid_pressure": 2426.95,
                "suction_line_temp": 11.667,
                "liquid_line_temp": 36.389,
            },
        }
        ip, si_answer = (
            self.http.post("/api/assess", json=ASSESS).json(),
            self.http.post("/api/assess", json=si).json(),
        )
        self.assertAlmostEqual(
            si_answer["derived"]["superheat"] * 1.8, ip["derived"]["superheat"], delta=0.01
        )
        self.assertEqual(si_answer["charge"]["state"], ip["charge"]["state"])
        self.assertIn(" K ", si_answer["charge"]["reason"])
        self.assertNotIn("°F", si_answer["charge"]["reason"])

    def test_one_reading_is_enough_to_ask(self):
        body = {
            "system": {"refrigerant": "R-22", "metering_device": "fixed_orifice"},
            "readings": {"suction_pressure": 68.5},
        }
        answer = self.http.post("/api/assess", json=body).json()
        self.assertAlmostEqual(answer["derived"]["evaporator_saturation"], 40, delta=0.3)
        self.assertEqual(answer["charge"]["state"], "unknown")

    def test_bad_input_is_named_with_its_fix(self):
        for path, value, says in (
            ("system/refrigerant", "R-410B", "R-410A"),
            ("system/metering_device", "txvv", "txv"),
            ("system/application", "comfort", "comfort_cooling"),
            ("system/target_subcooling", 200, "200.0 °F is outside"),
            ("system/elevation", -9000, "outside"),
            ("system/target_subcool", 10, "target_subcooling"),
            ("readings/suction_presure", 118, "suction_pressure"),
            ("readings/suction_pressure", 800, "800 psig is outside"),
            ("readings/suction_pressure", -14.9, "outside"),
            ("readings/return_air_temp", 300, "300.0 °F is outside"),
            ("readings/liquid_pressure", "352", "finite number"),
            ("readings/liquid_pressure", True, "finite number"),
            ("readings/liquid_pressure", 700, "R-410A pressure 700 psig is outside"),
            ("readings", {}, "no reading"),
            ("readings", [1], "readings"),
            ("context/observations", ["filter_clen"], "filter_clean"),
            ("context/minutes_running", -1, "minutes_running"),
            ("method", "plate_subcoolin", "plate_subcooling"),
            ("units", "metric", "units"),
            ("system/refrigerant", "R" * 900_000, "refrigerant"),
        ):
            with self.subTest(path, value=str(value)[:30]):
                answer = self.http.post("/api/assess", json=_with(path, value))
                self.assertEqual(answer.status_code, 422)
                self.assertIn(says, " ".join(e["message"] for e in answer.json()["errors"]))
                self.assertLess(len(answer.content), 2_000)

    def test_not_a_number_and_not_json(self):
        text = json.dumps(ASSESS)
        for body in (
            text.replace("122.0", "NaN"),
            text.replace("122.0", "Infinity"),
            text.replace("122.0", "1e999"),
            text[:-5],
            "",
            "null",
            "[]",
            "\x00",
        ):
            with self.subTest(body[:20]):
                answer = self.http.post(
                    "/api/assess", content=body, headers={"content-type": "application/json"}
                )
                self.assertEqual(answer.status_code, 422)
                self.assertTrue(answer.json()["errors"][0]["message"])

    def test_too_much_at_once(self):
        answer = self.http.post("/api/assess", content=b" " * (MOST_BYTES + 1))
        self.assertEqual(answer.status_code, 413)
        self.assertIn("1,000,000 bytes", answer.json()["errors"][0]["message"])


class SaturationTest(WithClient):
    def test_both_ways(self):
        at = self.http.get("/api/saturation?refrigerant=R-454B&pressure=120&units=ip").json()
        self.assertGreater(at["dew"], at["bubble"])
        query = f"/api/saturation?refrigerant=r454b&temperature={at['dew']}"
        self.assertAlmostEqual(self.http.get(query).json()["dew_pressure"], 120, delta=0.01)

    def test_refusals(self):
        for query, says in (
            ("refrigerant=R-454&pressure=120", "R-454B"),
            ("refrigerant=R-22&pressure=9000", "9000 psig is outside"),
            ("refrigerant=R-22&temperature=400", "400.0 °F is outside"),
            ("refrigerant=R-22&pressure=nan", "finite number"),
            ("refrigerant=R-22&pressure=lots", "pressure"),
            ("refrigerant=R-22", "either a pressure or a temperature"),
            ("refrigerant=R-22&pressure=1&temperature=1", "not both"),
            ("refrigerant=R-22&pressure=1&elevation=99999", "elevation"),
        ):
            with self.subTest(query):
                answer = self.http.get(f"/api/saturation?{query}")
                self.assertEqual(answer.status_code, 422)
                self.assertIn(says, answer.json()["errors"][0]["message"])

    def test_catalogue(self):
        fluids = {row["name"]: row for row in self.http.get("/api/refrigerants").json()}
        self.assertGreaterEqual(len(fluids), 22)
        self.assertEqual(fluids["R-32"]["safety_class"], "A2L")
        self.assertEqual(fluids["R-290"]["safety_class"], "A3")
        self.assertEqual(fluids["R-22"]["glide"], 0)
        self.assertGreater(fluids["R-407C"]["glide"], 8)  # °F; published about 10


class BookAndVisitsTest(WithClient):
    def test_from_a_new_site_to_a_verdict(self):
        for path, body in (
            ("/api/sites", {"id": "s", "name": "Tide mill"}),
            (
                "/api/systems",
                {
                    "id": "y",
                    "site_id": "s",
                    "name": "Loft",
                    "refrigerant": "r32",
                    "metering_device": "txv",
                    "nominal_capacity": 24000,
                },
            ),
            ("/api/visits", {"id": "v", "system_id": "y"}),
        ):
            for _ in range(2):  # a retry is the same thing again
                self.assertEqual(self.http.post(path, json=body).status_code, 201)
        heard = self.http.post(
            "/api/visits/v/callouts",
            json={"id": "c", "text": "suct 121 sl 50", "heard_at": "2026-07-14T12:00:00Z"},
        ).json()
        self.assertAlmostEqual(heard["assessment"]["derived"]["superheat"], 10, delta=0.5)
        self.assertEqual(heard["system"]["summary"], "2-ton, R-32, expansion valve")
        self.assertEqual([r["given"] for r in heard["readings"]], ["121 psig", "50 °F"])
        si = self.http.get("/api/visits/v?units=si").json()
        self.assertAlmostEqual(si["readings"][1]["value"], 10.0, 2)
        self.assertEqual(si["readings"][1]["given"], "50 °F")
        under_way = self.http.get("/api/today").json()["under_way"]
        self.assertIn("v", [visit["id"] for visit in under_way])

    def test_a_plate_is_changed_field_by_field(self):
        path = "/api/systems/clinic-waiting"
        changed = self.http.patch(path, json={"target_subcooling": 9}).json()
        self.assertEqual(changed["numbers"]["target_subcooling"], 9)
        self.assertEqual(changed["numbers"]["nominal_capacity"], 48000)
        self.assertIsNone(
            self.http.patch(path, json={"rated_seer": None}).json()["numbers"]["rated_seer"]
        )
        for body in ({"rated_seer": "x"}, {"name": " "}, {"refrigerant": "R-1"}, {"seer": 14}):
            with self.subTest(body):
                self.assertEqual(self.http.patch(path, json=body).status_code, 422)
        self.assertEqual(
            self.http.get(path).json()["system"]["numbers"],
            changed["numbers"] | {"rated_seer": None},
        )

    def test_a_refused_line_marks_its_words(self):
        answer = self.http.post(
            "/api/visits/net-loft-now/callouts",
            json={"id": "c", "text": "suct 118 lik 341", "heard_at": "2026-07-14T12:00:00Z"},
        )
        self.assertEqual(answer.status_code, 422)
        (error,) = answer.json()["errors"]
        self.assertEqual((error["start"], error["end"]), (9, 16))
        self.assertIn("liq", error["nearest"])

    def test_hearing_without_storing(self):
        body = {"system_id": "net-loft-heat-pump", "text": "suct 118 liq 4000"}
        heard = self.http.post("/api/callout", json=body).json()
        self.assertEqual([s["point"] for s in heard["spoken"]], ["suction_pressure"])
        self.assertEqual(len(heard["misheard"]), 1)
        self.assertEqual(self.http.get("/api/visits/net-loft-now").json()["readings"], [])

    def test_a_due_visit_is_planned_started_and_closed(self):
        body = {"id": "p", "system_id": "clinic-waiting", "due_on": "2026-08-01"}
        self.assertEqual(self.http.post("/api/visits", json=body).json()["state"], "due")
        for change, state in (({"started": True}, "under_way"), ({"closed": True}, "closed")):
            answer = self.http.patch("/api/visits/p", json=change)
            self.assertEqual(answer.json()["state"], state)
        late = self.http.post(
            "/api/visits/p/observations", json={"id": "o", "key": "filter_clean", "seen": True}
        )
        self.assertEqual(late.status_code, 409)

    def test_strangers_are_404_in_the_same_shape(self):
        for path in ("/api/visits/none", "/api/systems/none", "/api/nothing"):
            answer = self.http.get(path)
            self.assertEqual(answer.status_code, 404)
            self.assertTrue(answer.json()["errors"][0]["message"])

    def test_vocabulary_follows_the_units(self):
        for units, unit in (("ip", "psig"), ("si", "kPa")):
            words = self.http.get(f"/api/vocabulary?units={units}").json()
            (suction,) = [p for p in words["points"] if p["key"] == "suction_pressure"]
            self.assertEqual(suction["unit"], unit)
        words = self.http.get("/api/vocabulary?units=ip").json()["drawing_units"]
        typed = {key: (row["unit"], round(row["in_core"], 4)) for key, row in words.items()}
        self.assertEqual(typed["length"], ("ft", 0.3048))
        self.assertEqual(typed["size"], ("kBtu/h", 293.0711))  # 12 of them are a ton
