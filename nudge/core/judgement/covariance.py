"""How the signs of a hypothesis vary together: its covariance, and what undoes it.

Of every row of the table: its own spreads with the correlation of its device; what machines
whose laws differ are off together (`shared`); the direction in which the fault grows; the air it
would be carried by and nobody read; and what else nobody read. Source: linear Gaussian factors;
Cholesky whitening.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from nudge.core.expectations.expected import AT_RATING, Air
from nudge.core.judgement.hypotheses import Array, healthy, moves
from nudge.core.judgement.model import Model

SEVERITY_SIGMA = 0.29
"""How far a fault is from its step of severity (1 σ, in steps): evenly spread over one step."""


@dataclass(frozen=True, slots=True)
class Shape:
    """Everything about a set of signs that no reading changes, row by row of the hypotheses.

    `inverse` is the inverse of each covariance's Cholesky factor [rows, signs, signs], and behind
    it, three columns more, what it makes of the air a row is carried by [rows, signs, signs + 3];
    `moved` is what it makes of the middle, at its rating; `log_size` the log of the factor's
    determinant. A case is white as `inverse @ (offs, air) - moved`.
    """

    inverse: Array
    moved: Array
    log_size: Array


@lru_cache(maxsize=128)
def correlation(model: Model, signs: tuple[str, ...]) -> Array:
    """The correlation of some signs within a fault."""
    known = model.correlations
    return np.array(
        [[1.0 if a == b else known.get((a, b), 0.0) for b in signs] for a in signs]
    ).reshape(len(signs), len(signs))


@lru_cache(maxsize=128)
def shared(model: Model, signs: tuple[str, ...]) -> Array:
    """What the shared things of a kind of plant add to the covariance of some signs."""
    drags = np.array(
        [[thing.sigma * thing.drags.get(sign, 0.0) for sign in signs] for thing in model.shared]
    ).reshape(len(model.shared), len(signs))
    found: Array = drags.T @ drags
    return found


def covariance(
    model: Model,
    signs: tuple[str, ...],
    blurs: Sequence[float],
    knowns: Sequence[float],
    unsure: Air = AT_RATING,
) -> Array:
    """How these signs vary together with each hypothesis [rows, signs, signs].

    `blurs` are what weather and unsure readings add (1 σ); `knowns` how far a healthy system is
    off its own figure, 0 where the figure is its class's; `unsure` how far the air may be from
    what is taken for it.
    """
    _, wide, along, carried, _ = moves(model, signs)
    is_own = np.array(knowns) > 0
    if is_own.any():
        own = wide**2 - healthy(model, signs) ** 2 + np.array(knowns) ** 2
        wide = np.where(is_own, np.sqrt(np.maximum(own, wide**2 / 4)), wide)
    apart = np.where(is_own, 0.0, 1.0)
    grows = SEVERITY_SIGMA * along
    found: Array = (
        correlation(model, signs) * wide[:, :, None] * wide[:, None, :]
        + shared(model, signs) * np.outer(apart, apart)
        + grows[:, :, None] * grows[:, None, :]
        + np.diag(np.array(blurs) ** 2)
    )
    if any(unsure):
        strays = carried * np.array(unsure)
        found += strays @ strays.transpose(0, 2, 1)
    return found


@lru_cache(maxsize=96)
def shape(
    model: Model,
    signs: tuple[str, ...],
    blurs: tuple[float, ...],
    knowns: tuple[float, ...],
    unsure: Air = AT_RATING,
) -> Shape:
    """The whitening of every row for these signs: the same few sets are asked for again and again.

    Raises: LinAlgError, for a table whose correlations cannot be: `tools.make_signatures` proves
    them, so it does not happen with a packaged one.
    """
    factor = np.linalg.cholesky(covariance(model, signs, blurs, knowns, unsure=unsure))
    inverse, known = np.linalg.inv(factor), moves(model, signs)
    return Shape(
        np.concatenate([inverse, -inverse @ known.carried], axis=2),
        np.einsum("rij,rj->ri", inverse, known.at(AT_RATING)),
        np.log(np.diagonal(factor, axis1=1, axis2=2)).sum(axis=1),
    )
