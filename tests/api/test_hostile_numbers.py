"""Bad input on the routes of the numbers: a clear refusal with the value and the fix, never a 500."""

from typing import Any

from nudge.core.language.units import Quantity
from nudge.core.language.vocabulary.points import POINTS
from tests.api.test_api import ASSESS
from tests.temporary import WithClient

FIRST = {Quantity.TEMPERATURE: 71, Quantity.PRESSURE: 130, Quantity.AIRFLOW: 900}
"""A value of a point that may well be; 5 of anything else."""
BAD_NUMBERS: tuple[Any, ...] = ("12", True, None, [1], {"a": 1})


class HostileTest(WithClient):
    def refused(self, path: str, body: Any, words: str = "", status: int = 422) -> None:
        answer = self.http.post(path, json=body)
        self.assertEqual(answer.status_code, status, answer.text[:300])
        errors = answer.json()["errors"]
        self.assertTrue(errors[0]["message"])
        self.assertIn(words.lower(), errors[0]["message"].lower())
        self.assertLess(len(answer.text), 5_000)

    def assessed(self, **system: Any) -> dict[str, Any]:
        return ASSESS | {"system": ASSESS["system"] | system}  # type: ignore[operator]

    def test_whatever_point_is_read_first_the_visit_stands(self):
        for system in ("net-loft-heat-pump", "school-classrooms"):
            for n, point in enumerate(POINTS.values()):
                visit = f"first-{system}-{n}"
                self.http.post("/api/visits", json={"id": visit, "system_id": system})
                line = {"id": f"line-{visit}", "text": f"{point.short[0]} {FIRST.get(point.quantity, 5)}",
                        "heard_at": "2026-07-14T12:00:00Z"}  # fmt: skip
                answer = self.http.post(f"/api/visits/{visit}/callouts", json=line)
                self.assertIn(answer.status_code, (200, 201, 422), (system, point.key))

    def test_a_wrong_plate_number_names_its_range(self):
        for key, value, words in (
            ("factory_charge", 900, "0.10 to 660.00 lb"),
            ("liquid_line_size", 38, "0.180 to 3.200 in."),
            ("charge_per_length", 60, "0.01 to 5.00 oz/ft"),
            ("rated_airflow", 12, "50 to 20,000 CFM"),
            ("line_length_included", -3, "0 to 200 ft"),
            ("coil_adder", 5_000, "oz"),
        ):
            with self.subTest(key):
                self.refused("/api/assess", self.assessed(**{key: value}), words)
                self.refused("/api/workings", self.assessed(**{key: value}), words)

    def test_wrong_charts_in_a_request(self):
        for charts, words in (
            ([{"kind": "subcooling", "text": "75;1\n85;2"}], "unknown chart kind"),
            ([{"kind": "subcooling_by_outdoor", "text": ""}], "no chart in that text"),
            ([{"kind": "subcooling_by_outdoor", "text": "75;11\n75;10"}], "stands twice"),
            ([{"kind": "subcooling_by_outdoor", "text": "x" * 25_000}], "at most 20,000"),
            ([{"kind": "subcooling_by_outdoor", "text": 7}], "text"),
            ([{"kind": "subcooling_by_outdoor"}], "missing"),
            ([{}] * 4, ""),
            ("75;1", ""),
        ):
            with self.subTest(str(charts)[:60]):
                self.refused("/api/assess", self.assessed(charts=charts), words)

    def test_the_pocket_takes_nothing_strange(self):
        for body, words in (
            ({}, "missing"),
            ({"entries": [1]}, ""),
            ({"entries": {"pressure": [1]}}, ""),
            ({"entries": {"pressure": True}}, ""),
            ({"entries": {}, "units": "furlongs"}, ""),
            ({"entries": {}, "written_in": {"pressure": "cubits"}}, ""),
            ({"entries": {"presssure": 1}}, "nearest known: pressure"),
            ({"entries": {}, "slips": ["saturaton"]}, "nearest known: saturation"),
            ({"entries": {}, "slip": "saturation"}, "unknown field"),
            ({"entries": {f"x{i}": 1 for i in range(200)}}, ""),
        ):
            with self.subTest(str(body)[:60]):
                self.refused("/api/pocket", body, words)
        huge = '{"entries": {"pressure": 1e999}}'
        answer = self.http.post("/api/pocket", content=huge)
        self.assertEqual(answer.status_code, 422)

    def test_every_number_of_the_pocket_has_an_end(self):
        shape = self.http.get("/api/pocket").json()
        for blank in shape["blanks"]:
            if blank["choices"]:
                continue
            for wild in (blank["high"] * 1e6 + 1e6, -1e9):
                answer = self.http.post("/api/pocket", json={"entries": {blank["key"]: wild}})
                with self.subTest(blank["key"]):
                    self.assertEqual(answer.status_code, 200, answer.text[:200])
                    message = answer.json()["problems"][blank["key"]]["message"]
                    self.assertIn("is outside", message)
            for edge in (blank["low"], blank["high"]):
                answer = self.http.post("/api/pocket", json={"entries": {blank["key"]: edge}})
                self.assertEqual(answer.json()["problems"], {}, blank["key"])

    def test_the_look_and_the_methods(self):
        self.refused("/api/look", ASSESS | {"history": {"approach": "9"}}, "finite number")
        self.refused("/api/look", ASSESS | {"readings": {}}, "no reading")
        for body in ({"key": "valve_method"}, {"key": 1, "method": ""}, {"method": ""}, []):
            self.refused("/api/methods", body)

    def test_slips_and_charts_for_what_is_not_there(self):
        slip = {"id": "s", "slip": "saturation", "entries": {"pressure": 100}, "written_in": "ip"}
        self.refused("/api/visits/nowhere/slips", slip, "no visit", 404)
        chart = {"id": "c", "kind": "subcooling_by_outdoor", "text": "75;11\n95;9"}
        self.refused("/api/systems/nowhere/charts", chart, "no system", 404)
        for path in ("systems/nowhere/charts", "systems/nowhere/weigh-in", "visits/x/workings"):
            self.assertEqual(self.http.get(f"/api/{path}").status_code, 404, path)
        self.refused("/api/visits/net-loft-now/slips", slip | {"slip": "saturaton"}, "nearest")
        self.refused("/api/visits/net-loft-now/slips", slip | {"written_in": "?"})
        self.refused("/api/visits/net-loft-now/slips", slip | {"id": "../x"})

    def test_wrong_kinds_of_value_in_a_plate(self):
        for value in BAD_NUMBERS:
            if value is None:
                continue  # a plate number of null is one that is not given
            with self.subTest(value):
                self.refused("/api/assess", self.assessed(factory_charge=value))
        self.refused("/api/assess", self.assessed(indoor_unit=7))
        self.refused("/api/assess", self.assessed(blower_tap="x" * 500))
