import os
import sqlite3
import tempfile
import unittest
from pathlib import Path

from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import text
from sqlalchemy.exc import IntegrityError

import nudge.store.database as database_module
from nudge.store.database import SCHEMA, CannotOpen, Database
from nudge.store.tables import Base, Site
from tests.temporary import NOON, WithDatabase


class OpeningTest(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def test_a_new_folder_is_made_and_the_schema_is_the_models_own(self):
        database = Database(self.folder / "deep" / "down")
        with database.engine.connect() as connection:
            found = compare_metadata(MigrationContext.configure(connection), Base.metadata)
        self.assertEqual(found, [])

    def test_the_newest_migration_is_the_one_the_code_expects(self):
        config = Config()
        folder = Path(database_module.__file__).parent / "migrations"
        config.set_main_option("script_location", str(folder))
        self.assertEqual(ScriptDirectory.from_config(config).get_current_head(), SCHEMA)

    def test_it_runs_in_wal_with_foreign_keys_and_full_sync(self):
        with Database(self.folder).reading() as session:
            for pragma, value in (("journal_mode", "wal"), ("foreign_keys", 1), ("synchronous", 2)):
                self.assertEqual(session.scalar(text(f"PRAGMA {pragma}")), value)

    def test_an_entry_waits_for_the_disk_and_what_follows_from_it_does_not(self):
        database = Database(self.folder)
        for is_entry, wanted in ((False, 1), (True, 2), (False, 1), (True, 2)):  # NORMAL, FULL
            with database.writing(is_entry) as session:
                self.assertEqual(session.scalar(text("PRAGMA synchronous")), wanted)

    def test_a_newer_database_is_left_alone(self):
        Database(self.folder).close()
        path = self.folder / "nudge.sqlite3"
        with sqlite3.connect(path) as raw:
            raw.execute("UPDATE alembic_version SET version_num = '9999'")
        raw.close()
        before = path.read_bytes()
        with self.assertRaises(CannotOpen) as caught:
            Database(self.folder)
        self.assertIn("newer Nudge", str(caught.exception))
        self.assertIn("NUDGE_DATA", str(caught.exception))
        self.assertEqual(path.read_bytes(), before)

    def test_a_file_that_is_no_database(self):
        (self.folder / "nudge.sqlite3").write_text("shopping list\n" * 500)
        with self.assertRaises(CannotOpen) as caught:
            Database(self.folder)
        self.assertIn("Move it aside", str(caught.exception))

    def test_a_folder_that_cannot_be_written(self):
        blocked = self.folder / "file"
        blocked.write_text("in the way")
        places = [blocked / "data"]
        if os.getuid() != 0:  # root may write anywhere
            locked = self.folder / "locked"
            locked.mkdir(mode=0o500)
            places.append(locked)
        for place in places:
            with self.subTest(place), self.assertRaises(CannotOpen) as caught:
                Database(place)
            self.assertIn("NUDGE_DATA", str(caught.exception))


class KeepingTest(WithDatabase):
    def test_the_record_cannot_be_rewritten_even_by_hand(self):
        for table in ("readings", "callouts", "observations", "events", "verdicts"):
            for verb in (f"UPDATE {table} SET visit_id = visit_id", f"DELETE FROM {table}"):
                with (
                    self.subTest(verb),
                    self.assertRaises(IntegrityError) as caught,
                    self.database.writing() as session,
                ):
                    session.execute(text(verb))
                self.assertIn("append-only", str(caught.exception))

    def test_a_broken_write_leaves_nothing(self):
        with self.assertRaises(ZeroDivisionError), self.database.writing() as session:
            session.add(Site(id="half", name="Half", note="", created_at=NOON))
            session.flush()
            _ = 1 / 0
        with self.database.reading() as session:
            self.assertIsNone(session.get(Site, "half"))
