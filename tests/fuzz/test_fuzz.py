"""A minute of requests the document allows, and some it does not. `make fuzz` goes on for twenty."""

import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from tests.browser.support import copy_demo
from tools.drive import ROOT

SECONDS = 60


class FuzzTest(unittest.TestCase):
    def test_no_answer_breaks_or_is_not_in_the_document(self):
        with tempfile.TemporaryDirectory() as data:
            copy_demo(Path(data))
            command = [sys.executable, "-m", "tools.fuzz", str(SECONDS), data]
            done = subprocess.run(command, cwd=ROOT, capture_output=True, text=True, check=False)
        self.assertEqual(done.returncode, 0, done.stdout[-6000:] + done.stderr[-2000:])
