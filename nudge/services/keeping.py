"""Keeping a shop's data for years: daily copies, all of it down and up, and noticing damage."""

import logging
import shutil
import tempfile
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from threading import Event, Thread
from types import MappingProxyType

from nudge.services.clock import Clock
from nudge.store.copies import (
    SPARE_BYTES,
    BadCopy,
    check_copy,
    copies_in,
    copy_live,
    keep_newest,
    named,
    unsound,
)
from nudge.store.database import BACKUPS, SCHEMA, Database

DAILY, KEPT_DAYS = "day", 7
"""Daily copies, and how many are kept."""
LOOK_EVERY_S = 600.0
ASIDE, KEPT_ASIDE = "before-restore", 3
_LOG = logging.getLogger("nudge.keeping")


@dataclass(frozen=True, slots=True)
class DataTrouble:
    """Something that endangers the data, in words."""

    key: str
    message: str


@dataclass(frozen=True, slots=True)
class KeptCopy:
    """A copy on this machine's disk."""

    path: Path
    made_at: datetime


TROUBLES: Mapping[str, str] = MappingProxyType(
    {
        "moved": "The database file was moved, deleted or replaced while Nudge was running. "
        "Nothing more is written. Put it back, or start Nudge again.",
        "damaged": "The database is damaged. Copy the data folder somewhere safe, stop Nudge, and "
        "put the newest copy back: nudge restore.",
        "full": "The disk is nearly full. Make room before something cannot be written.",
        "no_copy": "No copy could be made for more than two days. Look at the disk and the log.",
    }
)
COPY_LATE = timedelta(days=2)


class Keeping:
    """The use cases of copies and of noticing damage."""

    def __init__(self, database: Database, clock: Clock) -> None:
        self._database, self._clock = database, clock
        self._folder = database.path.parent / BACKUPS
        self._stop = Event()
        self._thread: Thread | None = None
        self._began = clock()
        self._is_sound = True

    def begin(self) -> None:
        """Test the database once, and make a copy a day from now on."""
        self._thread = Thread(target=self._keep_on, name="copies", daemon=True)
        self._thread.start()

    def close(self) -> None:
        self._stop.set()
        if self._thread is not None:
            self._thread.join(timeout=10)

    def troubles(self) -> list[DataTrouble]:
        """What endangers the data now. Quick: it looks at files, and reads none."""
        found = []
        if not self._database.is_in_place:
            found.append("moved")
        if not self._is_sound:
            found.append("damaged")
        if shutil.disk_usage(self._database.path.parent).free < SPARE_BYTES:
            found.append("full")
        if self._thread is not None and self._clock() - self._last_copy() > COPY_LATE:
            found.append("no_copy")
        return [DataTrouble(key, TROUBLES[key]) for key in found]

    def copies(self) -> list[KeptCopy]:
        """Every copy that is kept, the newest first."""
        return [
            KeptCopy(path, datetime.fromtimestamp(_made(path), UTC))
            for path in sorted(self._folder.glob("*.sqlite3"), key=_made, reverse=True)
        ]

    def copy_if_due(self) -> Path | None:
        """Today's copy, unless it is there; older ones than a week go. Raises: BadCopy."""
        target = self._folder / named(DAILY, self._clock())
        if target.exists():
            return None
        copy_live(self._database.path, target)
        keep_newest(self._folder, DAILY, KEPT_DAYS)
        return target

    def all_of_it(self) -> Path:
        """A copy of everything as of now, in a folder of its own. Raises: BadCopy."""
        folder = Path(tempfile.mkdtemp(prefix="nudge-all-"))
        target = folder / named("nudge", self._clock(), "%Y-%m-%d-%H%M")
        try:
            copy_live(self._database.path, target)
        except BaseException:
            shutil.rmtree(folder, ignore_errors=True)
            raise
        return target

    def put_in_place(self, copy: Path) -> None:
        """Everything becomes what a copy holds; what was here is set aside first.

        Raises: BadCopy, for a file that cannot be put back. Nothing was changed then.
        """
        check_copy(copy, SCHEMA)
        with tempfile.TemporaryDirectory(prefix="nudge-in-") as folder:
            ready = Path(folder) / "nudge.sqlite3"
            copy_live(copy, ready)
            Database(Path(folder)).close()  # brought up to date here, not in the shop's file
            aside = self._folder / named(ASIDE, self._clock(), "%Y-%m-%d-%H%M%S")
            copy_live(self._database.path, aside)
            keep_newest(self._folder, ASIDE, KEPT_ASIDE)
            self._database.become(ready)
            self._is_sound = True

    def _keep_on(self) -> None:
        self._is_sound = not unsound(self._database.path, is_quick=True)
        while True:
            try:
                self.copy_if_due()
            except (BadCopy, OSError) as failed:
                _LOG.warning("no copy was made: %s", failed)
            if self._stop.wait(LOOK_EVERY_S):
                return

    def _last_copy(self) -> datetime:
        """When the newest was made, or this Nudge began: it had no time before that."""
        made = [datetime.fromtimestamp(_made(one), UTC) for one in copies_in(self._folder, DAILY)]
        return max([self._began, *made])


def _made(path: Path) -> float:
    return path.stat().st_mtime
