"""Readings out of files: CSV or one JSON object a line, columns mapped to points.

Guesses what it can from the heading and the first rows, says what it could not tell, and
reads on in pieces: a file never has to fit in memory.
"""

import csv
import json
import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta, timezone
from io import TextIOWrapper
from pathlib import Path
from typing import Any, Literal, TextIO

from nudge.core.language.callout.spoken_units import SpokenUnit, unit_said
from nudge.core.language.errors import CoreError
from nudge.core.language.units import Quantity
from nudge.core.language.vocabulary.points import POINTS, believable_range
from nudge.instruments.guessing import NUMBER, Column, guess_column, unit_in, units_in_cells
from nudge.instruments.source import ChannelInfo, Sample

Shape = Literal["csv", "ndjson"]
TimeForm = Literal["iso", "epoch_s", "epoch_ms", "month_first", "day_first"]
PIECE = 20_000
LOOK_BYTES = 65_536
LOOK_ROWS = 200
MOST_COLUMNS = 512
KEPT_REASONS = 8
YEARS = (2000, 2100)
_BOM = "\ufeff"


@dataclass(frozen=True, slots=True)
class FileMapping:
    """How a file is to be read. `zone_minutes`: the zone of times that name none, east of UTC."""

    shape: Shape
    time: str
    time_form: TimeForm
    zone_minutes: int
    columns: tuple[Column, ...]
    delimiter: str = ","


@dataclass(frozen=True, slots=True)
class FileLook:
    """The beginning of a file, a mapping guessed from it, and what has to be asked."""

    heading: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    mapping: FileMapping
    questions: tuple[str, ...]


@dataclass(slots=True)
class Piece:
    """A run of samples, how far the file has been read, and what was refused so far."""

    samples: list[Sample] = field(default_factory=list)
    bytes_read: int = 0
    refused: int = 0
    reasons: list[str] = field(default_factory=list)


def look_at(path: Path, zone_minutes: int = 0) -> FileLook:
    """Look at the beginning of a file. Raises: CoreError, when it is no table of readings."""
    with path.open("rb") as file:
        start = file.read(LOOK_BYTES)
    if b"\x00" in start:
        raise CoreError("file", "That is not a text file. Export the log as CSV or JSON lines.")
    text = start.decode("utf-8", "replace").lstrip(_BOM)
    lines = text.splitlines()
    if len(start) == LOOK_BYTES and lines:
        lines = lines[:-1]
    lines = [line for line in lines[: LOOK_ROWS + 1] if line.strip()]
    if len(lines) < 2:
        raise CoreError("file", "There are no readings in it: it has fewer than two lines.")
    if lines[0].lstrip().startswith("{"):
        return _look_ndjson(lines, zone_minutes)
    return _look_csv(lines, zone_minutes)


def read_pieces(path: Path, mapping: FileMapping) -> Iterator[Piece]:
    """Read a whole file in pieces of about `PIECE` samples; each piece is a new one.

    Rows that cannot be read are counted and the first reasons kept; a last line that was cut
    off while being written is one of them. Raises: CoreError, for a mapping that fits nothing.
    """
    plan = _plan(mapping)
    piece = Piece()
    with path.open("r", encoding="utf-8", errors="replace", newline="") as file:
        for number, row in enumerate(_rows(file, mapping), start=2):
            try:
                _add_row(piece, row, plan)
            except _Unreadable as why:
                _refuse(piece, f"Line {number}: {why}")
            if len(piece.samples) >= PIECE:
                piece.bytes_read = _place_in(file)
                yield piece
                piece = Piece(refused=piece.refused, reasons=piece.reasons)
        piece.bytes_read = path.stat().st_size
        yield piece


@dataclass(frozen=True, slots=True)
class LogFile:
    """A log with its mapping, as a `Source`: one channel a mapped column."""

    path: Path
    mapping: FileMapping

    @property
    def channels(self) -> Sequence[ChannelInfo]:
        return [
            ChannelInfo(column.name, column.name, column.point)
            for column in self.mapping.columns
            if column.point
        ]

    def samples(self) -> Iterator[Sample]:
        """Every sample of the file. Raises: CoreError, for a mapping that fits nothing."""
        for piece in self.pieces():
            yield from piece.samples

    def pieces(self) -> Iterator[Piece]:
        """The same in pieces, with how far it has come: see `read_pieces`."""
        return read_pieces(self.path, self.mapping)


def _place_in(file: TextIO) -> int:
    """How far the file under a text file has been read."""
    return int(file.buffer.raw.tell()) if isinstance(file, TextIOWrapper) else 0


class _Unreadable(Exception):
    pass


@dataclass(frozen=True, slots=True)
class _Cell:
    name: str
    point: str
    quantity: Quantity
    unit: SpokenUnit
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class _Plan:
    time: str
    form: TimeForm
    zone: timezone
    cells: tuple[_Cell, ...]


def _plan(mapping: FileMapping) -> _Plan:
    cells = []
    for column in mapping.columns:
        if not column.point:
            continue
        point = POINTS.get(column.point)
        if point is None:
            raise CoreError("columns", f"Column {column.name} is mapped to no known point.")
        low, high = believable_range(point)
        cells.append(
            _Cell(column.name, column.point, point.quantity,
                  unit_said(column.unit, point.quantity), low, high)
        )  # fmt: skip
    if not cells:
        raise CoreError("columns", "No column is mapped to a point. Choose at least one.")
    taken = [cell.point for cell in cells]
    for point_key in taken:
        if taken.count(point_key) > 1:
            label = POINTS[point_key].label
            raise CoreError("columns", f"Two columns are mapped to {label}. Leave one out.")
    zone = timezone(timedelta(minutes=mapping.zone_minutes))
    return _Plan(mapping.time, mapping.time_form, zone, tuple(cells))


def _rows(file: TextIO, mapping: FileMapping) -> Iterator[dict[str, Any]]:
    if mapping.shape == "csv":
        table = csv.reader(file, delimiter=mapping.delimiter)
        heading = [name.strip() for name in _unmarked(next(table, []))]
        for row in table:
            if row:
                yield dict(zip(heading, row, strict=False))
        return
    for line in file:
        if not line.strip():
            continue
        try:
            found = json.loads(line)
        except ValueError:
            found = None
        yield _flat(found) if isinstance(found, dict) else {}


def _unmarked(heading: list[str]) -> list[str]:
    return [heading[0].lstrip(_BOM), *heading[1:]] if heading else heading


def _flat(row: dict[str, Any]) -> dict[str, Any]:
    """One level of nesting is read as `outer.inner`."""
    flat: dict[str, Any] = {}
    for key, value in row.items():
        if isinstance(value, dict):
            flat |= {f"{key}.{inner}": v for inner, v in value.items()}
        else:
            flat[key] = value
    return flat


def _add_row(piece: Piece, row: dict[str, Any], plan: _Plan) -> None:
    stamp = row.get(plan.time)
    if stamp in (None, ""):
        raise _Unreadable("no time in it, or cut off.")
    at_ms = _moment(stamp, plan.form, plan.zone)
    for cell in plan.cells:
        given = row.get(cell.name)
        if given in (None, "", "-", "--", "NaN", "nan", "null"):
            continue  # a gap
        value = _value(given, cell)
        if not cell.low <= value <= cell.high:
            _refuse(piece, f"{cell.name} {str(given)[:20]} {cell.unit.label} is outside what "
                           "a working instrument shows. Is the unit right?")  # fmt: skip
            continue
        piece.samples.append(Sample(cell.name, at_ms, value))


def _value(given: Any, cell: _Cell) -> float:
    """A cell in core units. A unit written in the cell itself wins over the column's."""
    try:
        return float(given) * cell.unit.scale + cell.unit.offset
    except (TypeError, ValueError):
        pass
    found = NUMBER.match(str(given))
    if found is None:
        raise _Unreadable(f"{cell.name} “{str(given)[:30]}” is not a number.")
    number = found[1].replace("−", "-")
    if "," in number:
        number = number.replace(",", "." if "." not in number and number.count(",") == 1 else "")
    try:
        unit = unit_said(found[2], cell.quantity) if found[2] else cell.unit
        return unit.to_si(float(number))
    except (CoreError, ValueError):
        raise _Unreadable(
            f"{cell.name} “{str(given)[:30]}” is not a number in a known unit."
        ) from None


def _moment(stamp: Any, form: TimeForm, zone: timezone) -> int:
    try:
        if form == "epoch_ms":
            return int(float(stamp))
        if form == "epoch_s":
            return round(float(stamp) * 1000)
        text = str(stamp).strip()
        if form == "iso":
            moment = datetime.fromisoformat(text)
        else:
            moment = _slashed(text, month_first=form == "month_first")
    except (ValueError, OverflowError):
        raise _Unreadable(f"time “{str(stamp)[:30]}” cannot be read.") from None
    if moment.tzinfo is None:
        moment = moment.replace(tzinfo=zone)
    if not YEARS[0] <= moment.year <= YEARS[1]:
        raise _Unreadable(f"time “{str(stamp)[:30]}” is in the year {moment.year}.")
    return round(moment.timestamp() * 1000)


_SLASHED = re.compile(
    r"(\d{1,2})[/.](\d{1,2})[/.](\d{4})[ T]+(\d{1,2}):(\d{2})(?::(\d{2})(?:\.(\d+))?)?"
    r"\s*([AaPp][Mm])?$"
)


def _slashed(text: str, month_first: bool) -> datetime:
    found = _SLASHED.match(text)
    if found is None:
        raise ValueError(text)
    one, two, year, hour, minute = (int(found[i]) for i in range(1, 6))
    month, day = (one, two) if month_first else (two, one)
    if found[8]:
        hour = hour % 12 + (12 if found[8].lower() == "pm" else 0)
    micro = int((found[7] or "0").ljust(6, "0")[:6])
    return datetime(year, month, day, hour, minute, int(found[6] or 0), micro)


def _refuse(piece: Piece, reason: str) -> None:
    piece.refused += 1
    if len(piece.reasons) < KEPT_REASONS and reason not in piece.reasons:
        piece.reasons.append(reason)


def _look_csv(lines: Sequence[str], zone_minutes: int) -> FileLook:
    try:
        dialect = csv.Sniffer().sniff("\n".join(lines[:20]), delimiters=",;\t|")
        delimiter = dialect.delimiter
    except csv.Error:
        delimiter = ","
    table = [[cell.strip() for cell in row] for row in csv.reader(lines, delimiter=delimiter)]
    heading = table[0]
    if len(heading) < 2:
        raise CoreError("file", "It has one column only. A log needs a time and a reading a line.")
    if len(set(heading)) != len(heading):
        raise CoreError("file", "Two of its columns have the same heading. Rename one.")
    if len(heading) > MOST_COLUMNS:
        raise CoreError("file", f"It has {len(heading)} columns; {MOST_COLUMNS} is the most.")
    return _look("csv", heading, [row for row in table[1:] if row], zone_minutes, delimiter)


def _look_ndjson(lines: Sequence[str], zone_minutes: int) -> FileLook:
    rows: list[dict[str, Any]] = []
    heading: dict[str, None] = {}
    for line in lines:
        try:
            found = json.loads(line)
        except ValueError:
            continue
        if isinstance(found, dict):
            flat = _flat(found)
            rows.append(flat)
            heading |= dict.fromkeys(flat)
    if not rows:
        raise CoreError("file", "No line of it is a JSON object. Export one object a line.")
    names = list(heading)[:MOST_COLUMNS]
    table = [[_shown(row.get(name)) for name in names] for row in rows]
    return _look("ndjson", names, table, zone_minutes, ",")


def _shown(value: Any) -> str:
    return "" if value is None else str(value)


def _look(
    shape: Shape, heading: Sequence[str], rows: Sequence[Sequence[str]], zone_minutes: int,
    delimiter: str,
) -> FileLook:  # fmt: skip
    columns = {
        name: [row[i] for row in rows if i < len(row) and row[i] not in ("", "-", "--")]
        for i, name in enumerate(heading)
    }
    questions: list[str] = []
    time = _time_column(columns)
    form, is_sure, has_zone = _time_form(columns[time])
    if not is_sure:
        questions.append(f"Is {time} day first or month first? Every date in it reads both ways.")
    if not has_zone:
        questions.append(f"{time} names no time zone. Is it the zone of this device?")
    mapped: list[Column] = []
    used: set[str] = set()
    for name in heading:
        column = Column(name) if name == time else guess_column(name, columns[name], used)
        if column.point:
            used.add(column.point)
            if not unit_in(name) and not units_in_cells(columns[name]):
                questions.append(f"Is {name} in {column.unit}? Guessed from its size.")
        mapped.append(column)
    mapping = FileMapping(shape, time, form, zone_minutes, tuple(mapped), delimiter)
    shown = tuple(tuple(row[: len(heading)]) for row in rows[:5])
    return FileLook(tuple(heading), shown, mapping, tuple(questions))


def _time_column(columns: dict[str, list[str]]) -> str:
    names = [n for n in columns if re.search(r"time|date|stamp|clock|\bat\b|^t$|^ts$", n.lower())]
    for name in [*names, *columns]:
        values = columns[name][:20]
        if values and _most(values, _reads_as_time):
            return name
    raise CoreError("time", "No column of it reads as a time. Add one, ISO 8601 for choice.")


def _most(values: Sequence[str], holds: Callable[[str], bool]) -> bool:
    """Nearly all: a log may have holes and a last line that was cut off."""
    return sum(map(holds, values)) > 0.6 * len(values)


def _reads_as_time(value: str) -> bool:
    return any(_parses(value, form) for form in ("iso", "month_first", "day_first")) or bool(
        re.fullmatch(r"1\d{9}(\.\d+)?|1\d{12}", value)
    )


def _parses(value: str, form: TimeForm) -> bool:
    if form == "iso" and re.fullmatch(r"[\d.]+", value):
        return False
    try:
        _moment(value, form, UTC)
    except _Unreadable:
        return False
    return True


def _time_form(values: Sequence[str]) -> tuple[TimeForm, bool, bool]:
    """The form of the times; whether that is sure; whether they name their zone."""
    if _most(values, lambda v: re.fullmatch(r"1\d{12}", v) is not None):
        return "epoch_ms", True, True
    if _most(values, lambda v: re.fullmatch(r"1\d{9}(\.\d+)?", v) is not None):
        return "epoch_s", True, True
    iso = [v for v in values if _parses(v, "iso")]
    if len(iso) > 0.6 * len(values):
        zoned = all(datetime.fromisoformat(v).tzinfo is not None for v in iso)
        return "iso", True, zoned
    slashed = [v for v in values if _SLASHED.match(v)]
    month = bool(slashed) and all(_parses(v, "month_first") for v in slashed)
    day = bool(slashed) and all(_parses(v, "day_first") for v in slashed)
    return ("month_first" if month else "day_first"), month != day, False
