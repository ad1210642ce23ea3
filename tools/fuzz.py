"""Requests that the OpenAPI document allows, and some it does not, at a Nudge of their own.

`python -m tools.fuzz SECONDS [DATA [SEED]]`, on a demo of its own or in a folder of data: 5xx
answers, undeclared statuses and types, and shapes that are not the document's are failures; a
refusal always has the shape that carries its reason.
"""

import shutil
import subprocess
import sys
import tempfile
from pathlib import Path
from urllib.request import urlopen

from tools.drive import ROOT, RunningNudge

LEFT_OUT = r"/stream$|/workshop/all$|/bundles"
"""A stream never ends; the others work on files, and have tests of their own."""
SLOWEST_S = 120
"""Making the document: far longer beside other tests than the reader of it waits."""
CHECKS = "all"
EXCLUDED = "positive_data_acceptance,negative_data_rejection"
"""The first asks that whatever fits the document is taken: a refrigerant there is not is refused,
with its reason, and the shape of refusals is checked. The second, that nothing beside it is: one
value in a query where a list may stand is taken as a list of one."""


def main(seconds: str = "1200", data: str = "", seed: str = "7") -> int:
    with tempfile.TemporaryDirectory() as own:
        folder = data or own
        nudge = RunningNudge(Path(folder))
        nudge.start()
        urlopen(f"{nudge.url}/openapi.json", timeout=SLOWEST_S).close()  # made once, then kept
        command = [
            str(Path(sys.executable).with_name("st")), "run", f"{nudge.url}/openapi.json",
            "--checks", CHECKS, "--exclude-checks", EXCLUDED, "--max-time", seconds,
            "--exclude-path-regex", LEFT_OUT, "--continue-on-failure", "--request-timeout", "30",
            "--seed", seed, "--warnings", "off",
        ]  # fmt: skip
        try:
            failed = subprocess.run(command, cwd=folder, check=False).returncode
        finally:
            nudge.stop()
            log = Path(folder) / "logs" / "nudge.log"
            if log.is_file():
                kept = ROOT / "build" / "fuzz.log"
                kept.parent.mkdir(exist_ok=True)
                shutil.copyfile(log, kept)
                broken = [line for line in log.read_text().splitlines() if '"broke"' in line]
                print("\n".join(broken[:20]))
        return failed


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
