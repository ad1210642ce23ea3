"""What a sign not read yet would show with each hypothesis, given the signs that are read.

Where two signs move together, most of what the second could say is already said by the first.
Source: conditional mean and variance of a multivariate normal.
"""

from collections.abc import Mapping, Sequence

import numpy as np

from nudge.core.behaviours.case import Case
from nudge.core.expectations.expected import row_of, today_of, weather
from nudge.core.judgement.beliefs import Posterior, Weighed
from nudge.core.judgement.covariance import covariance
from nudge.core.judgement.departures import Departure
from nudge.core.judgement.hypotheses import Array, healthy, moves

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
) -> dict[str, Array]:
    """How often each live hypothesis would put each wanted sign in each of the five levels
    [rows, levels], given what is measured.
    """
    model, new = weighing.model, tuple(wanted)
    if not new or not live:
        return {}
    known = {key: one for key, one in measured.items() if not one.sign.defines_load}
    signs = (*known, *new)
    rows = [row.hypothesis.row for row in live]
    today = today_of(case)
    middle = moves(model, signs).at(today.over())[rows]
    blurs = [one.blur for one in known.values()]
    blurs += [weather(today, row_of(case, key))[1] for key in new]
    knowns = [*(one.known for one in known.values()), *(0.0 for _ in new)]
    spread = covariance(model, signs, blurs, knowns, rows, today.unsure())
    n = len(known)
    centre, variance = middle[:, n:], np.diagonal(spread, axis1=1, axis2=2)[:, n:]
    if n:
        off = np.array([one.off for one in known.values()]) - middle[:, :n]
        across = spread[:, n:, :n]
        gain = np.linalg.solve(spread[:, :n, :n], across.transpose(0, 2, 1)).transpose(0, 2, 1)
        centre = centre + np.einsum("rij,rj->ri", gain, off)
        told = np.einsum("rij,rij->ri", gain, across)
        variance = np.maximum(variance - told, LEAST_VARIANCE * variance)
    edges = np.array(EDGES) * healthy(model, new)[:, None]
    z = (edges[None] - centre[:, :, None]) / np.sqrt(variance)[:, :, None]
    under = _normal(z)
    ends = np.zeros((*under.shape[:2], 1))
    steps = np.concatenate([ends, under, ends + 1], axis=2)
    shares = np.maximum(np.diff(steps, axis=2), LEAST_SHARE)
    return {sign: shares[:, place] for place, sign in enumerate(new)}


def _normal(z: Array) -> Array:
    """The normal distribution function, to 1e-4: enough for a share. Source: Abramowitz and
    Stegun 26.2.17 in its logistic shape by Bowling et al. 2009.
    """
    found: Array = 1 / (1 + np.exp(-np.clip(0.07056 * z**3 + 1.5976 * z, -60, 60)))
    return found
