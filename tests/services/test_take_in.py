"""An import is a border: looked at, rehearsed, taken in whole, and taken out again."""

import json
import os
import tempfile
from pathlib import Path
from unittest import mock

from nudge.core.language.errors import CoreError
from nudge.services.bundle_rules import WORDS
from nudge.services.bundles import NotABundle
from nudge.services.errors import NotFound
from nudge.services.workshop import Workshop
from nudge.store.copies import content_hash
from nudge.store.database import Database
from tests.temporary import HandClock, WithClient
from tools.hostile import changed


class WithBundle(WithClient):
    def setUp(self):
        super().setUp()
        self.good = self.http.get("/api/systems/clinic-waiting/bundle.json").json()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.there = Path(folder.name)
        database = Database(self.there)
        self.addCleanup(database.close)
        self.other = Workshop(database, HandClock())

    def look(self, change=None):
        given = json.loads(json.dumps(self.good))
        if change is not None:
            change(given)
        return self.other.bundles.look(json.dumps(given).encode())


class LookTest(WithBundle):
    def test_it_says_what_it_would_bring_and_writes_nothing(self):
        before = content_hash(self.there / "nudge.sqlite3")
        seen, reasons = self.look()
        self.assertEqual((seen.systems, seen.visits, reasons), (1, len(self.good["visits"]), []))
        self.assertEqual(content_hash(self.there / "nudge.sqlite3"), before)

    def test_every_word_nobody_knows_is_named_with_its_row(self):
        for rule in WORDS:
            rows = self.good.get(rule.table) or []
            if not rows:
                continue
            with self.subTest(rule.table, column=rule.column):
                _, reasons = self.look(lambda b, r=rule: b[r.table][0].update({r.column: "zzz"}))
                self.assertTrue(any("zzz" in one for one in reasons), reasons)
                self.assertTrue(any(rule.table in one or "Reading" in one for one in reasons))

    def test_numbers_and_moments_that_cannot_be_are_named(self):
        for change, words in (
            (lambda b: b["readings"][0].update(given_value=float("nan")), "readings.0.given_value"),
            (lambda b: b["readings"][0].update(given_value=1e300), "readings.0.given_value"),
            (lambda b: b["systems"][0].update(elevation_m=99_000), "elevation"),
            (lambda b: b["visits"][0].update(created_at="0001-01-01T00:00:00+00:00"), "no moment"),
            (lambda b: b["visits"][0].update(created_at="2100-01-01T00:00:00+00:00"), "no moment"),
            (lambda b: b["visits"][0].update(complaint="x" * 20_001), "visits.0.complaint"),
            (lambda b: b["visits"][0].update(complaint="a\x00b"), "control characters"),
            (lambda b: b["visits"][0].update(id="../x"), "visits.0.id"),
            (lambda b: b["visits"][0].update(system_id="gone"), "not in the bundle"),
        ):
            with self.subTest(words):
                _, reasons = self.look(change)
                self.assertIn(words.casefold(), " ".join(reasons).casefold())

    def test_whatever_is_wrong_with_it_looking_never_breaks(self):
        refused = 0
        for seed in range(60):
            with self.subTest(seed=seed):
                _, reasons = self.other.bundles.look(changed(self.good, seed))
                refused += bool(reasons)
        self.assertGreater(refused, 40)
        self.assertEqual(self.other.book.sites(), [])


class ApartTest(WithBundle):
    def send(self, path, given):
        return self.http.post(path, content=json.dumps(given))

    def empty(self):
        """The same routes over an empty Nudge."""
        self.workshop.bundles = self.other.bundles
        self.workshop.database = self.other.database

    def test_over_the_wire_it_is_looked_at_taken_in_and_taken_out(self):
        self.empty()
        before = content_hash(self.there / "nudge.sqlite3")
        seen = self.send("/api/bundles/looks", self.good)
        self.assertEqual(seen.status_code, 200)
        self.assertEqual(seen.json()["visits"], len(self.good["visits"]))
        self.assertEqual(content_hash(self.there / "nudge.sqlite3"), before)
        taken = self.send("/api/bundles", self.good)
        self.assertEqual(taken.status_code, 201)
        listed = self.http.get("/api/bundles").json()
        self.assertEqual([one["is_out"] for one in listed], [False])
        out = self.http.post(f"/api/bundles/{listed[0]['id']}/removals", json={})
        self.assertEqual([one["is_out"] for one in out.json()], [True])
        self.assertEqual(self.other.book.sites(), [])

    def test_what_passes_every_check_and_breaks_a_page_is_not_taken_in(self):
        self.empty()
        evil = json.loads(json.dumps(self.good))
        for verdict in evil["verdicts"]:
            verdict["kept"]["derived"] = {"superheat": "warm"}
        answer = self.send("/api/bundles", evil)
        self.assertEqual(answer.status_code, 422, answer.text[:300])
        self.assertIn("cannot be drawn", answer.json()["errors"][0]["message"])
        self.assertEqual(self.other.book.sites(), [])

    def test_over_25_megabytes_it_is_not_read(self):
        answer = self.http.post("/api/bundles", content=b" " * 25_000_001)
        self.assertEqual(answer.status_code, 413)
        self.assertIn("25,000,000", answer.json()["errors"][0]["message"])

    def test_one_that_takes_too_long_or_breaks_the_checker_is_refused(self):
        from nudge.services import apart

        file = self.there / "bundle.json"
        file.write_text(json.dumps(self.good))
        with mock.patch.object(apart, "MOST_SECONDS", 0.05), self.assertRaises(NotABundle):
            apart.taken_in_apart(file, self.there, only_looks=True)
        with (
            mock.patch.dict(os.environ, {"PYTHONPATH": "/nowhere", "PYTHONHOME": "/nowhere"}),
            self.assertRaisesRegex(NotABundle, "breaks"),
        ):
            apart.taken_in_apart(file, self.there, only_looks=True)


class TakeOutTest(WithBundle):
    def taken(self):
        data = json.dumps(self.good).encode()
        self.other.bundles.take_in(data)
        return self.other.bundles.taken()[0].id

    def test_taken_out_again_nothing_of_it_is_left_and_the_record_stays_append_only(self):
        own = json.loads(json.dumps(self.http.get("/api/systems/pottery-kiln/bundle.json").json()))
        self.other.bundles.take_in(json.dumps(own).encode())
        before = self.other.bundles.of_system("pottery-kiln")
        taken_id = self.taken()
        self.other.bundles.take_out(taken_id)
        self.assertEqual([site.id for site in self.other.book.sites()], ["pottery-studio"])
        after = self.other.bundles.of_system("pottery-kiln")
        self.assertEqual(
            {k: v for k, v in after.items() if k != "made_at"},
            {k: v for k, v in before.items() if k != "made_at"},
        )
        with self.other.database.engine.connect() as opened:
            self.assertEqual(opened.exec_driver_sql("PRAGMA foreign_key_check").fetchall(), [])
            with self.assertRaisesRegex(Exception, "append-only"):
                opened.exec_driver_sql("DELETE FROM readings")
        with self.assertRaises(NotFound):
            self.other.bundles.take_out(taken_id)

    def test_the_same_bundle_can_come_again(self):
        self.other.bundles.take_out(self.taken())
        found = self.other.bundles.take_in(json.dumps(self.good).encode())
        self.assertEqual(found.visits, len(self.good["visits"]))

    def test_one_that_was_written_on_since_stays(self):
        taken_id = self.taken()
        before = content_hash(self.there / "nudge.sqlite3")
        self.assertNotEqual(before, "")
        visit = next(v["id"] for v in self.good["visits"] if v["closed_at"] is None)
        self.other.visits.hear(visit, "new", "sl 55", "ip", self.other.visits._clock())
        with self.assertRaisesRegex(CoreError, "readings"):
            self.other.bundles.take_out(taken_id)
        self.assertTrue(self.other.book.sites())
