"""The judge's table, read from its packaged files: what every fault does to every sign.

Three files beside this one, made by `tools/make_signatures.py` and readable as they are:
`expectations.csv` (what a healthy system shows, and how weather moves it), `signatures.csv`
(how far each fault, at each severity, moves each sign, ± one standard deviation) and
`together.csv` (which signs move together besides). Temperatures in them are °F.
"""

import csv
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from math import log, sqrt
from types import MappingProxyType

from nudge.core.said import degrees_f

TABLES = files("nudge.core.judgement").joinpath("tables")
DEVICES = {"valve": True, "orifice": False}
SEVERITIES = ("mild", "moderate", "severe")
SHARES = frozenset(
    ("airflow", "static", "filter_drop", "capacity", "compressor_power", "valve_pressure")
)
"""Signs kept in percent; `pressure_ratio` is a plain number; all others are °F in the files."""
PLAIN = SHARES | {"pressure_ratio"}


@dataclass(frozen=True, slots=True)
class Expectation:
    """What a healthy system adds to a sign's base, and what weather and its class add to that."""

    base: float
    per_outdoor: float
    per_wet_bulb: float
    per_seer: float = 0.0
    """What each point of rated efficiency over 14 adds: bigger coils, smaller rises."""
    usual_wet_bulb: float = -2.0
    """Where a house usually is, against the rated wet bulb [K], when nobody read it."""


@dataclass(frozen=True, slots=True)
class Signature:
    """One fault or pair of faults at one severity: each sign's departure and spread (1 σ)."""

    suspects: tuple[str, ...]
    variant: str
    severity: str
    cases: int
    moves: Mapping[str, tuple[float, float]]


@dataclass(frozen=True, slots=True)
class Together:
    """How the signs of one kind of device move together: whitening for the signs at hand.

    `rows` is the inverse of the correlation's Cholesky factor, row by row, lower triangle.
    """

    rows: tuple[tuple[float, ...], ...]
    log_determinant: float


def _rows(name: str) -> Iterator[dict[str, str]]:
    lines = TABLES.joinpath(name).read_text("utf-8").splitlines()
    yield from csv.DictReader(line for line in lines if not line.startswith("#"))


def scale_of(sign: str) -> float:
    """Core units per unit of the files: kelvin per °F, or 1."""
    return 1.0 if sign in PLAIN else degrees_f(1)


def _expectations() -> dict[bool, dict[str, Expectation]]:
    found: dict[bool, dict[str, Expectation]] = {True: {}, False: {}}
    for row in _rows("expectations.csv"):
        sign, unit = row["sign"], scale_of(row["sign"])
        found[DEVICES[row["device"]]][sign] = Expectation(
            float(row["base"]) * unit,
            float(row["per °F outdoors"]) * unit / degrees_f(1),
            float(row["per °F wet bulb"]) * unit / degrees_f(1),
            float(row["per SEER"]) * unit,
        )
    return found


def _signatures() -> dict[bool, tuple[Signature, ...]]:
    found: dict[bool, list[Signature]] = {True: [], False: []}
    for row in _rows("signatures.csv"):
        moves = {}
        for sign, cell in row.items():
            if "±" in cell:
                middle, spread = (float(part) * scale_of(sign) for part in cell.split("±"))
                moves[sign] = (middle, spread)
        found[DEVICES[row["device"]]].append(
            Signature(
                tuple(row["suspect"].split("+")), row["fault"], row["severity"], int(row["cases"]),
                MappingProxyType(moves),
            )
        )  # fmt: skip
    return {valve: tuple(rows) for valve, rows in found.items()}


def _correlations() -> dict[bool, dict[tuple[str, str], float]]:
    found: dict[bool, dict[tuple[str, str], float]] = {True: {}, False: {}}
    for row in _rows("together.csv"):
        pair = row["sign"], row["with"]
        for key in (pair, pair[::-1]):
            found[DEVICES[row["device"]]][key] = float(row["correlation"])
    return found


EXPECTATIONS = _expectations()
SIGNATURES = _signatures()
CORRELATIONS = _correlations()


@lru_cache(maxsize=256)
def together(is_valve: bool, signs: tuple[str, ...]) -> Together:
    """The whitening of these signs: the same few sets are asked for again and again."""
    known = CORRELATIONS[is_valve]
    lower: list[list[float]] = []
    for i, one in enumerate(signs):
        row: list[float] = []
        for j in range(i + 1):
            wanted = 1.0 if i == j else known.get((one, signs[j]), 0.0)
            wanted -= sum(row[k] * lower[j][k] for k in range(j)) if j < i else 0.0
            if i == j:
                row.append(sqrt(max(1.0 - sum(v * v for v in row), 0.02)))
            else:
                row.append(wanted / lower[j][j])
        lower.append(row)
    inverse: list[tuple[float, ...]] = []
    for i, row in enumerate(lower):
        columns = [
            ((1.0 if i == j else 0.0) - sum(row[k] * inverse[k][j] for k in range(j, i))) / row[i]
            for j in range(i + 1)
        ]
        inverse.append(tuple(columns))
    return Together(tuple(inverse), 2 * sum(log(row[i]) for i, row in enumerate(lower)))
