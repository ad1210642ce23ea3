"""Why nothing could be written: busy, full, damaged, moved away. Each in words, with the fix."""

import sqlite3
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from types import MappingProxyType

from sqlalchemy.exc import DatabaseError


class CannotWrite(RuntimeError):
    """Nothing was written. Trying again may help: `wait_s` says when."""

    wait_s = 2

    def __init__(self, what: str, message: str) -> None:
        super().__init__(message)
        self.what = what


class Busy(CannotWrite):
    """Others are writing, and kept on for too long."""

    def __init__(self) -> None:
        super().__init__("busy", "Nudge is busy writing. Nothing was lost: it is tried again.")


class DiskRefuses(CannotWrite):
    """The disk is full, read-only, or fails."""

    wait_s = 30


class FileMoved(CannotWrite):
    """The file that is open is not the one that stands in the folder any more."""

    wait_s = 60

    def __init__(self, path: str) -> None:
        super().__init__(
            "moved",
            f"{path} was moved, deleted or replaced while Nudge was running. Nothing is written, "
            "so that nothing is lost. Put the file back, or stop Nudge and start it again.",
        )


class NotThere(RuntimeError):
    """It belongs to something that is not here."""

    def __init__(self) -> None:
        super().__init__(
            "It names a visit, a system or a cylinder that is not here. Nothing was written."
        )


class SameIdOtherContent(RuntimeError):
    """An id that stands for something else already."""

    def __init__(self, entry_id: str) -> None:
        super().__init__(
            f"“{entry_id[:40]}” is written here already and says something else. Nothing was "
            "changed. Send it under an id of its own.",
        )


_WORDS: Mapping[int, str] = MappingProxyType(
    {
        sqlite3.SQLITE_FULL: "The disk is full. Nothing was written. Make room; it is tried again.",
        sqlite3.SQLITE_READONLY: "The disk or the data folder is read-only now. Nothing was "
        "written. Make it writable; it is tried again.",
        sqlite3.SQLITE_IOERR: "The disk does not answer. Nothing was written. Look at the disk, "
        "and keep the newest copy safe.",
        sqlite3.SQLITE_CANTOPEN: "The data folder cannot be opened. Nothing was written.",
        sqlite3.SQLITE_CORRUPT: "The database is damaged. Nothing was written. Stop Nudge, and "
        "restore the newest copy: nudge restore.",
        sqlite3.SQLITE_NOTADB: "The database is damaged. Nothing was written. Stop Nudge, and "
        "restore the newest copy: nudge restore.",
    }
)
"""By SQLite's primary result code."""
_TWICE = (sqlite3.SQLITE_CONSTRAINT_UNIQUE, sqlite3.SQLITE_CONSTRAINT_PRIMARYKEY)
_BUSY = (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED)


@contextmanager
def refusals_in_words() -> Iterator[None]:
    """SQLite's own errors become `CannotWrite`. What is no refusal of the disk stays as it is."""
    try:
        yield
    except DatabaseError as broken:
        whole = getattr(broken.orig, "sqlite_errorcode", 0)
        if whole == sqlite3.SQLITE_CONSTRAINT_FOREIGNKEY:
            raise NotThere from broken
        if whole in _TWICE:
            raise SameIdOtherContent("This id") from broken
        code = whole & 0xFF
        if code in _BUSY:
            raise Busy from broken
        if code in _WORDS:
            raise DiskRefuses("disk", _WORDS[code]) from broken
        raise
