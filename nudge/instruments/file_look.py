"""A look at the head of a log file: its columns, its times, and what they may be."""

import json
import re
from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import UTC, datetime
from itertools import pairwise
from pathlib import Path
from typing import Any

from nudge.core.language.errors import CoreError
from nudge.instruments.files import (
    MOST_COLUMNS,
    SLASHED,
    FileLook,
    FileMapping,
    Shape,
    TimeForm,
    UnreadableValue,
    flattened,
    moment_of,
)
from nudge.instruments.guessing import Column, guess_column, unit_in, units_in_cells
from nudge.instruments.text_table import (
    BOM,
    LOOK_BYTES,
    LOOK_ROWS,
    TableStart,
    encoding_of,
    table_start,
)


def look_at(path: Path, zone_minutes: int = 0) -> FileLook:
    """Look at the beginning of a file. Raises: CoreError, when it is no table of readings."""
    with path.open("rb") as file:
        start = file.read(LOOK_BYTES)
    is_cut = len(start) == LOOK_BYTES
    text = start.decode(encoding_of(start), "replace").lstrip(BOM)
    if text.lstrip().startswith("{"):
        lines = text.splitlines()[: LOOK_ROWS + 1]
        return _look_ndjson(lines[:-1] if is_cut else lines, zone_minutes)
    return _look_csv(table_start(start, is_cut), zone_minutes)


def _look_csv(table: TableStart, zone_minutes: int) -> FileLook:
    heading = table.heading
    if len(heading) < 2:
        raise CoreError("file", "It has one column only. A log needs a time and a reading a line.")
    if len(set(heading)) != len(heading):
        raise CoreError("file", "Two of its columns have the same heading. Rename one.")
    if len(heading) > MOST_COLUMNS:
        raise CoreError("file", f"It has {len(heading)} columns; {MOST_COLUMNS} is the most.")
    return _look("csv", heading, table.rows, zone_minutes, table)


def _look_ndjson(lines: Sequence[str], zone_minutes: int) -> FileLook:
    rows: list[dict[str, Any]] = []
    heading: dict[str, None] = {}
    for line in lines:
        try:
            found = json.loads(line)
        except ValueError:
            continue
        if isinstance(found, dict):
            flat = flattened(found)
            rows.append(flat)
            heading |= dict.fromkeys(flat)
    if not rows:
        raise CoreError("file", "No line of it is a JSON object. Export one object a line.")
    names = list(heading)[:MOST_COLUMNS]
    table = [[_shown(row.get(name)) for name in names] for row in rows]
    return _look("ndjson", names, table, zone_minutes, None)


def _shown(value: Any) -> str:
    return "" if value is None else str(value)


def _look(
    shape: Shape,
    heading: Sequence[str],
    rows: Sequence[Sequence[str]],
    zone_minutes: int,
    written: TableStart | None,
) -> FileLook:
    columns = _columns(heading, rows)
    times = guess_times(heading, rows)
    time, questions = times.name, list(times.questions)
    units = dict(zip(heading, written.units, strict=False)) if written else {}
    mapped: list[Column] = []
    used: set[str] = set()
    for name in heading:
        told = f"{name} [{units[name]}]" if units.get(name) else name
        column = Column(name)
        if name != time:
            column = replace(guess_column(told, columns[name], used), name=name)
        if column.point:
            used.add(column.point)
            if not unit_in(told) and not units_in_cells(columns[name]):
                questions.append(f"Is {name} in {column.unit}? Guessed from its size.")
        mapped.append(column)
    mapping = FileMapping(shape, time, times.form, zone_minutes, tuple(mapped))
    if written is not None:
        mapping = replace(mapping, **asdict(written.written))
    shown = tuple(tuple(row[: len(heading)]) for row in rows[:5])
    titles = written.titles if written else ()
    return FileLook(tuple(heading), shown, mapping, tuple(questions), titles)


@dataclass(frozen=True, slots=True)
class TimeColumn:
    """Which column is the time, how it is written, and what has to be asked about it."""

    name: str
    form: TimeForm
    questions: tuple[str, ...]


def guess_times(heading: Sequence[str], rows: Sequence[Sequence[str]]) -> TimeColumn:
    """The time of a table. Raises: CoreError, where no column reads as one."""
    columns = _columns(heading, rows)
    name = _time_column(columns)
    form, is_sure, has_zone = _time_form(columns[name])
    questions = []
    if not is_sure:
        questions.append(f"Is {name} day first or month first? Every date in it reads both ways.")
    if form == "elapsed":
        questions.append(f"{name} counts from its start. When did it start?")
    elif not has_zone:
        questions.append(f"{name} names no time zone. Is it the zone of this device?")
    return TimeColumn(name, form, tuple(questions))


def _columns(heading: Sequence[str], rows: Sequence[Sequence[str]]) -> dict[str, list[str]]:
    """What each column holds, without its gaps."""
    return {
        name: [row[i] for row in rows if i < len(row) and row[i] not in ("", "-", "--")]
        for i, name in enumerate(heading)
    }


def _time_column(columns: dict[str, list[str]]) -> str:
    names = [n for n in columns if re.search(r"time|date|stamp|clock|\bat\b|^t$|^ts$", n.lower())]
    for name in [*names, *columns]:
        values = columns[name][:20]
        if values and _most(values, _reads_as_time):
            return name
    for name, values in columns.items():
        if _ELAPSED.search(name.lower()) and _counts_up(values):
            return name
    raise CoreError("time", "No column of it reads as a time. Add one, ISO 8601 for choice.")


_ELAPSED = re.compile(r"elapsed|time|second|\bsec\b|^t$|^s$|dauer|zeit")


def _counts_up(values: Sequence[str]) -> bool:
    """Numbers, or hours and minutes, each after the one before, from about nothing."""
    try:
        found = [moment_of(value, "elapsed", UTC) for value in values[:40]]
    except UnreadableValue:
        return False
    if len(found) < 2 or found[0] > _LATE_MS:
        return False
    return all(one < other for one, other in pairwise(found))


_LATE_MS = 366 * 86_400_000
"""Elapsed times that begin later than this are something else."""


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
        moment_of(value, form, UTC)
    except UnreadableValue:
        return False
    return True


def _time_form(values: Sequence[str]) -> tuple[TimeForm, bool, bool]:
    """The form of the times; whether that is sure; whether they name their zone."""
    if _most(values, lambda v: re.fullmatch(r"1\d{12}", v) is not None):
        return "epoch_ms", True, True
    if _most(values, lambda v: re.fullmatch(r"1\d{9}(\.\d+)?", v) is not None):
        return "epoch_s", True, True
    if not any(map(_reads_as_time, values)) and _counts_up(values):
        return "elapsed", True, True
    iso = [v for v in values if _parses(v, "iso")]
    if len(iso) > 0.6 * len(values):
        zoned = all(datetime.fromisoformat(v).tzinfo is not None for v in iso)
        return "iso", True, zoned
    slashed = [v for v in values if SLASHED.match(v)]
    month = bool(slashed) and all(_parses(v, "month_first") for v in slashed)
    day = bool(slashed) and all(_parses(v, "day_first") for v in slashed)
    return ("month_first" if month else "day_first"), month != day, False
