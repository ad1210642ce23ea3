"""What a sign not read yet would show with each hypothesis, given the signs that are read.

Where two signs move together, most of what the second could say is already said by the first.
Source: conditional mean and variance of a multivariate normal.
"""

from collections.abc import Mapping, Sequence
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from nudge.core.behaviours.case import Case
from nudge.core.expectations.expected import expectations_here, today_of, weather_blur
from nudge.core.judgement.beliefs import Posterior, SignedKey, Weighed, signed
from nudge.core.judgement.covariance import covariance, shape
from nudge.core.judgement.departures import Departure
from nudge.core.judgement.hypotheses import Array, healthy, moves
from nudge.core.judgement.model import Model

EDGES = (-3.0, -1.4, 1.4, 3.0)
"""Edges of the five levels a reading may fall in, in healthy spreads."""
LEAST_SHARE = 1e-4
LEAST_VARIANCE = 0.05
"""Of its own variance, what stays open of a sign however much it moves with others."""


def levels(
    case: Case,
    weighing: Posterior,
    live: Sequence[Weighed],
    measured: Mapping[str, Departure],
    wanted: Sequence[str],
) -> Array:
    """How often each live hypothesis would put each wanted sign in each of the five levels
    [rows, signs, levels], given what is measured.
    """
    model, new, today = weighing.model, tuple(wanted), today_of(case)
    known = signed(measured)._replace(unsure=today.unsure, air=today.over)
    expectations = expectations_here(case)
    blurs = tuple([weather_blur(known.unsure, expectations[key]) for key in new])
    open_ = _left_open(model, known[:4], new, blurs)
    rows = [row.hypothesis.row for row in live]
    centre = moves(model, new).of(rows).at(known.air)
    if known.signs:
        whitening = shape(model, *known[:4])
        white = whitening.inverse[rows] @ (*known.offs, *known.air) - whitening.moved[rows]
        centre += np.einsum("rkj,rk->rj", open_.told_by[rows], white)
    under = _normal(open_.edges[rows] - (centre * open_.per_sigma[rows])[:, :, None])
    shares = np.empty((*centre.shape, len(EDGES) + 1))
    shares[:, :, 0], shares[:, :, -1] = under[:, :, 0], 1 - under[:, :, -1]
    shares[:, :, 1:-1] = under[:, :, 1:] - under[:, :, :-1]
    return np.maximum(shares, LEAST_SHARE)


class _Open(NamedTuple):
    """What the signs that are read leave open of some that are not, whatever they are read to be,
    row by row of the hypotheses.
    """

    told_by: Array
    """What each whitened departure of a read sign adds to each other sign [rows, read, others]."""
    per_sigma: Array
    """One over the spread that stays [rows, others]."""
    edges: Array
    """The edges of the levels in that spread [rows, others, edges]."""


@lru_cache(maxsize=96)
def _left_open(
    model: Model, read: SignedKey, new: tuple[str, ...], blurs: tuple[float, ...]
) -> _Open:
    signs, read_blurs, knowns, unsure = read
    n = len(signs)
    spread = covariance(
        model,
        (*signs, *new),
        (*read_blurs, *blurs),
        (*knowns, *[0.0] * len(new)),
        unsure=unsure,
    )
    told_by = np.zeros((len(spread), 0, len(new)))
    if n:
        told_by = shape(model, *read).inverse[:, :, :n] @ spread[:, :n, n:]
    own = np.diagonal(spread, axis1=1, axis2=2)[:, n:]
    variance = np.maximum(own - (told_by * told_by).sum(axis=1), LEAST_VARIANCE * own)
    per_sigma = 1 / np.sqrt(variance)
    edges = np.array(EDGES) * healthy(model, new)[:, None]
    return _Open(told_by, per_sigma, edges * per_sigma[:, :, None])


def _normal(z: Array) -> Array:
    """The normal distribution function, to 1e-4: enough for a share. Source: Abramowitz and
    Stegun 26.2.17 in its logistic shape by Bowling et al. 2009.
    """
    half = z * (0.03528 * z * z + 0.7988)
    found: Array = 0.5 + 0.5 * np.tanh(half)  # the logistic function, which never overflows so
    return found
