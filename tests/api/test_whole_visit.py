"""A visit from arrival to close-out over HTTP, and a system's book."""

import io

from PIL import Image

from nudge.main import create_app
from tests.temporary import WithClient

HERE = "/api/visits/pottery-now"


def picture(size=(800, 600), fmt="JPEG", **more):
    out = io.BytesIO()
    Image.effect_noise(size, 50).convert("RGB").save(out, fmt, **more)
    return out.getvalue()


class Calls(WithClient):
    """Asking and writing on a visit."""

    def order(self, visit="pottery-now"):
        return self.http.get(f"/api/visits/{visit}/order").json()

    def post(self, path, status=200, **body):
        answer = self.http.post(path, json={"id": f"e{self.number()}", **body})
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def number(self):
        self.count = getattr(self, "count", 0) + 1
        return self.count


class OrderTest(Calls):
    def test_from_open_to_closed_with_nothing_dangerous_left(self):
        self.assertEqual(self.order()["here"], "act")
        refused = self.http.patch(HERE, json={"closed": True})
        self.assertEqual(refused.status_code, 422)
        self.assertIn("Ports bubble-tested", refused.json()["errors"][0]["message"])
        for step in ("ports", "caps", "panels", "disconnect"):
            self.post(f"{HERE}/ticks", step=step, state="done")
        self.assertEqual(self.order()["dangers"], [])
        closed = self.post(f"{HERE}/closings")
        self.assertEqual(closed["state"], "closed")
        again = self.http.post(f"{HERE}/ticks", json={"id": "x", "step": "tools", "state": "done"})
        self.assertEqual(again.status_code, 409)

    def test_closing_all_the_same_keeps_the_reason(self):
        self.post(f"{HERE}/closings", reason="ladder taken away, back tomorrow")
        found = self.order()
        ports = next(
            step for stage in found["stages"] for step in stage["steps"] if step["key"] == "ports"
        )
        self.assertEqual(
            (ports["state"], ports["reason"]), ("skipped", "ladder taken away, back tomorrow")
        )
        self.assertIn("ladder taken away", found["notes"][-1]["text"])

    def test_a_check_goes_onto_the_visit_and_its_label_is_remembered(self):
        entries = {"motor": "blower", "rated": 45, "measured": 39}
        visit = self.post(f"{HERE}/checks", key="capacitor", entries=entries)
        self.assertIn("blower_capacitor_weak", visit["observations"])
        self.assertEqual(visit["assessment"]["charge"]["advice"], "do_not_charge")
        self.post(f"{HERE}/checks", key="statics", entries={"total": 0.62})
        reading = next(
            r
            for r in self.http.get(HERE).json()["readings"]
            if r["point"] == "total_external_static"
        )
        self.assertAlmostEqual(reading["value"], 0.62)
        self.post(f"{HERE}/closings", reason="test")
        self.http.post("/api/visits", json={"id": "next", "system_id": "pottery-kiln"})
        found = {one["key"]: one for one in self.order("next")["checks"]}
        self.assertEqual(found["capacitor"]["remembered"], {"motor": "blower", "rated": 45.0})
        bad = self.http.post(f"{HERE}/checks", json={"id": "b", "key": "capacitor", "entries": {}})
        self.assertIn(bad.status_code, (409, 422))

    def test_an_empty_form_stands_in_the_vocabulary_and_a_filled_one_on_the_visit_too(self):
        forms = {f["key"]: f for f in self.http.get("/api/vocabulary?units=si").json()["forms"]}
        self.assertEqual(self.order()["checks"], [])
        steps = [step for stage in self.order()["stages"] for step in stage["steps"]]
        asked = {step["check"] for step in steps if step["check"]}
        self.assertGreater(len(asked), 5)
        self.assertLessEqual(asked, forms.keys())
        self.post(f"{HERE}/checks?units=si", key="statics", entries={"total": 155})
        (filled,) = self.http.get(f"{HERE}?units=si").json()["order"]["checks"]
        self.assertEqual(filled["entries"], {"total": 155.0})
        for asks in ("label", "caution", "subsystem", "blanks"):
            self.assertEqual(filled[asks], forms["statics"][asks])
        total = next(b for b in forms["statics"]["blanks"] if b["key"] == "total")
        self.assertEqual(total["unit"], "Pa")

    def test_an_assessment_is_said_once_on_a_visit_and_whole_by_its_nudge_alone(self):
        visit = self.post(
            f"{HERE}/callouts",
            text="suct 118 liq 341 sl 52 ll 96 oa 88",
            heard_at=self.clock().isoformat(),
        )
        self.assertNotIn("assessment", visit["nudge"])
        alone = self.http.get(f"{HERE}/nudge").json()
        self.assertEqual(alone["assessment"]["decision"], visit["assessment"]["decision"])
        self.assertEqual(alone["headline"], visit["nudge"]["headline"])

    def test_the_kind_of_call_changes_the_route(self):
        self.post(f"{HERE}/kinds", kind="heating_check")
        self.assertNotIn("judge", [stage["key"] for stage in self.order()["stages"]])
        wrong = self.http.post(f"{HERE}/kinds", json={"id": "k", "kind": "picnic"})
        self.assertEqual(wrong.status_code, 422)

    def test_notes_are_corrected_and_taken_back_by_new_entries(self):
        self.http.post(f"{HERE}/notes", json={"id": "n1", "subsystem": "outdoor", "text": "Salt"})
        body = {"id": "n2", "subsystem": "outdoor", "text": "Clay, no salt", "corrects": "n1"}
        self.http.post(f"{HERE}/notes", json=body)
        self.assertEqual([n["text"] for n in self.order()["notes"]], ["Clay, no salt"])
        self.http.post(
            f"{HERE}/notes", json={"id": "n3", "subsystem": "outdoor", "text": "", "corrects": "n2"}
        )
        self.assertEqual(self.order()["notes"], [])

    def test_pictures_are_made_small_and_lose_what_the_camera_wrote(self):
        exif = Image.Exif()
        exif[0x0112], exif[0x010F] = 6, "A camera"  # turned by a quarter; who made it
        data = picture((2400, 1200), exif=exif)
        self.assertIn(b"A camera", data)
        put = self.http.put(f"{HERE}/photos/p1?subsystem=outdoor&caption=Face", content=data)
        self.assertEqual(put.status_code, 201, put.text)
        kept = self.http.get("/api/photos/p1.jpg").content
        self.assertNotIn(b"A camera", kept)
        with Image.open(io.BytesIO(kept)) as image:
            self.assertEqual(image.size, (800, 1600))  # upright now
            self.assertEqual(len(image.getexif()), 0)
        self.assertEqual([p["caption"] for p in self.order()["photos"]], ["Face"])
        for wrong in (b"GIF89a, not really", b"", b"%PDF-1.7 no picture"):
            answer = self.http.put(f"{HERE}/photos/p2", content=wrong)
            self.assertEqual(answer.status_code, 422)
            self.assertIn("not a picture", answer.json()["errors"][0]["message"])
        self.http.post("/api/photos/p1/removals", json={"id": "r"})
        self.assertEqual(self.http.get("/api/photos/p1.jpg").status_code, 404)

    def test_two_people_editing_one_plate_do_not_overwrite_each_other(self):
        path = "/api/systems/pottery-kiln"
        before = self.http.get(path).json()["system"]["note"]
        self.http.patch(path, json={"note": "Key at the bakery", "was": {"note": before}})
        late = self.http.patch(path, json={"note": "Mind the kiln", "was": {"note": before}})
        self.assertEqual(late.status_code, 409)
        self.assertIn("Key at the bakery", late.json()["errors"][0]["message"])
        self.assertEqual(self.http.get(path).json()["system"]["note"], "Key at the bakery")
        seen = {"note": "Mind the kiln", "was": {"note": "Key at the bakery"}}
        self.assertEqual(self.http.patch(path, json=seen).status_code, 200)


class BookTest(Calls):
    """The system's side: baseline, intended changes, open items, the charge."""

    def test_only_a_right_visit_becomes_a_baseline(self):
        refused = self.http.post(f"{HERE}/baselines", json={"id": "b1"})
        self.assertEqual(refused.status_code, 422)
        self.assertIn("not", refused.json()["errors"][0]["message"])
        seeds = "/api/visits/seed-library-now"
        self.http.post(f"{seeds}/baselines", json={"id": "b2"})
        self.assertTrue(self.order("seed-library-now")["baseline_here"])
        ended = self.http.post("/api/systems/seed-library-stacks/baseline-ends", json={"id": "b3"})
        self.assertEqual(ended.json()["baselines"], [])

    def test_the_lamp_rooms_page_tells_its_story(self):
        found = self.http.get("/api/systems/lighthouse-lamp/records").json()
        (kept,) = found["baselines"]
        self.assertEqual(kept["baseline_visit"], "lighthouse-1")
        self.assertTrue(kept["drift"]["is_flagged"])
        self.assertEqual(kept["drift"]["causes"][0]["key"], "charge_lost")
        self.assertEqual(len(found["snaps"]), 5)
        self.assertAlmostEqual(found["written_charge"], 6.0, delta=0.01)  # 2.72 kg
        si = self.http.get("/api/systems/lighthouse-lamp/records?units=si").json()
        ip_by, si_by = (
            next(m["by"] for m in one["baselines"][0]["drift"]["moved"] if m["key"] == "subcooling")
            for one in (found, si)
        )
        self.assertAlmostEqual(ip_by, 1.8 * si_by, delta=0.02)

    def test_what_is_left_waits_for_its_season_on_today(self):
        self.http.post(
            f"{HERE}/deferred", json={"id": "d1", "text": "Wash the coil", "season": "over_70"}
        )
        left = {one["text"]: one for one in self.http.get("/api/today").json()["left"]}
        self.assertTrue(left["Wash the coil"]["is_in_season"])  # it is July
        self.http.post("/api/deferred/d1", json={"done": True})
        left = [one["text"] for one in self.http.get("/api/today").json()["left"]]
        self.assertNotIn("Wash the coil", left)

    def test_search_finds_in_any_script_and_case(self):
        name = "Порт 港 " + "x" * 300
        self.http.post("/api/sites", json={"id": "port", "name": name})
        hits = self.http.get("/api/search?text=порт").json()
        self.assertEqual([hit["id"] for hit in hits], ["port"])
        ferry = self.http.get("/api/search?text=hall%20FERRY").json()
        self.assertIn("ferry-hall-big", [hit["id"] for hit in ferry])
        self.assertEqual(self.http.get("/api/search?text=100%25").json(), [])
        self.assertEqual(self.http.get("/api/search?text=%20").json(), [])


class GuestTest(WithClient):
    def test_a_link_shows_one_visit_takes_a_note_and_ends(self):
        made = self.http.post(f"{HERE}/links", json={"hours": 2}).json()
        token = made["path"].removeprefix("/look/")
        seen = self.http.get(f"/api/guest/{token}").json()
        self.assertEqual(seen["visit"]["id"], "pottery-now")
        left = self.http.post(
            f"/api/guest/{token}/notes", json={"id": "g1", "text": "Second filter?"}
        )
        self.assertEqual(left.json()["notes"][-1]["written_from"], "office")
        self.assertNotIn(token, self.database.path.read_bytes().decode("latin-1"))
        self.clock.pass_minutes(121)
        ended = self.http.get(f"/api/guest/{token}")
        self.assertEqual((ended.status_code, "ended" in ended.text), (404, True))

    def test_it_is_revoked_at_once_and_a_wrong_one_opens_nothing(self):
        made = self.http.post(f"{HERE}/links", json={}).json()
        self.http.post(f"{HERE}/links/{made['id']}/revocations", json={"id": "r"})
        token = made["path"].removeprefix("/look/")
        for wrong in (token, "x" * 40, "..%2F..%2Fvisits"):
            self.assertEqual(self.http.get(f"/api/guest/{wrong}").status_code, 404)
        self.assertEqual(self.http.post(f"{HERE}/links", json={"hours": 900}).status_code, 422)

    def test_another_machine_reaches_what_a_link_shows_and_nothing_else(self):
        from starlette.testclient import TestClient

        from nudge.services.workshop import Workshop

        made = self.http.post(f"{HERE}/links", json={}).json()
        workshop = Workshop(self.database, self.clock)
        far = TestClient(create_app(workshop), client=("192.0.2.7", 50000))
        token = made["path"].removeprefix("/look/")
        self.assertEqual(far.get(f"/api/guest/{token}").status_code, 200)
        for path in ("/api/today", "/api/visits/pottery-now", "/api/ledger.csv", "/openapi.json"):
            self.assertEqual(far.get(path).status_code, 401, path)
