"""What every fault does to every sign, read from the tables of a kind of plant.

Made by `tools/make_signatures.py` and readable as they are: `signatures.csv` (how far each fault,
at each severity, moves each sign, ± one standard deviation), `carried.csv` (how that changes with
the air and the class, for kinds of plant swept for it) and `together.csv` (which signs move
together besides). Temperatures in them are °F. What healthy plant shows is in `core/expectations`.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from importlib.resources.abc import Traversable
from types import MappingProxyType

from nudge.core.expectations.expected import AT_RATING, Air
from nudge.core.expectations.table import rows_of, scale_of
from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.equipment import FEEDS

SEVERITIES = ("mild", "moderate", "severe")
CARRIED_BY = ("outdoors", "indoors", "SEER")
"""What a fault's moves are carried by, in the order of `Air`: a dirty coil costs more on a hot day,
and on a small machine."""


@dataclass(frozen=True, slots=True)
class Signature:
    """One fault or pair of faults at one severity: each sign's departure and spread (1 σ)."""

    suspects: tuple[str, ...]
    variant: str
    severity: str
    cases: int
    moves: Mapping[str, tuple[float, float]]
    along: Mapping[str, float] = field(default_factory=dict)
    """What one step of severity adds to each sign: the direction in which a fault grows. What it
    does between and beyond the steps lies along it."""
    carried: Mapping[str, Air] = field(default_factory=dict)
    """What a kelvin outdoors, a kelvin in the house and a point of SEER add to each sign."""
    about: Air = AT_RATING
    """The air and the class its moves are of: what they are carried from."""

    def at(self, sign: str, air: Air) -> float:
        """How far it moves a sign in some air."""
        outdoor, house, seer = self.carried.get(sign, AT_RATING)
        steps = outdoor * (air[0] - self.about[0]) + house * (air[1] - self.about[1])
        return self.moves[sign][0] + steps + seer * (air[2] - self.about[2])


def read_signatures(folder: Traversable) -> dict[str, tuple[Signature, ...]]:
    """Every signature by kind of device."""
    found: dict[str, list[Signature]] = {feed: [] for feed in FEEDS}
    for row in rows_of(folder, "signatures.csv"):
        moves = {}
        for sign, cell in row.items():
            if "±" in cell:
                middle, spread = (float(part) * scale_of(sign) for part in cell.split("±"))
                moves[sign] = (middle, spread)
        found[row["device"]].append(
            Signature(
                tuple(row["suspect"].split("+")),
                row["fault"],
                row["severity"],
                int(row["cases"]),
                MappingProxyType(moves),
            )
        )
    carried = _read_carried(folder)
    return {
        feed: tuple(
            _carried(row, carried.get((feed, row.variant, row.severity), {}))
            for row in _with_directions(rows)
        )
        for feed, rows in found.items()
    }


def _read_carried(folder: Traversable) -> dict[tuple[str, str, str], dict[str, dict[str, float]]]:
    """Of every row that is carried, by what: its slopes by sign, and under `about` from where."""
    found: dict[tuple[str, str, str], dict[str, dict[str, float]]] = {}
    if not folder.joinpath("carried.csv").is_file():
        return found
    for row in rows_of(folder, "carried.csv"):
        key = row.pop("device"), row.pop("fault"), row.pop("severity")
        by = row.pop("by")
        step = 1.0 if by == "SEER" else degrees_f(1)
        about = float(row.pop("about")) * step
        slopes = {s: float(cell) * scale_of(s) / step for s, cell in row.items() if cell}
        found.setdefault(key, {})[by] = slopes | {"about": about}
    return found


def _carried(row: Signature, by: Mapping[str, Mapping[str, float]]) -> Signature:
    if not by:
        return row
    outdoors, house, seer = (by[name] for name in CARRIED_BY)
    return replace(
        row,
        carried=MappingProxyType(
            {sign: (outdoors[sign], house[sign], seer[sign]) for sign in row.moves}
        ),
        about=(outdoors["about"], house["about"], seer["about"]),
    )


def _with_directions(rows: list[Signature]) -> tuple[Signature, ...]:
    steps = {(row.variant, row.severity): row for row in rows}
    found = []
    for row in rows:
        here = SEVERITIES.index(row.severity) if row.severity else 0
        near = [steps.get((row.variant, name)) for name in SEVERITIES]
        lower, upper = near[max(here - 1, 0)] or row, near[min(here + 1, 2)] or row
        span = (
            SEVERITIES.index(upper.severity) - SEVERITIES.index(lower.severity)
            if (lower is not upper)
            else 0
        )
        along = {
            sign: (upper.moves[sign][0] - lower.moves[sign][0]) / span
            for sign in row.moves
            if span and sign in upper.moves and sign in lower.moves
        }
        found.append(replace(row, along=MappingProxyType(along)))
    return tuple(found)


def read_correlations(folder: Traversable) -> dict[str, dict[tuple[str, str], float]]:
    """How signs move together within a fault, by kind of device; pairs not named do not."""
    found: dict[str, dict[tuple[str, str], float]] = {feed: {} for feed in FEEDS}
    for row in rows_of(folder, "together.csv"):
        pair = row["sign"], row["with"]
        for key in (pair, pair[::-1]):
            found[row["device"]][key] = float(row["correlation"])
    return found
