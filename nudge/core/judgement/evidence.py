"""What speaks for each suspect, against it, and what is missing, in short sentences with numbers.

A sign speaks for a suspect when such a reading is commoner with it than with the others, and
against it when rarer. Sentences against say what the suspect would show instead.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from math import exp, sqrt
from typing import NamedTuple

import numpy as np

from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.expectations.signs import SIGNS
from nudge.core.judgement.beliefs import DOUBTED, Posterior
from nudge.core.judgement.departures import Departure
from nudge.core.judgement.hypotheses import Array
from nudge.core.judgement.model import Model
from nudge.core.judgement.over_time import Episode
from nudge.core.judgement.signatures import Signature
from nudge.core.judgement.suspect_table import Suspect
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity, difference_of

SPEAKS_FOR, SPEAKS_AGAINST = 1.6, 0.45
"""How many times commoner (rarer) than with the other suspects a sign must be to be named."""
MOST_SENTENCES = 3
EXPLAINED = 0.002
"""A suspect believed less than this is named without its evidence; what is asked about on every
call (`ALWAYS`) is explained however little it is believed."""
ALWAYS = frozenset(("none", "undercharge", "overcharge"))
NOTABLE = 1.3
"""A sign is called low or high from this many healthy spreads off."""
ANY_LEVEL = "at any level"
SETTLES = 0.7
"""An observation this common with one of its faults settles a suspect."""
TELLING = 2.0
"""A missing sign is named where the suspect moves it by this many healthy spreads."""


@dataclass(frozen=True, slots=True)
class Belief:
    """One suspect: how likely (all sum to one), how bad, and the evidence both ways.

    Each `…_signs` names, sentence by sentence, the sign, observation or episode spoken of.
    """

    suspect: Suspect
    belief: float
    severity: str
    fault: str
    """Which of its faults it mostly is, as in `FAULT_LABELS`; "" while that is open."""
    speaks_for: tuple[Said, ...]
    for_signs: tuple[str, ...]
    speaks_against: tuple[Said, ...]
    against_signs: tuple[str, ...]
    missing: tuple[str, ...]
    missing_signs: tuple[str, ...]
    acquits: tuple[str, ...]
    """Observations that would speak strongly against it."""
    convicts: tuple[str, ...]
    lands: tuple[float, float, float, float] | None
    """Superheat ± spread and subcooling ± spread [K] it would show here; None if unread."""


class _Move(NamedTuple):
    """What a suspect does to a sign, over all its faults and severities."""

    rows: tuple[tuple[float, float], ...]
    low: float
    high: float


def explain(
    weighing: Posterior,
    measured: Mapping[str, Departure],
    observations: Sequence[str],
    episodes: Sequence[Episode],
    doubts: Sequence[Said] = (),
) -> list[Belief]:
    """Every suspect with its evidence, likeliest first. `doubts` say why readings cannot be."""
    heads = {key: sentence_of(one) for key, one in measured.items()}
    ratios = sign_ratios(weighing, measured)
    notable = {key for key, one in measured.items() if _is_notable(weighing, one)}
    likeliest, found = weighing.likeliest(), []
    for key, belief in weighing.suspects.items():
        suspect = weighing.model.suspects[key]
        if belief < EXPLAINED and key not in ALWAYS:
            found.append(_unexplained(weighing.model, suspect, belief, measured))
            continue
        severity, fault = likeliest.get(key, ("", ""))
        speaks_for: list[tuple[float, Said, str]] = []
        against: list[tuple[float, Said, str]] = []
        for sign, ratio in ratios.get(key, {}).items():
            if ratio >= SPEAKS_FOR and (key == "none" or sign in notable):
                speaks_for.append((ratio, Said(*heads[sign][:2], "."), sign))
            elif ratio <= SPEAKS_AGAINST:
                said = Said(*heads[sign][:2], _would_show(weighing.model, key, sign))
                against.append((1 / max(ratio, 1e-9), said, sign))
        for weight, said, name in _facts(key, weighing.model, observations, episodes):
            (speaks_for if weight > 1 else against).append(
                (weight if weight > 1 else 1 / weight, said, name)
            )
        if key == "sensor_suspect":
            speaks_for += [(DOUBTED, said, "readings") for said in doubts]
        for side in (speaks_for, against):
            side.sort(key=lambda one: -one[0])
        missing = _missing(weighing.model, key, measured)
        found.append(
            Belief(
                suspect,
                belief,
                severity,
                fault,
                tuple(said for _, said, _ in speaks_for[:MOST_SENTENCES]),
                tuple(name for _, _, name in speaks_for[:MOST_SENTENCES]),
                tuple(said for _, said, _ in against[:MOST_SENTENCES]),
                tuple(name for _, _, name in against[:MOST_SENTENCES]),
                tuple(text for text, _ in missing),
                tuple(sign for _, sign in missing),
                *_settling_looks(weighing.model, key),
                _lands(weighing.model, key, measured, severity, fault),
            )
        )
    return found


def _unexplained(
    model: Model, suspect: Suspect, belief: float, measured: Mapping[str, Departure]
) -> Belief:
    """A suspect nobody believes in: named, and where it would stand."""
    return Belief(
        suspect,
        belief,
        "",
        "",
        (),
        (),
        (),
        (),
        (),
        (),
        *_settling_looks(model, suspect.key),
        _lands(model, suspect.key, measured, "", ""),
    )


def sign_ratios(
    weighing: Posterior, measured: Mapping[str, Departure]
) -> dict[str, dict[str, float]]:
    """How many times commoner each departure is with a suspect than with all the others."""
    keys = tuple(measured)
    table = _densities(weighing.model, keys)
    off = np.array([one.off for one in measured.values()])
    blur = np.array([one.blur for one in measured.values()])
    wide = np.sqrt(table.spread**2 + blur**2)
    z = (off - table.middle) / wide
    # A mixture over a suspect's rows, with wide tails: a Student t of five degrees of freedom.
    density = table.share @ (1 / (wide * (1 + z * z / 5) ** 3))
    weighted = table.prior[:, None] * density
    others = np.maximum(weighted.sum(axis=0) - weighted, 1e-12)
    ratios = density * (table.prior.sum() - table.prior)[:, None] / others
    return {
        suspect: dict(zip(keys, row, strict=True))
        for suspect, row in zip(table.suspects, ratios.tolist(), strict=True)
    }


class _Table(NamedTuple):
    """What every suspect does to some signs: its rows, and the share of each in it."""

    suspects: tuple[str, ...]
    prior: Array
    share: Array
    middle: Array
    spread: Array


@cache
def _densities(model: Model, signs: tuple[str, ...]) -> _Table:
    known = _moves(model)
    suspects = tuple(known)
    cells = [
        (place, row)
        for place, suspect in enumerate(suspects)
        for row in range(len(next(iter(known[suspect].values())).rows))
    ]
    share = np.zeros((len(suspects), len(cells)))
    middle, spread = (np.zeros((len(cells), len(signs))) for _ in range(2))
    for number, (place, row) in enumerate(cells):
        own = known[suspects[place]]
        share[place, number] = 1 / len(next(iter(own.values())).rows)
        for column, sign in enumerate(signs):
            middle[number, column], spread[number, column] = own[sign].rows[row]
    prior = np.array([model.suspects[suspect].prior for suspect in suspects], dtype=float)
    return _Table(suspects, prior, share, middle, spread)


def _facts(
    suspect: str, model: Model, observations: Sequence[str], episodes: Sequence[Episode]
) -> list[tuple[float, Said, str]]:
    """What was seen and lived through, as far as it says something about a suspect."""
    rows: list[tuple[float, Said, str]] = []
    variants = _variants(model).get(suspect, ())
    for observation in observations:
        factors = [model.times(observation, (variant,)) for variant in variants]
        strongest = max(factors, key=lambda f: max(f, 1 / f), default=1.0)
        if max(strongest, 1 / strongest) >= SPEAKS_FOR:
            said = say(f"Seen: {OBSERVATIONS[observation].label.lower()}.")
            rows.append((strongest, said, observation))
    for episode in episodes:
        named = [episode.row.factor((suspect,), (v,)) for v in variants]
        strongest = max(named, key=lambda f: max(f, 1 / f), default=1.0)
        if max(strongest, 1 / strongest) >= 1.3:
            rows.append((strongest, episode.said, episode.row.key))
    return rows


def sentence_of(one: Departure) -> Said:
    """`Subcooling 2.0 °F is 8.0 °F under what is expected`."""
    sign, off = one.sign, one.off
    if sign.quantity is Quantity.PERCENT:
        if abs(off) < 4:
            return say(f"{sign.label} is what is expected")
        share = Measure(100 * abs(1 - exp(off / 100)), Quantity.PERCENT)
        return say(f"{sign.label} is {{off}} {_side(off)} what is expected", off=share)
    value = Measure(one.value, sign.quantity)
    unit = difference_of(sign.quantity)
    if abs(off) < (0.5 if unit is not Quantity.RATIO else 0.1):
        return say(f"{sign.label} {{value}} is what is expected", value=value)
    return say(
        f"{sign.label} {{value}} is {{off}} {_side(off)} what is expected",
        value=value,
        off=Measure(abs(off), unit),
    )


def _side(off: float) -> str:
    return "under" if off < 0 else "over"


def _is_notable(weighing: Posterior, one: Departure) -> bool:
    spread = _moves(weighing.model)["none"][one.sign.key].rows[0][1]
    return abs(one.off) >= NOTABLE * sqrt(spread * spread + one.blur * one.blur)


@cache
def _moves(model: Model) -> dict[str, dict[str, _Move]]:
    """What every suspect does to every sign: pairs aside, its faults at all severities."""
    rows = [row for row in model.signatures if len(row.suspects) == 1]
    healthy = next(row.moves for row in rows if row.suspects == ("none",))
    found: dict[str, dict[str, _Move]] = {}
    for suspect in model.suspects:
        own = [row.moves for row in rows if row.suspects == (suspect,)]
        if not own:
            continue
        found[suspect] = {}
        for sign in healthy:
            cells = tuple(moves.get(sign, healthy[sign]) for moves in own)
            found[suspect][sign] = _Move(
                cells, min(m - s for m, s in cells), max(m + s for m, s in cells)
            )
    return found


@cache
def _variants(model: Model) -> dict[str, tuple[str, ...]]:
    found: dict[str, tuple[str, ...]] = {}
    for row in model.signatures:
        if len(row.suspects) == 1 and row.variant not in found.get(row.suspects[0], ()):
            found[row.suspects[0]] = (*found.get(row.suspects[0], ()), row.variant)
    return found


@cache
def _levels(model: Model, suspect: str, sign: str) -> str:
    """Where a suspect has a sign, in words: `low`, `normal or high`, …"""
    move = _moves(model)[suspect][sign]
    spread = _moves(model)["none"][sign].rows[0][1]
    low, high = move.low < -2.2 * spread, move.high > 2.2 * spread
    normal = any(abs(m) < 1.2 * spread for m, _ in move.rows)
    names = [name for name, there in (("low", low), ("normal", normal), ("high", high)) if there]
    return " or ".join(names) if len(names) < 3 else ANY_LEVEL


@cache
def _would_show(model: Model, suspect: str, sign: str) -> str:
    if suspect == "none":
        return "; a system with nothing wrong does not."
    level = _levels(model, suspect, sign) or "normal"
    label = model.suspects[suspect].label.lower()
    return f"; “{label}” would show it {level}."


@cache
def _settling_looks(model: Model, suspect: str) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Observations that acquit a suspect, and those that convict it."""
    variants = set(_variants(model).get(suspect, ())) - {"none"}
    own = [
        look
        for look in dict.fromkeys(model.looks.values())
        if any(look.with_fault.get(v, 0) >= SETTLES for v in variants)
    ]
    return tuple(look.no for look in own if look.no), tuple(look.yes for look in own)


@cache
def _rows_of(model: Model, suspect: str) -> tuple[Signature, ...]:
    return tuple(r for r in model.signatures if r.suspects == (suspect,))


def _lands(
    model: Model, suspect: str, measured: Mapping[str, Departure], severity: str, fault: str
) -> tuple[float, float, float, float] | None:
    """Where the suspect at its likeliest severity would put superheat and subcooling."""
    if "superheat" not in measured or "subcooling" not in measured:
        return None
    rows = _rows_of(model, suspect)
    best = (
        [r for r in rows if r.variant == fault and r.severity == severity]
        or [r for r in rows if r.severity == severity]
        or rows
    )
    if not best or suspect == "sensor_suspect":
        return None
    found: list[float] = []
    for sign in ("superheat", "subcooling"):
        middle, spread = best[0].moves[sign]
        found += [measured[sign].expected + middle, spread]
    return found[0], found[1], found[2], found[3]


def _missing(
    model: Model, suspect: str, measured: Mapping[str, Departure]
) -> list[tuple[str, str]]:
    """The most telling signs nobody measured, strongest first."""
    found = [
        (text, sign)
        for text, sign in _telling(model, suspect)
        if sign not in measured and SIGNS[sign].in_place_of not in measured
    ]
    return found[:MOST_SENTENCES]


@cache
def _telling(model: Model, suspect: str) -> tuple[tuple[str, str], ...]:
    if suspect not in _moves(model) or suspect in ("none", "sensor_suspect"):
        return ()
    scored = []
    for sign, move in _moves(model)[suspect].items():
        if SIGNS[sign].in_place_of or SIGNS[sign].is_weather:
            continue
        spread = _moves(model)["none"][sign].rows[0][1]
        strength = max(abs(m) for m, _ in move.rows) / spread
        if strength >= TELLING:
            level = _levels(model, suspect, sign)
            if level == ANY_LEVEL:
                continue
            scored.append(
                (strength, f"{SIGNS[sign].label} is not measured; it would be {level}.", sign)
            )
    scored.sort(key=lambda row: -row[0])
    return tuple((text, sign) for _, text, sign in scored)
