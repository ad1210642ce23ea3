"""The cases of one node of the judge's table, fitted: what is left of each once it is explained.

A sign's departure in a node is straight in how bad the fault is and in the air and the class it
was met in, as a healthy system's expectation is. Used by `tools.make_signatures`.
"""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from nudge.core.expectations.expected import Air
from nudge.core.expectations.table import scale_of
from nudge.core.judgement.signatures import CARRIED_BY

Array = NDArray[np.float64]
LEAST_CASES = 8
"""Nodes the plant reached fewer times than this are left out: it does not run like that."""
LEAST_CARRIED = 40
"""Nodes of fewer cases than this are not carried: their slopes would be chance."""
AS_IF_FLAT = 10.0
"""Slopes are drawn towards none, as if so many cases more had shown none."""
LEAST_SPREAD = 0.4
"""No sign is surer than this [°F or %]."""


class Fit(NamedTuple):
    """One sign of a node: middle at its own mean air, spread (1 σ), and what moves it."""

    middle: float
    wide: float
    per_severity: float
    carried: Air


class Rows:
    """The cases of one node: their departures, how bad each was, and in which air."""

    def __init__(self, signs: Sequence[str], carried: Sequence[str]) -> None:
        self.signs, self.carried = signs, carried
        self.departures: list[dict[str, float]] = []
        self.severities: list[float] = []
        self.airs: list[Air] = []

    @property
    def is_carried(self) -> bool:
        """Whether it has the signs and the cases to be carried by air and class."""
        return bool(self.carried) and len(self.departures) >= LEAST_CARRIED

    @property
    def about(self) -> Air:
        """The mean air of its cases: what its middles are of."""
        outdoors, house, seer = np.mean(self.airs, axis=0).tolist()
        return outdoors, house, seer

    def _off(self, sign: str) -> Array:
        """Severity and, where a sign is carried, air of every case, less their means
        [cases, 1 or 4].
        """
        columns = np.array(self.severities)[:, None]
        if self.is_carried and sign in self.carried:
            columns = np.hstack([columns, np.array(self.airs)])
        found: Array = columns - columns.mean(axis=0)
        return found

    def fit(self, sign: str) -> Fit | None:
        """What moves a sign, by least squares; None of too few cases."""
        at = [n for n, row in enumerate(self.departures) if sign in row]
        if len(at) < LEAST_CASES:
            return None
        values = np.array([self.departures[n][sign] for n in at])
        off = self._off(sign)[at]
        own = off.T @ off
        flat = AS_IF_FLAT * np.var(off, axis=0)
        flat[0] = 0.0  # how bad it is was drawn within the node's own band: its slope is meant
        pull = np.diag(np.maximum(flat, 1e-9))
        slopes = np.linalg.solve(own + pull, off.T @ (values - values.mean()))
        left = values - values.mean() - off @ slopes
        wide = float(np.sqrt(left @ left / (len(at) - off.shape[1])))
        per_severity, *carried = slopes.tolist()
        outdoors, house, seer = carried or (0.0, 0.0, 0.0)
        return Fit(
            float(values.mean()),
            max(wide, LEAST_SPREAD * scale_of(sign)),
            per_severity,
            (outdoors, house, seer),
        )

    def standard(self) -> Array:
        """Every case as z, its severity and air taken out [cases, signs]; NaN where not read."""
        z = np.full((len(self.departures), len(self.signs)), np.nan)
        for column, sign in enumerate(self.signs):
            found, off = self.fit(sign), self._off(sign)
            if found is not None:
                slopes = (found.per_severity, *found.carried)[: off.shape[1]]
                values = np.array([row.get(sign, np.nan) for row in self.departures])
                z[:, column] = (values - found.middle - off @ np.array(slopes)) / found.wide
        return z


Node = tuple[str, tuple[str, ...], str, str]
"""What feeds it, suspects, fault, severity."""


def carried_cells(found: Mapping[Node, Rows], node: Node, flat: Sequence[str]) -> list[list[str]]:
    """A node's slopes as rows of the file, one a thing that carries it; signs in `flat`, which the
    trade's figure replaces, are carried by nothing.
    """
    rows, (device, _, variant, severity) = found[node], node
    if not rows.is_carried:
        return []
    cells, fits = [], {sign: rows.fit(sign) for sign in rows.signs}
    for place, (by, step) in enumerate(zip(CARRIED_BY, (1.8, 1.8, 1.0), strict=True)):
        line = [device, variant, severity, by, f"{rows.about[place] * step:.1f}"]
        for sign, fit in fits.items():
            slope = 0.0 if fit is None or sign in flat else fit.carried[place]
            said = f"{slope / scale_of(sign) / step:.3f}"
            line.append("" if fit is None else "0" if float(said) == 0 else said)
        cells.append(line)
    return cells
