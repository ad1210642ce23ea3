"""A multi-zone plant's log over the wire: looked at, read, remembered, drawn, said everywhere."""

import io
import json
import tempfile
from datetime import UTC, datetime
from pathlib import Path
from unittest.mock import patch

from pydantic import TypeAdapter
from pypdf import PdfReader

from nudge.demo.skerrow_zones import LIBRARY, LOGS, SCHOOL
from nudge.instruments.zone_files import look_at_zones, read_zone_log
from nudge.presenters.zones import ZonesOut, zones_out
from nudge.services.workshop import Workshop
from nudge.store.database import Database
from tests.temporary import WithClient

LIBRARY_LOG, SCHOOL_LOG = LOGS / LIBRARY.file, LOGS / SCHOOL.file


def zones_of_other(workshop):
    found = zones_out(workshop.zones.of_visit(SCHOOL.visit_id), "ip")
    return TypeAdapter(ZonesOut).dump_python(found, mode="json")


class ZonesTest(WithClient):
    def zones(self, visit, **query):
        answer = self.http.get(f"/api/visits/{visit}/zones", params=query)
        self.assertEqual(answer.status_code, 200, answer.text[:300])
        return answer.json()

    def opened(self, system=SCHOOL.system_id, visit="z1"):
        body = {"id": visit, "system_id": system, "complaint": "Warm"}
        answer = self.http.post("/api/visits", json=body)
        self.assertIn(answer.status_code, (200, 201), answer.text[:300])
        return visit

    def looked(self, visit, data, log="log-1", status=200):
        answer = self.http.put(f"/api/visits/{visit}/zones/logs/{log}", content=data)
        self.assertEqual(answer.status_code, status, answer.text[:400])
        return answer.json()

    def read(self, visit, look, status=200):
        at = f"/api/visits/{visit}/zones/logs/{look['id']}/read"
        answer = self.http.post(at, json={"mapping": look["mapping"], "parts": look["parts"]})
        self.assertEqual(answer.status_code, status, answer.text[:400])
        return answer.json()

    def test_the_demos_two_plants_are_read_as_their_story(self):
        library, school = self.zones(LIBRARY.visit_id), self.zones(SCHOOL.visit_id)
        self.assertEqual((library["state"], library["carried"]), ("named", ["outdoor"]))
        self.assertEqual(library["beliefs"][0]["label"], "Low charge")
        self.assertEqual((school["state"], school["carried"]), ("named", ["2.2"]))
        self.assertEqual(school["beliefs"][0]["label"], "Music: valve has lost its steps")
        self.assertEqual(school["rooms"][0]["key"], "2.2")  # what carries it comes first
        for found in (library, school):
            told = sum(one["percent"] for one in found["beliefs"]) + found["something_else"]
            self.assertAlmostEqual(told, 100, delta=1.5)
            self.assertEqual(len(found["frames"]["at_ms"]), len(found["rooms"][0]["has"]))
            boxes = {box["key"] for box in found["plan"]["rooms"]}
            self.assertEqual(boxes, {room["key"] for room in found["rooms"]})

    def test_every_screen_and_paper_says_the_same(self):
        visit = self.http.get(f"/api/visits/{LIBRARY.visit_id}").json()
        decision = visit["assessment"]["decision"]
        self.assertEqual(
            (decision["headline"], decision["advice"]), ("Low charge.", "do_not_charge")
        )
        today = self.http.get("/api/today").json()
        self.assertIn("Low charge.", str(today))
        for path in ("report.pdf?whom=customer", "report.pdf", "slip.pdf"):
            data = self.http.get(f"/api/visits/{LIBRARY.visit_id}/{path}").content
            pages = PdfReader(io.BytesIO(data)).pages
            words = " ".join(page.extract_text() for page in pages)
            self.assertNotIn("add refrigerant", words.lower(), path)
            self.assertIn("Low charge.", words, path)
            if path == "report.pdf":
                for told in ("The plant by its log", "Drying loft", "49 lb", "log of 2026-06-03"):
                    self.assertIn(told, words)

    def test_a_log_is_looked_at_read_and_remembered(self):
        visit = self.opened()
        self.assertIsNone(self.http.get(f"/api/visits/{visit}/zones").json())
        look = self.looked(visit, SCHOOL_LOG.read_bytes())
        self.assertEqual((look["remembered"], look["missing"]), (False, []))
        self.assertEqual(look["titles"], ["Service log"])
        self.assertEqual(look["parts"]["rooms"][1]["name"], "Music")  # the plant was drawn before
        found = self.read(visit, look)
        self.assertEqual(found["carried"], ["2.2"])
        self.assertTrue(self.looked(visit, SCHOOL_LOG.read_bytes(), "log-2")["remembered"])

    def test_a_reading_is_stopped_on_the_way_and_nothing_of_it_is_kept(self):
        visit = self.opened()
        look = self.looked(visit, SCHOOL_LOG.read_bytes())
        at = f"/api/visits/{visit}/zones/logs/{look['id']}"
        self.assertFalse(self.http.get(at).json()["is_read"])
        seen = []

        def stopped(path, mapping, told):
            seen.append(self.http.get(at).json())
            self.http.post(f"{at}/cancel")
            return read_zone_log(path, mapping, told)

        with patch("nudge.services.zones.read_zone_log", stopped):
            answer = self.read(visit, look, status=422)
        self.assertIn("Cancelled. None of it was kept.", str(answer))
        lines = len(SCHOOL_LOG.read_text("utf-8").splitlines())
        self.assertTrue(seen[0]["is_read"])
        self.assertAlmostEqual(seen[0]["about"], lines, delta=0.1 * lines)
        self.assertIsNone(self.http.get(f"/api/visits/{visit}/zones").json())
        self.assertEqual(self.read(visit, look)["carried"], ["2.2"])  # the file still waited

    def test_a_drawing_is_guessed_from_the_headings_where_nobody_drew_it(self):
        self.http.post("/api/sites", json={"id": "s9", "name": "Slip House"})
        plate = {"id": "p9", "site_id": "s9", "name": "Roof plant", "refrigerant": "R-410A",
                 "metering_device": "eev", "application": "multi_zone"}  # fmt: skip
        made = self.http.post("/api/systems", json=plate)
        self.assertIn(made.status_code, (200, 201), made.text[:300])
        look = self.looked(self.opened("p9", "z9"), LIBRARY_LOG.read_bytes())
        rooms = look["parts"]["rooms"]
        self.assertEqual(
            [(r["key"], r["storey"]) for r in rooms][:3], [("6.1", 6), ("6.2", 6), ("5.1", 5)]
        )
        self.read("z9", look)
        kept = self.http.get("/api/systems/p9/zones").json()
        self.assertEqual(len(kept["rooms"]), 11)

    def test_a_drawing_that_does_not_fit_says_where_and_may_be_changed(self):
        drawing = self.http.get(f"/api/systems/{SCHOOL.system_id}/zones").json()
        drawing["rooms"] = [*drawing["rooms"][:5], {"key": "9.9", "name": "Attic"}]
        answer = self.http.put(f"/api/systems/{SCHOOL.system_id}/zones", json=drawing)
        self.assertEqual(answer.status_code, 200, answer.text[:300])
        look = self.looked(self.opened(), SCHOOL_LOG.read_bytes())
        told = " ".join(look["questions"])
        self.assertIn("does not tell of 9.9", told)
        self.assertIn("has no 1.3", told)
        drawing["rooms"].append(drawing["rooms"][0])
        twice = self.http.put(f"/api/systems/{SCHOOL.system_id}/zones", json=drawing)
        self.assertEqual(twice.status_code, 422)
        self.assertIn("2.1", twice.text)

    def test_its_charge_is_summed_and_it_stands_beside_its_own_june(self):
        library = self.zones(LIBRARY.visit_id, units="si")
        charge = library["charge"]
        self.assertEqual((charge["lacks"], len(charge["pipes"])), ([], 3))
        self.assertIn("16.01 kg + ", charge["total"]["today"])
        sheet = self.http.get(f"/api/systems/{LIBRARY.system_id}/weigh-in?units=si").json()
        self.assertEqual(sheet["numbers"]["total_charge"]["text"], charge["total"]["text"])
        self.assertEqual([one["text"] for one in sheet["pipes"]],
                         [one["text"] for one in charge["pipes"]])  # fmt: skip
        kinds = self.http.get(f"/api/systems/{LIBRARY.system_id}/charts").json()["kinds"]
        self.assertNotIn("charge_by_line", {kind["key"] for kind in kinds})
        moved = {one["label"] for one in library["against"]["moved"]}
        self.assertIn("Subcooling after the subcoolers", moved)
        self.assertEqual(library["against"]["apart"], "")
        lines = {one["key"] for one in library["rooms"][0]["lines"]}
        self.assertLessEqual({"zone_line_loss", "zone_lift"}, lines)
        self.assertIsNone(self.zones(SCHOOL.visit_id)["against"])

    def test_what_moved_since_it_was_well_is_told_of_on_today_once_it_is_closed(self):
        at = f"/api/visits/{LIBRARY.visit_id}/closings"
        shut = self.http.post(at, json={"id": "shut", "reason": "no part in the van"})
        self.assertIn(shut.status_code, (200, 201), shut.text[:300])
        for units, unit in (("ip", "°F"), ("si", "K")):
            told = str(self.http.get(f"/api/today?units={units}").json())
            self.assertRegex(told, f"Moved since it was well: [^'\"]*{unit}, now ")

    def test_lines_that_a_plant_sends_are_read_as_its_file_is(self):
        path = self.folder / "school.csv"
        path.write_bytes(SCHOOL_LOG.read_bytes())
        log = read_zone_log(path, look_at_zones(path).mapping).log
        visit, at = self.opened(), "/api/visits/z1/zones/lines"
        for start in range(0, len(log.times_s), 150):
            lines = [
                {
                    "at": datetime.fromtimestamp(log.times_s[i], UTC).isoformat(),
                    "values": {
                        f"{part}/{point}": column[i]
                        for (part, point), column in log.columns.items()
                        if column[i] == column[i]
                    },
                }
                for i in range(start, min(start + 150, len(log.times_s)))
            ]
            answer = self.http.post(at, json={"lines": lines}, params={"units": "si"})
            self.assertEqual((answer.status_code, answer.json()["refused"]), (200, 0), answer.text)
        found = self.zones(visit)
        self.assertEqual(found["carried"], ["2.2"])
        self.assertIn("Music", str(self.http.get("/api/today").json()))
        bad = {"lines": [{"at": "2026-07-14T12:00:00Z", "values": {"9/nothing": 1.0}}]}
        refused = self.http.post(at, json=bad)
        self.assertEqual(refused.status_code, 422, refused.text)

    def test_a_drawing_comes_from_a_file_and_is_looked_over_first(self):
        at = f"/api/systems/{SCHOOL.system_id}/zones"
        before = self.http.get(at).json()
        table = "Number,Name,Storey,kW\n2.1,Drawing,2,4.5\n2.2,Music,2,3.6\n"
        found = self.http.post(f"{at}/drawings", json={"text": table}).json()
        self.assertEqual([room["capacity_w"] for room in found["rooms"]], [4500, 3600])
        self.assertEqual(found["pipes"], before["pipes"])  # of which the file says nothing
        self.assertEqual(self.http.get(at).json(), before)
        self.assertEqual(self.http.put(at, json=found).status_code, 200)
        odd = {**found, "pipes": [{"outside_mm": 10.9, "length_m": 5}]}
        self.assertEqual(self.http.put(at, json=odd).status_code, 422)
        wrong = self.http.post(f"{at}/drawings", json={"text": '[{"key": "1", "size": 3}]'})
        self.assertEqual(wrong.status_code, 422)

    def test_a_word_nobody_knows_is_asked_once(self):
        data = SCHOOL_LOG.read_bytes().replace(b";cooling", b";KB")
        look = self.looked(self.opened(), data)
        self.assertEqual(look["unknown"], {"mode": ["KB"], "room_mode": ["KB"]})
        meant = next(p["meanings"] for p in look["points"] if p["key"] == "mode")["cooling"]
        look["mapping"]["codes"] = {"mode": {"KB": meant}, "room_mode": {"KB": meant}}
        self.assertEqual(self.read("z1", look)["carried"], ["2.2"])
        self.assertEqual(self.looked("z1", data, "log-2")["unknown"], {})

    def test_a_bundle_brings_the_log_and_its_drawing(self):
        given = self.http.get(f"/api/systems/{SCHOOL.system_id}/bundle.json").json()
        before = self.zones(SCHOOL.visit_id)
        with tempfile.TemporaryDirectory() as folder:
            database = Database(Path(folder))
            self.addCleanup(database.close)
            there = Workshop(database, self.clock)
            there.bundles.take_in(json.dumps(given).encode())
            self.assertEqual(zones_of_other(there), before)
            self.assertEqual(len(there.zones.drawing(SCHOOL.system_id).rooms), 6)
            for broken in ("bm8gbG9n", "eJwLS/UFAAJMAXE="):
                given["zone_logs"][0]["data"] = broken
                _, reasons = there.bundles.look(json.dumps(given).encode())
                self.assertIn("zone_logs", " ".join(reasons))

    def test_under_an_hour_is_not_judged(self):
        head, *rows = SCHOOL_LOG.read_text("utf-8").split("\n")
        visit = self.opened()
        text = "\n".join([head, *rows[:62]])
        found = self.read(visit, self.looked(visit, text.encode()))
        self.assertEqual((found["state"], found["beliefs"]), ("not_an_hour", []))
        said = self.http.get(f"/api/visits/{visit}").json()["assessment"]["decision"]
        self.assertEqual(said["headline"], "Not an hour yet.")

    def test_what_is_no_log_and_what_is_closed_are_refused(self):
        visit = self.opened()
        refused = self.looked(visit, b"Time,Suction\n2026-07-01 12:00:00,118\n", status=422)
        self.assertIn("number in their heading", refused["errors"][0]["message"])
        look = self.looked(visit, SCHOOL_LOG.read_bytes())
        look["mapping"]["columns"] = [c | {"point": ""} for c in look["mapping"]["columns"]]
        self.read(visit, look, 422)
        self.looked("nowhere", SCHOOL_LOG.read_bytes(), status=404)
        self.visits.close(visit)
        self.looked(visit, SCHOOL_LOG.read_bytes(), "late", 409)

    def test_a_closed_visit_keeps_the_drawing_of_its_day(self):
        before = self.zones(SCHOOL.visit_id)
        self.visits.close(SCHOOL.visit_id)
        drawing = self.http.get(f"/api/systems/{SCHOOL.system_id}/zones").json()
        drawing["rooms"] = [room for room in drawing["rooms"] if room["key"] != "2.2"]
        at = f"/api/systems/{SCHOOL.system_id}/zones"
        self.assertEqual(self.http.put(at, json=drawing).status_code, 200)
        self.assertEqual(self.zones(SCHOOL.visit_id), before)
        visit = self.http.get(f"/api/visits/{SCHOOL.visit_id}").json()
        self.assertIn("Music", visit["assessment"]["decision"]["headline"])
