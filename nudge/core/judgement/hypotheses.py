"""The hypotheses: every fault and pair at every severity, something else and any probe.

Each is a row of the table of signatures with how common it is. Their order is the table's, and
every array of the judge keeps to it.
"""

from collections.abc import Sequence
from functools import cache
from math import log
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from nudge.core.expectations.expected import AT_RATING, Air
from nudge.core.judgement.model import Model
from nudge.core.judgement.signatures import Signature
from nudge.core.judgement.suspect_table import SEVERITY_SHARES

Array = NDArray[np.float64]
ELSE_SPREAD = 4.0
"""Something else may move every sign this many times as far as healthy systems differ."""
PROBE_SPREAD, SOME_PROBE_PRIOR = 8.0, 0.2
"""A probe in a wrong place can show anything; rare, but what impossible readings mean."""


class Hypothesis(NamedTuple):
    """One row of the signatures with its prior, ready to be weighed."""

    signature: Signature
    faults: tuple[str, ...]
    log_prior: float
    row: int
    """Its place in every array of the judge."""


class Moves(NamedTuple):
    """What every hypothesis does to some signs, row by row."""

    middle: Array
    """How far it moves them, in the air and the class it was swept in."""
    spread: Array
    along: Array
    """What one step of severity adds."""
    carried: Array
    """What each of the three things of `Air` adds [rows, signs, 3]."""
    about: Array
    """The air its middle is of [rows, 3]."""

    def at(self, air: Air) -> Array:
        """The middles carried to some air [rows, signs]."""
        steps: Array = np.matmul(self.carried, (air - self.about)[:, :, None])[:, :, 0]
        return self.middle + steps

    def of(self, rows: Sequence[int]) -> "Moves":
        """The same of some of the rows."""
        return Moves(*(table[rows] for table in self))


@cache
def hypotheses(model: Model) -> tuple[Hypothesis, ...]:
    """Every signature of a kind of device, something else, and a probe anywhere."""
    rows = model.signatures
    variants: dict[str, set[str]] = {}
    for row in rows:
        if len(row.suspects) == 1:
            variants.setdefault(row.suspects[0], set()).add(row.variant)
    pair_priors = {"+".join(pair.faults): pair.prior for pair in model.pairs}
    found = []
    for row in rows:
        if len(row.suspects) == 2:
            prior = pair_priors[row.variant]
        else:
            prior = model.suspects[row.suspects[0]].prior / len(variants[row.suspects[0]])
            severe = row.suspects[0] not in ("none", "sensor_suspect")
            prior *= SEVERITY_SHARES[row.severity] if severe else 1.0
        found.append((row, prior))
    other = Signature(("something_else",), "something_else", "", 0, {})
    anywhere = Signature(("sensor_suspect",), "some_probe", "", 0, {})
    found += [(other, model.suspects["something_else"].prior), (anywhere, SOME_PROBE_PRIOR)]
    return tuple(
        Hypothesis(row, tuple(row.variant.split("+")), log(prior / 100), place)
        for place, (row, prior) in enumerate(found)
    )


@cache
def moves(model: Model, signs: tuple[str, ...]) -> Moves:
    """What every hypothesis does to these signs."""
    rows = hypotheses(model)
    usual = healthy(model, signs)
    wide = {"something_else": ELSE_SPREAD, "some_probe": PROBE_SPREAD}
    middle, spread, along = (np.zeros((len(rows), len(signs))) for _ in range(3))
    carried, about = np.zeros((len(rows), len(signs), 3)), np.zeros((len(rows), 3))
    for number, row in enumerate(rows):
        for place, sign in enumerate(signs):
            if row.signature.variant in wide:
                cell = 0.0, wide[row.signature.variant] * usual[place]
            else:
                cell = row.signature.moves.get(sign) or (0.0, float(usual[place]))
            middle[number, place], spread[number, place] = cell
            along[number, place] = row.signature.along.get(sign, 0.0)
            carried[number, place] = row.signature.carried.get(sign, AT_RATING)
        about[number] = row.signature.about
    return Moves(middle, spread, along, carried, about)


def healthy(model: Model, signs: Sequence[str]) -> Array:
    """How far healthy systems of a class differ in these signs (1 σ)."""
    row = next(row for row in model.signatures if row.suspects == ("none",))
    return np.array([row.moves[sign][1] for sign in signs])
