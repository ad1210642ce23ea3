"""Over HTTP: workings, the look, the Pocket, charts, methods, weigh-in, slips, and every unit."""

import json
import unittest
from typing import Any

from tests.api.test_api import ASSESS
from tests.temporary import WithClient

FULL = json.loads(json.dumps(ASSESS))
FULL["readings"] |= {
    "supply_air_temp": 57.0,
    "supply_air_wet_bulb": 55.0,
    "airflow": 1200.0,
    "outdoor_unit_watts": 2900.0,
    "indoor_unit_watts": 420.0,
}
SYSTEM = {
    "id": "sys",
    "site_id": "site",
    "name": "Split",
    "refrigerant": "R-410A",
    "metering_device": "txv",
    "nominal_capacity": 36000,
    "factory_charge": 7,
    "line_set_length": 45,
    "liquid_line_size": 0.375,
}
GRID = "outdoor;A;B\n75;11;9\n95;9;7"


class NumbersTest(WithClient):
    def test_the_answer_holds_the_new_numbers_and_the_split_of_this_air(self):
        body = self.http.post("/api/assess", json=FULL).json()
        derived = body["derived"]
        self.assertAlmostEqual(
            derived["capacity_sensible"] + derived["capacity_latent"],
            derived["capacity_total"],
            delta=1,
        )
        self.assertAlmostEqual(derived["eer"], derived["capacity_total"] / 3320, delta=0.01)
        self.assertAlmostEqual(derived["airflow_per_capacity"], 400, delta=15)
        split = body["targets"]["temperature_split"]
        self.assertEqual(split["method"], "coil_model")
        self.assertTrue(split["low"] < split["value"] < split["high"])

    def test_every_number_of_an_answer_opens(self):
        answer = self.http.post("/api/assess", json=FULL).json()
        numbers = self.http.post("/api/workings", json=FULL).json()["numbers"]
        for key, value in answer["derived"].items():
            if value is not None:
                self.assertAlmostEqual(numbers[key]["value"], value, delta=0.001)
                self.assertTrue(numbers[key]["today"])
        beliefs = [numbers[f"belief_{s['fault']}"]["value"] for s in answer["suspects"]]
        self.assertAlmostEqual(sum(beliefs), 100, delta=0.1)
        self.assertAlmostEqual(beliefs[0], 100 * answer["suspects"][0]["belief"], delta=0.01)
        for key, target in answer["targets"].items():
            self.assertAlmostEqual(numbers[f"target_{key}"]["value"], target["value"], delta=0.001)

    def test_the_look(self):
        body = json.loads(json.dumps(ASSESS))
        for point in ("suction_pressure", "liquid_pressure"):
            del body["readings"][point]
        body["readings"]["supply_air_temp"] = 57.0
        body["history"] = {"condensing_over_ambient": 17, "evaporator_difference": 35}
        look = self.http.post("/api/look", json=body).json()
        self.assertEqual(look["decision"], "leave_caps_on")
        self.assertEqual(look["evaporator"][0]["key"], "evaporator_by_history")
        self.assertEqual(look["condenser"][0]["text"], "107.0 °F")
        body["history"]["approachh"] = 1
        self.assertEqual(self.http.post("/api/look", json=body).status_code, 422)

    def test_charts_travel_with_a_request(self):
        body = json.loads(json.dumps(ASSESS))
        body["system"] |= {
            "charts": [{"kind": "subcooling_by_outdoor", "text": GRID}],
            "indoor_unit": "A",
            "target_subcooling": None,
        }
        answer = self.http.post("/api/assess", json=body).json()
        self.assertEqual(answer["charge"]["method"], "chart_subcooling")
        self.assertAlmostEqual(answer["targets"]["subcooling"]["value"], 9.5)
        body["system"]["charts"][0]["text"] = "75;11"
        refused = self.http.post("/api/assess", json=body)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("One row is no chart", refused.json()["errors"][0]["message"])


class RoundTripTest(WithClient):
    """Field units to SI and back: every number the same within rounding, every verdict too."""

    def compare(self, one: Any, other: Any, where: str = "") -> None:
        if isinstance(one, dict):
            self.assertEqual(set(one), set(other), where)
            for key in one:
                self.compare(one[key], other[key], f"{where}.{key}")
        elif isinstance(one, list):
            self.assertEqual(len(one), len(other), where)
            for i, (a, b) in enumerate(zip(one, other, strict=True)):
                self.compare(a, b, f"{where}[{i}]")
        elif isinstance(one, float) and isinstance(other, float):
            self.assertAlmostEqual(one, other, delta=max(abs(one) * 2e-3, 0.012), msg=where)
        else:
            self.assertEqual(one, other, where)

    def si(self, body: dict[str, Any], units: str) -> dict[str, Any]:
        from nudge.core.language.units import Quantity, from_si, to_si
        from nudge.core.language.vocabulary.points import POINTS
        from nudge.core.physics.circuit.plate_fields import PLATE_NUMBERS

        def shown(value: float | None, quantity: Quantity) -> float | None:
            if value is None:
                return None
            return round(from_si(to_si(value, quantity, "ip"), quantity, units), 6)  # type: ignore[arg-type]

        numbers = {row.key: row.quantity for row in PLATE_NUMBERS}
        system = {k: shown(v, numbers[k]) if k in numbers else v for k, v in body["system"].items()}
        readings = {k: shown(v, POINTS[k].quantity) for k, v in body["readings"].items()}
        return body | {"units": units, "system": system, "readings": readings}

    def test_assess_look_and_workings(self):
        for path in ("assess", "look", "workings"):
            field = self.http.post(f"/api/{path}", json=FULL).json()
            for units in ("si", "si_bar"):
                there = self.http.post(f"/api/{path}", json=self.si(FULL, units)).json()
                with self.subTest(path=path, units=units):
                    if path == "assess":
                        self.verdicts_agree(field, there)
                    back = self.http.post(f"/api/{path}", json=self.back(units)).json()
                    self.compare(field, back)

    def back(self, units: str) -> dict[str, Any]:
        """The SI request written again in field units, from its own numbers."""
        from nudge.core.language.units import from_si, to_si
        from nudge.core.language.vocabulary.points import POINTS

        there = self.si(FULL, units)
        readings = {
            k: from_si(to_si(v, POINTS[k].quantity, units), POINTS[k].quantity, "ip")  # type: ignore[arg-type]
            for k, v in there["readings"].items()
        }
        return FULL | {"readings": readings}

    def verdicts_agree(self, one: dict[str, Any], other: dict[str, Any]) -> None:
        for key in ("state", "advice", "headline", "method"):
            self.assertEqual(one["charge"][key], other["charge"][key])
        self.compare(
            [s["belief"] for s in one["suspects"]], [s["belief"] for s in other["suspects"]]
        )
        self.assertEqual(
            [g["key"] for g in one["readiness"]], [g["key"] for g in other["readiness"]]
        )
        superheat = other["derived"]["superheat"] * 1.8
        self.assertAlmostEqual(one["derived"]["superheat"], superheat, delta=0.01)
        self.assertNotIn("°F", json.dumps(other, ensure_ascii=False))

    def test_every_opened_number_is_the_same_in_every_unit(self):
        from nudge.core.language.units import UNITS

        to_field = {(row.si, row.ip): (row.scale, row.offset) for row in UNITS.values()}
        to_field |= {("bar", psi): (6.894757 / 100, 0.0) for psi in ("psi", "psig")}
        entries = {
            "return_air_temp": 78,
            "return_air_wet_bulb": 65,
            "outdoor_air_temp": 92,
            "nominal_capacity": 36000,
            "suction_pressure": 118,
            "suction_line_temp": 52,
            "liquid_pressure": 341,
            "liquid_line_temp": 96,
            "pressure": 118,
            "factory_charge": 7,
            "line_set_length": 40,
            "liquid_tube": "0.375",
            "strip_kw": 5,
            "test_pressure_start": 150,
            "test_temp_start": 80,
            "test_temp_now": 70,
        }

        def numbers(units: str) -> dict[str, dict[str, Any]]:
            found: dict[str, dict[str, Any]] = {}
            for visit in ("seed-library-now", "pottery-now", "clinic-now", "ferry-hall-now"):
                answer = self.http.get(f"/api/visits/{visit}/workings", params={"units": units})
                found |= {f"{visit} {key}": number for key, number in answer.json().items()}
            sheet = self.http.get("/api/systems/ferry-hall-big/weigh-in", params={"units": units})
            found |= sheet.json()["numbers"]
            written = dict.fromkeys(entries, "ip")
            body = {"units": units, "entries": entries, "written_in": written}
            for slip in self.http.post("/api/pocket", json=body).json()["slips"]:
                found |= {line["number"]["key"]: line["number"] for line in slip["lines"]}
            return found

        field = numbers("ip")
        self.assertGreater(len(field), 120)
        for units in ("si", "si_bar"):
            there = numbers(units)
            self.assertEqual(set(there), set(field))
            for key, number in field.items():
                scale, offset = to_field[there[key]["unit"], number["unit"]]
                back = (there[key]["value"] - offset) / scale
                with self.subTest(key=key, units=units):
                    off = max(abs(number["value"]) * 1e-3, 2e-3)
                    self.assertAlmostEqual(back, number["value"], delta=off)

    def test_get_routes_answer_in_every_unit(self):
        for path in ("pocket", "vocabulary", "refrigerants", "methods", "refrigerants/R-32/chart"):
            shapes = []
            for units in ("ip", "si", "si_bar"):
                answer = self.http.get(f"/api/{path}", params={"units": units})
                self.assertEqual(answer.status_code, 200, path)
                shapes.append(len(json.dumps(answer.json())))
            self.assertGreater(min(shapes), 0)
        dew = [
            self.http.get(
                "/api/saturation", params={"refrigerant": "R-32", "pressure": p, "units": u}
            ).json()["dew"]
            for p, u in ((120, "ip"), (827.3709, "si"), (8.273709, "si_bar"))
        ]
        self.assertAlmostEqual((dew[0] - 32) / 1.8, dew[1], delta=0.001)
        self.assertAlmostEqual(dew[1], dew[2], delta=0.001)


class PocketRouteTest(WithClient):
    def fill(self, **body: Any) -> dict[str, Any]:
        answer = self.http.post("/api/pocket", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        filled: dict[str, Any] = answer.json()
        return filled

    def test_entries_typed_in_other_units_are_taken_as_meant(self):
        body = self.fill(
            units="si",
            entries={"pressure": 118, "temperature": 20},
            written_in={"pressure": "ip"},
            slips=["saturation"],
        )
        self.assertAlmostEqual(body["entries"]["pressure"], 813.6, delta=0.1)
        numbers = {line["number"]["key"]: line["number"] for line in body["slips"][0]["lines"]}
        self.assertAlmostEqual(numbers["dew"]["value"], 4.3, delta=0.2)
        self.assertEqual(numbers["dew_pressure"]["unit"], "kPa")

    def test_a_bad_entry_is_named_and_the_rest_answered(self):
        body = self.fill(entries={"pressure": 5000, "refrigerant": "R-410", "strip_kw": 5})
        self.assertEqual(set(body["problems"]), {"pressure", "refrigerant"})
        self.assertIn("R-410A", body["problems"]["refrigerant"]["nearest"])
        strips = next(slip for slip in body["slips"] if slip["key"] == "strips")
        self.assertIn("One strip should draw: 20.8 A", strips["text"])

    def test_the_chart_has_a_dome_and_the_cycle_stands_on_it(self):
        entries = {
            "refrigerant": "R-410A",
            "suction_pressure": 118,
            "suction_line_temp": 52,
            "liquid_pressure": 341,
            "liquid_line_temp": 96,
        }
        cycle = self.fill(entries=entries)["cycle"]
        chart = self.http.get("/api/refrigerants/r410a/chart").json()
        low = min(p for _, p in chart["dew"])
        self.assertTrue(all(corner["pressure"] > low for corner in cycle["corners"]))
        self.assertIsNone(self.fill(entries=entries, cycle=False)["cycle"])
        self.assertEqual(self.http.get("/api/refrigerants/R-99/chart").status_code, 422)

    def test_unknown_names_are_refused_with_the_nearest(self):
        for body in ({"entries": {"presure": 1}}, {"entries": {}, "slips": ["saturaton"]}):
            answer = self.http.post("/api/pocket", json=body)
            self.assertEqual(answer.status_code, 422)
            self.assertTrue(answer.json()["errors"][0]["nearest"])


if __name__ == "__main__":
    unittest.main()
