"""Work on what somebody else made, done in a process of its own."""

import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

from nudge.services.bundles import NotABundle, read_bundle

MOST_SECONDS = 180
AT_ONCE_BYTES = 64_000
"""A file no larger is told at once that it is no bundle: starting a process takes seconds."""


def taken_in_apart(file: Path, data_folder: Path, only_looks: bool) -> dict[str, Any]:
    """`nudge take-in`, as its own process. Raises: NotABundle, where that breaks or takes long."""
    if file.stat().st_size <= AT_ONCE_BYTES:
        try:
            read_bundle(file.read_bytes())
        except NotABundle as refused:
            return {"systems": 0, "visits": 0, "already_here": 0, "reasons": list(refused.reasons)}
    command = [sys.executable, "-m", "nudge", "take-in", str(file), "--json"]
    if only_looks:
        command.append("--look")
    try:
        done = subprocess.run(
            command,
            capture_output=True,
            text=True,
            timeout=MOST_SECONDS,
            check=False,
            env={**os.environ, "NUDGE_DATA": str(data_folder)},
        )
        found: dict[str, Any] = json.loads(done.stdout)
    except subprocess.TimeoutExpired as slow:
        raise NotABundle(["It takes too long to check. It may be made to."]) from slow
    except ValueError as broken:
        why = "It could not be checked: it takes too much memory, or breaks."
        raise NotABundle([why]) from broken
    return found
