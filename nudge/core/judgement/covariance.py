"""How the signs of a hypothesis vary together: its covariance, and what undoes it.

Of every row of the table: its own spreads with the correlation of its device; what machines
whose laws differ are off together (`SHARED`); the direction in which the fault grows; and what
nobody read. Source: linear Gaussian factors; Cholesky whitening.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType

import numpy as np

from nudge.core.judgement.hypotheses import Array, healthy, moves
from nudge.core.judgement.model import Model
from nudge.core.language.units import degrees_f

SEVERITY_SIGMA = 0.29
"""How far a fault is from its step of severity (1 σ, in steps): evenly spread over one step."""


@dataclass(frozen=True, slots=True)
class Shared:
    """One thing a machine may be off by, and what it drags along: one row a thing.

    `sigma` is how far machines are off (1 σ [K]); `drags` what a kelvin of it does to each sign.
    """

    key: str
    sigma: float
    drags: Mapping[str, float]
    reason: str


SHARED: tuple[Shared, ...] = (
    Shared("condensing", degrees_f(2), MappingProxyType({
        "condensing_over_ambient": 1.0, "approach": 0.6, "compressor_power": 1.8,
        "pressure_ratio": 0.06, "valve_pressure": 4.0,
    }), "surface and air outdoors are off together: approach, power and ratio follow the head"),
    Shared("evaporator", degrees_f(2), MappingProxyType({
        "evaporator_difference": 1.0, "boiling": -1.0, "pressure_ratio": 0.07,
        "compressor_power": -1.0, "capacity": -2.0,
    }), "surface and air indoors are off together: what the coil boils at moves ratio and power"),
    Shared("superheat", degrees_f(2), MappingProxyType({
        "superheat": 1.0, "evaporator_superheat": 1.0,
    }), "valves are set differently, and keep it differently in other weather"),
    Shared("air rise", degrees_f(1.8), MappingProxyType({"condenser_air_rise": 1.0}),
           "outdoor air is never rated"),
    Shared("split", degrees_f(0.8), MappingProxyType({"temperature_split": 1.0, "capacity": 7.0}),
           "how dry a coil works differs from coil to coil"),
)  # fmt: skip
"""Sigmas as measured on plants of other laws."""


@dataclass(frozen=True, slots=True)
class Shape:
    """Everything about a set of signs that no reading changes, row by row of the hypotheses.

    `inverse` is the inverse of each covariance's Cholesky factor [rows, signs, signs];
    `moved` is `inverse @ middle`; `log_size` the log of the factor's determinant.
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
def shared(signs: tuple[str, ...]) -> Array:
    """What the shared things add to the covariance of some signs."""
    drags = np.array(
        [[thing.sigma * thing.drags.get(sign, 0.0) for sign in signs] for thing in SHARED]
    ).reshape(len(SHARED), len(signs))
    found: Array = drags.T @ drags
    return found


def covariance(
    model: Model,
    signs: tuple[str, ...],
    blurs: Sequence[float],
    knowns: Sequence[float],
    rows: Sequence[int] | None = None,
) -> Array:
    """How these signs vary together with each hypothesis [rows, signs, signs]; `rows` are places of
    hypotheses, all of them where not said.

    `blurs` are what weather and unsure readings add (1 σ); `knowns` how far a healthy system is
    off its own figure, 0 where the figure is its class's.
    """
    _, wide, along = moves(model, signs)
    if rows is not None:
        wide, along = wide[rows], along[rows]
    is_own = np.array(knowns) > 0
    if is_own.any():
        own = wide**2 - healthy(model, signs) ** 2 + np.array(knowns) ** 2
        wide = np.where(is_own, np.sqrt(np.maximum(own, wide**2 / 4)), wide)
    apart = np.where(is_own, 0.0, 1.0)
    grows = SEVERITY_SIGMA * along
    found: Array = (
        correlation(model, signs) * wide[:, :, None] * wide[:, None, :]
        + shared(signs) * np.outer(apart, apart)
        + grows[:, :, None] * grows[:, None, :]
        + np.diag(np.array(blurs) ** 2)
    )
    return found


@lru_cache(maxsize=96)
def shape(
    model: Model, signs: tuple[str, ...], blurs: tuple[float, ...], knowns: tuple[float, ...]
) -> Shape:
    """The whitening of every row for these signs: the same few sets are asked for again and again.

    Raises: LinAlgError, for a table whose correlations cannot be: `tools.make_signatures` proves
    them, so it does not happen with a packaged one.
    """
    factor = np.linalg.cholesky(covariance(model, signs, blurs, knowns))
    inverse = np.linalg.inv(factor)
    return Shape(
        inverse,
        np.einsum("rij,rj->ri", inverse, moves(model, signs).middle),
        np.log(np.diagonal(factor, axis1=1, axis2=2)).sum(axis=1),
    )
