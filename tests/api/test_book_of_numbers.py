"""Charts, methods, houses' books and slips, through the API."""

from typing import Any

from nudge.core.physics.chart.chart import KINDS
from tests.api.test_numbers import GRID, SYSTEM
from tests.temporary import WithClient


class BookOfNumbersTest(WithClient):
    def setUp(self) -> None:
        super().setUp()
        self.http.post("/api/sites", json={"id": "site", "name": "Net Loft"})
        self.http.post("/api/systems", json=SYSTEM)
        self.http.post("/api/visits", json={"id": "visit", "system_id": "sys"})

    def keep(self, text: str, chart_id: str = "c1", kind: str = "subcooling_by_outdoor") -> Any:
        body = {"id": chart_id, "kind": kind, "text": text}
        return self.http.post("/api/systems/sys/charts", json=body)

    def test_a_chart_is_kept_drawn_replaced_and_taken_away(self):
        kept = self.keep(GRID).json()["charts"][0]
        self.assertEqual(kept["columns"], ["A", "B"])
        self.assertEqual(kept["text"], GRID)
        si = self.http.get("/api/systems/sys/charts", params={"units": "si"}).json()["charts"][0]
        self.assertAlmostEqual(si["rows"][0], 23.9)
        self.assertAlmostEqual(si["cells"][0][0], 6.1)
        self.assertEqual(self.keep("75;11\n95;9", "c2").json()["charts"][0]["columns"], ["all"])
        self.assertEqual(self.keep("", "c3").json()["charts"], [])
        with self.database.reading() as session:
            from nudge.store.tables import ChartRow

            kept = session.query(ChartRow).where(ChartRow.system_id == "sys").count()
        self.assertEqual(kept, 3)  # nothing was lost

    def test_a_bad_chart_changes_nothing(self):
        self.keep(GRID)
        refused = self.keep("75;11\n75;9", "c2")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("stands twice", refused.json()["errors"][0]["message"])
        self.assertEqual(len(self.http.get("/api/systems/sys/charts").json()["charts"]), 1)
        big = self.keep("1;2\n" * 3_000_000, "c4")
        self.assertEqual(big.status_code, 413)
        self.assertEqual(self.keep(GRID, "c5", "no_such_kind").status_code, 422)

    def test_the_examples_read_as_charts_in_every_unit(self):
        for units in ("ip", "si", "si_bar"):
            kinds = self.http.get("/api/systems/sys/charts", params={"units": units}).json()[
                "kinds"
            ]
            self.assertEqual([k["key"] for k in kinds], list(KINDS))
            for kind in kinds:
                read = self.http.post(
                    "/api/charts/read",
                    params={"units": units},
                    json={"kind": kind["key"], "text": kind["example"]},
                )
                self.assertEqual(read.status_code, 200, read.text)

    def test_todays_point_stands_on_the_chart_of_a_visit(self):
        self.keep(GRID)
        self.http.patch("/api/systems/sys", json={"indoor_unit": "A"})
        visit = self.callout("oa 85 ll 96 liq 341")
        self.assertEqual(
            visit["charts"][0]["present"],
            {"row": 85.0, "column": "A", "value": 10.0, "message": None},
        )
        self.assertEqual(visit["assessment"]["charge"]["method"], "chart_subcooling")
        visit = self.callout("oa 110")
        self.assertIsNone(visit["charts"][0]["present"]["value"])
        self.assertIn("nothing at outdoor air 110.0", visit["charts"][0]["present"]["message"])

    def test_a_default_method_and_a_systems_own(self):
        self.keep(GRID)
        self.http.patch("/api/systems/sys", json={"indoor_unit": "A", "target_subcooling": 12})

        def method() -> str:
            found: str = self.callout("oa 85 ll 96 liq 341")["assessment"]["charge"]["method"]
            return found

        self.assertEqual(method(), "plate_subcooling")
        choose = {"key": "valve_method", "method": "chart_subcooling"}
        self.assertEqual(self.http.post("/api/methods", json=choose).status_code, 200)
        self.assertEqual(method(), "chart_subcooling")
        self.http.patch("/api/systems/sys", json={"method": "plate_subcooling"})
        self.assertEqual(method(), "plate_subcooling")
        for bad in (
            {"key": "valve_method", "method": "formula_superheat"},
            {"key": "valve_method", "method": "guess"},
            {"key": "x", "method": ""},
        ):
            self.assertEqual(self.http.post("/api/methods", json=bad).status_code, 422)

    def test_a_blower_table_counts_as_airflow(self):
        self.keep(KINDS["blower_airflow"].example, kind="blower_airflow")
        self.http.patch("/api/systems/sys", json={"blower_tap": "medium"})
        visit = self.callout("sst 0.2 rst -0.3 sa 57 ra 76 wb 64 oa 88 ll 96 sl 52")
        self.assertAlmostEqual(visit["assessment"]["derived"]["airflow_by_table"], 1120, delta=1)
        self.assertAlmostEqual(visit["assessment"]["derived"]["airflow_per_capacity"], 377, delta=3)
        visit = self.callout("sst 0.6 rst -0.5")
        self.assertIn("blower_table_silent", [g["key"] for g in visit["assessment"]["readiness"]])

    def test_the_weigh_in_sheet(self):
        sheet = self.http.get("/api/systems/sys/weigh-in").json()
        # (45 - 15) x 0.52 oz/ft = 15.6 oz on 7 lb.
        self.assertEqual(sheet["numbers"]["total_charge"]["text"], "7 lb 15.6 oz")
        self.assertIn("15 ft is taken", sheet["notes"][0])

    def test_a_look_until_a_gauge_goes_on(self):
        visit = self.callout("sl 52 ll 96 oa 88 ra 76 wb 64 sa 57")
        self.assertEqual(visit["look"]["decision"], "leave_caps_on")
        today = self.http.get("/api/today").json()["under_way"][0]
        self.assertEqual(today["headline"], "Leave the caps on.")
        self.assertIsNone(self.callout("suct 118 liq 341")["look"])

    def test_its_own_past_is_used(self):
        self.callout("suct 118 liq 341 sl 52 ll 96 oa 88 ra 76 wb 64")
        self.http.post("/api/visits/visit/closings", json={"id": "c", "reason": "all put back"})
        self.clock.pass_minutes(60 * 24 * 365)
        self.http.post("/api/visits", json={"id": "again", "system_id": "sys"})
        look = self.callout("oa 90 ll 98", "again")["look"]
        self.assertEqual(look["condenser"][0]["key"], "condenser_by_history")

    def test_a_slip_goes_into_a_visit_once(self):
        slip = {
            "id": "s1",
            "slip": "airflow",
            "written_in": "ip",
            "entries": {
                "strip_volts": 238,
                "strip_circuit_amps": 41,
                "return_air_temp": 72,
                "heated_air_temp": 98,
                "nominal_capacity": 36000,
            },
        }
        for _ in range(2):
            answer = self.http.post("/api/visits/visit/slips", json=slip)
            self.assertEqual(answer.status_code, 200, answer.text)
        visit = answer.json()
        readings = {r["point"]: r for r in visit["readings"]}
        self.assertEqual(readings["return_air_temp"]["source"], "typed")
        self.assertEqual(readings["airflow"]["source"], "estimated")
        self.assertAlmostEqual(readings["airflow"]["value"], 1188, delta=5)
        self.assertEqual(len(visit["slips"]), 1)
        self.assertIn("Airflow by strips: 1188 CFM", visit["slips"][0]["text"])
        empty = slip | {"id": "s2", "entries": {}}
        self.assertEqual(self.http.post("/api/visits/visit/slips", json=empty).status_code, 422)
        bad = slip | {"id": "s3", "entries": {"return_air_temp": 900}}
        self.assertEqual(self.http.post("/api/visits/visit/slips", json=bad).status_code, 422)
        self.http.patch("/api/visits/visit", json={"closed": True})
        closed = self.http.post("/api/visits/visit/slips", json=slip | {"id": "s4"})
        self.assertEqual(closed.status_code, 409)

    callouts = 0

    def callout(self, text: str, visit: str = "visit") -> dict[str, Any]:
        self.callouts += 1
        answer = self.http.post(
            f"/api/visits/{visit}/callouts",
            json={
                "id": f"{visit}-{self.callouts}",
                "text": text,
                "heard_at": "2026-05-04T12:00:00Z",
            },
        )
        self.assertEqual(answer.status_code, 200, answer.text)
        found: dict[str, Any] = answer.json()
        return found
