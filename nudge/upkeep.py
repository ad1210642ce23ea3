"""`nudge backup`, `nudge restore`, `nudge check`: a shop's data copied, put back, looked over."""

import sqlite3
import sys
from datetime import datetime
from pathlib import Path

from nudge.services.checkup import findings
from nudge.store.copies import BadCopy, check_copy, content_hash, copy_live, named, put_back
from nudge.store.database import BACKUPS, FILE, SCHEMA
from nudge.store.lock import InUse, hold

TROUBLE = (BadCopy, InUse, OSError, sqlite3.Error)


def backup(folder: Path, target: Path) -> str:
    """Copy everything into one file, while a Nudge may be running. Raises: any of `TROUBLE`."""
    source = folder / FILE
    if not source.is_file():
        raise BadCopy(f"There is no {FILE} in {folder}. Is NUDGE_DATA the right folder?")
    if target.is_dir():
        target = target / named("nudge", datetime.now().astimezone(), "%Y-%m-%d-%H%M")
    if target.resolve() == source.resolve():
        raise BadCopy("That is the database itself. Give the copy a name of its own.")
    copy_live(source, target)
    size = target.stat().st_size / 1e6
    return f"{target}: {size:.1f} MB, proved. Content {content_hash(target)[:16]}."


def restore(folder: Path, copy: Path) -> str:
    """Put a copy in place; what stood there is set aside first. Raises: any of `TROUBLE`."""
    if not copy.is_file():
        raise BadCopy(f"There is no file {copy}.")
    check_copy(copy, SCHEMA)
    with hold(folder):
        path = folder / FILE
        aside = (
            folder
            / BACKUPS
            / named("before-restore", datetime.now().astimezone(), "%Y-%m-%d-%H%M%S")
        )
        was_there = path.exists()
        put_back(copy, path, aside)
    said = f"{copy.name} is in place. Content {content_hash(path)[:16]}."
    return f"{said} What was there is in {aside}." if was_there else said


def check(folder: Path) -> int:
    """Say what is wrong in a data folder; the exit status is 0, or 1 where something is."""
    found = findings(folder)
    for line in found:
        print(line, file=sys.stderr)
    if not found:
        print(f"{folder / FILE}: all is well. Content {content_hash(folder / FILE)[:16]}.")
    return 1 if found else 0
