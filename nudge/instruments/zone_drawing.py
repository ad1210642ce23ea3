"""A plant's drawing as a table or as JSON: rooms a line each, from whoever planned it."""

import json
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from nudge.core.language.errors import CoreError
from nudge.core.language.units import M_PER_FT, W_PER_BTU_H, W_PER_TON
from nudge.instruments.text_table import table_start

MOST_TEXT = 500_000


@dataclass(frozen=True, slots=True)
class _Field:
    """One column of such a table: the words it goes by, and what its units come to."""

    key: str
    words: tuple[str, ...]
    units: Mapping[str, float] | None = None
    """By unit, what one of it is in core units; the first holds where none is written."""
    whole: bool = False


_LENGTHS = {"m": 1.0, "ft": M_PER_FT, "feet": M_PER_FT}
_FIELDS = (
    _Field("storey", ("storey", "floor", "level"), {"": 1.0}, whole=True),
    _Field(
        "capacity_w",
        ("capacity", "size", "kw", "btu/h", "tons"),
        {
            "kw": 1000.0,
            "w": 1.0,
            "btu/h": W_PER_BTU_H,
            "kbtu/h": 1000 * W_PER_BTU_H,
            "tons": W_PER_TON,
        },
    ),
    _Field("length_m", ("pipe", "length", "run"), _LENGTHS),
    _Field("lift_m", ("height", "lift", "rise", "over the plant"), _LENGTHS),
    _Field("ports", ("ports",), {"": 1.0}, whole=True),
    _Field("wide_steps", ("steps", "whole way"), {"": 1.0}),
    _Field("group", ("group",)),
    _Field("name", ("name", "room name", "place")),
    _Field("key", ("number", "no", "address", "unit", "key", "room")),
)
"""The first whose word is in a heading has it."""


def drawing_of(text: str) -> dict[str, Any]:
    """A drawing's rooms, and what else JSON says of the plant, as the wire has it.

    Raises: CoreError, for what is neither, or a cell that is no number.
    """
    if len(text) > MOST_TEXT:
        raise CoreError("file", f"A drawing has {MOST_TEXT:,} letters at the most.")
    if text.lstrip().startswith(("{", "[")):
        try:
            found = json.loads(text)
        except (ValueError, RecursionError) as broken:
            raise CoreError("file", f"It begins like JSON and is none: {broken}.") from broken
        return found if isinstance(found, dict) else {"rooms": found}
    table = table_start(text.encode(), False)
    readers = [
        _reader(head, table.units[i] if i < len(table.units) else "")
        for i, head in enumerate(table.heading)
    ]
    known = {field.key for field, _ in filter(None, readers)}
    if "key" not in known:
        raise CoreError(
            "file", "No column holds the rooms’ numbers. Call it “number”; then name, storey, kW."
        )
    return {"rooms": [_room(row, readers, n) for n, row in enumerate(table.rows, 1) if any(row)]}


_Reader = tuple[_Field, Callable[[str], object]] | None


def _reader(head: str, unit: str) -> _Reader:
    text = head.lower()
    inside = re.search(r"[\[(](.*?)[\])]", text)
    words = re.sub(r"[\[(].*?[\])]", "", text).replace("_", " ").strip()
    found = next((field for field in _FIELDS if any(_has(words, w) for w in field.words)), None)
    if found is None:
        return None
    if found.units is None:
        return found, str.strip
    written = (inside.group(1) if inside else unit or words.rpartition(" ")[2]).strip("[]() ")
    scale = found.units.get(written.lower(), next(iter(found.units.values())))

    def number(cell: str) -> object:
        value = float(cell.strip().replace("−", "-").replace(",", ".")) * scale
        return round(value) if found.whole else value

    return found, number


def _has(words: str, one: str) -> bool:
    return re.search(rf"(?<![a-z]){re.escape(one)}(?![a-z])", words) is not None


def _room(row: Sequence[str], readers: Sequence[_Reader], number: int) -> dict[str, object]:
    room: dict[str, object] = {}
    for cell, reader in zip(row, readers, strict=False):
        if reader is None or not cell.strip():
            continue
        field, read = reader
        try:
            room.setdefault(field.key, read(cell))
        except (ValueError, OverflowError) as wrong:
            said = f"Line {number}: “{cell[:20]}” is no {field.key.replace('_', ' ')}."
            raise CoreError("file", said) from wrong
    room.setdefault("name", f"Room {room.get('key', number)}")
    return room
