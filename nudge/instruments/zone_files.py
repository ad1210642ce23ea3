"""A multi-zone plant's log out of a file: looked at, mapped, read whole into columns.

Values become core units, gaps NaN. Times must go on: a clock that was put back is put on again and
said; a moment that comes twice is kept once; two files of one plant are laid over each other.
"""

from array import array
from collections import Counter
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import timedelta, timezone
from math import isnan
from pathlib import Path

from nudge.core.language.callout.spoken_units import unit_said
from nudge.core.language.errors import CoreError
from nudge.core.language.units import Quantity
from nudge.core.multizone.headings import ZoneColumn, ZoneHeadings, code_of, guess_headings
from nudge.core.physics.zones.log import GAP, ZoneLog
from nudge.core.physics.zones.points import Address, zone_point
from nudge.instruments.file_look import guess_times
from nudge.instruments.files import MOST_COLUMNS, TimeForm, UnreadableValue, moment_of
from nudge.instruments.text_table import LOOK_BYTES, TableForm, open_table, rows_of, table_start

LEAST_ROOMS, MOST_ROWS = 1, 400_000
PUT_BACK_S = 600.0
"""A clock that goes back at least so far was put back; less is a line out of order."""
KEPT_WORDS = 6
MOST_WORDS = 12
"""So many unknown words of a point are asked about."""
_EMPTY = frozenset({"", "-", "--", "nan", "null", "n/a"})


@dataclass(frozen=True, slots=True)
class ZoneMapping:
    """How a multi-zone log is to be read. `codes`: what a person said a word means, by point."""

    time: str
    time_form: TimeForm
    zone_minutes: int
    columns: tuple[ZoneColumn, ...]
    written: TableForm = field(default_factory=TableForm)
    starts_ms: int = 0
    codes: Mapping[str, Mapping[str, float]] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class ZoneLook:
    """The beginning of a log, what its columns are taken for, and what has to be asked."""

    heading: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    titles: tuple[str, ...]
    mapping: ZoneMapping
    questions: tuple[str, ...]
    unknown: Mapping[str, tuple[str, ...]]
    """Words in columns of codes that nobody said the meaning of yet, by point."""


@dataclass(frozen=True, slots=True)
class ZoneRead:
    """A log read whole, and what was found wrong in it on the way."""

    log: ZoneLog
    remarks: tuple[str, ...]
    refused: int


def look_at_zones(path: Path, zone_minutes: int = 0) -> ZoneLook:
    """Look at the beginning of a log.

    Raises: CoreError, when it is no table, has doubled headings, or no column of a room.
    """
    with path.open("rb") as file:
        start = file.read(LOOK_BYTES)
    table = table_start(start, len(start) == LOOK_BYTES)
    if len(table.heading) > MOST_COLUMNS:
        raise CoreError("file", f"It has {len(table.heading)} columns; {MOST_COLUMNS} is the most.")
    told = guess_headings(table.heading, table.units)
    times = guess_times(table.heading, table.rows)
    found = ZoneHeadings(
        tuple(ZoneColumn(c.name) if c.name == times.name else c for c in told.columns),
        told.questions,
    )
    if len(found.rooms) < LEAST_ROOMS:
        raise CoreError(
            "file",
            "No column of it is a room's. A room's columns carry its number in their heading.",
        )
    mapping = ZoneMapping(
        times.name,
        times.form,
        zone_minutes,
        _with_units(found.columns, table.heading, table.rows),
        table.written,
    )
    unknown = _unknown_codes(mapping, table.heading, table.rows)
    questions = [
        *times.questions,
        *found.questions,
        *(
            f"{zone_point(point).label} says {', '.join(words[:4])}: what does it mean?"
            for point, words in unknown.items()
        ),
    ]
    return ZoneLook(table.heading, table.rows[:5], table.titles, mapping, tuple(questions), unknown)


def _with_units(
    columns: Sequence[ZoneColumn], heading: Sequence[str], rows: Sequence[Sequence[str]]
) -> tuple[ZoneColumn, ...]:
    """Temperatures that name no unit are °F where the plant's rooms read like it."""
    at = {name: i for i, name in enumerate(heading)}
    rooms = [
        _number(row[at[c.name]])
        for c in columns
        if c.point in ("room_temp", "set_point", "return_air") and not c.unit
        for row in rows[:20]
        if at[c.name] < len(row) and row[at[c.name]].strip().lower() not in _EMPTY
    ]
    warm = sorted(v for v in rooms if v is not None)
    usual = "°F" if warm and warm[len(warm) // 2] > 45 else "°C"
    found = []
    for c in columns:
        quantity = zone_point(c.point).quantity if c.point else None
        unit = c.unit
        if quantity is Quantity.TEMPERATURE:
            unit = unit if unit and _unit_fits(unit, quantity) else usual
        elif quantity is Quantity.PRESSURE:
            unit = unit if unit and _unit_fits(unit, quantity) else "kPa"
        elif quantity is None:
            unit = ""
        found.append(ZoneColumn(c.name, c.part, c.point, unit))
    return tuple(found)


def _unit_fits(unit: str, quantity: Quantity) -> bool:
    try:
        unit_said(unit, quantity)
    except CoreError:
        return False
    return True


def _unknown_codes(
    mapping: ZoneMapping, heading: Sequence[str], rows: Sequence[Sequence[str]]
) -> dict[str, tuple[str, ...]]:
    """The most frequent first."""
    at = {name: i for i, name in enumerate(heading)}
    unknown: dict[str, Counter[str]] = {}
    for column in mapping.columns:
        if not column.point or not zone_point(column.point).codes:
            continue
        for row in rows:
            word = row[at[column.name]].strip() if at[column.name] < len(row) else ""
            if word and code_of(column.point, word) is None:
                unknown.setdefault(column.point, Counter())[word] += 1
    return {
        point: tuple(word for word, _ in words.most_common(MOST_WORDS))
        for point, words in unknown.items()
    }


def read_zone_log(
    path: Path,
    mapping: ZoneMapping,
    told: Callable[[int], bool] = lambda _: True,
) -> ZoneRead:
    """Read a log whole. `told`: called with the rows read so far; False stops it.

    Raises: CoreError, for a mapping that fits nothing, too many rows, or when it was stopped.
    """
    columns = [c for c in mapping.columns if c.point]
    addresses = [(c.part, c.point) for c in columns]
    twice = next((a for a in addresses if addresses.count(a) > 1), None)
    if twice is not None:
        label = zone_point(twice[1]).label
        raise CoreError("columns", f"Two columns are {label} of {twice[0]}. Leave one out.")
    if not columns:
        raise CoreError("columns", "No column is mapped. Choose at least one.")
    zone = timezone(timedelta(minutes=mapping.zone_minutes))
    times: array[float] = array("d")
    values: list[array[float]] = [array("d") for _ in columns]
    refused, remarks = 0, Counter[str]()
    with open_table(path, mapping.written) as file:
        rows = rows_of(file, mapping.written)
        heading = next(rows, [])
        if mapping.time not in heading:
            raise CoreError("time", f"The file has no column “{mapping.time}”.")
        at = heading.index(mapping.time)
        cells = [
            (heading.index(c.name), _reader(c, mapping), kept)
            for c, kept in zip(columns, values, strict=True)
            if c.name in heading
        ]
        for number, row in enumerate(rows):
            if number >= MOST_ROWS:
                raise CoreError("file", f"Over {MOST_ROWS:,} lines. Split it by day.")
            if number % 5000 == 0 and not told(number):
                raise CoreError("file", "Cancelled. None of it was kept.")
            try:
                moment = moment_of(row[at], mapping.time_form, zone) / 1000
            except (UnreadableValue, IndexError):
                refused += 1
                continue
            times.append(moment + mapping.starts_ms / 1000 * (mapping.time_form == "elapsed"))
            for place, read, kept in cells:
                try:
                    kept.append(read(row[place]) if place < len(row) else GAP)
                except ValueError:
                    kept.append(GAP)
                    remarks[heading[place]] += 1
    kept_columns = {a: v for a, v in zip(addresses, values, strict=True) if len(v) == len(times)}
    log, more = in_order(ZoneLog(times, kept_columns))
    words = [
        f"{count} values of {name} were left out: no number, no known code, or no working sensor's."
        for name, count in remarks.most_common(KEPT_WORDS)
    ]
    if refused:
        words.append(f"{refused} lines had no time that could be read.")
    return ZoneRead(log, (*more, *words), refused)


def _reader(column: ZoneColumn, mapping: ZoneMapping) -> Callable[[str], float]:
    """How a cell of a column becomes a number. The reader raises ValueError."""
    row = zone_point(column.point)
    own = {k.lower(): v for k, v in mapping.codes.get(column.point, {}).items()}
    low, high = row.low, row.high
    if row.codes:
        known: dict[str, float] = {}

        def coded(cell: str) -> float:
            if cell not in known:
                word = cell.strip()
                code = own.get(word.lower(), code_of(column.point, word))
                if code is None:
                    if word.lower() in _EMPTY:
                        return GAP
                    raise ValueError(word)
                known[cell] = code
            return known[cell]

        return coded
    scale, offset = 1.0, 0.0
    if row.quantity is not None:
        said = unit_said(column.unit, row.quantity)
        scale, offset = said.scale, said.offset

    def number(cell: str) -> float:
        try:
            value = float(cell) * scale + offset
        except ValueError:
            told = cell.strip().replace("−", "-").replace(",", ".")
            if told.lower() in _EMPTY:
                return GAP
            value = float(told) * scale + offset
        if not low <= value <= high:
            if isnan(value):
                return GAP
            raise ValueError(cell)
        return value

    return number


def _number(cell: str) -> float | None:
    try:
        return float(cell.strip().replace(",", "."))
    except ValueError:
        return None


def in_order(log: ZoneLog) -> tuple[ZoneLog, list[str]]:
    """A log whose times go on, and what was done for that."""
    times, remarks = list(log.times_s), []
    put_on = 0.0
    last = times[0] if times else 0.0
    for i in range(1, len(times)):
        now = times[i] + put_on
        if now < last - PUT_BACK_S:
            back = round((last - now) / 1800) * 1800.0
            if back:
                put_on += back
                now += back
                remarks.append(f"Its clock was put back by {back / 3600:g} h: put on again.")
        times[i] = now
        last = max(last, now)
    return _sorted(times, log.columns), remarks


def laid_over(one: ZoneLog, other: ZoneLog) -> ZoneLog:
    """Two logs of one plant as one: where both tell of a moment, the second's word stands."""
    addresses = list(dict.fromkeys([*one.columns, *other.columns]))
    columns = {}
    for address in addresses:
        first = one.columns.get(address) or array("d", [GAP]) * len(one.times_s)
        second = other.columns.get(address) or array("d", [GAP]) * len(other.times_s)
        columns[address] = [*first, *second]
    return _sorted([*one.times_s, *other.times_s], columns)


def _sorted(times: Sequence[float], columns: Mapping[Address, Sequence[float]]) -> ZoneLog:
    """In time order, each moment once: the later word of two stands."""
    order = list(_last_of_each(sorted(range(len(times)), key=lambda i: (times[i], i)), times))
    if order == list(range(len(times))):
        return ZoneLog(array("d", times), dict(columns))
    return ZoneLog(
        array("d", (times[i] for i in order)),
        {address: array("d", (column[i] for i in order)) for address, column in columns.items()},
    )


def _last_of_each(order: Sequence[int], times: Sequence[float]) -> Iterator[int]:
    for place, i in enumerate(order):
        if place + 1 == len(order) or times[order[place + 1]] != times[i]:
            yield i
