"""Suspects weighed by likelihood: every fault predicts, with a spread, every sign measured.

Each row of the table of signatures (a fault or a pair, at a severity) is a hypothesis. Its
weight is how common it is, times how well it explains all departures at once (a multivariate
t, so that one odd reading does not decide alone), times what was seen and what happened over
time. Beliefs of all suspects sum to one, "something else" included.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from math import exp, inf, log, log1p, sqrt
from operator import mul
from types import MappingProxyType
from typing import NamedTuple

from nudge.core.judgement.departures import Departure
from nudge.core.judgement.looks import times
from nudge.core.judgement.over_time import Episode
from nudge.core.judgement.pairs import PAIRS
from nudge.core.judgement.signatures import SIGNATURES, Signature, together
from nudge.core.judgement.suspect_table import SEVERITY_SHARES, SUSPECTS
from nudge.core.vocabulary.equipment import MeteringDevice, Plate, ReversingValve

FREEDOM = 6.0
"""Degrees of freedom of the t: how forgiving a hypothesis is of what it does not explain."""
ELSE_SPREAD = 4.0
"""Something else may move every sign this many times as far as healthy systems differ."""
PROBE_SPREAD, SOME_PROBE_PRIOR = 8.0, 0.2
"""A probe in a wrong place can show anything; rare, but what impossible readings mean."""
DOUBTED = 1_000_000.0
"""Times likelier a wrong reading is once the readings cannot all be true."""
NEGLIGIBLE = 1e-5
MOSTLY = 0.6
HEAT_PUMP_TIMES = 3.0
"""One system in three is a heat pump: on those the valve is that much commoner a fault."""


RULED_OUT = 1e-6


def by_plate(plate: Plate) -> dict[str, float]:
    """What the plate makes commoner or rules out: only heat pumps have a reversing valve."""
    likelier = {}
    if plate.reversing_valve is not ReversingValve.UNKNOWN:
        has = plate.reversing_valve is ReversingValve.PRESENT
        likelier["reversing_valve_leak"] = HEAT_PUMP_TIMES if has else RULED_OUT
    if plate.metering_device is MeteringDevice.EEV:
        likelier["bulb_loose"] = RULED_OUT
    return likelier


class Hypothesis(NamedTuple):
    """One row of the signatures with its prior, ready to be weighed."""

    signature: Signature
    faults: tuple[str, ...]
    log_prior: float
    middle: tuple[float, ...]
    spread: tuple[float, ...]


class Weighed(NamedTuple):
    """A hypothesis with its share of the belief."""

    hypothesis: Hypothesis
    belief: float


@dataclass(frozen=True, slots=True)
class Weighing:
    """All hypotheses that matter, likeliest first, and the belief in each suspect."""

    is_valve: bool
    rows: tuple[Weighed, ...]
    suspects: Mapping[str, float]
    """A pair's belief is shared between its two, so that the beliefs sum to one."""
    pairs: Mapping[tuple[str, str], float]
    """Pairs by the faults of `PAIRS`."""

    def severity(self, suspect: str) -> str:
        """The likeliest severity of a suspect; "" where it has none."""
        by_severity: dict[str, float] = {}
        for row, belief in self.rows:
            if suspect in row.signature.suspects:
                severity = row.signature.severity
                by_severity[severity] = by_severity.get(severity, 0.0) + belief
        return max(by_severity, key=lambda s: by_severity[s], default="")

    def likeliest_fault(self, suspect: str) -> str:
        """The fault that makes up most of a suspect's belief; "" while none does."""
        by_fault: dict[str, float] = {}
        for row, belief in self.rows:
            for name, fault in zip(row.signature.suspects, row.faults, strict=False):
                if name == suspect:
                    by_fault[fault] = by_fault.get(fault, 0.0) + belief
        fault = max(by_fault, key=lambda f: by_fault[f], default="")
        return fault if by_fault and by_fault[fault] >= MOSTLY * sum(by_fault.values()) else ""

    def alone(self, suspect: str) -> float:
        """The belief that it is this suspect and nothing besides."""
        return sum(b for row, b in self.rows if row.signature.suspects == (suspect,))


def weigh(
    is_valve: bool,
    measured: Mapping[str, Departure],
    observations: Sequence[str] = (),
    episodes: Sequence[Episode] = (),
    doubted: bool = False,
    likelier: Mapping[str, float] = MappingProxyType({}),
) -> Weighing:
    """Weigh every hypothesis for a kind of device against what was measured, seen and lived.

    `likelier` multiplies what the plate makes commoner or rules out, by suspect or fault.
    """
    keys = tuple(measured)
    white = together(is_valve, keys)
    offs = [one.off for one in measured.values()]
    blurs = [one.blur * one.blur for one in measured.values()]
    knowns = [one.known for one in measured.values()]
    usual = _healthy(is_valve, keys) if any(knowns) else ()
    blurred = any(blurs)
    half = (FREEDOM + len(keys)) / 2
    scored: list[tuple[float, Hypothesis]] = []
    best = -inf
    for hypothesis in hypotheses(is_valve, keys):
        signature, faults, score, middle, spread = hypothesis
        if usual:
            spread = tuple(map(_narrowed, spread, usual, knowns))
        if blurred:
            spread = tuple((s * s + b) ** 0.5 for s, b in zip(spread, blurs, strict=True))
            score -= sum(map(log, spread))
        else:
            score -= _log_spread(spread)
        score += _seen(hypothesis, observations, episodes, doubted)
        for name, factor in likelier.items():
            if name in faults or name in signature.suspects:
                score += log(factor)
        z = [(o - m) / s for o, m, s in zip(offs, middle, spread, strict=True)]
        limit = (FREEDOM * _room(score - best, half)) if best > -inf else inf
        squared = 0.0
        for row in white.rows:
            part = sum(map(mul, row, z))
            squared += part * part
            if squared > limit:
                break
        else:
            score -= half * log1p(squared / FREEDOM)
            best = max(best, score)
            scored.append((score, hypothesis))
    return _shared(is_valve, scored, best)


def _room(lead: float, half: float) -> float:
    """How badly a hypothesis may fit, over `FREEDOM`, before its belief is negligible."""
    spare = (lead + 16.0) / half
    return exp(spare) - 1 if spare < 50 else inf


def _healthy(is_valve: bool, signs: Sequence[str]) -> tuple[float, ...]:
    """How far healthy systems of a class differ in these signs (1 σ)."""
    row = next(row for row in SIGNATURES[is_valve] if row.suspects == ("none",))
    return tuple(row.moves[sign][1] for sign in signs)


def _narrowed(spread: float, healthy: float, known: float) -> float:
    """A fault's spread where the system's own figure replaces its class's: what healthy systems
    differ goes out of it, and what is left is at least half of it.
    """
    if not known:
        return spread
    return sqrt(max(spread * spread - healthy * healthy + known * known, spread * spread / 4))


@cache
def _log_spread(spread: tuple[float, ...]) -> float:
    return sum(map(log, spread))


def _seen(
    row: Hypothesis, observations: Sequence[str], episodes: Sequence[Episode], doubted: bool
) -> float:
    score = 0.0
    for observation in observations:
        score += log(times(observation, row.faults))
    for episode in episodes:
        score += log(episode.row.factor(row.signature.suspects, row.faults))
    if row.signature.suspects == ("sensor_suspect",):
        score += log(DOUBTED if doubted else 1.0)
    return score


def _shared(is_valve: bool, scored: list[tuple[float, Hypothesis]], best: float) -> Weighing:
    shares = [(exp(score - best), row) for score, row in scored]
    total = sum(share for share, _ in shares)
    rows = sorted(
        (Weighed(row, share / total) for share, row in shares if share > NEGLIGIBLE * total),
        key=lambda one: -one.belief,
    )
    suspects = dict.fromkeys(SUSPECTS, 0.0)
    pairs: dict[tuple[str, str], float] = {}
    whole = sum(belief for _, belief in rows)
    for row, belief in rows:
        for suspect in row.signature.suspects:
            suspects[suspect] += belief / whole / len(row.signature.suspects)
        if len(row.faults) == 2:
            pairs[row.faults[0], row.faults[1]] = belief / whole
    ranked = sorted(suspects.items(), key=lambda kv: (-kv[1], SUSPECTS[kv[0]].order))
    return Weighing(is_valve, tuple(rows), dict(ranked), pairs)


@cache
def hypotheses(is_valve: bool, signs: tuple[str, ...]) -> tuple[Hypothesis, ...]:
    """Every signature of a kind of device with its moves of these signs, and something else."""
    rows = SIGNATURES[is_valve]
    healthy = next(row for row in rows if row.suspects == ("none",))
    variants: dict[str, set[str]] = {}
    for row in rows:
        if len(row.suspects) == 1:
            variants.setdefault(row.suspects[0], set()).add(row.variant)
    pair_priors = {"+".join(pair.faults): pair.prior for pair in PAIRS}
    found = []
    for row in rows:
        if len(row.suspects) == 2:
            prior = pair_priors[row.variant]
        else:
            prior = SUSPECTS[row.suspects[0]].prior / len(variants[row.suspects[0]])
            severe = row.suspects[0] not in ("none", "sensor_suspect")
            prior *= SEVERITY_SHARES[row.severity] if severe else 1.0
        moves = [row.moves.get(sign) or healthy.moves[sign] for sign in signs]
        found.append(_hypothesis(row, prior, [m for m, _ in moves], [s for _, s in moves]))
    wide = [ELSE_SPREAD * healthy.moves[sign][1] for sign in signs]
    other = Signature(("something_else",), "something_else", "", 0, {})
    found.append(_hypothesis(other, SUSPECTS["something_else"].prior, [0.0] * len(signs), wide))
    anywhere = Signature(("sensor_suspect",), "some_probe", "", 0, {})
    widest = [PROBE_SPREAD * healthy.moves[sign][1] for sign in signs]
    found.append(_hypothesis(anywhere, SOME_PROBE_PRIOR, [0.0] * len(signs), widest))
    return tuple(found)


def _hypothesis(
    row: Signature, prior: float, middle: Sequence[float], spread: Sequence[float]
) -> Hypothesis:
    faults = tuple(row.variant.split("+"))
    return Hypothesis(row, faults, log(prior / 100), tuple(middle), tuple(spread))
