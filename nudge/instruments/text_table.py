"""A table in a text file as devices and people write it: where it begins, how it is written.

Read past: a mark of its encoding, `sep=` in its first line, title lines over the heading, a second
heading row of units. Nothing is turned in the file itself.
"""

import csv
import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import TextIO

from nudge.core.language.errors import CoreError

LOOK_BYTES, LOOK_ROWS = 262_144, 200
MOST_TITLE_LINES = 20
BOM = "\ufeff"
_SEP = re.compile(r"^\s*\"?sep=(.)\"?\s*$", re.I)
_NUMBER = re.compile(r"^[-+−]?\d+([.,]\d+)?([eE][-+]?\d+)?$")
_UNIT = re.compile(
    r"^[(\[]?\s*(°?\s*[cf]|deg\s*[cf]|k|kpa|bar|psig?|mpa|pa|hz|%|rh|v|a|w|kw|rpm|pls|steps?|"
    r"s|sec|seconds|min|hh:mm:ss|in\.?\s*w\.?c\.?|cfm|l/s|micron|kg|g|lb|oz|µf|mfd|-|)\s*[)\]]?$",
    re.I,
)


@dataclass(frozen=True, slots=True)
class TableForm:
    """How a table is written: lines before its heading, whether units stand in a row under it."""

    encoding: str = "utf-8"
    skip: int = 0
    has_unit_row: bool = False
    delimiter: str = ","


@dataclass(frozen=True, slots=True)
class TableStart:
    """The beginning of a table: titles, heading, units (empty where it has no such row), rows."""

    written: TableForm
    titles: tuple[str, ...]
    heading: tuple[str, ...]
    units: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


def table_start(start: bytes, is_cut: bool) -> TableStart:
    """The beginning of a table from the first bytes of its file; `is_cut`: there is more of it.

    Raises: CoreError, when it is no table.
    """
    encoding = encoding_of(start)
    text = start.decode(encoding, "replace").lstrip(BOM)
    lines = text.splitlines()
    if is_cut and lines:
        lines = lines[:-1]
    lines = lines[: LOOK_ROWS + MOST_TITLE_LINES + 2]
    named = _SEP.match(lines[0]) if lines else None
    first = 1 if named else 0
    body = [line for line in lines[first:] if line.strip()]
    if len(body) < 2:
        raise CoreError("file", "There are no readings in it: it has fewer than two lines.")
    delimiter = named[1] if named else _delimiter(body)
    table = [[c.strip() for c in row] for row in _read(lines[first:], delimiter)]
    top = _heading_row(table)
    heading = tuple(table[top])
    under = [row for row in table[top + 1 :] if any(row)]
    has_units = bool(under) and _is_units(under[0], len(heading))
    rows = under[1:] if has_units else under
    return TableStart(
        TableForm(encoding, first + top, has_units, delimiter),
        tuple(" ".join(filter(None, row)) for row in table[:top] if any(row)),
        heading,
        tuple(c.strip("()[] ") for c in under[0]) if has_units else (),
        tuple(tuple(row[: len(heading)]) for row in rows[:LOOK_ROWS]),
    )


def encoding_of(start: bytes) -> str:
    """UTF-8, or UTF-16 by its mark or its every other byte. Raises: CoreError, for neither."""
    if start.startswith((b"\xff\xfe", b"\xfe\xff")):
        return "utf-16"
    if b"\x00" in start:
        pairs = min(len(start), 4096) // 2
        odd = sum(start[2 * i + 1] == 0 for i in range(pairs))
        even = sum(start[2 * i] == 0 for i in range(pairs))
        if odd > 0.8 * pairs and even == 0:
            return "utf-16-le"
        if even > 0.8 * pairs and odd == 0:
            return "utf-16-be"
        raise CoreError("file", "That is not a text file. Export the log as CSV or JSON lines.")
    return "utf-8"


def open_table(path: Path, written: TableForm) -> TextIO:
    """The file, past what stands over its heading."""
    file = path.open("r", encoding=written.encoding, errors="replace", newline="")
    for _ in range(written.skip):
        file.readline()
    return file


def rows_of(file: TextIO, written: TableForm) -> Iterator[list[str]]:
    """The heading first, then every row that is not empty; units are left out."""
    table = _read(file, written.delimiter)
    yield [name.strip() for name in unmarked(next(table, []))]
    left_out = not written.has_unit_row
    for row in table:
        if not any(row):
            continue
        if not left_out:
            left_out = True
            continue
        yield row


def _read(lines: Iterable[str], delimiter: str) -> Iterator[list[str]]:
    """Rows of a table. Raises: CoreError, for a cell that no table has."""
    try:
        yield from csv.reader(lines, delimiter=delimiter)
    except csv.Error as broken:
        raise CoreError("file", f"It cannot be read as a table: {broken}.") from broken


def unmarked(heading: list[str]) -> list[str]:
    """A heading without the mark of its encoding."""
    return [heading[0].lstrip(BOM), *heading[1:]] if heading else heading


def _delimiter(lines: Sequence[str]) -> str:
    """The sign that most lines hold equally often."""
    best, most = ",", 0.0
    tail = lines[min(len(lines) // 3, MOST_TITLE_LINES) :][:40]
    for sign in (";", "\t", "|", ","):
        counts = [line.count(sign) for line in tail]
        usual = max(set(counts), key=counts.count)
        alike = counts.count(usual) / len(counts)
        if usual and alike * min(usual, 3) > most:
            best, most = sign, alike * min(usual, 3)
    return best


def _heading_row(table: Sequence[Sequence[str]]) -> int:
    """The first row as wide as those under it that is words and not readings; rows that end in one
    separator more than their heading are one wider.
    """
    widths = [len(row) for row in table if any(row)]
    usual = max(set(widths), key=widths.count)
    for width in (usual, usual - 1):
        for i, row in enumerate(table[: MOST_TITLE_LINES + 1]):
            filled = [cell for cell in row if cell]
            if any(_NUMBER.match(cell) for cell in filled):
                break  # the readings have begun
            if len(row) >= max(width, 2) and len(filled) > 0.5 * usual:
                return i
    return 0


def _is_units(row: Sequence[str], width: int) -> bool:
    """Whether a row names units: no number in it, and most of what it says are units."""
    told = [cell for cell in row if cell]
    if not told or len(row) > width or any(_NUMBER.match(cell) for cell in told):
        return False
    return sum(_UNIT.match(cell) is not None for cell in told) > 0.7 * len(told)
