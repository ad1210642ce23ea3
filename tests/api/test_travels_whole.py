"""A visit with every kind of entry on it goes to another machine and stands there as it stood."""

import io
import tempfile
from pathlib import Path

from PIL import Image
from pypdf import PdfReader
from starlette.testclient import TestClient

from nudge.main import create_app
from nudge.services.bundle_shape import OF_SYSTEM, OF_VISIT
from nudge.services.workshop import Workshop
from nudge.store.database import Database
from tests.temporary import HandClock, WithClient

SYSTEM, VISIT = "pottery-kiln", "whole"
HERE = f"/api/visits/{VISIT}"
WRITES = (
    ("kinds", {"kind": "commissioning"}),
    ("events", {"kind": "system_started", "happened_at": "NOW"}),
    ("callouts", {"text": "suct 118 liq 341 sl 52 ll 96 oa 88 ra 76 wb 63", "heard_at": "NOW"}),
    ("observations", {"key": "filter_clean", "seen": True}),
    ("connections", {"connection": "hose_manifold"}),
    ("passed-gates", {"gate": "run_short", "reason": "the shop closes"}),
    ("ticks", {"step": "tools", "state": "done"}),
    ("checks", {"key": "statics", "entries": {"total": 0.42}}),
    ("notes", {"subsystem": "outdoor", "text": "Salt on the fins, 港"}),
    ("slips", {"slip": "split", "written_in": "ip",
               "entries": {"return_air_temp": 76, "return_air_wet_bulb": 63,
                           "outdoor_air_temp": 88, "supply_air_temp": 57}}),
    ("settings", {"name": "DIP 3", "value": "on", "usual": "off", "reason": "long lines"}),
    ("intended-changes", {"key": "INTENDED", "note": "to 16 oz over the plate"}),
    ("deferred", {"text": "Straighten the fins"}),
    ("tests", {"test": "ice_bath", "settings": {"clamp": "suction_line_temp"}}),
)  # fmt: skip
NOWHERE = {"imports", "plants", "zone_logs", "charts", "test_entries", "baselines", "verdicts"}
"""Rows that come of other ways in than a line a person writes here; the last are kept by Nudge."""


def words_of(pdf):
    """A paper read back, its lines joined."""
    return " ".join(" ".join(p.extract_text() for p in PdfReader(io.BytesIO(pdf)).pages).split())


class TravelsWholeTest(WithClient):
    def write(self, what, body):
        answer = self.http.post(f"{HERE}/{what}", json={"id": f"w-{what}", **body})
        self.assertEqual(answer.status_code, 200, f"{what}: {answer.text}")

    def filled(self):
        """A visit on which one of everything was written, in a shop without a card or its own
        gauges: neither is a visit's, and what they err widens what is said of it.
        """
        self.http.patch("/api/workshop", json=dict.fromkeys(("name", "call", "licence"), ""))
        for one in self.http.get("/api/workshop/instruments").json()["instruments"]:
            self.http.patch(f"/api/workshop/instruments/{one['id']}", json={"retired": True})
        self.http.post("/api/visits", json={"id": VISIT, "system_id": SYSTEM, "complaint": "Warm"})
        order = self.http.get(f"{HERE}/order").json()
        named = {"INTENDED": order["intended_kinds"][0]["key"], "NOW": self.clock().isoformat()}
        for what, body in WRITES:
            self.clock.pass_minutes(1)
            named["NOW"] = self.clock().isoformat()
            self.write(
                what,
                {
                    key: named.get(value, value) if isinstance(value, str) else value
                    for key, value in body.items()
                },
            )
        out = io.BytesIO()
        Image.effect_noise((64, 48), 50).convert("RGB").save(out, "JPEG")
        put = self.http.put(f"{HERE}/photos/p1?subsystem=outdoor", content=out.getvalue())
        self.assertEqual(put.status_code, 201, put.text)

    def elsewhere(self):
        """An empty Nudge on another machine, and its client."""
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        database = Database(Path(folder.name))
        self.addCleanup(database.close)
        clock = HandClock(self.clock())
        return TestClient(create_app(Workshop(database, clock)), raise_server_exceptions=False)

    def bundle(self, http):
        found = http.get(f"/api/systems/{SYSTEM}/bundle.json").json()
        return {key: value for key, value in found.items() if key != "made_at"}

    def test_every_kind_of_entry_travels_and_elsewhere_every_row_screen_and_paper_is_as_it_was(
        self,
    ):
        self.filled()
        sent, there = self.bundle(self.http), self.elsewhere()
        mine = {
            key: [row for row in sent[key] if row.get("visit_id", VISIT) == VISIT]
            for key in (*OF_VISIT, *OF_SYSTEM)
        }
        self.assertEqual({key for key, rows in mine.items() if not rows} - NOWHERE, set())
        made = {"made_at": self.clock().isoformat()}
        self.assertEqual(there.post("/api/bundles", json=sent | made).status_code, 201)
        came = self.bundle(there)
        self.assertEqual(sent.keys(), came.keys())
        for key, rows in sent.items():
            with self.subTest(key):
                self.assertEqual(came[key], rows)
        for units in ("ip", "si"):
            for path in (
                HERE,
                f"{HERE}/nudge",
                f"{HERE}/settings",
                f"{HERE}/tests",
                f"/api/systems/{SYSTEM}/records",
            ):
                with self.subTest(path, units=units):
                    one, other = (http.get(f"{path}?units={units}") for http in (self.http, there))
                    self.assertEqual(one.status_code, 200, one.text)
                    self.assertEqual(other.json(), one.json())
        for whom in ("file", "customer"):
            path = f"{HERE}/report.pdf?whom={whom}"
            one, other = (words_of(http.get(path).content) for http in (self.http, there))
            self.assertEqual(other, one)


if __name__ == "__main__":
    import unittest

    unittest.main()
