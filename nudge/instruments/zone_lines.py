"""A plant's log as it is written: lines of values by part and point, sent while it runs."""

from array import array
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from nudge.core.language.errors import CoreError
from nudge.core.language.units import UnitSystem, to_si
from nudge.core.multizone.headings import code_of
from nudge.core.physics.zones.log import GAP, ZoneLog
from nudge.core.physics.zones.points import OUTDOOR, Address, zone_point
from nudge.instruments.zone_files import in_order

BETWEEN = "/"
"""Between part and point: rooms have dots in their numbers."""
KEPT_REASONS = 8


@dataclass(frozen=True, slots=True)
class ZoneLine:
    """One moment [s since 1970] and its values by “part/point”; words where a point has codes."""

    at_s: float
    values: Mapping[str, float | str]


@dataclass(frozen=True, slots=True)
class ZoneLines:
    """Lines as a log, and what of them was refused, in words."""

    log: ZoneLog
    refused: int
    reasons: tuple[str, ...]


def log_of_lines(lines: Sequence[ZoneLine], units: UnitSystem) -> ZoneLines:
    """A log of lines; temperatures and pressures are in `units`.

    A value that no working sensor shows, or whose part or point nobody knows, is refused by itself.
    """
    at = {name: i for i, name in enumerate(dict.fromkeys(n for row in lines for n in row.values))}
    known: dict[str, Address] = {}
    reasons: dict[str, str] = {}
    for name in at:
        try:
            known[name] = _address(name)
        except CoreError as unknown:
            reasons[name] = unknown.text(units)
    columns = {name: array("d", [GAP]) * len(lines) for name in known}
    refused = 0
    for i, row in enumerate(lines):
        for name, value in row.values.items():
            if name not in known:
                refused += 1
                continue
            try:
                columns[name][i] = _value(known[name][1], value, units)
            except CoreError as wrong:
                refused += 1
                reasons.setdefault(name, wrong.text(units))
    by_address = {known[name]: column for name, column in columns.items()}
    log, _ = in_order(ZoneLog(array("d", (row.at_s for row in lines)), by_address))
    return ZoneLines(log, refused, tuple(reasons.values())[:KEPT_REASONS])


def _address(name: str) -> Address:
    part, _, point = name.rpartition(BETWEEN)
    row = zone_point(point)
    if not part or (row.of == "outdoor") != (part == OUTDOOR):
        whose = f"{OUTDOOR}{BETWEEN}{point}" if row.of == "outdoor" else f"the room’s, 2.1/{point}"
        raise CoreError("values", f"“{name[:40]}” is nobody’s: write {whose}.")
    return part, point


def _value(point: str, value: float | str, units: UnitSystem) -> float:
    row = zone_point(point)
    if isinstance(value, str):
        code = code_of(point, value) if row.codes else None
        if code is None:
            raise CoreError(point, f"“{value[:20]}” is no {row.label.lower()} that is known.")
        return float(code)
    found = value if row.quantity is None else to_si(value, row.quantity, units)
    if not row.low <= found <= row.high:
        raise CoreError(point, f"{value:g} is no {row.label.lower()} of a working sensor.")
    return found
