"""A multi-zone log packed into bytes and back, its signs and its parts as JSON, each versioned."""

import json
import zlib
from array import array
from collections.abc import Mapping
from dataclasses import asdict
from functools import lru_cache
from typing import Any

from nudge.core.language.errors import CoreError
from nudge.core.multizone.signs import ZoneSigns
from nudge.core.physics.circuit.tubes import LiquidPipe
from nudge.core.physics.zones.log import ZoneLog
from nudge.core.physics.zones.parts import IndoorUnit, Parts, parts_of
from nudge.core.physics.zones.points import Address

VERSION = 1
LEVEL = 6
MOST_BYTES = 400_000_000
"""Of a log unpacked: a week of 104 columns every five seconds is an eighth of it."""
KEPT_OPEN = 4
"""So many logs stay unpacked, with what was worked out of them: one is looked at many times."""
GONE = ("liquid_mm",)
"""What a room had once."""
ELSEWHERE = ("factory_charge_kg",)
"""What stood in a drawing once and is the system's."""


def packed(log: ZoneLog) -> bytes:
    """Times as doubles, columns as floats: 0.1 K and a step need no more."""
    head = {"version": VERSION, "rows": len(log.times_s), "columns": [list(a) for a in log.columns]}
    body = array("d", log.times_s).tobytes()
    body += b"".join(array("f", column).tobytes() for column in log.columns.values())
    return zlib.compress(json.dumps(head).encode() + b"\n" + body, LEVEL)


@lru_cache(maxsize=KEPT_OPEN)
def unpacked(data: bytes) -> ZoneLog:
    """The log back. Raises: CoreError, for another version than this Nudge’s, or what is no log."""
    opening = zlib.decompressobj()
    try:
        text, _, body = opening.decompress(data, MOST_BYTES).partition(b"\n")
        head = json.loads(text)
    except (zlib.error, ValueError) as broken:
        raise CoreError("log", "This is no packed log.") from broken
    if opening.unconsumed_tail:
        raise CoreError("log", f"A packed log holds {MOST_BYTES:,} bytes at the most.")
    if head["version"] != VERSION:
        raise CoreError("log", f"This log was packed by another version: {head['version']}.")
    rows = head["rows"]
    times: array[float] = array("d")
    times.frombytes(body[: 8 * rows])
    columns: dict[Address, array[float]] = {}
    for i, (part, point) in enumerate(head["columns"]):
        start = 8 * rows + 4 * rows * i
        column: array[float] = array("f")
        column.frombytes(body[start : start + 4 * rows])
        columns[part, point] = column
    return ZoneLog(times, columns)


def signs_data(signs: ZoneSigns, kept_s: float) -> dict[str, Any]:
    return {"version": VERSION, "kept_s": kept_s, **asdict(signs), "warm": sorted(signs.warm)}


def signs_from(data: Mapping[str, Any]) -> tuple[ZoneSigns, float]:
    """Signs and how much of their log counts [s]."""
    warm = frozenset(data.get("warm", ()))
    return ZoneSigns(data["way"], data["plant"], data["rooms"], warm), float(data["kept_s"])


def parts_data(parts: Parts) -> dict[str, Any]:
    return asdict(parts)


def parts_from(data: Mapping[str, Any]) -> Parts:
    """A drawing from its JSON. Raises: CoreError."""
    rooms = [IndoorUnit(**_but(room, *GONE)) for room in data["rooms"]]
    pipes = [LiquidPipe(**pipe) for pipe in data.get("pipes", ())]
    return parts_of(
        data["refrigerant"], rooms, pipes, **_but(data, "refrigerant", "rooms", "pipes", *ELSEWHERE)
    )


def _but(data: Mapping[str, Any], *names: str) -> dict[str, Any]:
    return {key: value for key, value in data.items() if key not in names}
