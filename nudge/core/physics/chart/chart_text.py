"""A chart typed, pasted or imported: text into a `Chart`, or every problem with its place.

Tab, semicolon, comma, bar, or runs of spaces part the cells, whichever the text uses; a
decimal comma is heard where the comma does not part cells. The first row holds the columns.
"""

import csv
import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from math import isfinite

from nudge.core.language.errors import CoreError
from nudge.core.language.units import (
    MM_PER_IN,
    Quantity,
    UnitSystem,
    from_si,
    to_si,
    unit_label,
)
from nudge.core.physics.chart.chart import Axis, Chart, ChartKind, chart_kind

LONGEST_TEXT = 20_000
MOST_ROWS, MOST_COLUMNS = 60, 24
MOST_PROBLEMS = 8
ONLY_COLUMN = "all"
HOTTEST_WET_BULB_C = (82 - 32) / 1.8
CORNER_WORDS = frozenset(
    {"out", "oa", "odt", "ambient", "amb", "temp", "f", "c", "esp", "tesp", "length", "ft", "m"}
)
BLANKS = frozenset({"", "-", "--", "---", "–", "—", "n/a", "na", "x", "."})
_UNIT = re.compile(
    r"\s*(°?\s*[fc]|k|psig?|cfm|l/s|pa|in\.?\s*w\.?c\.?|ft|m|mm|in\.?|oz|g)\s*$", re.IGNORECASE
)
_INCHES = re.compile(r"((?P<whole>\d)[ -])?(?P<over>\d{1,2})/(?P<under>2|4|8|16)(\"|”|\s*in\.?)?")
_NUMBER = re.compile(r"[+\-−]?(\d+([.,]\d*)?|[.,]\d+)")


@dataclass(frozen=True, slots=True)
class ChartProblem:
    """What is wrong in one place: row and column count from 1 as typed; 0 is the whole text."""

    row: int
    column: int
    message: str


class UnreadableChart(CoreError):
    """A text that is no chart. `problems` names every place; nothing is stored or changed."""

    def __init__(self, problems: list[ChartProblem]) -> None:
        self.problems = tuple(problems[:MOST_PROBLEMS])
        more = len(problems) - MOST_PROBLEMS
        words = [
            f"Row {p.row}, column {p.column}: {p.message}" if p.row else p.message
            for p in self.problems
        ]
        if more > 0:
            words.append(f"And {more} more.")
        super().__init__("chart", " ".join(words))


@lru_cache(maxsize=256)
def read_chart(kind_key: str, text: str, units: UnitSystem) -> Chart:
    """Read a chart written in `units`.

    Raises: UnknownName, for the kind; UnreadableChart, with every problem found.
    """
    kind = chart_kind(kind_key)
    if len(text) > LONGEST_TEXT:
        _refuse(
            f"That text has {len(text):,} characters; a charging chart has at most "
            f"{LONGEST_TEXT:,}. Paste the chart alone."
        )
    table = _split(text)
    if not table:
        _refuse("There is no chart in that text. Paste its rows, the columns' headings first.")
    if max(len(row) for row in table) < 2:
        _refuse(
            "Only one column was found. Part the cells with tabs, semicolons or commas, one row "
            "of the chart a line."
        )
    if len(table) > MOST_ROWS + 1 or max(len(row) for row in table) > MOST_COLUMNS + 1:
        _refuse(f"A chart has at most {MOST_ROWS} rows and {MOST_COLUMNS} columns here.")
    return _Reader(kind, units).read(table)


def _refuse(message: str) -> None:
    raise UnreadableChart([ChartProblem(0, 0, message)])


def _split(text: str) -> list[list[str]]:
    """Rows of cells, by the separator that parts the most lines the same way."""
    lines = [line for line in text.replace("\ufeff", "").splitlines() if line.strip(" ;,\t|")]
    if not lines:
        return []
    for separator in ("\t", ";", "|"):
        if sum(separator in line for line in lines) > len(lines) / 2:
            return _cells(lines, separator)
    if all("," in line for line in lines) and not _comma_is_decimal(lines):
        return _cells(lines, ",")
    wide = sum(re.search(r"\S\s{2,}\S", line) is not None for line in lines) > len(lines) / 2
    return [re.split(r"\s{2,}" if wide else r"\s+", line.strip()) for line in lines]


def _comma_is_decimal(lines: list[str]) -> bool:
    """`75  10,5` and `75 10,5 9,5`: commas between digits only, with spaces doing the parting."""
    rows = [line.split() for line in lines[1:] or lines]
    return all(
        len(row) > 1 and all(_number(c) is not None and not c.endswith(",") for c in row)
        for row in rows
    )


def _cells(lines: list[str], separator: str) -> list[list[str]]:
    rows = [[cell.strip() for cell in row] for row in csv.reader(lines, delimiter=separator)]
    if separator == "|":
        rows = [row[1:-1] if row and row[0] == "" == row[-1] else row for row in rows]
    return rows


def _looks_turned(rows: list[float], columns: list[float]) -> bool:
    """Wet bulbs do not reach 85 °F where outdoor air stays under 80 [°C here]."""
    return max(rows) < HOTTEST_WET_BULB_C < max(columns)


def _turned(table: list[list[str]]) -> list[list[str]]:
    """A chart that heads its corner with its columns' axis is written the other way round."""
    wide = max(len(row) for row in table)
    full = [row + [""] * (wide - len(row)) for row in table]
    return [list(column) for column in zip(*full, strict=True)]


class _Reader:
    """Reads one table of cells, gathering problems as it goes."""

    def __init__(self, kind: ChartKind, units: UnitSystem) -> None:
        self._kind, self._units = kind, units
        self._problems: list[ChartProblem] = []

    def read(self, table: list[list[str]]) -> Chart:
        if table[0] and self._heads_its_columns(table[0][0]):
            table = _turned(table)
        header, body, first = self._header(table)
        rows = [
            self._axis_value(line[0], first + i, 1, self._kind.row) for i, line in enumerate(body)
        ]
        cells = [self._line(line, first + i, len(header)) for i, line in enumerate(body)]
        if len(body) < 2:
            self._note(first, 1, "One row is no chart. Give at least two.")
        rows_up = self._rising(rows, self._kind.row, lambda i: (first + i, 1))
        columns, columns_up, names = [], [], tuple[str, ...]()
        if (across := self._kind.column) is None:
            names = tuple(self._names(header))
        else:
            columns = [self._axis_value(cell, 1, j + 2, across) for j, cell in enumerate(header)]
            columns_up = self._rising(columns, across, lambda j: (1, j + 2))
        if not self._problems and not any(c is not None for line in cells for c in line):
            self._note(0, 0, "Every cell of that chart is blank.")
        is_wet = across is not None and across.quantity is Quantity.TEMPERATURE
        if not self._problems and across and is_wet and _looks_turned(rows_up, columns_up):
            self._note(
                0,
                0,
                f"The rows look like {across.label} and the columns like "
                f"{self._kind.row.label}. Turn the chart, or head its corner “{across.label}”.",
            )
        if self._problems:
            raise UnreadableChart(self._problems)
        if rows_up != rows:
            cells = cells[::-1]
        if columns_up != columns:
            cells = [line[::-1] for line in cells]
        return Chart(
            self._kind, tuple(rows_up), names or tuple(columns_up), tuple(map(tuple, cells))
        )

    def _header(self, table: list[list[str]]) -> tuple[list[str], list[list[str]], int]:
        """Column headings, the rows under them, and the first row's number as typed."""
        plain = self._kind.column is None and len(table[0]) == 2
        if plain and all(_number(cell) is not None for cell in table[0]):
            return [ONLY_COLUMN], table, 1
        one_short = all(len(line) == len(table[0]) + 1 for line in table[1:])
        if len(table) > 1 and one_short and not self._is_corner(table[0][0]):
            return table[0], table[1:], 2  # the corner was left out
        return table[0][1:], table[1:], 2

    def _heads_its_columns(self, corner: str) -> bool:
        """Whether the corner names the axis that should run across: `wet bulb`, `WB`."""
        if self._kind.column is None or self._kind.column.quantity is not Quantity.TEMPERATURE:
            return False
        words = re.findall(r"[a-z]+", corner.casefold())
        return "wb" in words or "wet" in words

    def _is_corner(self, cell: str) -> bool:
        """Whether a first heading names the rows, rather than heading a column."""
        words = {*self._kind.row.label.split(), *CORNER_WORDS}
        return not cell or cell.casefold().split()[0].strip("°") in words

    def _names(self, header: list[str]) -> list[str]:
        seen: set[str] = set()
        for j, name in enumerate(header):
            if not name:
                self._note(1, j + 2, f"This column has no {self._kind.column_name}. Name it.")
            elif name.casefold() in seen:
                self._note(1, j + 2, f"“{name[:30]}” heads two columns. Keep one.")
            seen.add(name.casefold())
        return [name[:60] for name in header]

    def _line(self, line: list[str], row: int, columns: int) -> list[float | None]:
        found = line[1:]
        while len(found) > columns and found[-1].strip().casefold() in BLANKS:
            found = found[:-1]
        if len(found) > columns:
            self._note(row, columns + 2, f"{len(found)} cells under {columns} headings.")
        found = (found + [""] * columns)[:columns]
        return [
            None
            if cell.casefold() in BLANKS
            else self._axis_value(cell, row, j + 2, self._kind.cell)
            for j, cell in enumerate(found)
        ]

    def _axis_value(self, cell: str, row: int, column: int, axis: Axis) -> float:
        number = _number(cell)
        if number is None and axis.quantity is Quantity.TUBE_SIZE:
            inches = _fraction(cell)
            number = None if inches is None else inches * (MM_PER_IN if self._units == "si" else 1)
        if number is None:
            shown = f"“{cell[:20]}” is not a number" if cell else "a number is missing"
            self._note(row, column, f"{shown}; this is {axis.label}.")
            return float("nan")
        value = to_si(number, axis.quantity, self._units)
        low, high = (to_si(limit, axis.quantity, "ip") for limit in (axis.low, axis.high))
        if not low - 1e-9 <= value <= high + 1e-9:
            unit = unit_label(axis.quantity, self._units)
            ends = [f"{from_si(end, axis.quantity, self._units):.3g}" for end in (low, high)]
            self._note(
                row,
                column,
                f"{axis.label} {number:g} {unit} is outside {ends[0]} to {ends[1]} {unit}. "
                "Check the number and the units you read in.",
            )
        return value

    def _rising(
        self, values: list[float], axis: Axis, where: Callable[[int], tuple[int, int]]
    ) -> list[float]:
        """The axis in rising order; falling is turned round, anything else is a problem."""
        if not all(isfinite(v) for v in values):
            return values
        steps = [b - a for a, b in pairwise(values)]
        falling = len(steps) > 0 and all(step < 0 for step in steps)
        if falling:
            return values[::-1]
        for i, step in enumerate(steps):
            shown = f"{from_si(values[i + 1], axis.quantity, self._units):g}"
            if abs(step) < 1e-9:
                self._note(*where(i + 1), f"{axis.label} {shown} stands twice. Keep one.")
            elif step < 0:
                self._note(*where(i + 1), f"{axis.label} {shown} is out of order. Sort the chart.")
        return values

    def _note(self, row: int, column: int, message: str) -> None:
        self._problems.append(ChartProblem(row, column, message[:1].upper() + message[1:]))


def _fraction(cell: str) -> float | None:
    """A tube's name in inches: `5/8`, `1 1/8`, `1-1/8"`."""
    found = _INCHES.fullmatch(cell.strip())
    if found is None:
        return None
    return float(found["whole"] or 0) + int(found["over"]) / int(found["under"])


def _number(cell: str) -> float | None:
    plain = _UNIT.sub("", cell.strip())
    if not _NUMBER.fullmatch(plain):
        return None
    return float(plain.replace(",", ".").replace("−", "-"))
