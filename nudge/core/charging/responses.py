"""The book of charge responses: what subcooling and superheat do as charge moves, system by system.

Read from `tables/responses.csv`, made by `tools/make_responses.py` from systems of every size,
device and refrigerant. A system on the roof is one of these, near enough; which one is learned
from its own doses.
"""

import csv
from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.equipment import Feed

Array = NDArray[np.float64]
Watched = Literal["subcooling", "superheat"]
TABLE = files("nudge.core.charging").joinpath("tables", "responses.csv")
STEP = 0.005
"""Charge is stepped through in half percents of what is right."""
LEAST, MOST = -0.45, 0.36
STEPS = round((MOST - LEAST) / STEP) + 1


@dataclass(frozen=True, slots=True)
class Response:
    """One system's curves over charge, both off what they are at the right charge [K]."""

    name: str
    subcooling: tuple[float, ...]
    superheat: tuple[float, ...]
    right_superheat_k: float


@cache
def responses(feed: Feed) -> tuple[Response, ...]:
    """Every system of a kind of device, stepped from `LEAST` to `MOST` of its right charge."""
    rows: dict[str, list[tuple[float, ...]]] = {}
    lines = TABLE.read_text("utf-8").splitlines()
    for row in csv.DictReader(line for line in lines if not line.startswith("#")):
        if row["device"] == feed:
            rows.setdefault(row["system"], []).append(
                (
                    float(row["charge"]) / 100,
                    degrees_f(float(row["subcooling"])),
                    degrees_f(float(row["superheat"])),
                    degrees_f(float(row["right superheat"])),
                )
            )
    return tuple(
        Response(
            name,
            _stepped([(r[0], r[1]) for r in found]),
            _stepped([(r[0], r[2]) for r in found]),
            found[0][3],
        )
        for name, found in rows.items()
    )


@dataclass(frozen=True, slots=True, eq=False)
class ResponseBook:
    """All systems of a kind of device as arrays [systems, steps]: both curves [K off right]."""

    subcooling: Array
    superheat: Array

    def curve(self, of: Watched) -> Array:
        """The curve of one of the two."""
        return self.subcooling if of == "subcooling" else self.superheat


@cache
def book_of(feed: Feed) -> ResponseBook:
    """The book of a kind of device."""
    rows = responses(feed)
    return ResponseBook(
        np.array([row.subcooling for row in rows]), np.array([row.superheat for row in rows])
    )


def _stepped(points: Sequence[tuple[float, float]]) -> tuple[float, ...]:
    """A curve through its points at every step, straight between, flat beyond."""
    at = [share for share, _ in points]
    found = []
    for step in range(STEPS):
        share = LEAST + step * STEP
        i = bisect_right(at, share)
        if i in (0, len(at)):
            found.append(points[min(i, len(at) - 1)][1])
            continue
        (low, under), (high, over) = points[i - 1], points[i]
        found.append(under + (over - under) * (share - low) / (high - low))
    return tuple(found)
