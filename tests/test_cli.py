import json
import os
import socket
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from tests.api.test_api import ASSESS

ROOT = Path(__file__).parents[1]


def _nudge(*arguments, **environment):
    return subprocess.run(
        [sys.executable, "-m", "nudge", *arguments],
        cwd=ROOT,
        env={**os.environ, **environment},
        capture_output=True,
        text=True,
        timeout=60,
        check=False,
    )


class AssessTest(unittest.TestCase):
    def test_a_file_gives_the_same_answer_as_the_api(self):
        with tempfile.NamedTemporaryFile("w", suffix=".json") as file:
            json.dump(ASSESS, file)
            file.flush()
            done = _nudge("assess", file.name)
        self.assertEqual(done.returncode, 0, done.stderr)
        answer = json.loads(done.stdout)
        self.assertEqual(answer["charge"]["advice"], "leave")
        self.assertIn("for", answer["suspects"][0])

    def test_the_answer_can_be_read_out(self):
        with tempfile.NamedTemporaryFile("w", suffix=".json") as file:
            json.dump(ASSESS, file)
            file.flush()
            done = _nudge("assess", "--text", file.name)
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertTrue(done.stdout.startswith("Verdict: Leave the charge alone."), done.stdout)
        self.assertIn("Suspect, ", done.stdout)

    def test_each_failure_has_words_and_status_2(self):
        wrong = json.dumps({**ASSESS, "method": "guess"})
        broken = json.dumps(ASSESS).replace("122.0", '"many"')
        for text, says in (
            (wrong, "Unknown method"),
            (broken, "suction_pressure"),
            ("{", "JSON"),
            (None, "cannot be read"),
        ):
            with self.subTest(says), tempfile.TemporaryDirectory() as folder:
                path = Path(folder) / "case.json"
                if text is not None:
                    path.write_text(text)
                done = _nudge("assess", str(path))
                self.assertEqual((done.returncode, done.stdout), (2, ""))
                self.assertIn(says, done.stderr)
                self.assertNotIn("Traceback", done.stderr)


class ServeTest(unittest.TestCase):
    def test_what_stops_a_start_is_said_plainly(self):
        with socket.socket() as taken, tempfile.TemporaryDirectory() as folder:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            busy = str(taken.getsockname()[1])
            in_the_way = Path(folder) / "file"
            in_the_way.write_text("")
            for environment, says in (
                ({"PORT": busy, "NUDGE_DATA": folder}, f"Port {busy} on 127.0.0.1 is busy"),
                ({"PORT": "eighty", "NUDGE_DATA": folder}, "Set it to a number"),
                ({"PORT": "0", "NUDGE_DATA": folder}, "Set it to a number"),
                ({"HOST": "203.0.113.9", "NUDGE_DATA": folder}, "Check HOST and PORT"),
                ({"PORT": str(_free()), "NUDGE_DATA": str(in_the_way)}, "cannot be written"),
            ):
                with self.subTest(says):
                    done = _nudge("serve", **environment)
                    self.assertNotEqual(done.returncode, 0)
                    self.assertIn(says, done.stderr)
                    self.assertNotIn("Traceback", done.stderr)


def _free() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])
