"""The log: a line of JSON an event, turned over before it grows, with no word a user wrote.

What is logged is what happened and where in the code; texts of exceptions may carry what somebody
typed, so only their types and places are kept.
"""

import json
import logging
import traceback
from datetime import UTC, datetime
from logging.handlers import RotatingFileHandler
from pathlib import Path

FOLDER, NAME = "logs", "nudge.log"
MOST_BYTES, KEPT = 1_000_000, 5
"""How large a log grows, and how many older ones are kept."""
TALKS_OF_TEXT = ("fpdf.output", "fontTools.subset")
"""Libraries whose warnings quote what somebody wrote."""
FRAMES = 6
"""Places of an exception that are kept, the innermost last."""


class JsonLines(logging.Formatter):
    """A record as one line of JSON."""

    def format(self, record: logging.LogRecord) -> str:
        said = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname.lower(),
            "from": record.name,
            "what": record.msg if record.exc_info else record.getMessage(),
        }
        if record.exc_info and record.exc_info[0] is not None:
            said["broke"] = record.exc_info[0].__name__
            frames = traceback.extract_tb(record.exc_info[2])[-FRAMES:]
            said["where"] = " ".join(f"{Path(f.filename).name}:{f.lineno}" for f in frames)
        return json.dumps(said, ensure_ascii=False)


def write_to(data_folder: Path) -> None:
    """Log into the data folder from now on, warnings and what is worse."""
    folder = data_folder / FOLDER
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    file = RotatingFileHandler(folder / NAME, maxBytes=MOST_BYTES, backupCount=KEPT, delay=True)
    file.setFormatter(JsonLines())
    root = logging.getLogger()
    root.handlers = [file]
    root.setLevel(logging.WARNING)
    for name in TALKS_OF_TEXT:
        logging.getLogger(name).setLevel(logging.CRITICAL)
