"""A multi-zone plant over the wire: its plan, its log thinned for the slider, what it comes to."""

from bisect import bisect_left
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from math import isnan
from statistics import fmean

from nudge.contract.opened import OpenedOut, opened
from nudge.core.language.said import Measure
from nudge.core.language.units import Quantity, UnitSystem, from_si, unit_label
from nudge.core.multizone.lines import PlantLines
from nudge.core.multizone.patterns import NONE
from nudge.core.multizone.reading import State, ZoneReading
from nudge.core.multizone.signs import PLANT_SIGNS, ROOM_SIGNS, ZoneSign
from nudge.core.multizone.subcoolers import subcooler_steps
from nudge.core.multizone.weigh import ZoneTable, zone_table
from nudge.core.physics.circuit.weigh_in import WeighIn
from nudge.core.physics.zones.log import ZoneLog
from nudge.core.physics.zones.points import MODES, OUTDOOR
from nudge.presenters.drawing.storeys import StoreyPlan, storey_plan
from nudge.presenters.zone_beliefs import ZoneBeliefOut, beliefs_out
from nudge.services.zone_reading import ZonesEarlier
from nudge.services.zones import ZonesOfVisit

FRAMES = 480
"""The slider's moments: a day by three minutes."""
_MODE_WORDS = {code: word.replace("_", " ") for word, code in MODES.items()}


@dataclass(frozen=True, slots=True, kw_only=True)
class ZoneSignOut:
    """A number off the log, opened: how it is worked out, and what is usual where nothing is
    wrong.
    """

    key: str
    label: str
    text: str
    formula: str
    usual: str
    is_off: bool
    """Out of what is usual, by twice its spread."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ZoneRoomOut:
    """A room over the log's moments; None is a gap. `valve` in shares of its way."""

    key: str
    name: str
    wants: list[float | None]
    has: list[float | None]
    valve: list[float | None]
    calls: list[bool]
    worst: float
    """How far it was off lately while it called, in the unit shown."""
    signs: list[ZoneSignOut]
    lines: list[OpenedOut]
    """What its pipes cost."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ZoneChargeOut:
    """What is weighed in once the plant is empty and tight, size by size, or what it lacks."""

    total: OpenedOut | None
    pipes: list[OpenedOut]
    lacks: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class ZoneMovedOut:
    """A number off the log, then and now."""

    label: str
    then: str
    now: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ZoneAgainstOut:
    """The plant beside its own log from when nothing stood out: what moved, or why it is not
    compared.
    """

    visit_id: str
    at: datetime
    apart: str
    moved: list[ZoneMovedOut]


@dataclass(frozen=True, slots=True, kw_only=True)
class ZoneFramesOut:
    """The log's moments [ms since 1970] with what the outdoor unit did."""

    at_ms: list[float]
    hz: list[float | None]
    boils: list[float | None]
    condenses: list[float | None]
    mode: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class ZonesOut:
    """A multi-zone visit's log, read."""

    state: State
    kept_minutes: int
    unit: str
    combination: str
    carried: list[str]
    """The parts that carry what leads."""
    beliefs: list[ZoneBeliefOut]
    something_else: float
    """What is left of certainty [%]."""
    signs: list[ZoneSignOut]
    lines: list[OpenedOut]
    """What each subcooler adds."""
    rooms: list[ZoneRoomOut]
    frames: ZoneFramesOut
    charge: ZoneChargeOut
    plan: StoreyPlan
    remarks: list[str]
    against: ZoneAgainstOut | None
    """Beside the plant's own earlier log."""


def zones_out(of: ZonesOfVisit, units: UnitSystem) -> ZonesOut:
    """Everything a screen shows of a plant's log."""
    reading, parts = of.reading, of.parts
    moments = _moments(of.log)
    table = zone_table()
    combination, lines = parts.combination, PlantLines(of.log, parts)
    shown = reading.shown
    return ZonesOut(
        state=reading.decision.state,
        kept_minutes=int(of.log.kept_s // 60),
        unit=unit_label(Quantity.TEMPERATURE, units),
        combination="" if combination is None else f"{combination:.0%}",
        carried=list(reading.decision.parts) if reading.decision.state == "named" else [],
        beliefs=beliefs_out(shown, parts),
        something_else=round(100 * (1 - sum(one.belief for one in shown)), 1)
        if reading.beliefs
        else 0.0,
        signs=_signs(reading.signs.plant, PLANT_SIGNS, _usual(reading, table, "plant"), units),
        lines=[opened(one, units) for one in subcooler_steps(of.log).values()],
        rooms=_by_worst(
            reading,
            [
                _room(room.key, of, moments, table, units, lines)
                for room in parts.rooms
                if room.key in reading.signs.rooms
            ],
        ),
        frames=_frames(of.log, moments, units),
        charge=_charge(of.sheet, units),
        plan=storey_plan(parts),
        remarks=list(of.remarks),
        against=None if of.earlier is None else _against(of.earlier, units),
    )


def _charge(sheet: WeighIn, units: UnitSystem) -> ZoneChargeOut:
    return ZoneChargeOut(
        total=None if sheet.total is None else opened(sheet.total, units),
        pipes=[opened(one, units) for one in sheet.pipes],
        lacks=list(sheet.missing),
    )


def _against(earlier: ZonesEarlier, units: UnitSystem) -> ZoneAgainstOut:
    found = earlier.found
    return ZoneAgainstOut(
        visit_id=earlier.visit_id,
        at=earlier.at,
        apart="" if found.apart is None else found.apart.text(units),
        moved=[
            ZoneMovedOut(
                label=row.label,
                then=_text(one.then, row, units),
                now=_text(one.now, row, units),
            )
            for one in found.moved
            for row in (one.row,)
        ],
    )


def _by_worst(reading: ZoneReading, rooms: Sequence[ZoneRoomOut]) -> list[ZoneRoomOut]:
    """What carries the trouble first, then the room that is off furthest: a phone begins there."""
    carried = {part for _, part in reading.named}
    return sorted(rooms, key=lambda room: (room.key not in carried, -room.worst))


def _usual(reading: ZoneReading, table: ZoneTable, whose: str) -> Mapping[str, tuple[float, float]]:
    return table.rows[reading.signs.way][whose][NONE][0]


def _usual_in(of: ZonesOfVisit, key: str, table: ZoneTable) -> Mapping[str, tuple[float, float]]:
    """What is usual in a room, by the plain names of its signs."""
    usual, signs = _usual(of.reading, table, "beside"), of.reading.signs
    names = {sign: signs.weighed_as(key, sign) for sign in ROOM_SIGNS}
    return {sign: usual[name] for sign, name in names.items() if name in usual}


def _signs(
    found: Mapping[str, float],
    rows: Mapping[str, ZoneSign],
    usual: Mapping[str, tuple[float, float]],
    units: UnitSystem,
) -> list[ZoneSignOut]:
    signs = []
    for key, row in rows.items():
        if key not in found:
            continue
        value, about = found[key], usual.get(key)
        signs.append(
            ZoneSignOut(
                key=key,
                label=row.label,
                text=_text(value, row, units),
                formula=row.formula,
                usual=""
                if about is None
                else f"{_text(about[0], row, units)} ± {_text(2 * about[1], row, units, True)}",
                is_off=about is not None and abs(value - about[0]) > 2 * about[1],
            )
        )
    return signs


def _text(value: float, row: ZoneSign, units: UnitSystem, is_spread: bool = False) -> str:
    if row.quantity is not None:
        quantity = Quantity.TEMPERATURE_DIFFERENCE if is_spread else row.quantity
        return Measure(value, quantity).text(units)
    return row.plain(value)


def _moments(log: ZoneLog) -> list[int]:
    """Samples at even moments of its length."""
    first, last = log.times_s[0], log.times_s[-1]
    count = min(FRAMES, len(log.times_s))
    step = (last - first) / max(count - 1, 1)
    found = (bisect_left(log.times_s, first + step * i) for i in range(count))
    return list(dict.fromkeys(min(i, len(log.times_s) - 1) for i in found))


def _thinned(column: Sequence[float] | None, moments: Sequence[int]) -> list[float | None]:
    if column is None:
        return [None] * len(moments)
    return [None if isnan(column[i]) else round(column[i], 1) for i in moments]


def _degrees(
    column: Sequence[float] | None, moments: Sequence[int], units: UnitSystem
) -> list[float | None]:
    return [
        None if value is None else round(from_si(value, Quantity.TEMPERATURE, units), 1)
        for value in _thinned(column, moments)
    ]


def _room(
    key: str,
    of: ZonesOfVisit,
    moments: Sequence[int],
    table: ZoneTable,
    units: UnitSystem,
    lines: PlantLines,
) -> ZoneRoomOut:
    log, unit = of.log, of.parts.room(key)
    steps = _thinned(log.column(key, "valve_steps"), moments)
    calls = _thinned(log.column(key, "calls"), moments)
    wants = _degrees(log.column(key, "set_point"), moments, units)
    has = _degrees(log.column(key, "room_temp"), moments, units)
    lately = [
        abs(now - wanted)
        for now, wanted, call in list(zip(has, wants, calls, strict=True))[-len(moments) // 4 :]
        if now is not None and wanted is not None and call
    ]
    return ZoneRoomOut(
        key=key,
        name=unit.name,
        wants=wants,
        has=has,
        valve=[None if v is None else round(v / unit.wide_steps, 2) for v in steps],
        calls=[value is not None and value > 0 for value in calls],
        worst=round(fmean(lately), 1) if lately else 0.0,
        signs=_signs(of.reading.signs.rooms[key], ROOM_SIGNS, _usual_in(of, key, table), units),
        lines=[opened(one, units) for one in lines.of_room(key).values()],
    )


def _frames(log: ZoneLog, moments: Sequence[int], units: UnitSystem) -> ZoneFramesOut:
    modes = _thinned(log.column(OUTDOOR, "mode"), moments)
    return ZoneFramesOut(
        at_ms=[log.times_s[i] * 1000 for i in moments],
        hz=_thinned(log.column(OUTDOOR, "compressor_hz"), moments),
        boils=_degrees(log.column(OUTDOOR, "evaporating_temp"), moments, units),
        condenses=_degrees(log.column(OUTDOOR, "condensing_temp"), moments, units),
        mode=["" if m is None else _MODE_WORDS.get(int(m), "") for m in modes],
    )
