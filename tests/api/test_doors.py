"""Other sites' pages cannot write into Nudge, and unknown names for it are not answered."""

import json

from starlette.testclient import TestClient

from nudge.main import create_app
from tests.temporary import WithClient

SITE = json.dumps({"id": "evil", "name": "Evil"})


class DoorsTest(WithClient):
    def write(self, **headers: str):
        sent = {"Content-Type": "application/json"} | headers
        bare = TestClient(create_app(self.workshop), raise_server_exceptions=False)
        return bare.post("/api/sites", content=SITE, headers=sent)

    def test_a_form_of_another_page_writes_nothing(self):
        bundle = self.http.get("/api/visits/pottery-now/bundle.json").content
        for kind in (
            "text/plain",
            "application/x-www-form-urlencoded",
            "multipart/form-data; boundary=x",
        ):
            for path, body in (("/api/bundles", bundle), ("/api/sites", SITE)):
                with self.subTest(kind, path=path):
                    answer = self.http.post(path, content=body, headers={"Content-Type": kind})
                    self.assertEqual(answer.status_code, 415)
                    self.assertIn("application/json", answer.json()["errors"][0]["message"])
        names = [site["name"] for site in self.http.get("/api/sites").json()]
        self.assertNotIn("Evil", names)

    def test_a_body_without_a_type_is_refused_as_well(self):
        bare = TestClient(create_app(self.workshop), raise_server_exceptions=False)
        self.assertEqual(bare.post("/api/bundles", content=b"{}").status_code, 415)

    def test_another_origin_writes_nothing_whatever_it_says_it_sends(self):
        for headers in (
            {"Origin": "https://elsewhere.example"},
            {"Origin": "null"},
            {"Origin": "http://testserver:81"},
            {"Sec-Fetch-Site": "cross-site"},
            {"Sec-Fetch-Site": "same-site"},
        ):
            with self.subTest(headers):
                self.assertEqual(self.write(**headers).status_code, 403)

    def test_its_own_page_and_a_device_write(self):
        for headers in (
            {"Origin": "http://testserver", "Sec-Fetch-Site": "same-origin"},
            {"Sec-Fetch-Site": "none"},
            {},
        ):
            with self.subTest(headers):
                self.assertEqual(self.write(**headers).status_code, 201)

    def test_only_this_machines_own_names_are_answered(self):
        app = create_app(self.workshop, hosts=("Nudge.shop",))
        client = TestClient(app, raise_server_exceptions=False)
        for host, status in (
            ("testserver", 200),
            ("localhost:8000", 200),
            ("127.0.0.1:8000", 200),
            ("[::1]:8000", 200),
            ("nudge.shop:8000", 200),
            ("rebound.example", 421),
            ("127.0.0.1.example", 421),
            ("", 421),
            ("[::1", 421),
        ):
            with self.subTest(host):
                answer = client.get("/api/health", headers={"Host": host})
                self.assertEqual(answer.status_code, status)
        refused = client.get("/api/health", headers={"Host": "rebound.example"})
        self.assertIn("NUDGE_HOSTS", refused.json()["errors"][0]["message"])

    def test_what_is_read_needs_no_type_and_pictures_and_logs_may_be_bytes(self):
        self.assertEqual(self.http.get("/api/today").status_code, 200)
        log = b"time,ll (F)\n2026-07-14T12:00:00Z,96\n"
        path = "/api/visits/pottery-now/imports/i1?name=a.csv"
        sent = self.http.put(
            path, content=log, headers={"Content-Type": "application/octet-stream"}
        )
        self.assertEqual(sent.status_code, 200, sent.text)


class DosesTest(WithClient):
    def dose(self, dose_id: str, amount: float, **more: object):
        body = {"id": dose_id, "cylinder_id": "shelf-22", "amount": amount, **more}
        return self.http.post("/api/visits/pottery-now/doses", json=body)

    def test_a_dose_larger_than_it_could_hold_is_refused_though_somebody_is_sure(self):
        answer = self.dose("huge", 240, sure=True)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("could hold", answer.json()["errors"][0]["message"])

    def test_a_dose_typed_twice_is_asked_about_and_the_same_message_is_one_dose(self):
        self.assertEqual(self.dose("one", 3).status_code, 200)
        self.assertEqual(len(self.dose("one", 3).json()["doses"]), 1)
        twice = self.dose("two", 3)
        self.assertEqual(twice.status_code, 422)
        self.assertIn("given twice", twice.json()["errors"][0]["message"])
        self.assertEqual(len(self.dose("two", 3, sure=True).json()["doses"]), 2)


class HeadersTest(WithClient):
    def test_every_answer_says_whose_scripts_run_and_who_may_frame_it(self):
        for path in ("/", "/api/today", "/nowhere.txt", "/api/visits/none", "/openapi.json"):
            with self.subTest(path):
                headers = self.http.get(path).headers
                policy = headers["content-security-policy"]
                self.assertIn("script-src 'self';", policy)
                self.assertIn("frame-ancestors 'none'", policy)
                self.assertEqual(headers["x-content-type-options"], "nosniff")
                self.assertEqual(headers["referrer-policy"], "no-referrer")
                self.assertEqual(headers["cross-origin-opener-policy"], "same-origin")

    def test_private_answers_are_kept_by_nobody(self):
        for path in ("/api/today", "/api/visits/pottery-now", "/api/visits/none"):
            self.assertEqual(self.http.get(path).headers["cache-control"], "no-store")

    def test_the_document_is_where_tools_look_for_it_and_files_that_are_not_there_are_not(self):
        self.assertIn("paths", self.http.get("/openapi.json").json())
        for path in ("/favicon.ico", "/robots.txt", "/visits/x.php", "/.env", "/a/b.map"):
            answer = self.http.get(path)
            self.assertEqual(answer.status_code, 404, path)
            self.assertIn("There is no", answer.json()["errors"][0]["message"])

    def test_nobody_else_on_the_machine_reads_the_data(self):
        self.assertEqual(self.folder.stat().st_mode & 0o777, 0o700)
        self.http.post("/api/sites", json={"id": "s", "name": "S"})
        for file in self.folder.glob("nudge.sqlite3*"):
            self.assertEqual(file.stat().st_mode & 0o777, 0o600, file.name)
