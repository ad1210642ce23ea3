"""How far the reading of a log is, asked from beside it, and a way to stop it."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from threading import Event, Lock

from nudge.core.language.errors import CoreError

LOOKED_AT = 65_536
"""How many lines a file has is guessed from so many of its bytes."""


@dataclass(slots=True)
class LogInReading:
    """One log being read: lines so far, about how many there are, whether it is to stop."""

    about: int
    lines: int = 0
    stop: Event = field(default_factory=Event)

    def told(self, lines: int) -> bool:
        """Take down how far it is; False once it is to stop."""
        self.lines = lines
        return not self.stop.is_set()

    def check(self) -> None:
        """Raises: CoreError, once it is to stop."""
        if self.stop.is_set():
            raise CoreError("file", "Cancelled. None of it was kept.")


class LogsInReading:
    """All that are being read, by their own ids."""

    def __init__(self) -> None:
        self._lock, self._of = Lock(), dict[str, LogInReading]()

    @contextmanager
    def begun(self, log_id: str, path: Path) -> Iterator[LogInReading]:
        """While a log is read. Raises: CoreError, for one that is being read already."""
        with self._lock:
            if log_id in self._of:
                raise CoreError("file", "It is being read already.")
            here = self._of[log_id] = LogInReading(lines_about(path))
        try:
            yield here
        finally:
            with self._lock:
                del self._of[log_id]

    def of(self, log_id: str) -> LogInReading | None:
        """The one of an id; None where it is not being read."""
        return self._of.get(log_id)


def lines_about(path: Path) -> int:
    """About how many lines a file has, by its beginning."""
    with path.open("rb") as file:
        start = file.read(LOOKED_AT)
    lines = max(start.count(b"\n"), 1)
    return max(round(path.stat().st_size * lines / max(len(start), 1)), 1)
