"""Copies: taken while it is written on, proved, put back; what is no copy changes nothing."""

import io
import os
import sqlite3
import subprocess
import sys
import tempfile
import threading
from contextlib import redirect_stderr, redirect_stdout
from datetime import timedelta
from pathlib import Path
from unittest import mock

from nudge.cli import main
from nudge.services.checkup import findings
from nudge.services.keeping import DAILY, KEPT_DAYS, Keeping
from nudge.services.workshop import Workshop
from nudge.store.copies import BadCopy, content_hash, copies_in, copy_live, put_back, unsound
from nudge.store.database import BACKUPS, Database
from nudge.store.lock import InUse, hold
from tests.temporary import WithDatabase


class WithCopy(WithDatabase):
    def setUp(self):
        super().setUp()
        elsewhere = tempfile.TemporaryDirectory()
        self.addCleanup(elsewhere.cleanup)
        self.elsewhere = Path(elsewhere.name)
        self.copy = self.elsewhere / "all.sqlite3"

    def write(self, number):
        self.visits.hear("net-loft-now", f"w{number}", f"sl {50 + number % 20}", "ip", self.clock())


class CopyTest(WithCopy):
    def test_a_copy_taken_while_it_is_written_on_is_whole_and_holds_what_was_answered(self):
        stop, answered = threading.Event(), []

        def work():
            while not stop.is_set():
                self.write(len(answered))
                answered.append(f"w{len(answered)}:0")

        writer = threading.Thread(target=work)
        writer.start()
        try:
            for number in range(4):
                before = list(answered)
                copy_live(self.database.path, self.copy)
                self.assertEqual(unsound(self.copy), [])
                with sqlite3.connect(self.copy) as opened:
                    kept = {row[0] for row in opened.execute("SELECT id FROM readings")}
                self.assertLessEqual(set(before), kept, number)
                there = self.elsewhere / f"shop{number}" / "nudge.sqlite3"
                put_back(self.copy, there, None)
                self.assertEqual(content_hash(there), content_hash(self.copy))
        finally:
            stop.set()
            writer.join()

    def test_put_back_elsewhere_it_is_identical_by_content(self):
        self.write(1)
        copy_live(self.database.path, self.copy)
        there = self.elsewhere / "other" / "nudge.sqlite3"
        put_back(self.copy, there, None)
        self.assertEqual(content_hash(there), content_hash(self.database.path))
        self.write(2)
        self.assertNotEqual(content_hash(there), content_hash(self.database.path))
        opened = Database(there.parent)
        self.addCleanup(opened.close)
        self.assertTrue(Workshop(opened).book.sites())

    def test_what_is_in_the_log_and_not_in_the_file_is_in_the_copy(self):
        before = self.database.path.stat().st_mtime_ns
        self.write(1)
        self.assertEqual(self.database.path.stat().st_mtime_ns, before)  # it is in the log alone
        copy_live(self.database.path, self.copy)
        with sqlite3.connect(self.copy) as opened:
            self.assertTrue(opened.execute("SELECT 1 FROM readings WHERE id='w1:0'").fetchone())

    def test_a_copy_that_fails_leaves_no_half_of_it(self):
        with (
            mock.patch("nudge.store.copies.unsound", return_value=["A row is gone."]),
            self.assertRaisesRegex(BadCopy, "not sound"),
        ):
            copy_live(self.database.path, self.copy)
        with (
            mock.patch("nudge.store.copies.SPARE_BYTES", 10**18),
            self.assertRaisesRegex(BadCopy, "too little room"),
        ):
            copy_live(self.database.path, self.copy)
        self.assertEqual(list(self.elsewhere.iterdir()), [])

    def test_what_cannot_be_read_is_no_copy_and_says_so(self):
        broken = self.elsewhere / "broken.sqlite3"
        broken.write_bytes(b"not a database at all" * 500)
        with self.assertRaisesRegex(BadCopy, "broken.sqlite3"):
            copy_live(broken, self.copy)
        self.assertEqual(list(self.elsewhere.iterdir()), [broken])

    def test_copies_are_for_nobody_else(self):
        copy_live(self.database.path, self.copy)
        self.assertEqual(self.copy.stat().st_mode & 0o777, 0o600)


class CommandsTest(WithCopy):
    def run_nudge(self, *arguments, folder=None):
        said, wrong = io.StringIO(), io.StringIO()
        where = {"NUDGE_DATA": str(folder or self.folder)}
        with mock.patch.dict(os.environ, where), redirect_stdout(said), redirect_stderr(wrong):
            code = main(arguments)
        return code, said.getvalue(), wrong.getvalue()

    def test_backup_restore_and_check_from_the_command_line(self):
        code, said, _ = self.run_nudge("backup", str(self.copy))
        self.assertEqual(code, 0)
        self.assertIn("proved", said)
        other = self.elsewhere / "shop"
        code, said, _ = self.run_nudge("restore", str(self.copy), folder=other)
        self.assertEqual(code, 0, said)
        self.assertEqual(self.run_nudge("check", folder=other)[0], 0)
        again, said, _ = self.run_nudge("restore", str(self.copy), folder=other)
        self.assertEqual(again, 0)
        self.assertIn("What was there is in", said)
        self.assertEqual(len(copies_in(other / BACKUPS, "before-restore")), 1)

    def test_what_is_no_copy_changes_nothing(self):
        junk, newer, cut = (self.elsewhere / name for name in ("junk", "newer", "cut"))
        junk.write_text("not a database at all")
        copy_live(self.database.path, newer)
        with sqlite3.connect(newer) as opened:
            opened.execute("UPDATE alembic_version SET version_num='9999'")
        opened.close()
        copy_live(self.database.path, cut)
        whole = cut.read_bytes()
        third = len(whole) // 3
        cut.write_bytes(whole[:third] + bytes(third) + whole[2 * third :])
        before = content_hash(self.database.path)
        for path, words in (
            (junk, "no copy of a Nudge"),
            (newer, "newer Nudge"),
            (cut, "damaged"),
            (self.elsewhere / "none", "There is no file"),
        ):
            with self.subTest(path.name):
                code, _, wrong = self.run_nudge("restore", str(path))
                self.assertEqual(code, 2)
                self.assertIn(words, wrong)
                self.assertEqual(content_hash(self.database.path), before)

    def test_a_folder_that_is_open_in_another_nudge_is_left_alone(self):
        self.run_nudge("backup", str(self.copy))
        with hold(self.folder):
            code, _, wrong = self.run_nudge("restore", str(self.copy))
            self.assertEqual(code, 2)
            self.assertIn(f"process {os.getpid()}", wrong)
            with self.assertRaises(InUse):
                hold(self.folder)
            self.assertEqual(self.run_nudge("check")[0], 0)  # looking is no harm
        hold(self.folder).close()

    def test_the_lock_of_a_killed_nudge_holds_nobody_up(self):
        held = (
            "import sys; from pathlib import Path; from nudge.store.lock import hold;"
            "f = hold(Path(sys.argv[1])); print('held', flush=True); sys.stdin.read()"
        )
        other = subprocess.Popen(
            [sys.executable, "-c", held, str(self.folder)],
            stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True,
        )  # fmt: skip
        assert other.stdout is not None
        self.assertEqual(other.stdout.readline().strip(), "held")
        with self.assertRaisesRegex(InUse, f"process {other.pid}"):
            hold(self.folder)
        other.kill()
        other.communicate()
        hold(self.folder).close()

    def test_check_names_what_is_damaged(self):
        copy_live(self.database.path, self.copy)
        folder = self.elsewhere / "shop"
        put_back(self.copy, folder / "nudge.sqlite3", None)
        with sqlite3.connect(folder / "nudge.sqlite3") as opened:
            opened.execute("DROP TRIGGER verdicts_no_update")
            opened.execute("UPDATE verdicts SET kept='{\"version\": 77}' WHERE sequence=1")
            opened.execute(
                "INSERT INTO photos (id, visit_id, subsystem, caption, width, height, picture, "
                "small, taken_at) VALUES ('p', 'net-loft-now', 'site', '', 1, 1, x'00', x'00', "
                "'2026-01-01')"
            )
            opened.execute("UPDATE visits SET system_id='gone' WHERE id='net-loft-now'")
        opened.close()
        self.assertRegex(" ".join(findings(folder)), "belongs to a row of systems that is gone")
        with sqlite3.connect(folder / "nudge.sqlite3") as opened:
            opened.execute("UPDATE visits SET system_id='clinic-waiting' WHERE id='net-loft-now'")
        opened.close()
        found = " ".join(findings(folder))
        self.assertIn("Verdict 1", found)
        self.assertIn("Picture “p”", found)
        self.assertEqual(self.run_nudge("check", folder=folder)[0], 1)
        self.assertIn("right folder", findings(self.elsewhere)[0])


class KeepingTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.keeping = Keeping(self.database, self.clock)
        self.copies = self.folder / BACKUPS

    def test_a_copy_a_day_and_a_week_of_them(self):
        for _ in range(KEPT_DAYS + 3):
            self.assertIsNotNone(self.keeping.copy_if_due())
            self.assertIsNone(self.keeping.copy_if_due())
            self.clock.pass_minutes(24 * 60)
        kept = copies_in(self.copies, DAILY)
        self.assertEqual(len(kept), KEPT_DAYS)
        last = self.clock() - timedelta(days=1)
        self.assertEqual(kept[-1].name, f"day-{last:%Y-%m-%d}.sqlite3")

    def test_all_of_it_goes_down_and_up_and_what_was_here_is_set_aside(self):
        made = self.keeping.all_of_it()
        before = content_hash(self.database.path)
        self.visits.hear("net-loft-now", "after", "sl 55", "ip", self.clock())
        changed = content_hash(self.database.path)
        self.assertNotEqual(changed, before)
        self.keeping.put_in_place(made)
        self.assertEqual(content_hash(self.database.path), before)
        aside = copies_in(self.copies, "before-restore")
        self.assertEqual([content_hash(path) for path in aside], [changed])
        self.visits.hear(
            "net-loft-now", "again", "sl 56", "ip", self.clock()
        )  # and it is written on
        self.assertTrue(self.database.is_in_place)

    def test_a_file_that_was_moved_away_is_noticed_and_so_is_a_full_disk(self):
        self.assertEqual(self.keeping.troubles(), [])
        with mock.patch("nudge.services.keeping.SPARE_BYTES", 10**18):
            self.assertEqual([t.key for t in self.keeping.troubles()], ["full"])
        aside = self.folder / "aside"
        self.database.path.rename(aside)
        self.assertEqual([t.key for t in self.keeping.troubles()], ["moved"])
        aside.rename(self.database.path)
        self.assertEqual(self.keeping.troubles(), [])

    def test_a_damaged_file_is_noticed_at_the_start_and_copies_that_never_come(self):
        with mock.patch("nudge.services.keeping.unsound", return_value=["A page is gone."]):
            self.keeping.begin()
            self.keeping.close()
        self.assertEqual([t.key for t in self.keeping.troubles()], ["damaged"])
        for path in copies_in(self.copies, DAILY):
            path.unlink()
        self.clock.pass_minutes(3 * 24 * 60)
        self.assertIn("no_copy", [t.key for t in self.keeping.troubles()])

    def test_before_its_tables_change_a_copy_is_made(self):
        folder = self.folder / "old"
        folder.mkdir()
        with sqlite3.connect(folder / "nudge.sqlite3") as opened:
            opened.execute("CREATE TABLE alembic_version (version_num VARCHAR(32) NOT NULL)")
        opened.close()
        from nudge.store.database import SCHEMA, _engine, migrate

        engine = _engine(folder / "nudge.sqlite3")
        migrate(engine, "0009")
        engine.dispose()
        before = content_hash(folder / "nudge.sqlite3")
        Database(folder).close()
        kept = folder / BACKUPS / f"before-{SCHEMA}-from-0009.sqlite3"
        self.assertEqual(content_hash(kept), before)
