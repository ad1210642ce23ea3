"""Which rows of an append-only record of readings stand now."""

from collections.abc import Iterable
from typing import Protocol, TypeVar


class ReadingRow(Protocol):
    """What a reading row must carry. Rows come in the order they were recorded."""

    @property
    def id(self) -> str: ...
    @property
    def point(self) -> str: ...
    @property
    def part(self) -> str | None: ...
    @property
    def corrects(self) -> str | None: ...
    @property
    def withdraws(self) -> str | None: ...


Row = TypeVar("Row", bound=ReadingRow)


def void_ids(rows: Iterable[ReadingRow]) -> frozenset[str]:
    """Rows that no longer count: withdrawn, or replaced by a correction that is not withdrawn.

    Withdrawing a correction brings the corrected row back: that is undo.
    """
    rows = list(rows)
    withdrawn = {row.withdraws for row in rows if row.withdraws}
    replaced = {row.corrects for row in rows if row.corrects and row.id not in withdrawn}
    return frozenset(withdrawn | replaced)


def standing(rows: Iterable[Row]) -> list[Row]:
    """Rows that count, oldest first: neither void nor a withdrawal itself."""
    rows = list(rows)
    void = void_ids(rows)
    return [row for row in rows if row.id not in void and row.withdraws is None]


MAIN = ""
"""The one part of most systems, outdoor and indoor unit together; a row of it names none."""


def current(rows: Iterable[Row], part: str = MAIN) -> dict[str, Row]:
    """The latest standing row of each point of a part."""
    return {row.point: row for row in standing(rows) if (row.part or MAIN) == part}


def addressed(rows: Iterable[Row]) -> dict[tuple[str, str], Row]:
    """The latest standing row of each (part, point): a plant of many parts as a whole."""
    return {(row.part or MAIN, row.point): row for row in standing(rows)}
