"""The whole Pocket: every slip filled from one set of entries, whatever is wrong with some."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from nudge.core.calculators import (
    air_slips,
    heat_slip,
    refrigerant_slips,
    superheat_slip,
    work_slips,
)
from nudge.core.calculators.blanks import BLANKS
from nudge.core.calculators.slip import Entered, Slip, SlipBlank, SlipOutcome
from nudge.core.language.errors import CoreError, OutOfRange, UnknownName
from nudge.core.language.units import UnitSystem, to_si

SLIPS: tuple[Slip, ...] = (
    *refrigerant_slips.SLIPS,
    *superheat_slip.SLIPS,
    *air_slips.SLIPS,
    *work_slips.SLIPS,
    heat_slip.HOUSE,
)
_BY_KEY = {slip.key: slip for slip in SLIPS}


@dataclass(frozen=True, slots=True)
class Filled:
    """One slip worked out. `problem` is why it has no answer, where something refuses."""

    slip: Slip
    outcome: SlipOutcome
    problem: CoreError | None = None


@dataclass(frozen=True, slots=True)
class Pocketful:
    """Every slip, and every blank that was refused, by its key."""

    filled: tuple[Filled, ...]
    problems: Mapping[str, CoreError]
    entered: Entered


def fill_pocket(
    entries: Mapping[str, float | str],
    units: UnitSystem,
    only: Sequence[str] | None = None,
    written_in: Mapping[str, UnitSystem] | None = None,
) -> Pocketful:
    """Fill every slip (or `only` some) from entries in `units`; picks are keys.

    `written_in` names the entries typed in other units.

    A refused entry leaves its blank empty and is named in `problems`: the others still work.
    Raises: UnknownName, for a blank or slip that does not exist.
    """
    entered, problems = _enter(entries, units, written_in or {})
    slips = SLIPS if only is None else tuple(slip_named(key) for key in only)
    return Pocketful(tuple(_fill(slip, entered) for slip in slips), problems, entered)


def slip_named(key: str) -> Slip:
    """Raises: UnknownName, with the nearest."""
    if key not in _BY_KEY:
        raise UnknownName("slip", key, _BY_KEY)
    return _BY_KEY[key]


def _fill(slip: Slip, entered: Entered) -> Filled:
    try:
        return Filled(slip, slip.fill(entered))
    except CoreError as error:
        return Filled(slip, SlipOutcome(), error)


def _enter(
    entries: Mapping[str, float | str], units: UnitSystem, written_in: Mapping[str, UnitSystem]
) -> tuple[Entered, dict[str, CoreError]]:
    numbers: dict[str, float] = {}
    picks: dict[str, str] = {}
    problems: dict[str, CoreError] = {}
    for key, value in entries.items():
        if key not in BLANKS:
            raise UnknownName("blank", key, BLANKS)
        try:
            _take(BLANKS[key], value, written_in.get(key, units), numbers, picks)
        except CoreError as error:
            problems[key] = error
    for blank in BLANKS.values():
        if blank.usual and blank.choices:
            picks.setdefault(blank.key, blank.usual)
        elif blank.usual and blank.quantity and blank.key not in problems:
            numbers.setdefault(blank.key, to_si(float(blank.usual), blank.quantity, "ip"))
    return Entered(numbers, picks), problems


def _take(
    blank: SlipBlank,
    value: float | str,
    units: UnitSystem,
    numbers: dict[str, float],
    picks: dict[str, str],
) -> None:
    if blank.quantity is None:
        keys = [key for key, _ in blank.choices]
        picked = value if isinstance(value, str) else f"{value:g}"
        if picked not in keys:
            raise UnknownName(blank.label.lower(), picked, keys)
        picks[blank.key] = picked
        return
    if isinstance(value, str):
        raise CoreError(blank.key, f"“{value[:20]}” is not a number.")
    given = to_si(value, blank.quantity, units)
    low, high = (to_si(limit, blank.quantity, "ip") for limit in (blank.low, blank.high))
    slack = 1e-9 * max(abs(low), abs(high), 1.0)
    if not low - slack <= given <= high + slack:
        raise OutOfRange(blank.label, given, low, high, blank.quantity)
    numbers[blank.key] = given
