"""A Nudge inside the test, on a clock the test moves: an hour beside a system passes in seconds."""

import shutil
import socket
import tempfile
import threading
import time
import unittest
from pathlib import Path

import uvicorn
from playwright.sync_api import Page

from nudge.main import create_app
from nudge.services.workshop import Workshop
from nudge.store.database import Database
from tests.browser.support import errors_of, profile, watched
from tests.temporary import HandClock, skerrow

LIVE = "radio-room-live"


class HandDriven(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        shutil.copyfile(skerrow() / "nudge.sqlite3", self.folder / "nudge.sqlite3")
        self.clock = HandClock()
        self.workshop = Workshop(Database(self.folder), self.clock)
        self.url = self.serve(self.workshop)

    def serve(self, workshop: Workshop) -> str:
        """An application on a free port of this machine, until the test ends."""
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        config = uvicorn.Config(
            create_app(workshop), port=port, log_level="error", timeout_graceful_shutdown=1
        )
        server = uvicorn.Server(config)
        thread = threading.Thread(target=server.run, daemon=True)
        thread.start()
        while not server.started:
            time.sleep(0.02)

        def stop() -> None:
            server.should_exit = True
            thread.join(timeout=5)

        self.addCleanup(stop)
        return f"http://127.0.0.1:{port}"

    def open(self, path: str, url: str = "") -> Page:
        page = watched(profile(self).new_page())
        self.addCleanup(lambda: self.assertEqual(errors_of(page), []))
        page.goto((url or self.url) + path)
        return page

    def pass_minutes(self, minutes: float, visit: str = LIVE) -> None:
        """Time goes by at the simulated system, and its kit reads it."""
        self.clock.pass_minutes(minutes)
        self.workshop.yard.play(visit, minutes)
