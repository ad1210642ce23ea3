"""Another machine comes in by a code that works once, does what its role may, and is let go."""

import asyncio
import json
import tempfile
import unittest
from datetime import UTC, datetime, timedelta
from pathlib import Path
from time import monotonic
from unittest import mock

from cryptography import x509
from starlette.testclient import TestClient

from nudge import certificate
from nudge.main import create_app
from nudge.services.devices import CODE_LIVES, MOST_WRONG, ROLES, TRIES
from tests.temporary import WithClient

VISIT = "/api/visits/seed-library-now"
JSON = {"Content-Type": "application/json"}


class WithFar(WithClient):
    def far(self, address="192.0.2.7"):
        """A browser on another machine."""
        app = create_app(self.workshop, listens_beyond=True)
        far = TestClient(app, raise_server_exceptions=False, client=(address, 50_000), headers=JSON)
        self.addCleanup(far.close)
        return far

    def code(self, role="technician"):
        made = self.http.post("/api/pairing/codes", json={"role": role})
        self.assertEqual(made.status_code, 201)
        return made.json()["code"]

    def paired(self, role="technician", name="van tablet"):
        far = self.far()
        claim = far.post("/api/pairing/claims", json={"code": self.code(role), "name": name})
        self.assertEqual(claim.status_code, 201, claim.text)
        return far

    def line(self, client, entry, text="sa 57"):
        body = {"id": entry, "text": text, "heard_at": datetime.now(UTC).isoformat()}
        return client.post(f"{VISIT}/callouts", json=body)


class PairingTest(WithFar):
    def test_a_stranger_sees_screens_and_no_data_and_a_paired_device_everything(self):
        far = self.far()
        self.assertEqual(far.get("/").status_code, 200)
        for path in ("/api/today", "/api/me", VISIT, "/api/workshop", "/api/photos/p.jpg"):
            answer = far.get(path)
            self.assertEqual(answer.status_code, 401, path)
            self.assertIn("pair it", answer.json()["errors"][0]["message"])
        self.assertEqual(self.line(far, "x").status_code, 401)
        far = self.paired()
        self.assertEqual(far.get("/api/today").status_code, 200)
        self.assertEqual(self.line(far, "x").status_code, 200)
        self.assertEqual(far.get("/api/me").json()["name"], "van tablet")

    def test_a_code_works_once_and_for_ten_minutes(self):
        code = self.code()
        first, second = self.far(), self.far()
        body = {"code": code, "name": "one"}
        self.assertEqual(first.post("/api/pairing/claims", json=body).status_code, 201)
        again = second.post("/api/pairing/claims", json=body)
        self.assertEqual(again.status_code, 422)
        self.assertIn("does not open", again.json()["errors"][0]["message"])
        code = self.code()
        self.clock.now += CODE_LIVES + timedelta(seconds=1)
        late = second.post("/api/pairing/claims", json={"code": code, "name": "late"})
        self.assertEqual(late.status_code, 422)

    def test_a_new_code_makes_the_one_before_it_void(self):
        old, new = self.code(), self.code()
        far = self.far()
        for code, status in ((old, 422), (new, 201)):
            body = {"code": code, "name": "tablet"}
            self.assertEqual(far.post("/api/pairing/claims", json=body).status_code, status)

    def test_guessing_voids_the_code_and_is_soon_not_listened_to(self):
        code = self.code()
        wrong = "0000 0000" if not code.startswith("0000") else "1111 1111"
        statuses = []
        with mock.patch("nudge.services.devices.monotonic", return_value=monotonic()):
            for number in range(TRIES + 2):  # all within the minute, however slow this machine is
                far = self.far()
                body = {"code": wrong, "name": f"guess {number}"}
                statuses.append(far.post("/api/pairing/claims", json=body).status_code)
        self.assertEqual(statuses, [422] * TRIES + [429] * 2)
        self.assertLess(MOST_WRONG, TRIES)
        other = self.far("192.0.2.8")
        right = other.post("/api/pairing/claims", json={"code": code, "name": "owner"})
        self.assertEqual(right.status_code, 422)  # it is void by then
        fresh = {"code": self.code(), "name": "owner"}
        self.assertEqual(other.post("/api/pairing/claims", json=fresh).status_code, 201)

    def test_a_device_needs_a_name(self):
        far, code = self.far(), self.code()
        for name in ("", "   ", "x" * 41):
            body = {"code": code, "name": name}
            self.assertEqual(far.post("/api/pairing/claims", json=body).status_code, 422)
        body = {"code": code, "name": "still good"}
        self.assertEqual(far.post("/api/pairing/claims", json=body).status_code, 201)

    def test_the_cookie_is_out_of_reach_of_scripts_and_other_sites(self):
        far = self.far()
        claim = far.post("/api/pairing/claims", json={"code": self.code(), "name": "tablet"})
        cookie = claim.headers["set-cookie"]
        for part in ("HttpOnly", "SameSite=strict", "Path=/", "Max-Age="):
            self.assertIn(part, cookie)
        secure = TestClient(
            create_app(self.workshop), base_url="https://testserver", client=("192.0.2.9", 1),
            headers=JSON,
        )  # fmt: skip
        claim = secure.post("/api/pairing/claims", json={"code": self.code(), "name": "tablet"})
        self.assertIn("Secure", claim.headers["set-cookie"])

    def test_what_is_kept_is_no_token(self):
        far = self.paired()
        token = far.cookies["nudge_device"]
        with self.database.engine.connect() as opened:
            kept = opened.exec_driver_sql("SELECT * FROM devices").fetchall()
        self.assertNotIn(token.partition(".")[2], repr(kept))
        for wrong in (token + "x", token[:-1], "." + token, token.replace(".", ""), "💥", ""):
            self.assertIsNone(self.workshop.devices.known(wrong), wrong)

    def test_a_device_that_is_let_go_is_out_at_once_and_its_name_stays_on_what_it_wrote(self):
        far = self.paired()
        self.line(far, "by-tablet")
        listed = self.http.get("/api/devices").json()["devices"]
        self.assertEqual([one["name"] for one in listed], ["van tablet"])
        gone = self.http.delete(f"/api/devices/{listed[0]['id']}")
        self.assertEqual(gone.json()["devices"], [])
        self.assertEqual(far.get("/api/today").status_code, 401)
        self.assertEqual(self.line(far, "after").status_code, 401)
        self.assertEqual(self.written_by("by-tablet:0"), "van tablet")
        self.assertEqual(self.http.delete("/api/devices/none").status_code, 404)

    def written_by(self, reading):
        with self.database.engine.connect() as opened:
            found = opened.exec_driver_sql(
                "SELECT written_by FROM readings WHERE id=?", (reading,)
            ).fetchone()
        return found[0]

    def test_every_row_says_which_device_wrote_it(self):
        far = self.paired(name="loft phone")
        self.line(far, "far")
        self.line(self.http, "here", "sa 58")
        self.assertEqual(self.written_by("far:0"), "loft phone")
        self.assertIsNone(self.written_by("here:0"))
        rows = self.http.get(VISIT).json()["readings"]
        self.assertEqual(
            {r["id"]: r["written_by"] for r in rows if r["id"] in ("far:0", "here:0")},
            {"far:0": "loft phone", "here:0": ""},
        )


class StreamTest(WithFar):
    def test_an_open_stream_says_nothing_more_to_a_device_that_was_let_go(self):
        far = self.paired()
        token, chunks = far.cookies["nudge_device"], []
        scope = {
            "type": "http", "method": "GET", "path": f"{VISIT}/stream", "raw_path": b"",
            "query_string": b"", "client": ("192.0.2.7", 1), "server": ("testserver", 80),
            "scheme": "http", "http_version": "1.1", "root_path": "",
            "headers": [(b"host", b"testserver"), (b"cookie", f"nudge_device={token}".encode())],
        }  # fmt: skip

        async def follow():
            ended = asyncio.Event()

            async def receive():
                await ended.wait()
                return {"type": "http.disconnect"}

            async def send(message):
                if message["type"] == "http.response.body":
                    chunks.append(message)
                    if not message.get("more_body", False):
                        ended.set()

            app = create_app(self.workshop, listens_beyond=True)
            following = asyncio.create_task(app(scope, receive, send))
            await asyncio.sleep(0.3)
            before = len(chunks)
            device = self.workshop.devices.all()[0]
            await asyncio.to_thread(self.workshop.devices.let_go, device.id)
            await asyncio.to_thread(self.line, self.http, "told-to-nobody")
            await asyncio.wait({following}, timeout=5)
            following.cancel()
            return before

        before = asyncio.run(follow())
        told = b"".join(chunk.get("body", b"") for chunk in chunks[before:])
        self.assertNotIn(b"told-to-nobody", told)
        self.assertFalse(chunks[-1].get("more_body", False))


class RolesTest(WithFar):
    def test_the_office_reads_and_leaves_notes_and_nothing_else(self):
        office = self.paired("office", "desk")
        for path in ("/api/today", VISIT, "/api/ledger.csv", f"{VISIT}/report.pdf"):
            self.assertEqual(office.get(path).status_code, 200, path)
        note = {"id": "n1", "subsystem": "site", "text": "Bring a filter"}
        self.assertLess(office.post(f"{VISIT}/notes", json=note).status_code, 300)
        for answer in (
            self.line(office, "x"),
            office.post(f"{VISIT}/doses", json={"id": "d", "cylinder_id": "shelf-22", "amount": 1}),
            office.patch("/api/workshop", json={"name": "Mine"}),
            office.post("/api/bundles", content=b"{}"),
            office.get("/api/workshop/all"),
        ):
            self.assertEqual(answer.status_code, 403)
            self.assertIn("desk", answer.json()["errors"][0]["message"])

    def test_no_device_lets_devices_in_or_out_or_replaces_everything(self):
        for role in ROLES:
            far = self.paired(role, role)
            for method, path in (
                ("GET", "/api/devices"),
                ("POST", "/api/pairing/codes"),
                ("DELETE", "/api/devices/x"),
                ("PUT", "/api/workshop/all"),
            ):
                with self.subTest(role, path=path):
                    self.assertEqual(far.request(method, path, content=b"{}").status_code, 403)

    def test_another_spelling_of_a_path_is_no_way_round(self):
        office = self.paired("office", "desk")
        for path in ("//api/workshop", "/api//workshop", "/API/workshop", "/api/workshop/",
                     "/api/../api/workshop", "/%61pi/workshop"):  # fmt: skip
            answer = office.patch(path, content=json.dumps({"name": "Mine"}))
            self.assertNotIn(answer.status_code, (200, 201), path)
        card = {line["key"]: line["text"] for line in self.http.get("/api/workshop").json()["card"]}
        self.assertNotEqual(card["name"], "Mine")

    def test_a_guest_writes_under_ids_of_its_own(self):
        made = self.http.post(f"{VISIT}/links", json={}).json()
        far, token = self.far(), made["path"].removeprefix("/look/")
        own = {"id": "n1", "subsystem": "site", "text": "Ours"}
        self.http.post(f"{VISIT}/notes", json=own)
        left = far.post(f"/api/guest/{token}/notes", json={"id": "n1", "text": "Theirs"})
        self.assertEqual(left.status_code, 200)
        texts = [note["text"] for note in left.json()["notes"]]
        self.assertEqual(sorted(texts)[-2:], ["Ours", "Theirs"])


class CertificateTest(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def read(self, name):
        return x509.load_pem_x509_certificate((self.folder / "tls" / name).read_bytes())

    def test_the_authority_speaks_for_the_names_alone_and_keys_are_for_nobody_else(self):
        certificate.make(self.folder, ["shop", "shop.local", "192.0.2.2", "fd00::7"])
        authority, own = self.read("authority.crt"), self.read("nudge.crt")
        own.verify_directly_issued_by(authority)
        names = own.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
        self.assertEqual(names.get_values_for_type(x509.DNSName), ["shop", "shop.local"])
        held = authority.extensions.get_extension_for_class(x509.NameConstraints)
        self.assertTrue(held.critical)
        self.assertEqual(len(held.value.permitted_subtrees), 4)
        self.assertEqual(str(held.value.permitted_subtrees[2].value), "192.0.2.2/32")
        lives = own.not_valid_after_utc - own.not_valid_before_utc
        self.assertLess(lives, timedelta(days=398))
        for key in ("authority.key", "nudge.key"):
            self.assertEqual((self.folder / "tls" / key).stat().st_mode & 0o777, 0o600)

    def test_made_again_phones_that_trust_it_need_nothing_new_unless_a_name_is_new(self):
        certificate.make(self.folder, ["shop"])
        first, own = self.read("authority.crt"), self.read("nudge.crt")
        certificate.make(self.folder, ["shop"])
        self.assertEqual(self.read("authority.crt"), first)
        self.assertNotEqual(self.read("nudge.crt"), own)
        certificate.make(self.folder, ["shop", "other"])
        self.assertNotEqual(self.read("authority.crt"), first)
        self.read("nudge.crt").verify_directly_issued_by(self.read("authority.crt"))

    def test_an_authority_near_its_end_is_made_anew(self):
        certificate.make(self.folder, ["shop"])
        first = self.read("authority.crt")
        with mock.patch.object(certificate, "CERTIFICATE_LIVES", timedelta(days=4000)):
            certificate.make(self.folder, ["shop"])
        self.assertNotEqual(self.read("authority.crt"), first)

    def test_what_is_no_name_is_refused_with_the_name(self):
        for name in ("", "a b", "x" * 300, "shop/../..", "名"):
            with self.assertRaises(certificate.BadName, msg=name):
                certificate.make(self.folder, [name])


if __name__ == "__main__":
    unittest.main()
