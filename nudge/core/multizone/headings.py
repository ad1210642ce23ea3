"""What the columns of a multi-zone log are: grouped by the number in their heading, each a point.

A guess, confirmed by a person once and kept for the next log of that plant. Words are the trade's
in several spellings; a gas pipe is a coil's outlet where it cools, its liquid pipe the inlet.
"""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.language.errors import CoreError
from nudge.core.physics.zones.points import MODES, OUTDOOR, ZONE_POINTS, Of

_NUMBER = re.compile(r"(?<![\d.])(\d{1,3}(?:[.\-]\d{1,3})?)(?![\d.])")
_CAMEL = re.compile(r"(?<=[a-z])(?=[A-Z])|(?<=[A-Za-z])(?=\d)|(?<=\d)(?=[A-Za-z])")
_UNIT = re.compile(r"[(\[]\s*([^)\]]*)\s*[)\]]\s*$")

_ROOM_WORDS: tuple[tuple[str, str], ...] = (
    (r"\bset\b|set ?(point|temp|p\b)|\bsp\b|target|wanted|soll", "set_point"),
    (r"return|suction air|inlet air|air in\b|intake|\bra\b", "return_air"),
    (
        r"(valve|eev|exp|exv|lev).*(step|pulse|pls|open|pos)|\b(eev|exv|lev|eevp|pls|valve)\b",
        "valve_steps",
    ),
    (r"(gas|vapou?r|outlet|coil out|out(let)? pipe|suction).*|\btg\b", "coil_outlet"),
    (r"liquid|coil in|inlet|in(let)? pipe|\btl\b", "coil_inlet"),
    (r"thermo|call|demand|request|\bon\b|on ?off|running|state", "calls"),
    (r"mode|heat ?cool", "room_mode"),
    (r"room|zone|space|air|thermostat|remote|\bis\b|actual", "room_temp"),
)
_OUTDOOR_WORDS: tuple[tuple[str, str], ...] = (
    (r"(evap|low|te|ts).*(target|set|goal)|target.*(evap|low|te\b)", "evaporating_target"),
    (r"(cond|high|tc).*(target|set|goal)|target.*(cond|high|tc\b)", "condensing_target"),
    (r"(low|suction|lp|ps).*(press|\bp\b)|\b(lp|ps)\b|low side", "low_pressure"),
    (r"(high|discharge|hp|pd).*(press|\bp\b)|\b(hp|pd)\b|high side", "high_pressure"),
    (r"evap|\bte\b|low.*sat|sat.*(low|suction)", "evaporating_temp"),
    (r"cond.*(temp|sat)|condens|\btc\b|high.*sat|sat.*(high|disch)", "condensing_temp"),
    (r"accu.*(top|upper|high)|(top|upper).*(band|accu)", "accumulator_top_temp"),
    (r"accu.*(mid)|(mid\w*).*(band|accu)", "accumulator_middle_temp"),
    (r"accu.*(bottom|lower|low)|(bottom|lower).*(band|accu)", "accumulator_bottom_temp"),
    (r"accu|suction (pipe|line|temp)|return gas", "accumulator_inlet_temp"),
    (r"shell|oil sump|sump|crankcase", "shell_temp"),
    (r"discharge|hot gas (temp|line)|\btd\b", "discharge_temp"),
    (r"bypass", "bypass_temp"),
    (r"sub ?cool.*(return|back|vapou?r|gas|suction)", "subcooler_return_temp"),
    (r"between.*(liquid|sub ?cool)|(liquid|sub ?cool).*between", "liquid_between_temp"),
    (r"liquid|sub ?cool", "liquid_temp"),
    (r"(comp|inv|inverter).*(hz|freq|speed)|freq|\bhz\b", "compressor_hz"),
    (r"\bfan\b", "fan"),
    (r"mode|operation", "mode"),
    (r"outdoor|outside|ambient|\boat\b|\bta\b|air", "outdoor_air"),
)
_OF_PLANT = re.compile(
    r"\b(ou|odu|outdoor unit|plant|outdoor|compressor|comp|inv|accu\w*|evap\w*|cond\w*|bypass|"
    r"shell|discharge|suction|system|lp|hp|te|tc|td)\b"
)
_OF_ROOM = re.compile(r"\b(iu|idu|indoor|room|zone|fcu|unit|fan ?coil|valve|eev|lev|exv)\b")

_MODE_WORDS: Mapping[str, int] = MappingProxyType(
    {
        **MODES,
        "c": 1,
        "cool": 1,
        "clg": 1,
        "h": 2,
        "heat": 2,
        "htg": 2,
        "stop": 0,
        "-": 0,
        "idle": 0,
        "o": 3,
        "oil": 3,
        "oil return": 3,
        "oilret": 3,
        "d": 4,
        "def": 4,
        "dfr": 4,
    }
)
_CALL_WORDS: Mapping[str, int] = MappingProxyType(
    {
        "on": 1,
        "off": 0,
        "yes": 1,
        "no": 0,
        "true": 1,
        "false": 0,
        "1": 1,
        "0": 0,
        "x": 1,
        "": 0,
        "run": 1,
        "stop": 0,
    }
)


@dataclass(frozen=True, slots=True)
class ZoneColumn:
    """One column: its heading, the part and point it is (empty: left out), its unit."""

    name: str
    part: str = ""
    point: str = ""
    unit: str = ""


@dataclass(frozen=True, slots=True)
class ZoneHeadings:
    """Every column of a heading, and what has to be asked."""

    columns: tuple[ZoneColumn, ...]
    questions: tuple[str, ...]

    @property
    def rooms(self) -> tuple[str, ...]:
        """The indoor units, in the order they come."""
        found = dict.fromkeys(c.part for c in self.columns if c.part and c.part != OUTDOOR)
        return tuple(found)


def guess_headings(names: Sequence[str], units: Sequence[str] = ()) -> ZoneHeadings:
    """The columns of a heading; `units`: a second row of it.

    Raises: CoreError, where two columns have the same heading.
    """
    told = [name for name in names if name.strip()]
    twice = sorted({name for name in told if told.count(name) > 1})
    if twice:
        raise CoreError("columns", f"Two columns are headed “{twice[0]}”. Rename one.")
    found, taken, questions = [], set(), []
    for i, name in enumerate(names):
        given = units[i] if i < len(units) else ""
        column = _guess(name, given)
        if column.point and (column.part, column.point) in taken:
            questions.append(f"“{name}” looks like a column that was there before: left out.")
            column = ZoneColumn(name)
        taken.add((column.part, column.point))
        found.append(column)
    nameless = sum(not name.strip() for name in names)
    if nameless:
        questions.append(
            f"{nameless} columns have no heading: left out until you say what they are."
        )
    return ZoneHeadings(tuple(found), tuple(questions))


def _guess(name: str, given: str) -> ZoneColumn:
    unit = _UNIT.search(name)
    words = name[: unit.start()] if unit else name
    spaced = _CAMEL.sub(" ", words)
    said = re.sub(r"[_/:|#°]+|(?<!\d)\.|\.(?!\d)|(?<!\d)-|-(?!\d)", " ", spaced).lower()
    number = _NUMBER.search(_NUMBER_FREE.sub(" ", said))
    bare = _NUMBER.sub(" ", said).strip()
    of: Of = "outdoor"
    if number is not None and (_OF_ROOM.search(bare) or not _OF_PLANT.search(bare)):
        of = "room"
    for pattern, key in _ROOM_WORDS if of == "room" else _OUTDOOR_WORDS:
        if re.search(pattern, bare):
            part = OUTDOOR if of == "outdoor" else _part(number[1] if number else "")
            return ZoneColumn(name, part, key, (given or (unit[1] if unit else "")).strip())
    return ZoneColumn(name)


_NUMBER_FREE = re.compile(r"\b(ou|odu|outdoor unit|plant|compressor|comp|inv)\s*\d+\b")


def _part(number: str) -> str:
    """A room's key: its number without leading zeros."""
    return ".".join(str(int(part)) for part in re.split(r"[.\-]", number))


def code_of(point: str, word: str) -> float | None:
    """A word or code as a number; None where nobody knows it."""
    text = word.strip().lower()
    if point == "calls":
        known = _CALL_WORDS.get(text)
    else:
        known = _MODE_WORDS.get(text)
        if known is None and text.isdigit() and int(text) in MODES.values():
            known = int(text)
    return None if known is None else float(known)


INSTEAD: Mapping[str, str] = MappingProxyType(
    {
        "low_pressure": "evaporating_temp",
        "evaporating_temp": "low_pressure",
        "high_pressure": "condensing_temp",
        "condensing_temp": "high_pressure",
    }
)
"""Of these two one is enough: the other is worked out."""


def left_out(columns: Sequence[ZoneColumn]) -> list[str]:
    """Points that nothing in a log is: of the plant, and of every room."""
    have = {(c.part, c.point) for c in columns}
    rooms = {c.part for c in columns if c.part and c.part != OUTDOOR}
    missing = []
    for row in ZONE_POINTS.values():
        if row.is_seldom:
            continue
        lacks = [room for room in sorted(rooms) if (room, row.key) not in have]
        if row.of == "room" and lacks:
            missing.append(f"{row.label} of {', '.join(lacks)}")
        elif row.of == "outdoor" and not have & {
            (OUTDOOR, row.key),
            (OUTDOOR, INSTEAD.get(row.key, "")),
        }:
            missing.append(row.label)
    return missing
