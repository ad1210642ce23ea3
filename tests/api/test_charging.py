"""Nudging over HTTP: the stateless advisor, a visit's nudge, the shelf, the ledger's file."""

import csv
import io
from datetime import datetime

from tests.temporary import WithClient

SYSTEM = {
    "refrigerant": "R-410A",
    "metering_device": "txv",
    "target_subcooling": 10,
    "nominal_capacity": 36000,
    "rated_seer": 14,
    "factory_charge": 6.6,
}
LOW = {
    "suction_pressure": 108,
    "liquid_pressure": 320,
    "suction_line_temp": 56,
    "liquid_line_temp": 97,
    "outdoor_air_temp": 86,
    "return_air_temp": 76,
    "return_air_wet_bulb": 63,
}
SEEN = [
    "filter_clean",
    "evaporator_coil_clean",
    "condenser_coil_clean",
    "condenser_fan_ok",
    "readings_confirmed",
]


def asked(*history, **more):
    rows = history or ({"minutes": 0, "added": 0, "readings": LOW},)
    return {
        "system": SYSTEM,
        "history": list(rows),
        "context": {"minutes_running": 30, "minutes_since_change": 30, "observations": SEEN},
        **more,
    }


class AdviseTest(WithClient):
    def advise(self, *history, **more):
        answer = self.http.post("/api/charge/advise", json=asked(*history, **more))
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_the_answer_holds_what_the_contract_names(self):
        said = self.advise()
        self.assertEqual((said["action"], said["amount_unit"]), ("add", "oz"))
        self.assertTrue(1 <= said["amount"] <= 16)
        self.assertEqual(said["wait_minutes"], 10)
        expected = said["expected"]["subcooling"]
        self.assertTrue(4 < expected["low"] < expected["middle"] < expected["high"] <= 13)
        response = said["response_per_unit"]
        self.assertTrue(0.1 < response["value"] < 1.5)
        self.assertGreater(response["spread"], 0)
        self.assertEqual(said["assessment"]["charge"]["advice"], "add")
        self.assertIn("Upside down", said["pouring"])
        self.assertIn("320 psig", said["high_side"])
        self.assertIn("gloves", " ".join(said["cautions"]).lower())

    def test_grams_and_ounces_are_the_same_advice(self):
        ip = self.advise()
        readings = {
            "suction_pressure": 744.6,
            "liquid_pressure": 2206.3,
            "suction_line_temp": 13.33,
            "liquid_line_temp": 36.11,
            "outdoor_air_temp": 30.0,
            "return_air_temp": 24.44,
            "return_air_wet_bulb": 17.22,
        }
        system = {
            **SYSTEM,
            "target_subcooling": 10 / 1.8,
            "nominal_capacity": 10551,
            "factory_charge": 6.6 * 0.4536,
        }
        body = asked({"minutes": 0, "readings": readings}) | {"units": "si", "system": system}
        si = self.http.post("/api/charge/advise", json=body).json()
        self.assertEqual(si["action"], "add")
        self.assertAlmostEqual(si["amount"] / 28.35, ip["amount"], delta=0.6)

    def test_no_response_to_two_doses_stops(self):
        rows = [{"minutes": 14 * n, "added": 8 if n else 0, "readings": LOW} for n in range(3)]
        said = self.advise(*rows)
        self.assertEqual((said["action"], said["stop"], said["amount"]), ("stop", "in_vain", 0))

    def test_what_is_wrong_is_said_with_the_fix(self):
        for body, says in (
            (asked() | {"history": []}, "history"),
            (asked({"minutes": 0, "readings": {}}), "read"),
            (asked({"minutes": 0, "added": "4", "readings": LOW}), "finite number"),
            (asked(connection="string"), "hose_manifold"),
            (asked({"minutes": 9, "readings": LOW}, {"minutes": 1, "readings": LOW}), "backwards"),
        ):
            with self.subTest(says):
                answer = self.http.post("/api/charge/advise", json=body)
                self.assertEqual(answer.status_code, 422, answer.text)
                self.assertIn(says, answer.text)


class VisitNudgeTest(WithClient):
    def test_from_advice_to_dose_to_waiting_to_a_correction(self):
        said = self.http.get("/api/visits/pottery-now/nudge").json()
        self.assertEqual((said["action"], said["watched"]), ("add", "superheat"))
        dose = {"id": "d1", "cylinder_id": "shelf-22", "amount": said["amount"]}
        visit = self.http.post("/api/visits/pottery-now/doses", json=dose).json()
        self.assertEqual([d["amount"] for d in visit["doses"]], [said["amount"]])
        waits = self.http.get("/api/visits/pottery-now/nudge").json()
        self.assertEqual((waits["action"], waits["wait_minutes"]), ("wait", 6))
        self.assertEqual(
            (datetime.fromisoformat(waits["ready_at"]) - self.clock()).total_seconds(), 360
        )
        self.clock.pass_minutes(70)  # a visit left for an hour in the middle of it
        again = self.http.get("/api/visits/pottery-now/nudge").json()
        # The same moment on every screen and after every reload, past or not.
        self.assertEqual((again["action"], again["ready_at"]), ("wait", waits["ready_at"]))
        self.assertIn("read again", again["reason"])
        visit = self.http.get("/api/visits/pottery-now").json()
        self.assertEqual(visit["assessment"]["decision"]["ready_at"], waits["ready_at"])
        mend = {"id": "d2", "dose_id": "d1", "amount": 2}
        visit = self.http.post("/api/visits/pottery-now/dose-corrections", json=mend).json()
        self.assertEqual([(d["id"], d["amount"]) for d in visit["doses"]], [("d2", 2)])

    def test_a_restriction_is_never_nudged(self):
        said = self.http.get("/api/visits/clinic-now/nudge").json()
        self.assertEqual((said["action"], said["amount"]), ("stop", 0))
        self.assertIsNone(self.http.get("/api/visits/net-loft-now/nudge").json())

    def test_the_simulated_plant_takes_the_dose(self):
        before = self.http.get("/api/visits/radio-room-live/yard").json()
        dose = {"id": "x1", "cylinder_id": "shelf-410", "amount": 6}
        self.http.post("/api/visits/radio-room-live/doses", json=dose)
        after = self.http.get("/api/visits/radio-room-live/yard").json()
        self.assertGreater(after["adding"], before["adding"])


class ShelfTest(WithClient):
    def test_the_shelf_shows_what_was_lost_between_calls(self):
        shelf = {one["id"]: one for one in self.http.get("/api/cylinders").json()}
        self.assertAlmostEqual(shelf["shelf-407"]["loss"]["change"], -21.9, delta=0.1)
        self.assertIsNone(shelf["shelf-22"]["loss"])
        self.assertIsNotNone(shelf["shelf-recovery"]["limit"])
        said = self.http.post(
            "/api/cylinders/shelf-22/weighings",
            json={"id": "w", "gross": shelf["shelf-22"]["gross"] - 0.5},
        ).json()
        self.assertEqual(said["found"], "lost")
        self.assertIn("8.0 oz less", said["message"])

    def test_a_cylinder_is_added_filled_and_checked(self):
        body = {"id": "new", "name": "Ny flaske", "refrigerant": "R-32", "tare": 9.0, "gross": 20.0}
        self.assertEqual(self.http.post("/api/cylinders", json=body).json()["holds"], 11.0)
        more = {"id": "m", "kind": "bought", "amount": 2.0, "note": "=1+1"}
        filled = self.http.post("/api/cylinders/new/movements", json=more).json()
        self.assertEqual(filled["holds"], 13.0)
        pure = self.http.get("/api/cylinders/new/contents?temperature=80&pressure=237").json()
        self.assertEqual(pure["contents"], "pure")  # R-32 boils at 80 °F under 237 psig
        air = self.http.get("/api/cylinders/new/contents?temperature=80&pressure=300").json()
        self.assertEqual(air["contents"], "air")

    def test_the_ledger_leaves_as_a_file_that_adds_up(self):
        rows = list(csv.DictReader(io.StringIO(self.http.get("/api/ledger.csv").text)))
        held = {one["id"]: one for one in self.http.get("/api/cylinders?units=si").json()}
        for cylinder, found in held.items():
            total = sum(float(row["kg"]) for row in rows if row["cylinder"] == cylinder)
            self.assertAlmostEqual(total, found["holds"], delta=0.006)
        book = self.http.get("/api/ledger").json()
        self.assertEqual(len(book["movements"]), len(rows))
        self.assertEqual(book["threshold"], 10)
        set_to = self.http.post("/api/ledger/threshold", json={"percent": 5}).json()
        self.assertTrue(any(leak["is_over"] for leak in set_to["leaks"]))

    def test_every_way_to_connect_comes_with_its_cautions(self):
        ways = self.http.get("/api/charge/connections").json()
        self.assertEqual(len(ways), 5)
        hoses = next(way for way in ways if way["key"] == "hose_manifold")
        self.assertEqual(hoses["most_a_burst"], 3)
        self.assertTrue(any(step["caution"] for step in hoses["steps"]))

    def test_the_ways_in_and_the_connection_are_on_the_visit(self):
        here = "/api/visits/pottery-now"
        found = self.http.get(f"{here}/ways").json()
        self.assertTrue(found["ways"][0]["is_the_one"])
        self.assertIn(
            "Block part of the coil’s face", [school["label"] for school in found["other_schools"]]
        )
        body = {"id": "c1", "connection": "probe_and_tee"}
        self.assertEqual(
            self.http.post(f"{here}/connections", json=body).json()["connection"], "probe_and_tee"
        )
        said = self.http.get(f"{here}/nudge").json()
        self.assertEqual(said["connection"]["key"], "probe_and_tee")
        self.assertIn("Shut at the cylinder", said["hose"])
        self.assertIn("per oz here", said["response"])
        wrong = self.http.post(f"{here}/connections", json={"id": "c2", "connection": "straw"})
        self.assertEqual(wrong.status_code, 422)
        self.assertIsNone(self.http.get(f"{here}/scale?since=0").json())  # no scale sends there
        for never in (-1, 2**70, -(2**90)):
            with self.subTest(since=never):
                self.assertEqual(self.http.get(f"{here}/scale?since={never}").status_code, 422)
