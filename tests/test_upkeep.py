"""The log, the wire's patience, and cells of a spreadsheet: what a shop's years ask for."""

import asyncio
import json
import logging
import socket
import tempfile
import threading
import time
import unittest
from logging.handlers import RotatingFileHandler
from pathlib import Path
from unittest import mock

from nudge import logs, patience
from nudge.api import body_limit
from nudge.presenters.csv_cells import safe_cell
from tests.temporary import WithClient
from tools.drive import RunningNudge


class LogTest(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        root = logging.getLogger()
        before, level = root.handlers, root.level
        self.addCleanup(setattr, root, "handlers", before)
        self.addCleanup(root.setLevel, level)
        logs.write_to(self.folder)

    def lines(self):
        text = (self.folder / logs.FOLDER / logs.NAME).read_text("utf-8")
        return [json.loads(line) for line in text.splitlines()]

    def test_a_line_is_json_and_says_where_it_broke_and_not_what_somebody_typed(self):
        try:
            raise ValueError("the key hangs behind the door")
        except ValueError:
            logging.getLogger("nudge.somewhere").exception("A page broke.")
        logging.getLogger("nudge.copies").warning("no copy for %s days", 3)
        first, second = self.lines()
        self.assertEqual((first["what"], first["broke"]), ("A page broke.", "ValueError"))
        self.assertIn("test_upkeep.py:", first["where"])
        self.assertNotIn("door", json.dumps(first))
        self.assertEqual(second["what"], "no copy for 3 days")
        self.assertEqual(second["level"], "warning")

    def test_it_is_turned_over_before_it_grows(self):
        file = logging.getLogger().handlers[0]
        self.assertIsInstance(file, RotatingFileHandler)
        with mock.patch.object(file, "maxBytes", 2_000):
            for number in range(400):
                logging.getLogger("nudge").warning("something happened, number %s", number)
        kept = sorted((self.folder / logs.FOLDER).iterdir())
        self.assertEqual(len(kept), logs.KEPT + 1)
        self.assertLess(max(path.stat().st_size for path in kept), 2_300)


class CellTest(unittest.TestCase):
    def test_what_a_spreadsheet_takes_for_a_formula_is_kept_from_being_one(self):
        for text, cell in (
            ("=1+1", "'=1+1"),
            ("+cmd|' /C calc'!A0", "'+cmd|' /C calc'!A0"),
            ("@SUM(A1)", "'@SUM(A1)"),
            ("-2+3", "'-2+3"),
            ("\t=1+1", "'=1+1"),
            ("a\r\n=b", "a =b"),
            ("-3.5 °F", "-3.5 °F"),
            ("-12", "-12"),
            ("Gulls nest", "Gulls nest"),
            ("", ""),
        ):
            with self.subTest(text):
                self.assertEqual(safe_cell(text), cell)


class PatienceTest(WithClient):
    def test_the_rest_of_a_body_that_never_comes_is_not_waited_for(self):
        said = []
        scope = {
            "type": "http", "method": "POST", "path": "/api/sites", "raw_path": b"/api/sites",
            "query_string": b"", "client": ("127.0.0.1", 1), "server": ("localhost", 80),
            "scheme": "http", "http_version": "1.1", "root_path": "",
            "headers": [(b"host", b"localhost"), (b"content-type", b"application/json")],
        }  # fmt: skip
        sent = iter([{"type": "http.request", "body": b'{"id": "s"', "more_body": True}])

        async def receive():
            for message in sent:
                return message
            await asyncio.sleep(60)
            return None

        async def send(message):
            said.append(message)

        with mock.patch.object(body_limit, "PART_S", 0.1):
            asyncio.run(asyncio.wait_for(self.http.app(scope, receive, send), 5))
        self.assertEqual(said[0]["status"], 408)
        self.assertIn(b"Nothing was written", said[1]["body"])

    def test_a_connection_that_says_nothing_is_let_go(self):
        closed = threading.Event()
        transport = mock.Mock()
        transport.is_closing.return_value = False
        transport.close.side_effect = closed.set

        async def hold():
            config = mock.Mock(loaded=True, ws_protocol_class=None, root_path="", headers=[])
            state = mock.Mock(connections=set(), tasks=set(), default_headers=[])
            with mock.patch.object(patience, "HEAD_S", 0.05):
                protocol = patience.PatientProtocol(config, state, {}, asyncio.get_running_loop())
                protocol.connection_made(transport)
                await asyncio.sleep(0.2)

        asyncio.run(hold())
        self.assertTrue(closed.is_set())


class HalfOpenTest(unittest.TestCase):
    def test_many_idle_connections_hold_nobody_up(self):
        with tempfile.TemporaryDirectory() as folder:
            nudge = RunningNudge(Path(folder), "serve")
            nudge.start()
            self.addCleanup(nudge.stop)
            idle = [socket.create_connection(("127.0.0.1", nudge.port)) for _ in range(100)]
            for number, one in enumerate(idle):
                one.sendall(b"POST /api/sites HTTP/1.1\r\nHo" if number % 2 else b"")
            began = time.monotonic()
            from urllib.request import urlopen

            with urlopen(f"{nudge.url}/api/today", timeout=5) as answer:
                self.assertEqual(answer.status, 200)
            self.assertLess(time.monotonic() - began, 5)
            for one in idle:
                one.close()


if __name__ == "__main__":
    unittest.main()
