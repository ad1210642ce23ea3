"""Rows of a database file as they are, read without opening it as a Nudge does."""

import json
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path
from typing import Any


def kept_verdicts(path: Path) -> Iterator[tuple[int, Any, Any, Any]]:
    """Number, kept evidence, printed answer and request of every verdict."""
    with closing(_opened(path)) as opened:
        query = "SELECT sequence, kept, answer, request FROM verdicts ORDER BY sequence"
        for number, *texts in opened.execute(query):
            yield (number, *(_json(text) for text in texts))


def pictures(path: Path) -> Iterator[tuple[str, bytes, bytes]]:
    """Id, picture and small picture of each that was not taken off."""
    with closing(_opened(path)) as opened:
        yield from opened.execute(
            "SELECT id, picture, small FROM photos WHERE removed_at IS NULL ORDER BY id"
        )


def _json(text: str | None) -> Any:
    try:
        return None if text is None else json.loads(text)
    except ValueError:
        return None


def _opened(path: Path) -> sqlite3.Connection:
    return sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro", uri=True, timeout=10)
