"""Readings out of files: CSV or one JSON object a line, columns mapped to points.

Guesses what it can from the heading and the first rows, says what it could not tell, and
reads on in pieces: a file never has to fit in memory.
"""

import json
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta, timezone
from io import TextIOWrapper
from pathlib import Path
from typing import Any, Literal, TextIO

from nudge.core.language.callout.spoken_units import SpokenUnit, unit_said
from nudge.core.language.errors import CoreError
from nudge.core.language.units import Quantity
from nudge.core.language.vocabulary.points import POINTS, believable_range
from nudge.instruments.guessing import NUMBER, Column
from nudge.instruments.source import ChannelInfo, Sample
from nudge.instruments.text_table import TableForm, open_table, rows_of

Shape = Literal["csv", "ndjson"]
TimeForm = Literal["iso", "epoch_s", "epoch_ms", "month_first", "day_first", "elapsed"]
PIECE = 20_000
MOST_COLUMNS = 512
KEPT_REASONS = 8
YEARS = (2000, 2100)


@dataclass(frozen=True, slots=True)
class FileMapping:
    """How a file is to be read. `zone_minutes`: the zone of times that name none, east of UTC;
    `starts_ms`: the moment that elapsed times are counted from.
    """

    shape: Shape
    time: str
    time_form: TimeForm
    zone_minutes: int
    columns: tuple[Column, ...]
    delimiter: str = ","
    encoding: str = "utf-8"
    skip: int = 0
    has_unit_row: bool = False
    starts_ms: int = 0

    @property
    def written(self) -> TableForm:
        return TableForm(self.encoding, self.skip, self.has_unit_row, self.delimiter)


@dataclass(frozen=True, slots=True)
class FileLook:
    """The beginning of a file, a mapping guessed from it, and what has to be asked."""

    heading: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    mapping: FileMapping
    questions: tuple[str, ...]
    titles: tuple[str, ...] = ()
    """What stood over the heading."""


@dataclass(slots=True)
class Piece:
    """A run of samples, how far the file has been read, and what was refused so far."""

    samples: list[Sample] = field(default_factory=list)
    bytes_read: int = 0
    refused: int = 0
    reasons: list[str] = field(default_factory=list)


def read_pieces(path: Path, mapping: FileMapping) -> Iterator[Piece]:
    """Read a whole file in pieces of about `PIECE` samples; each piece is a new one.

    Rows that cannot be read are counted and the first reasons kept; a last line that was cut
    off while being written is one of them. Raises: CoreError, for a mapping that fits nothing.
    """
    plan = _plan(mapping)
    piece = Piece()
    first = 2 + mapping.skip + mapping.has_unit_row
    with open_table(path, mapping.written) as file:
        for number, row in enumerate(_rows(file, mapping), start=first):
            try:
                _add_row(piece, row, plan)
            except UnreadableValue as why:
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


class UnreadableValue(Exception):
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
    starts_ms: int
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
            _Cell(
                column.name,
                column.point,
                point.quantity,
                unit_said(column.unit, point.quantity),
                low,
                high,
            )
        )
    if not cells:
        raise CoreError("columns", "No column is mapped to a point. Choose at least one.")
    taken = [cell.point for cell in cells]
    for point_key in taken:
        if taken.count(point_key) > 1:
            label = POINTS[point_key].label
            raise CoreError("columns", f"Two columns are mapped to {label}. Leave one out.")
    zone = timezone(timedelta(minutes=mapping.zone_minutes))
    return _Plan(mapping.time, mapping.time_form, zone, mapping.starts_ms, tuple(cells))


def _rows(file: TextIO, mapping: FileMapping) -> Iterator[dict[str, Any]]:
    if mapping.shape == "csv":
        table = rows_of(file, mapping.written)
        heading = next(table, [])
        for row in table:
            yield dict(zip(heading, row, strict=False))
        return
    for line in file:
        if not line.strip():
            continue
        try:
            found = json.loads(line)
        except ValueError:
            found = None
        yield flattened(found) if isinstance(found, dict) else {}


def flattened(row: dict[str, Any]) -> dict[str, Any]:
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
        raise UnreadableValue("no time in it, or cut off.")
    at_ms = moment_of(stamp, plan.form, plan.zone)
    if plan.form == "elapsed":
        at_ms += plan.starts_ms
    for cell in plan.cells:
        given = row.get(cell.name)
        if given in (None, "", "-", "--", "NaN", "nan", "null"):
            continue  # a gap
        value = _value(given, cell)
        if not cell.low <= value <= cell.high:
            _refuse(
                piece,
                f"{cell.name} {str(given)[:20]} {cell.unit.label} is outside what "
                "a working instrument shows. Is the unit right?",
            )
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
        raise UnreadableValue(f"{cell.name} “{str(given)[:30]}” is not a number.")
    number = found[1].replace("−", "-")
    if "," in number:
        number = number.replace(",", "." if "." not in number and number.count(",") == 1 else "")
    try:
        unit = unit_said(found[2], cell.quantity) if found[2] else cell.unit
        return unit.to_si(float(number))
    except (CoreError, ValueError):
        raise UnreadableValue(
            f"{cell.name} “{str(given)[:30]}” is not a number in a known unit."
        ) from None


def moment_of(stamp: Any, form: TimeForm, zone: timezone) -> int:
    try:
        if form == "epoch_ms":
            return int(float(stamp))
        if form == "epoch_s":
            return round(float(stamp) * 1000)
        text = str(stamp).strip()
        if form == "elapsed":
            return _elapsed_ms(text)
        if form == "iso":
            moment = datetime.fromisoformat(text)
        else:
            moment = _slashed(text, month_first=form == "month_first")
    except (ValueError, OverflowError):
        raise UnreadableValue(f"time “{str(stamp)[:30]}” cannot be read.") from None
    if moment.tzinfo is None:
        moment = moment.replace(tzinfo=zone)
    if not YEARS[0] <= moment.year <= YEARS[1]:
        raise UnreadableValue(f"time “{str(stamp)[:30]}” is in the year {moment.year}.")
    return round(moment.timestamp() * 1000)


CLOCKED = re.compile(r"(\d{1,4}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?$")


def _elapsed_ms(text: str) -> int:
    """Seconds, or hours, minutes and seconds, since a beginning."""
    found = CLOCKED.match(text)
    if found is None:
        return round(float(text.replace(",", ".")) * 1000)
    seconds = float((found[3] or "0").replace(",", "."))
    return round(1000 * (int(found[1]) * 3600 + int(found[2]) * 60 + seconds))


SLASHED = re.compile(
    r"(\d{1,2})[/.](\d{1,2})[/.](\d{4})[ T]+(\d{1,2}):(\d{2})(?::(\d{2})(?:\.(\d+))?)?"
    r"\s*([AaPp][Mm])?$"
)


def _slashed(text: str, month_first: bool) -> datetime:
    found = SLASHED.match(text)
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
