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
from nudge.core.expectations.expected import Air
from nudge.core.judgement.beliefs import DOUBTED, Posterior
from nudge.core.judgement.departures import Departure, air_of
from nudge.core.judgement.hypotheses import Array, Moves, moves
from nudge.core.judgement.model import Model
from nudge.core.judgement.over_time import Episode
from nudge.core.judgement.suspect_table import Suspect
from nudge.core.judgement.telling import (
    MOST_SENTENCES,
    lands_on,
    missing_of,
    moves_of,
    settling_looks,
    variants_of,
    would_show,
)
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity, difference_of

SPEAKS_FOR, SPEAKS_AGAINST = 1.6, 0.45
"""How many times commoner (rarer) than with the other suspects a sign must be to be named."""
EXPLAINED = 0.002
"""A suspect believed less than this is named without its evidence; what is asked about on every
call (`ALWAYS`) is explained however little it is believed."""
ALWAYS = frozenset(("none", "undercharge", "overcharge"))
NOTABLE = 1.3
"""A sign is called low or high from this many healthy spreads off."""


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
    likeliest, air, found = weighing.likeliest(), air_of(measured), []
    for key, belief in weighing.suspects.items():
        suspect = weighing.model.suspects[key]
        if belief < EXPLAINED and key not in ALWAYS:
            found.append(_unexplained(weighing.model, suspect, belief, measured, air))
            continue
        severity, fault = likeliest.get(key, ("", ""))
        speaks_for: list[tuple[float, Said, str]] = []
        against: list[tuple[float, Said, str]] = []
        for sign, ratio in ratios.get(key, {}).items():
            if ratio >= SPEAKS_FOR and (key == "none" or sign in notable):
                speaks_for.append((ratio, Said(*heads[sign][:2], "."), sign))
            elif ratio <= SPEAKS_AGAINST:
                said = Said(*heads[sign][:2], would_show(weighing.model, key, sign))
                against.append((1 / max(ratio, 1e-9), said, sign))
        for weight, said, name in _facts(key, weighing.model, observations, episodes):
            (speaks_for if weight > 1 else against).append(
                (weight if weight > 1 else 1 / weight, said, name)
            )
        if key == "sensor_suspect":
            speaks_for += [(DOUBTED, said, "readings") for said in doubts]
        for side in (speaks_for, against):
            side.sort(key=lambda one: -one[0])
            del side[MOST_SENTENCES:]
        missing = missing_of(weighing.model, key, measured)
        found.append(
            Belief(
                suspect,
                belief,
                severity,
                fault,
                tuple([said for _, said, _ in speaks_for]),
                tuple([name for _, _, name in speaks_for]),
                tuple([said for _, said, _ in against]),
                tuple([name for _, _, name in against]),
                tuple(text for text, _ in missing),
                tuple(sign for _, sign in missing),
                *settling_looks(weighing.model, key),
                lands_on(weighing.model, key, measured, air, severity, fault),
            )
        )
    return found


def _unexplained(
    model: Model, suspect: Suspect, belief: float, measured: Mapping[str, Departure], air: Air
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
        *settling_looks(model, suspect.key),
        lands_on(model, suspect.key, measured, air, "", ""),
    )


def sign_ratios(
    weighing: Posterior, measured: Mapping[str, Departure]
) -> dict[str, dict[str, float]]:
    """How many times commoner each departure is with a suspect than with all the others."""
    keys = tuple(measured)
    table = _alone(weighing.model)
    known = _moves_alone(weighing.model, keys)
    off = np.array([one.off for one in measured.values()])
    blur = np.array([one.blur for one in measured.values()])
    wide = np.sqrt(known.spread**2 + blur**2)
    z = (off - known.at(air_of(measured))) / wide
    # A mixture over a suspect's rows, with wide tails: a Student t of five degrees of freedom.
    tail = 1 + z * z / 5
    density = table.share @ (1 / (wide * tail * tail * tail))
    weighted = table.prior[:, None] * density
    others = np.maximum(weighted.sum(axis=0) - weighted, 1e-12)
    ratios = density * (table.prior.sum() - table.prior)[:, None] / others
    return {
        suspect: dict(zip(keys, row, strict=True))
        for suspect, row in zip(table.suspects, ratios.tolist(), strict=True)
    }


class _Table(NamedTuple):
    """Which hypotheses are one suspect and nothing besides, and the share of each in it."""

    suspects: tuple[str, ...]
    prior: Array
    rows: list[int]
    share: Array


@cache
def _alone(model: Model) -> _Table:
    suspects = tuple(moves_of(model))
    rows = [n for n, row in enumerate(model.signatures) if len(row.suspects) == 1]
    is_of = np.array(
        [[float(model.signatures[n].suspects == (suspect,)) for n in rows] for suspect in suspects]
    )
    prior = np.array([model.suspects[suspect].prior for suspect in suspects], dtype=float)
    return _Table(suspects, prior, rows, is_of / is_of.sum(axis=1, keepdims=True))


@cache
def _moves_alone(model: Model, signs: tuple[str, ...]) -> Moves:
    return moves(model, signs).of(_alone(model).rows)


def _facts(
    suspect: str, model: Model, observations: Sequence[str], episodes: Sequence[Episode]
) -> list[tuple[float, Said, str]]:
    """What was seen and lived through, as far as it says something about a suspect."""
    seen = [_seen(model, suspect, observation) for observation in observations]
    rows = [fact for fact in seen if fact is not None]
    variants = variants_of(model).get(suspect, ())
    for episode in episodes:
        named = [episode.row.factor((suspect,), (v,)) for v in variants]
        strongest = max(named, key=lambda f: max(f, 1 / f), default=1.0)
        if max(strongest, 1 / strongest) >= 1.3:
            rows.append((strongest, episode.said, episode.row.key))
    return rows


@cache
def _seen(model: Model, suspect: str, observation: str) -> tuple[float, Said, str] | None:
    """What an observation says of a suspect; None where that is next to nothing."""
    factors = [model.times(observation, (v,)) for v in variants_of(model).get(suspect, ())]
    strongest = max(factors, key=lambda f: max(f, 1 / f), default=1.0)
    if max(strongest, 1 / strongest) < SPEAKS_FOR:
        return None
    said = say(f"Seen: {OBSERVATIONS[observation].label.lower()}.")
    return strongest, said, observation


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
    spread = moves_of(weighing.model)["none"][one.sign.key].rows[0][1]
    return abs(one.off) >= NOTABLE * sqrt(spread * spread + one.blur * one.blur)
