"""A write under an id is taken once: the same again is answered, another content is refused."""

import json
import sqlite3
import threading
from datetime import UTC, datetime, timedelta
from unittest import mock

from sqlalchemy.exc import OperationalError

from nudge.store.database import Database
from tests.temporary import WithClient

VISIT = "/api/visits/seed-library-now"
NOW = datetime.now(UTC).isoformat()


class EntriesTest(WithClient):
    def line(self, text, entry="line-1", **query):
        body = {"id": entry, "text": text, "heard_at": NOW}
        return self.http.post(f"{VISIT}/callouts", json=body, params=query)

    def given(self):
        rows = self.http.get(VISIT).json()["readings"]
        return [row["given"] for row in rows if row["point"] == "supply_air_temp"]

    def test_the_same_line_again_is_answered_and_another_under_its_id_is_refused(self):
        before = self.given()
        self.assertEqual(self.line("sa 57").status_code, 200)
        self.assertEqual(self.line("sa 57").status_code, 200)
        other = self.line("sa 75")
        self.assertEqual(other.status_code, 409)
        self.assertIn("says something else", other.json()["errors"][0]["message"])
        self.assertEqual(self.given(), [*before, "57 °F"])

    def test_the_order_of_the_fields_is_no_other_content_but_the_units_are(self):
        self.assertEqual(self.line("sa 14", units="si").status_code, 200)
        again = json.dumps({"text": "sa 14", "heard_at": NOW, "id": "line-1"})
        same = self.http.post(f"{VISIT}/callouts", content=again, params={"units": "si"})
        self.assertEqual(same.status_code, 200)
        self.assertEqual(self.line("sa 14", units="ip").status_code, 409)

    def test_what_was_refused_can_be_sent_again_put_right_under_its_id(self):
        self.assertEqual(self.line("sa fiftyseven").status_code, 422)
        self.assertEqual(self.line("sa 57").status_code, 200)

    def test_what_a_closed_visit_took_is_answered_there_and_nothing_new_is_taken(self):
        self.line("sa 57")
        self.http.post(f"{VISIT}/closings", json={"id": "c", "reason": "left for tomorrow"})
        seen = self.given()
        self.assertEqual(self.line("sa 57").status_code, 200)
        self.assertEqual(self.line("sa 58", "line-2").status_code, 409)
        self.assertEqual(self.given(), seen)

    def test_an_id_is_ones_own_within_what_it_is_sent_to(self):
        self.assertEqual(self.line("sa 57", "one").status_code, 200)
        note = {"id": "one", "subsystem": "site", "text": "Gulls"}
        self.assertLess(self.http.post(f"{VISIT}/notes", json=note).status_code, 300)

    def test_a_picture_under_its_id_is_one_picture(self):
        from tests.api.test_whole_visit import picture

        path, first, other = f"{VISIT}/photos/p1?subsystem=site", picture(), picture((30, 20))
        self.assertLess(self.http.put(path, content=first).status_code, 300)
        self.assertLess(self.http.put(path, content=first).status_code, 300)
        self.assertEqual(self.http.put(path, content=other).status_code, 409)

    def test_moments_far_off_are_asked_about(self):
        for n, (days, status) in enumerate(((0.9, 200), (1.1, 422), (-3600, 200), (-3700, 422))):
            at = (datetime.now(UTC) + timedelta(days=days)).isoformat()
            body = {"id": f"m{n}", "text": "sa 57", "heard_at": at}
            answer = self.http.post(f"{VISIT}/callouts", json=body)
            self.assertEqual(answer.status_code, status, (days, answer.text[:200]))
            if status == 422:
                self.assertIn("Is the clock of this device right?", answer.text)


class RefusingDiskTest(WithClient):
    def note(self, entry="n1"):
        body = {"id": entry, "subsystem": "site", "text": "Gulls"}
        return self.http.post(f"{VISIT}/notes", json=body)

    def refusing(self, code):
        broken = sqlite3.OperationalError("as the disk says it")
        broken.sqlite_errorcode = code
        error = OperationalError("INSERT", {}, broken)
        return mock.patch("nudge.store.database.note_entry", side_effect=error)

    def test_a_disk_that_refuses_is_said_in_words_and_the_entry_comes_later(self):
        for code, words in (
            (sqlite3.SQLITE_FULL, "disk is full"),
            (sqlite3.SQLITE_READONLY, "read-only"),
            (sqlite3.SQLITE_IOERR_WRITE, "does not answer"),
            (sqlite3.SQLITE_CORRUPT, "nudge restore"),
            (sqlite3.SQLITE_BUSY, "busy"),
        ):
            with self.subTest(words), self.refusing(code):
                answer = self.note()
                self.assertEqual(answer.status_code, 503)
                self.assertIn(words, answer.json()["errors"][0]["message"])
                self.assertGreater(int(answer.headers["retry-after"]), 0)
                self.assertNotIn("INSERT", answer.text)
        self.assertLess(self.note().status_code, 300)

    def test_a_file_that_was_moved_away_or_replaced_is_not_written_into(self):
        path = self.folder / "nudge.sqlite3"
        aside = self.folder / "aside.sqlite3"
        path.rename(aside)
        answer = self.note()
        self.assertEqual(answer.status_code, 503)
        self.assertIn("was moved, deleted or replaced", answer.text)
        path.write_bytes(aside.read_bytes())  # a copy is not the file that is open
        self.assertEqual(self.note().status_code, 503)
        path.unlink()
        aside.rename(path)
        self.assertLess(self.note().status_code, 300)

    def test_writers_of_one_process_wait_their_turn(self):
        done = []

        def write(number):
            with self.database.writing() as session:
                session.connection()
                done.append(number)

        with mock.patch("nudge.store.database.PATIENCE_S", 5.0):
            threads = [threading.Thread(target=write, args=(n,)) for n in range(12)]
            with self.database.writing():
                for thread in threads:
                    thread.start()
            for thread in threads:
                thread.join(5)
        self.assertEqual(sorted(done), list(range(12)))

    def test_another_process_that_keeps_on_writing_is_said_to_be_busy(self):
        other = sqlite3.connect(self.folder / "nudge.sqlite3", isolation_level=None)
        other.execute("BEGIN IMMEDIATE")
        with mock.patch("nudge.store.database.WAIT_S", 0.2):
            here = Database(self.folder)
            self.addCleanup(here.close)
            from nudge.store.refusals import Busy

            with self.assertRaises(Busy), here.writing() as session:
                session.connection()
        other.execute("ROLLBACK")
        other.close()
