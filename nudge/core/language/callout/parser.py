"""The call-out line: readings as two people shout them across a roof.

    suct 118 liq 341 sl 52 ll 96 oa 88
    118 suct, 341 liq           (number first works too, if the line starts with a number)
    suction line 12c  liq 2.4bar  fix ll 97

Names are the vocabulary's keys, labels and short forms. A number without a unit is in the
reader's own system. Nothing is guessed: a word Nudge does not know is explained.
"""

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from nudge.core.language.callout.spoken_units import SpokenUnit, unit_for, units_of
from nudge.core.language.errors import CoreError, nearest_names
from nudge.core.language.units import UnitSystem
from nudge.core.language.vocabulary.points import POINTS, Point, check_believable

LONGEST = 2_000
_TOKEN = re.compile(
    r"(?P<number>[+-]?(?:\d{1,3}(?:,\d{3})+(?!\d)|\d+)(?:\.\d+)?|[+-]?\.\d+)"
    r"|(?P<word>[^\s,;=:\d+-][^\s,;=:\d]*|[+-](?![\d.]))"
)
_ALIASES = {
    "suction": "suction_pressure",
    "liquid": "liquid_pressure",
    "head": "liquid_pressure",
    "discharge": "discharge_pressure",
    "vapour_line": "suction_line_temp",
    "vapor_line": "suction_line_temp",
    "outdoor": "outdoor_air_temp",
    "ambient": "outdoor_air_temp",
    "outside": "outdoor_air_temp",
    "return": "return_air_temp",
    "supply": "supply_air_temp",
    "wet_bulb": "return_air_wet_bulb",
    "humidity": "return_air_rh",
    "amps": "compressor_amps",
    "static": "total_external_static",
}


def _names() -> Mapping[str, Point]:
    names = {alias: POINTS[key] for alias, key in _ALIASES.items()}
    for row in POINTS.values():
        for name in (row.key, row.label.lower().replace(" ", "_"), *row.short):
            names[name] = row
    return names


NAMES = _names()
_LONGEST_NAME = max(name.count("_") for name in NAMES) + 1


@dataclass(frozen=True, slots=True)
class Spoken:
    """One reading heard: the point, the value in core units, and the number and unit as said."""

    point: Point
    value_si: float
    given_value: float
    unit: SpokenUnit
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Misheard:
    """A stretch of the text that is not a reading, why, and the nearest known names."""

    start: int
    end: int
    message: str
    nearest: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class HeardLine:
    """What was heard. `corrects`: the line began with `fix`."""

    spoken: tuple[Spoken, ...]
    misheard: tuple[Misheard, ...]
    corrects: bool


@dataclass(frozen=True, slots=True)
class _Token:
    text: str
    start: int
    end: int
    is_number: bool


def parse_callout(text: str, units: UnitSystem) -> HeardLine:
    """Hear a call-out. Every word is either a reading or explained; nothing raises but length.

    Raises: CoreError, for a text over 2,000 characters.
    """
    if len(text) > LONGEST:
        raise CoreError(
            "call-out",
            f"A call-out of {len(text):,} characters is too long; {LONGEST:,} is the most. "
            "Send it in parts.",
        )
    tokens = list(_tokens(text))
    corrects = bool(tokens) and tokens[0].text == "fix"
    if corrects:
        tokens = tokens[1:]
    spoken: list[Spoken] = []
    misheard: list[Misheard] = []
    number_first = bool(tokens) and tokens[0].is_number
    for group in _groups(tokens, number_first):
        heard = _hear(group, units)
        if isinstance(heard, Misheard):
            misheard.append(heard)
        elif any(s.point is heard.point for s in spoken):
            message = f"{heard.point.label} is said twice. Keep one."
            misheard.append(Misheard(heard.start, heard.end, message))
        else:
            spoken.append(heard)
    return HeardLine(tuple(spoken), tuple(misheard), corrects)


def _tokens(text: str) -> Iterator[_Token]:
    for match in _TOKEN.finditer(text):
        is_number = match.lastgroup == "number"
        yield _Token(match.group().lower(), match.start(), match.end(), is_number)


@dataclass(frozen=True, slots=True)
class _Group:
    """A name, a number and a unit that belong together; any of them may be missing."""

    names: tuple[_Token, ...]
    number: _Token | None
    unit: _Token | None

    @property
    def span(self) -> tuple[int, int]:
        tokens = [*self.names, *(t for t in (self.number, self.unit) if t)]
        return min(t.start for t in tokens), max(t.end for t in tokens)


def _groups(tokens: list[_Token], number_first: bool) -> Iterator[_Group]:
    at = 0
    while at < len(tokens):
        if number_first and tokens[at].is_number:
            number: _Token | None = tokens[at]
            unit, at = _unit_at(tokens, at + 1, tokens[at], name_follows=True)
            names, at = _names_at(tokens, at)
        else:
            names, at = _names_at(tokens, at)
            number = tokens[at] if at < len(tokens) and tokens[at].is_number else None
            at += number is not None
            unit, at = _unit_at(tokens, at, number) if number else (None, at)
        yield _Group(names, number, unit)


def _unit_at(
    tokens: list[_Token], at: int, number: _Token, name_follows: bool = False
) -> tuple[_Token | None, int]:
    """The unit after a number: stuck to it, or the next word when that is a unit and no name.

    A word that is both (`cfm`) is a name where one follows each number, or a number follows it.
    """
    if at >= len(tokens) or tokens[at].is_number:
        return None, at
    word = tokens[at]
    stuck = word.start == number.end
    begins_another = at + 1 < len(tokens) and tokens[at + 1].is_number
    is_name = word.text in NAMES and (name_follows or begins_another)
    if stuck or (not is_name and _is_unit(word.text)):
        return word, at + 1
    return None, at


def _is_unit(word: str) -> bool:
    return any(unit_for(word, row.quantity, "ip") for row in POINTS.values())


def _names_at(tokens: list[_Token], at: int) -> tuple[tuple[_Token, ...], int]:
    """The longest run of words that is a name; else one word, to be explained."""
    run: list[_Token] = []
    while at + len(run) < len(tokens) and not tokens[at + len(run)].is_number:
        run.append(tokens[at + len(run)])
        if len(run) == _LONGEST_NAME:
            break
    for length in range(len(run), 0, -1):
        if "_".join(t.text for t in run[:length]) in NAMES:
            return tuple(run[:length]), at + length
    return tuple(run[:1]), at + min(len(run), 1)


def _hear(group: _Group, units: UnitSystem) -> Spoken | Misheard:
    start, end = group.span
    name = "_".join(t.text for t in group.names)
    if not group.names:
        assert group.number is not None
        return Misheard(
            start, end, f"{group.number.text} has no name before it. Say what it is: suct, liq, sl…"
        )
    row = NAMES.get(name)
    if row is None:
        nearest = tuple(nearest_names(name, NAMES))
        hint = f" Did you mean {' or '.join(nearest)}?" if nearest else " Press ? for the words."
        return Misheard(start, end, f"“{name[:40]}” is not a word Nudge knows.{hint}", nearest)
    if group.number is None:
        return Misheard(start, end, f"{row.label} has no number after it.")
    names_its_unit = unit_for(name, row.quantity, units) is not None
    said = group.unit.text if group.unit else name if names_its_unit else ""
    unit = unit_for(said, row.quantity, units)
    if unit is None:
        options = ", ".join(units_of(row.quantity))
        return Misheard(start, end, f"{row.label} is not read in “{said[:20]}”. Use {options}.")
    given = float(group.number.text.replace(",", ""))
    value = unit.to_si(given)
    try:
        check_believable(row, value)
    except CoreError as refused:
        return Misheard(start, end, refused.text(units))
    return Spoken(row, value, given, unit, start, end)
