"""The table of expectations: what healthy plant shows, and how weather and class move it.

`expectations.csv` in the tables of a kind of plant, made by `tools/make_signatures.py` and readable
as it is. Temperatures in it are °F.
"""

import csv
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources.abc import Traversable

from nudge.core.behaviours.behaviour import Behaviour
from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.equipment import FEEDS

SHARES = frozenset(
    (
        "airflow",
        "static",
        "filter_drop",
        "capacity",
        "compressor_power",
        "valve_pressure",
        "heat_delivered",
        "heating_power",
    )
)
"""Signs kept in percent; `pressure_ratio` is a plain number; all others are °F in the files."""
PLAIN = SHARES | {"pressure_ratio"}


@dataclass(frozen=True, slots=True)
class Expectation:
    """What a healthy system adds to a sign's base, what weather and its class add to that, and
    how far healthy ones differ (1 σ).
    """

    base: float
    per_outdoor: float
    per_house: float
    per_seer: float = 0.0
    """What each point of rated efficiency over 14 adds: bigger coils, smaller rises."""
    sigma: float = 0.0


def rows_of(folder: Traversable, name: str) -> Iterator[dict[str, str]]:
    """The rows of one table, comments aside."""
    lines = folder.joinpath(name).read_text("utf-8").splitlines()
    yield from csv.DictReader(line for line in lines if not line.startswith("#"))


def scale_of(sign: str) -> float:
    """Core units per unit of the files: kelvin per °F, or 1."""
    return 1.0 if sign in PLAIN else degrees_f(1)


def read(folder: Traversable) -> dict[str, dict[str, Expectation]]:
    """The expectations of every kind of device, by sign."""
    found: dict[str, dict[str, Expectation]] = {feed: {} for feed in FEEDS}
    for row in rows_of(folder, "expectations.csv"):
        sign, unit = row["sign"], scale_of(row["sign"])
        found[row["device"]][sign] = Expectation(
            float(row["base"]) * unit,
            float(row["per °F outdoors"]) * unit / degrees_f(1),
            float(row["per °F indoors"]) * unit / degrees_f(1),
            float(row["per SEER"]) * unit,
            sigma=float(row["±"]) * unit,
        )
    return found


@cache
def expectations_of(behaviour: Behaviour) -> Mapping[str, Mapping[str, Expectation]]:
    """What healthy plant of a kind shows, by what feeds it; empty without tables."""
    return read(behaviour.tables) if behaviour.tables is not None else {feed: {} for feed in FEEDS}
