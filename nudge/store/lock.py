"""One Nudge a data folder: the second start is refused in words."""

import fcntl
import os
from pathlib import Path
from typing import IO

NAME = "nudge.lock"


class InUse(RuntimeError):
    """Another Nudge has the folder open."""


def hold(folder: Path) -> IO[str]:
    """Hold a data folder until the answer is closed, or the process ends however it ends.

    Raises: InUse; OSError, for a folder that cannot be written.
    """
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    file = os.fdopen(os.open(folder / NAME, os.O_RDWR | os.O_CREAT, 0o600), "r+")
    try:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError as taken:
        file.seek(0)
        whose = file.read().strip()
        file.close()
        process = f" (process {whose})" if whose.isdecimal() else ""
        raise InUse(
            f"The data in {folder} is open in another Nudge{process}. Stop that one, or give this "
            "one another folder in NUDGE_DATA."
        ) from taken
    file.seek(0)
    file.truncate()
    file.write(f"{os.getpid()}\n")
    file.flush()
    return file
