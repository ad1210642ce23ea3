"""Suspects weighed by likelihood: every fault predicts, with a spread, every sign measured.

Each row of the table of signatures (a fault or a pair, at a severity) is a hypothesis. Its
weight is how common it is, times how well it explains all departures at once (a multivariate
t, so that one odd reading does not decide alone), times what was seen and what happened over
time. Beliefs of all suspects sum to one, "something else" included.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache, lru_cache
from math import log
from types import MappingProxyType
from typing import NamedTuple

import numpy as np

from nudge.core.behaviours.case import Case
from nudge.core.expectations.expected import AT_RATING, Air
from nudge.core.judgement.covariance import shape
from nudge.core.judgement.departures import Departure, air_of, read_in
from nudge.core.judgement.hypotheses import Array, Hypothesis, hypotheses
from nudge.core.judgement.model import Model
from nudge.core.judgement.over_time import Episode
from nudge.core.physics.air.load import UNREAD, Load, load_of
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate, ReversingValve

FREEDOM = 6.0
"""Degrees of freedom of the t: how forgiving a hypothesis is of what it does not explain."""
DOUBTED = 1_000_000.0
"""Times likelier a wrong reading is once the readings cannot all be true."""
NEGLIGIBLE = 1e-5
MOSTLY = 0.6
HEAT_PUMP_TIMES = 3.0
"""One system in three is a heat pump: on those the valve is that much commoner a fault."""

RULED_OUT = 1e-6
NOT_THE_LOAD = 0.003
"""Low or high load where the air read says it is none: only a reading that lies leaves it."""
LOAD_BESIDE = 0.04
"""Any other suspect where the air read says low or high load, of what it is otherwise: the load is
there, and is put right first; a fault has to show itself clearly beside it."""
LOAD_LOOKS: Mapping[str, tuple[str, str]] = MappingProxyType(
    {
        "low_indoor_load": ("house_cool", "house_not_cool"),
        "high_indoor_load": ("house_warm", "house_not_warm"),
    }
)
"""What a person says of the house: it stands in while the return air is not read."""
PROBE_SAYS_LOAD = 0.3
"""A probe that lies may be the one that says so."""


def told_of(case: Case, episodes: Sequence[Episode], doubted: bool = False) -> "Told":
    """All that speaks in a case besides its signs."""
    return Told(
        tuple(sorted(case.context.observations)),
        tuple(episodes),
        doubted,
        load_of(case.readings),
        by_plate(case.plate),
    )


def by_plate(plate: Plate) -> dict[str, float]:
    """What the plate makes commoner or rules out: only heat pumps have a reversing valve."""
    likelier = {}
    if plate.reversing_valve is not ReversingValve.UNKNOWN:
        has = plate.reversing_valve is ReversingValve.PRESENT
        likelier["reversing_valve_leak"] = HEAT_PUMP_TIMES if has else RULED_OUT
    if plate.metering_device is MeteringDevice.EEV:
        likelier["bulb_loose"] = RULED_OUT
    return likelier


class Weighed(NamedTuple):
    """A hypothesis with its share of the belief."""

    hypothesis: Hypothesis
    belief: float


@dataclass(frozen=True, slots=True)
class Posterior:
    """All hypotheses that matter, likeliest first, and the belief in each suspect."""

    model: Model
    rows: tuple[Weighed, ...]
    suspects: Mapping[str, float]
    """A pair's belief is shared between its two, so that the beliefs sum to one."""
    pairs: Mapping[tuple[str, str], float]
    """Pairs by the faults of `PAIRS`."""

    def likeliest(self) -> dict[str, tuple[str, str]]:
        """Of every suspect, its likeliest severity and the fault that makes up most of its belief;
        "" where it has none, or while none does.
        """
        sums: dict[str, tuple[dict[str, float], dict[str, float]]] = {}
        for row, belief in self.rows:
            severity = row.signature.severity
            for name, fault in zip(row.signature.suspects, row.faults):  # noqa: B905
                by_severity, by_fault = sums.get(name) or sums.setdefault(name, ({}, {}))
                by_severity[severity] = by_severity.get(severity, 0.0) + belief
                by_fault[fault] = by_fault.get(fault, 0.0) + belief
        found = {}
        for name, (by_severity, by_fault) in sums.items():
            fault = max(by_fault, key=by_fault.__getitem__)
            is_most = by_fault[fault] >= MOSTLY * sum(by_fault.values())
            severity = max(by_severity, key=by_severity.__getitem__)
            found[name] = severity, fault if is_most else ""
        return found

    def severity(self, suspect: str) -> str:
        """The likeliest severity of a suspect; "" where it has none."""
        return self.likeliest().get(suspect, ("", ""))[0]

    def likeliest_fault(self, suspect: str) -> str:
        """The fault that makes up most of a suspect's belief; "" while none does."""
        return self.likeliest().get(suspect, ("", ""))[1]

    def alone(self, suspect: str) -> float:
        """The belief that it is this suspect and nothing besides."""
        return sum(b for row, b in self.rows if row.signature.suspects == (suspect,))

    def besides(self, suspect: str) -> float:
        """The belief that it is there, whatever else is wrong besides."""
        return sum(b for row, b in self.rows if suspect in row.signature.suspects)


class Told(NamedTuple):
    """All that speaks besides the signs: what was seen and lived, doubts, load, the plate."""

    observations: Sequence[str] = ()
    episodes: Sequence[Episode] = ()
    doubted: bool = False
    load: Load = UNREAD
    likelier: Mapping[str, float] = MappingProxyType({})
    """What the plate makes commoner or rules out, by suspect or fault."""


NOTHING_TOLD = Told()


def weigh(
    model: Model,
    measured: Mapping[str, Departure],
    told: Told = NOTHING_TOLD,
) -> Posterior:
    """Weigh every hypothesis for a kind of device against what was measured, seen and lived."""
    shares = weigh_each(model, [(signed(measured), told.load)], told)[0]
    return _shared(model, shares)


class Signed(NamedTuple):
    """Departures as the judge weighs them: which signs, with what blur, and how far off each is."""

    signs: tuple[str, ...]
    blurs: tuple[float, ...]
    knowns: tuple[float, ...]
    unsure: Air
    """How far the air may be from what is taken for it."""
    offs: tuple[float, ...]
    air: Air

    def with_offs(self, measured: Mapping[str, Departure]) -> "Signed":
        """As far off as other departures of the same signs, in the same air."""
        return self._replace(offs=tuple([measured[key].off for key in self.signs]))

    def mirrored(self, other: "Signed") -> "Signed":
        """As far off on the other side of this as another of the same signs is on one."""
        offs, air = (
            tuple(2 * a - b for a, b in zip(here, there, strict=True))
            for here, there in ((self.offs, other.offs), (self.air, other.air))
        )
        return self._replace(offs=offs, air=(air[0], air[1], air[2]))


def signed(measured: Mapping[str, Departure]) -> Signed:
    """The signs that are weighed; those that define the load are not."""
    rows = [(key, one) for key, one in measured.items() if not one.sign.defines_load]
    today = read_in(measured)
    return Signed(
        tuple(key for key, _ in rows),
        tuple(float(f"{one.blur:.2g}") if one.blur else 0.0 for _, one in rows),
        tuple(one.known for _, one in rows),
        AT_RATING if today is None else today.unsure,
        tuple(one.off for _, one in rows),
        air_of(measured),
    )


def weigh_each(model: Model, cases: Sequence[tuple[Signed, Load]], told: Told) -> list[Array]:
    """The belief in every hypothesis, in their order, for several sets of departures at once.

    Each set comes with what its air says of the load. Sets of the same signs are weighed together.
    """
    beside = _beside(model, told)
    groups: dict[SignedKey, list[int]] = {}
    for number, (one, _) in enumerate(cases):
        groups.setdefault(one[:4], []).append(number)
    found: list[Array] = [beside] * len(cases)
    for key, numbers in groups.items():
        offs = np.array([(*cases[n][0].offs, *cases[n][0].air) for n in numbers])
        scores = beside + _likelihood(model, key, offs)
        scores += np.array([_by_load(model, cases[n][1]) for n in numbers])
        shares = np.exp(scores - scores.max(axis=1, keepdims=True))
        shares /= shares.sum(axis=1, keepdims=True)
        for number, row in zip(numbers, shares, strict=True):
            found[number] = row
    return found


SignedKey = tuple[tuple[str, ...], tuple[float, ...], tuple[float, ...], Air]
"""Signs that are weighed, with the blur and the known spread of each, and the air not read."""


def _likelihood(model: Model, key: SignedKey, offs: Array) -> Array:
    """Log likelihoods [cases, rows]: a multivariate t over the signs' whitened departures, from
    departures and air [cases, signs + 3].
    """
    signs = key[0]
    if not signs:
        return np.zeros((len(offs), len(hypotheses(model))))
    known = shape(model, *key)
    rows, k, wide = known.inverse.shape
    white = (known.inverse.reshape(-1, wide) @ offs.T).reshape(rows, k, -1)
    white -= known.moved[:, :, None]
    squared = np.einsum("rkc,rkc->cr", white, white)
    half = (FREEDOM + len(signs)) / 2
    found: Array = -half * np.log1p(squared / FREEDOM) - known.log_size
    return found


def _beside(model: Model, told: Told) -> Array:
    """Log prior of every hypothesis, times what was seen and lived."""
    found = _log_priors(model).copy()
    defined = _defined(told.load)
    for observation in told.observations:
        if observation not in defined:
            found += _seen(model, observation)
    for episode in told.episodes:
        found += _lived(model, episode.row.key)
    if told.doubted:
        found += log(DOUBTED) * _of_suspect(model, "sensor_suspect", alone=True)
    for name, factor in told.likelier.items():
        found += log(factor) * _named(model, name)
    return found


def _defined(load: Load) -> frozenset[str]:
    """Looks that say nothing more once the air read has said low or high load."""
    low = LOAD_LOOKS["low_indoor_load"] if load.low is not None else ()
    return frozenset((*low, *(LOAD_LOOKS["high_indoor_load"] if load.high is not None else ())))


@lru_cache(maxsize=256)
def _by_load(model: Model, load: Load) -> Array:
    """What the air read makes of low and high load, which it defines, and of all else. How common
    they are says nothing once it is read: at the edge they are as likely as nothing wrong.
    """
    found = np.zeros(len(hypotheses(model)))
    for suspect, share in (("low_indoor_load", load.low), ("high_indoor_load", load.high)):
        if share is not None and suspect in model.suspects:
            there, probe = _of_suspect(model, suspect), _of_suspect(model, "sensor_suspect")
            as_common = model.suspects["none"].prior / model.suspects[suspect].prior
            found += there * log(max(share, NOT_THE_LOAD) * as_common)
            found += probe * log(max(1 - share, PROBE_SAYS_LOAD))
            found += (1 - there - probe) * log(max(1 - share, LOAD_BESIDE))
    return found


@cache
def _log_priors(model: Model) -> Array:
    return np.array([row.log_prior for row in hypotheses(model)])


@cache
def _seen(model: Model, observation: str) -> Array:
    return np.array([log(model.times(observation, row.faults)) for row in hypotheses(model)])


@cache
def _lived(model: Model, episode: str) -> Array:
    lived = next(row for row in model.episodes if row.key == episode)
    return np.array(
        [log(lived.factor(row.signature.suspects, row.faults)) for row in hypotheses(model)]
    )


@cache
def _of_suspect(model: Model, suspect: str, alone: bool = False) -> Array:
    """1 for hypotheses that hold a suspect (and nothing besides), 0 for others."""
    rows = [row.signature.suspects for row in hypotheses(model)]
    return np.array([float(names == (suspect,) if alone else suspect in names) for names in rows])


@cache
def _named(model: Model, name: str) -> Array:
    """1 for hypotheses that hold a fault or a suspect of a name."""
    return np.array(
        [float(name in row.faults or name in row.signature.suspects) for row in hypotheses(model)]
    )


def beliefs_in(
    model: Model, each: Sequence[Array], suspect: str, alone: bool = False
) -> list[float]:
    """The belief in a suspect in each of several cases, whatever else is wrong besides, or in it
    alone [0 to 1].
    """
    if not each:
        return []
    found: list[float] = (np.stack(each) @ _of_suspect(model, suspect, alone)).tolist()
    return found


def _shared(model: Model, shares: Array) -> Posterior:
    rows = hypotheses(model)
    kept = np.flatnonzero(shares > NEGLIGIBLE)
    order = kept[np.argsort(-shares[kept], kind="stable")]
    beliefs = shares[order]
    ranked_rows = tuple(map(Weighed, map(rows.__getitem__, order.tolist()), beliefs.tolist()))
    whole = sum(belief for _, belief in ranked_rows)
    by_suspect = (beliefs / whole @ _parts(model)[order]).tolist()
    ranked = sorted(
        zip(model.suspects, by_suspect, strict=True),
        key=lambda one: (-one[1], model.suspects[one[0]].order),
    )
    pairs = {
        (row.faults[0], row.faults[1]): belief / whole
        for row, belief in ranked_rows
        if len(row.faults) == 2
    }
    return Posterior(model, ranked_rows, dict(ranked), pairs)


@cache
def _parts(model: Model) -> Array:
    """The share of each suspect in every hypothesis: one, or half of a pair [rows, suspects]."""
    names = [row.signature.suspects for row in hypotheses(model)]
    return np.array([[(s in held) / len(held) for s in model.suspects] for held in names])
