"""Whole copies of the database: taken while it is written on, proved, put back, compared.

Pictures are rows of it, so one file is everything. A copy is complete under its name or not there.
"""

import os
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from datetime import datetime
from hashlib import sha256
from pathlib import Path
from shutil import disk_usage

FILE_MODE = 0o600
SPARE_BYTES = 50_000_000
"""What stays free on a disk however good the reason."""
MOST_NAMED = 5


class BadCopy(RuntimeError):
    """A file that is no sound copy of a Nudge. The message says why and what to do."""


def copy_live(source: Path, target: Path) -> None:
    """Copy a database that may be open and written on; the copy is proved before it has its name.

    Raises: BadCopy, where there is no room, or it cannot be read or is not sound; OSError.
    """
    target.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
    wanted = source.stat().st_size
    if disk_usage(target.parent).free < wanted + SPARE_BYTES:
        raise BadCopy(
            f"There is too little room for a copy in {target.parent}: "
            f"{(wanted + SPARE_BYTES) // 1_000_000} MB are wanted. Make room."
        )
    part = target.with_name(f".{target.name}.part")
    part.unlink(missing_ok=True)
    try:
        part.touch(mode=FILE_MODE)
        with closing(_reading(source)) as given, closing(sqlite3.connect(part)) as made:
            given.backup(made)
            made.execute("PRAGMA journal_mode=DELETE")
        problems = unsound(part)
        if problems:
            raise BadCopy(f"The copy is not sound: {' '.join(problems)}")
        _settle(part)
        os.replace(part, target)
        _settle(target.parent)
    except sqlite3.Error as broken:
        raise BadCopy(f"No copy could be made of {source.name} ({broken}).") from broken
    finally:
        part.unlink(missing_ok=True)


def unsound(path: Path, is_quick: bool = False) -> list[str]:
    """What is wrong with a database file by SQLite's own tests; nothing where it is sound."""
    try:
        with closing(_reading(path)) as opened:
            test = "quick_check" if is_quick else "integrity_check"
            said = [row[0] for row in opened.execute(f"PRAGMA {test}({MOST_NAMED})")]
            found = [] if said == ["ok"] else [f"{line}." for line in said]
            hanging = opened.execute("PRAGMA foreign_key_check").fetchmany(MOST_NAMED)
            found += [
                f"A row of {row[0]} belongs to a row of {row[2]} that is gone." for row in hanging
            ]
            return found
    except sqlite3.DatabaseError as broken:
        return [f"It cannot be read ({broken})."]


def schema_of(path: Path) -> str:
    """The schema a copy was written in. Raises: BadCopy, for a file that is no Nudge."""
    try:
        with closing(_reading(path)) as opened:
            return str(opened.execute("SELECT version_num FROM alembic_version").fetchone()[0])
    except (sqlite3.DatabaseError, TypeError) as broken:
        raise BadCopy(f"{path.name} is no copy of a Nudge. Nothing was changed.") from broken


def check_copy(path: Path, newest: str) -> None:
    """Raises: BadCopy, for a file that cannot be put back: unsound, or of a newer Nudge."""
    schema = schema_of(path)
    if schema > newest:
        raise BadCopy(
            f"{path.name} was written by a newer Nudge (schema {schema}; this one knows {newest}). "
            "Run the newer Nudge. Nothing was changed."
        )
    problems = unsound(path)
    if problems:
        raise BadCopy(f"{path.name} is damaged: {' '.join(problems)} Nothing was changed.")


def put_back(copy: Path, path: Path, set_aside: Path | None) -> None:
    """A copy takes the place of a database that nobody has open.

    What stood there is copied to `set_aside` first. Raises: BadCopy, OSError, sqlite3.Error.
    """
    if path.exists() and set_aside is not None:
        copy_live(path, set_aside)
    if path.exists():
        with closing(sqlite3.connect(path)) as old:  # what is in the log goes with the old file
            old.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            old.execute("PRAGMA journal_mode=DELETE")
    copy_live(copy, path)


def content_hash(path: Path) -> str:
    """A hash of every row of every table, whatever the file around them looks like."""
    found = sha256()
    with closing(_reading(path)) as opened:
        query = "SELECT name FROM sqlite_master WHERE type='table' AND name NOT LIKE 'sqlite_%'"
        for (table,) in sorted(opened.execute(query).fetchall()):
            found.update(table.encode())
            keys = [c[1] for c in opened.execute(f'PRAGMA table_info("{table}")') if c[5]]
            order = ", ".join(f'"{key}"' for key in keys) or "rowid"
            for row in opened.execute(f'SELECT * FROM "{table}" ORDER BY {order}'):
                found.update(repr(row).encode())
    return found.hexdigest()


def copies_in(folder: Path, kind: str) -> list[Path]:
    """The copies of a kind, the oldest first: their names begin with it and go by the date."""
    return sorted(folder.glob(f"{kind}-*.sqlite3"))


def named(kind: str, moment: datetime, form: str = "%Y-%m-%d") -> str:
    return f"{kind}-{moment:{form}}.sqlite3"


def keep_newest(folder: Path, kind: str, count: int) -> None:
    """Take away all but the newest copies of a kind."""
    for old in copies_in(folder, kind)[:-count]:
        old.unlink(missing_ok=True)


def _reading(path: Path) -> sqlite3.Connection:
    return sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro", uri=True, timeout=10)


def _settle(path: Path) -> None:
    """What was written is on the disk itself."""
    with _opened(path) as number:
        os.fsync(number)


@contextmanager
def _opened(path: Path) -> Iterator[int]:
    number = os.open(path, os.O_RDONLY)
    try:
        yield number
    finally:
        os.close(number)
