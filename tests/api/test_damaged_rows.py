"""Rows that are bad all the same: no page goes down for them, and each is named."""

import sqlite3

from starlette.testclient import TestClient

from nudge.main import create_app
from nudge.services.workshop import Workshop
from nudge.store.database import Database
from tests.temporary import HandClock, WithDatabase

OWN, OWN_SYSTEM = "/api/visits/pottery-now", "/api/systems/pottery-kiln"
SHARED = (
    "/api/today", "/api/sites", "/api/ledger", "/api/ledger.csv", "/api/cylinders",
    "/api/visits/clinic-now", "/api/systems/clinic-waiting", "/api/visits/radio-room-live",
    "/api/search?text=kiln",
)  # fmt: skip
DAMAGE = {
    "a verdict of a shape to come": (
        "UPDATE verdicts SET kept='{\"version\":77}' WHERE visit_id='clinic-2'", "", ""),
    "a verdict that lost its values": (
        "UPDATE verdicts SET kept='{\"version\":1}' WHERE visit_id='pottery-now'", "", ""),
    "a verdict that is no JSON": (
        "UPDATE verdicts SET kept='{' WHERE visit_id='pottery-now'", "", ""),
    "a point nobody knows": (
        "UPDATE readings SET point='zzz' WHERE visit_id='pottery-now' AND "
        "point='suction_pressure'", OWN, "“zzz”, which is no point"),
    "a unit nobody knows": (
        "UPDATE readings SET given_unit='furlong' WHERE visit_id='pottery-now' AND "
        "point='suction_pressure'", OWN, "in “furlong”"),
    "something nobody can have seen": (
        "UPDATE observations SET key='zzz' WHERE visit_id='pottery-now'", OWN, "zzz"),
    "a kind of call nobody knows": (
        "UPDATE visits SET kind='zzz' WHERE id='pottery-now'", OWN, "“zzz”, nobody knows"),
    "an event nobody knows": (
        "UPDATE events SET kind='danced' WHERE visit_id='pottery-now'", OWN, ""),
    "a movement of no kind": ("UPDATE movements SET kind='zzz'", "/api/ledger", "zzz"),
    "drift that is no JSON": (
        "UPDATE visits SET drift='{' WHERE id='lighthouse-5'", "/api/today", "Lighthouse"),
    "a season there is not": ("UPDATE deferred SET season='zzz'", "", ""),
    "a check nobody knows": ("UPDATE checks SET key='zzz'", "", ""),
    "a cylinder of a refrigerant there is not": (
        "UPDATE cylinders SET refrigerant='R-999' WHERE id='shelf-22'", "", ""),
    "a system of a refrigerant there is not": (
        "UPDATE systems SET refrigerant='R-999' WHERE id='pottery-kiln'", "/api/sites", "Kiln"),
    "a device there is not": (
        "UPDATE systems SET metering_device='zzz' WHERE id='pottery-kiln'", "/api/today", "Pottery"),
}  # fmt: skip


class DamagedRowsTest(WithDatabase):
    def damaged(self, statement: str) -> TestClient:
        self.database.close()
        with sqlite3.connect(self.database.path) as opened:
            names = opened.execute("SELECT name FROM sqlite_master WHERE type='trigger'").fetchall()
            for (name,) in names:
                opened.execute(f'DROP TRIGGER "{name}"')
            self.assertGreater(opened.execute(statement).rowcount, 0, "nothing was damaged")
        opened.close()
        self.database = Database(self.folder)
        self.workshop = Workshop(self.database, HandClock())
        return TestClient(create_app(self.workshop), raise_server_exceptions=False)

    def test_no_page_goes_down_and_what_is_left_out_is_named(self):
        for what, (statement, page, words) in DAMAGE.items():
            with self.subTest(what):
                self.doCleanups()
                self.setUp()
                http = self.damaged(statement)
                for path in SHARED:
                    self.assertEqual(http.get(path).status_code, 200, path)
                self.assertLess(http.get(OWN).status_code, 500)
                self.assertLess(http.get(OWN_SYSTEM).status_code, 500)
                if words:
                    self.assertIn(words, http.get(page).text)
                self.database.close()

    def test_a_simulated_system_that_cannot_go_on_holds_no_other_up(self):
        self.damaged("UPDATE plants SET state='{}'")
        self.workshop.yard.tick()
        self.workshop.yard.tick()

    def test_a_visit_is_judged_by_what_is_sound_of_it(self):
        http = self.damaged(DAMAGE["a point nobody knows"][0])
        seen = http.get(OWN).json()
        points = {row["point"] for row in seen["readings"]}
        self.assertNotIn("zzz", points)
        self.assertIn("liquid_pressure", points)
        self.assertIsNotNone(seen["assessment"]["derived"]["subcooling"])
        with self.database.engine.connect() as opened:
            kept = opened.exec_driver_sql("SELECT count(*) FROM readings WHERE point='zzz'")
            self.assertEqual(kept.scalar(), 1)  # left out, not thrown away

    def test_what_nobody_foresaw_is_said_without_its_inside(self):
        http = TestClient(
            create_app(Workshop(self.database, HandClock())), raise_server_exceptions=False
        )

        def breaks(*_):
            raise RuntimeError("secret /home/somebody/file")

        http.app.state.workshop.today = breaks
        answer = http.get("/api/today")
        self.assertEqual(answer.status_code, 500)
        self.assertNotIn("secret", answer.text)
        self.assertIn("nudge check", answer.json()["errors"][0]["message"])
