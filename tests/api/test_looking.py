"""Looking never waits for whoever writes: no GET takes the write lock."""

from sqlalchemy import event
from starlette.testclient import TestClient

from nudge.main import create_app
from nudge.services.workshop import Workshop
from tests.temporary import WithDatabase

NAMES = {
    "visit_id": "clinic-now",
    "system_id": "clinic-waiting",
    "name": "R-410A",
}
ASKED = {
    "/api/search": {"text": "clinic"},
    "/api/visits/{visit_id}/scale": {"since": 0},
    "/api/systems/{system_id}/compare": {"one": "clinic-now", "other": "clinic-now"},
    "/api/refrigerants/{name}/saturation": {"temperature": 40},
}
UNENDING = {"/api/visits/{visit_id}/stream"}


class LookingTest(WithDatabase):
    def test_no_get_takes_the_write_lock(self):
        workshop = Workshop(self.database, self.clock)
        self.addCleanup(workshop.close)
        app = create_app(workshop)
        client = TestClient(app)
        begun = []

        def seen(_connection, _cursor, statement, *_):
            if statement.startswith("BEGIN"):
                begun.append(statement)

        event.listen(self.database.engine, "before_cursor_execute", seen)
        answered = 0
        for path, methods in app.openapi()["paths"].items():
            blanks = [
                p["name"] for p in methods.get("get", {}).get("parameters", ()) if p["in"] == "path"
            ]
            if "get" not in methods or path in UNENDING or not set(blanks) <= set(NAMES):
                continue
            with self.subTest(path):
                begun.clear()
                found = client.get(path.format(**NAMES), params=ASKED.get(path))
                self.assertLess(found.status_code, 500)
                self.assertNotIn("BEGIN IMMEDIATE", begun)
                answered += found.status_code == 200
        self.assertGreater(answered, 25)
