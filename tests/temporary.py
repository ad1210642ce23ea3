"""A fresh database, a clock that is set by hand, and the Skerrow data, for tests."""

import atexit
import os
import shutil
import tempfile
import unittest
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from functools import cache
from pathlib import Path

from sqlalchemy import text
from starlette.testclient import TestClient

from nudge.demo.skerrow import fill_if_empty
from nudge.main import create_app
from nudge.services.visits import Visits
from nudge.services.workshop import Workshop
from nudge.store.database import Database

ONCE_A_RUN = "NUDGE_TEST_SKERROW"
NOON = datetime(2026, 7, 14, 12, 0, tzinfo=UTC)


@dataclass
class HandClock:
    """A clock the test moves."""

    now: datetime = NOON

    def __call__(self) -> datetime:
        return self.now

    def pass_minutes(self, minutes: float) -> None:
        self.now += timedelta(minutes=minutes)


@cache
def skerrow() -> Path:
    """The Skerrow data, written once a run; each test works on its own copy.

    `tools.run_tests` writes it before the first test and names the folder to every process.
    """
    written = os.environ.get(ONCE_A_RUN)
    if written is not None:
        return Path(written)
    folder = tempfile.mkdtemp()
    atexit.register(shutil.rmtree, folder)
    database = Database(Path(folder))
    fill_if_empty(database, NOON)
    with database.reading() as session:
        session.execute(text("PRAGMA wal_checkpoint(TRUNCATE)"))
    database.close()
    return Path(folder)


class WithDatabase(unittest.TestCase):
    """Each test gets its own data folder, filled with Skerrow."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.clock = HandClock()
        shutil.copyfile(skerrow() / "nudge.sqlite3", self.folder / "nudge.sqlite3")
        self.database = Database(self.folder)
        self.addCleanup(self.database.close)
        self.visits = Visits(self.database, self.clock)


class WithClient(WithDatabase):
    """And an HTTP client on an application around it."""

    def setUp(self) -> None:
        super().setUp()
        self.workshop = Workshop(self.database, self.clock)
        app = create_app(self.workshop)
        self.http = TestClient(
            app, raise_server_exceptions=False, headers={"Content-Type": "application/json"}
        )
