"""What a suspect's tables would show: levels, looks that settle, signs that tell."""

from collections.abc import Mapping
from functools import cache
from typing import NamedTuple

from nudge.core.expectations.expected import Air
from nudge.core.judgement.departures import Departure
from nudge.core.judgement.model import Model
from nudge.core.judgement.signatures import Signature

MOST_SENTENCES = 3
ANY_LEVEL = "at any level"
SETTLES = 0.7
"""An observation this common with one of its faults settles a suspect."""
TELLING = 2.0
"""A missing sign is named where the suspect moves it by this many healthy spreads."""


class Move(NamedTuple):
    """What a suspect does to a sign, over all its faults and severities."""

    rows: tuple[tuple[float, float], ...]
    low: float
    high: float


@cache
def moves_of(model: Model) -> dict[str, dict[str, Move]]:
    """What every suspect does to every sign: pairs aside, its faults at all severities."""
    rows = [row for row in model.signatures if len(row.suspects) == 1]
    healthy = next(row.moves for row in rows if row.suspects == ("none",))
    found: dict[str, dict[str, Move]] = {}
    for suspect in model.suspects:
        own = [row.moves for row in rows if row.suspects == (suspect,)]
        if not own:
            continue
        found[suspect] = {}
        for sign in healthy:
            cells = tuple(moves.get(sign, healthy[sign]) for moves in own)
            found[suspect][sign] = Move(
                cells, min(m - s for m, s in cells), max(m + s for m, s in cells)
            )
    return found


@cache
def variants_of(model: Model) -> dict[str, tuple[str, ...]]:
    found: dict[str, tuple[str, ...]] = {}
    for row in model.signatures:
        if len(row.suspects) == 1 and row.variant not in found.get(row.suspects[0], ()):
            found[row.suspects[0]] = (*found.get(row.suspects[0], ()), row.variant)
    return found


@cache
def levels_of(model: Model, suspect: str, sign: str) -> str:
    """Where a suspect has a sign, in words: `low`, `normal or high`, …"""
    move = moves_of(model)[suspect][sign]
    spread = moves_of(model)["none"][sign].rows[0][1]
    low, high = move.low < -2.2 * spread, move.high > 2.2 * spread
    normal = any(abs(m) < 1.2 * spread for m, _ in move.rows)
    names = [name for name, there in (("low", low), ("normal", normal), ("high", high)) if there]
    return " or ".join(names) if len(names) < 3 else ANY_LEVEL


@cache
def would_show(model: Model, suspect: str, sign: str) -> str:
    if suspect == "none":
        return "; a system with nothing wrong does not."
    level = levels_of(model, suspect, sign) or "normal"
    label = model.suspects[suspect].label.lower()
    return f"; “{label}” would show it {level}."


@cache
def settling_looks(model: Model, suspect: str) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Observations that acquit a suspect, and those that convict it."""
    variants = set(variants_of(model).get(suspect, ())) - {"none"}
    own = [
        look
        for look in dict.fromkeys(model.looks.values())
        if any(look.with_fault.get(v, 0) >= SETTLES for v in variants)
    ]
    return tuple(look.no for look in own if look.no), tuple(look.yes for look in own)


@cache
def _row_of(model: Model, suspect: str, severity: str, fault: str) -> Signature | None:
    """The row of a suspect alone, by its fault and severity as far as there is one; None of a
    reading that is wrong, which may stand anywhere.
    """
    rows = [r for r in model.signatures if r.suspects == (suspect,)]
    best = (
        [r for r in rows if r.variant == fault and r.severity == severity]
        or [r for r in rows if r.severity == severity]
        or rows
    )
    return best[0] if best and suspect != "sensor_suspect" else None


def lands_on(
    model: Model,
    suspect: str,
    measured: Mapping[str, Departure],
    air: Air,
    severity: str,
    fault: str,
) -> tuple[float, float, float, float] | None:
    """Where the suspect at its likeliest severity would put superheat and subcooling in some
    air.
    """
    if "superheat" not in measured or "subcooling" not in measured:
        return None
    row = _row_of(model, suspect, severity, fault)
    if row is None:
        return None
    superheat, subcooling = (
        (measured[sign].expected + row.at(sign, air), row.moves[sign][1])
        for sign in ("superheat", "subcooling")
    )
    return *superheat, *subcooling


def missing_of(
    model: Model, suspect: str, measured: Mapping[str, Departure]
) -> list[tuple[str, str]]:
    """The most telling signs nobody measured, strongest first."""
    found = [
        (text, sign)
        for text, sign in telling(model, suspect)
        if sign not in measured and model.sign_rows[sign].in_place_of not in measured
    ]
    return found[:MOST_SENTENCES]


@cache
def telling(model: Model, suspect: str) -> tuple[tuple[str, str], ...]:
    if suspect not in moves_of(model) or suspect in ("none", "sensor_suspect"):
        return ()
    scored = []
    for sign, move in moves_of(model)[suspect].items():
        row = model.sign_rows[sign]
        if row.in_place_of or row.is_weather:
            continue
        spread = moves_of(model)["none"][sign].rows[0][1]
        strength = max(abs(m) for m, _ in move.rows) / spread
        if strength >= TELLING:
            level = levels_of(model, suspect, sign)
            if level == ANY_LEVEL:
                continue
            scored.append((strength, f"{row.label} is not measured; it would be {level}.", sign))
    scored.sort(key=lambda row: -row[0])
    return tuple((text, sign) for _, text, sign in scored)
