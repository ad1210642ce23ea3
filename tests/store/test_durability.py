"""What was answered is kept, through a killed process and through several writers at once."""

import json
import tempfile
import threading
import unittest
from pathlib import Path
from urllib.request import Request, urlopen

from sqlalchemy import select

from nudge.services.visits import Visits
from nudge.store.database import Database
from nudge.store.tables import Reading
from tests.browser.support import copy_demo
from tests.temporary import WithDatabase
from tools.drive import RunningNudge


def _post(url, body):
    request = Request(url, json.dumps(body).encode(), {"Content-Type": "application/json"})
    with urlopen(request, timeout=10) as answer:
        return json.load(answer)


class KilledTest(unittest.TestCase):
    def test_every_answered_line_is_there_after_a_kill(self):
        with tempfile.TemporaryDirectory() as folder:
            copy_demo(Path(folder))
            nudge = RunningNudge(Path(folder))
            nudge.start()
            answered: list[str] = []

            def write() -> None:
                for i in range(10_000):
                    body = {
                        "id": f"c{i}",
                        "text": f"suct {100 + i % 20}",
                        "heard_at": "2026-07-14T12:00:00Z",
                    }
                    try:
                        _post(f"{nudge.url}/api/visits/net-loft-now/callouts", body)
                    except OSError:
                        return
                    answered.append(f"c{i}:0")

            writer = threading.Thread(target=write)
            writer.start()
            while len(answered) < 25:
                writer.join(0.01)
            nudge.stop()  # SIGKILL, in the middle of whatever it was doing
            writer.join()

            database = Database(Path(folder))
            with database.reading() as session:
                kept = set(session.scalars(select(Reading.id)))
            database.close()
            self.assertGreaterEqual(len(answered), 25)
            self.assertEqual(set(answered) - kept, set())


class SeveralWritersTest(WithDatabase):
    def test_nobody_is_turned_away_and_nothing_is_counted_twice(self):
        failures: list[BaseException] = []

        def write(hand: int) -> None:
            visits = Visits(self.database, self.clock)
            try:
                for i in range(8):
                    line = f"suct {100 + i} sl {50 + hand}"
                    for _ in range(2):  # each line is sent twice
                        visits.hear("net-loft-now", f"h{hand}-{i}", line, "ip", self.clock.now)
            except BaseException as error:
                failures.append(error)

        hands = [threading.Thread(target=write, args=(hand,)) for hand in range(4)]
        for hand in hands:
            hand.start()
        for hand in hands:
            hand.join()
        self.assertEqual(failures, [])
        with self.database.reading() as session:
            rows = session.scalars(select(Reading).where(Reading.visit_id == "net-loft-now")).all()
        self.assertEqual(len(rows), 4 * 8 * 2)
