"""A database of the first schema comes up to date with everything in it."""

import json
import tempfile
import unittest
from pathlib import Path

from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import create_engine, text
from sqlalchemy.exc import IntegrityError

from nudge.services.book import Book
from nudge.services.methods import Methods
from nudge.services.visits import Visits
from nudge.store.database import SCHEMA, Database, migrate
from nudge.store.tables import Base
from tests.temporary import NOON

ROWS = (
    "INSERT INTO sites VALUES ('bakery', 'Quay Bakery', '', '2025-05-01 10:00:00')",
    """INSERT INTO systems (id, site_id, name, note, refrigerant, metering_device, application,
       target_subcooling_k, elevation_m, created_at, updated_at)
       VALUES ('oven', 'bakery', 'Proving room', 'two filters', 'R-410A', 'txv',
       'comfort_cooling', 5.5, 0, '2025-05-01 10:00:00', '2025-05-01 10:00:00')""",
    """INSERT INTO visits (id, system_id, complaint, opened_at, created_at)
       VALUES ('call', 'oven', 'warm', '2025-05-02 10:00:00', '2025-05-02 10:00:00')""",
    """INSERT INTO readings (id, visit_id, point, given_value, given_unit, source, quality,
       taken_at, recorded_at)
       VALUES ('r1', 'call', 'suction_pressure', 118, 'psig', 'typed', 'as_given',
       '2025-05-02 10:05:00', '2025-05-02 10:05:00')""",
)


class MigrationTest(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        engine = create_engine(f"sqlite:///{self.folder / 'nudge.sqlite3'}")
        migrate(engine, "0001")
        with engine.begin() as connection:
            for row in ROWS:
                connection.execute(text(row))
        engine.dispose()

    def test_what_was_written_is_still_there_and_can_be_written_on(self):
        database = Database(self.folder)
        self.addCleanup(database.close)
        with database.engine.connect() as connection:
            self.assertEqual(
                connection.scalar(text("SELECT version_num FROM alembic_version")), SCHEMA
            )
            context = MigrationContext.configure(connection)
            self.assertEqual(compare_metadata(context, Base.metadata), [])
        book = Book(database, lambda: NOON)
        system = book.system("oven").system
        self.assertEqual((system.note, system.target_subcooling_k), ("two filters", 5.5))
        self.assertEqual(
            (system.indoor_unit, system.method, system.factory_charge_kg), ("", "", None)
        )
        snapshot = Visits(database, lambda: NOON).snapshot("call")
        self.assertEqual(snapshot.current["suction_pressure"].given_value, 118)
        book.change_system("oven", {"factory_charge_kg": 3.2})
        self.assertEqual(book.system("oven").system.factory_charge_kg, 3.2)
        self.assertEqual(Methods(database, lambda: NOON).chosen()["valve_method"], "")

    def test_a_plants_charge_moves_from_its_drawing_to_its_plate(self):
        engine = create_engine(f"sqlite:///{self.folder / 'nudge.sqlite3'}")
        migrate(engine, "0018")
        parts = {"refrigerant": "R-410A", "rooms": [{"key": "1", "name": "Oven"}],
                 "factory_charge_kg": 16.0}  # fmt: skip
        with engine.begin() as connection:
            connection.execute(
                text(
                    "INSERT INTO zone_logs VALUES ('call', '{}', :parts, '{}', '{}', x'00', "
                    "'2025-05-02 10:00:00')"
                ),
                {"parts": json.dumps(parts)},
            )
        engine.dispose()
        database = Database(self.folder)
        self.addCleanup(database.close)
        system = Book(database, lambda: NOON).system("oven").system
        self.assertEqual(system.factory_charge_kg, 16.0)
        self.assertEqual(system.drawing.parts["rooms"][0]["name"], "Oven")
        self.assertNotIn("factory_charge_kg", system.drawing.parts)

    def test_the_new_records_are_append_only_too(self):
        database = Database(self.folder)
        self.addCleanup(database.close)
        book = Book(database, lambda: NOON)
        book.set_chart("oven", "c1", "subcooling_by_outdoor", "75;11\n95;9", "ip")
        visits = Visits(database, lambda: NOON)
        visits.keep_slip("call", "s1", "saturation", {"pressure": 118.0}, "ip")
        for table in ("charts", "slips"):
            for verb in (f"UPDATE {table} SET id = 'x'", f"DELETE FROM {table}"):
                with (
                    self.subTest(verb),
                    self.assertRaises(IntegrityError) as caught,
                    database.writing() as session,
                ):
                    session.execute(text(verb))
                self.assertIn("append-only", str(caught.exception))
