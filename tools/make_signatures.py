"""Makes the judge's tables from what `tools.gather` swept: run by
`make signatures` (`--fresh` sweeps again).

Every fault at every severity over many systems and weathers of every family of cousins, read by
instruments with their errors; then the rows of `core/judgement/trade_marks.py` correct it where
trade knowledge knows better. `tables_without` makes the same from all families but one, for
`tools.judge_study`.
"""

import csv
import sys
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from itertools import combinations, product
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from nudge.core.behaviours.case import Case as Opened
from nudge.core.behaviours.case import Context, open_case
from nudge.core.behaviours.rows import BEHAVIOURS
from nudge.core.expectations.by_kind import signs_of
from nudge.core.expectations.expected import held_house, held_outdoor, held_seer
from nudge.core.expectations.signs import Sign
from nudge.core.expectations.table import Expectation, scale_of
from nudge.core.judgement.departures import departures
from nudge.core.judgement.trade_marks import TRADE_MARKS, TradeMark
from nudge.core.language.errors import CoreError
from nudge.core.physics.circuit.equipment import FEEDS
from nudge.core.targets.condensing import class_seer
from tools.cousins import FAMILIES
from tools.drive import ROOT
from tools.gather import SWEPT, Case, Job, gather, gathered
from tools.swept_rows import LEAST_CASES, Node, Rows, carried_cells
from tools.ways import WAYS

CARRIED = ("cooling",)
"""The kinds of plant whose faults are carried by air and class: those it was measured for."""
SHRUNK, SHRINKS = 0.90, 0.03
"""Correlations are drawn a little towards none: real systems obey a plant's less closely. Where
they still could not be (below), they are drawn further, and it says so."""
LEAST_EIGENVALUE = 0.02
"""Every set of signs that can be read together has a correlation at least this far from singular:
proven here, over all of them, so that nothing is clamped where they are used."""
ZERO: Mapping[str, Expectation] = defaultdict(lambda: Expectation(0.0, 0.0, 0.0))
Array = NDArray[np.float64]


@dataclass(frozen=True)
class Seen:
    """One swept case: its air as read, held as the expectations hold it, and every sign less its
    base."""

    job: Job
    severity: float
    outdoor_k: float
    house_k: float
    over_seer: float
    offs: Mapping[str, float]

    @property
    def node(self) -> tuple[str, tuple[str, ...], str, str]:
        return self.job.device, self.job.suspects, self.job.variant, self.job.severity


def seen_of(case: Case) -> Seen | None:
    """A swept case as its signs; None where its readings cannot be."""
    try:
        opened = open_case(case.plate, case.readings, Context(mode=WAYS[case.job.way].mode))
    except CoreError:
        return None
    offs = {key: d.off for key, d in departures(opened, ZERO).items()}
    offs |= _in_place(opened)
    rated = opened.behaviour.rated_air
    return Seen(
        case.job,
        case.severity,
        held_outdoor(rated, case.readings["outdoor_air_temp"]),
        held_house(rated, case.readings[rated.house_point]),
        held_seer(class_seer(case.plate)),
        offs,
    )


def _in_place(case: Opened) -> dict[str, float]:
    """The signs that only count while a better one is missing: swept by leaving readings out."""
    more: dict[str, float] = {}
    signs = signs_of(case.behaviour)
    for sign in signs.values():
        if not sign.in_place_of:
            continue
        hidden = set(signs[sign.in_place_of].points) - set(sign.points)
        if sign.key == "boiling":
            hidden = {"return_air_temp"}
        left = {point: value for point, value in case.readings.items() if point not in hidden}
        found = departures(open_case(case.plate, left, case.context), ZERO).get(sign.key)
        if found is not None:
            more[sign.key] = found.off
    return more


def signs_in(way: str) -> Mapping[str, Sign]:
    """The signs of a kind of plant, in the order of its tables."""
    return signs_of(BEHAVIOURS[way])


def all_seen(families: Sequence[str], way: str = "cooling") -> list[Seen]:
    """Every swept case of some families of a kind of plant."""
    cases = [case for family in families for case in gathered(family, way)]
    with ProcessPoolExecutor() as pool:
        found = pool.map(seen_of, cases, chunksize=200)
        return [seen for seen in found if seen is not None]


def expectations(seen: Sequence[Seen]) -> dict[str, Expectation]:
    """What healthy systems show, straight in outdoor air, wet bulb and class, by least squares,
    and how far they are from it (1 σ).
    """
    healthy = [s for s in seen if s.job.variant == "none"]
    found = {}
    for sign, row in signs_in(seen[0].job.way).items():
        rows = [s for s in healthy if sign in s.offs]
        if not rows or row.is_weather:
            found[sign] = Expectation(0.0, 0.0, 0.0)
            continue
        weather = np.array([[1.0, s.outdoor_k, s.house_k, s.over_seer] for s in rows])
        values = np.array([s.offs[sign] for s in rows])
        fit, *_ = np.linalg.lstsq(weather, values, rcond=None)
        sigma = float(np.std(values - weather @ fit, ddof=4))
        base, outdoor, house, seer = (float(v) for v in fit)
        found[sign] = Expectation(base, outdoor, house, seer, sigma=sigma)
    return found


def residual(one: Seen, expected: Mapping[str, Expectation]) -> dict[str, float]:
    """A case's departures once the weather is taken out."""
    return {
        sign: off
        - expected[sign].base
        - expected[sign].per_outdoor * one.outdoor_k
        - expected[sign].per_house * one.house_k
        - expected[sign].per_seer * one.over_seer
        for sign, off in one.offs.items()
    }


def nodes(seen: Sequence[Seen], expected: Mapping[str, Expectation]) -> dict[Node, Rows]:
    """Every node's cases as departures; nodes the plant hardly reached are left out."""
    signs, is_carried = signs_in(seen[0].job.way), seen[0].job.way in CARRIED
    carried = [key for key, sign in signs.items() if is_carried and not sign.is_weather]
    found: dict[Node, Rows] = defaultdict(lambda: Rows(tuple(signs), carried))
    for one in seen:
        rows = found[one.node]
        rows.departures.append(residual(one, expected))
        rows.severities.append(one.severity)
        rows.airs.append((one.outdoor_k, one.house_k, one.over_seer))
    return {node: rows for node, rows in found.items() if len(rows.departures) >= LEAST_CASES}


def correlations(
    found: Mapping[Node, Rows], signs: Mapping[str, Sign]
) -> dict[tuple[str, str], float]:
    """How signs move together within a node, pooled over all nodes of one device; proven to be
    possible for every set of signs that can be read together. A sign and the one that stands in for
    it are never read together: what they share tells what reading the better one would add.
    """
    if not found:
        return {}
    z = np.concatenate([rows.standard() for rows in found.values()])
    there = ~np.isnan(z)
    value = np.where(there, z, 0.0)
    count = np.maximum(there.T.astype(float) @ there, 1.0)
    mean = (value.T @ there) / count
    squared = ((value**2).T @ there) / count - mean**2
    covariance = (value.T @ value) / count - mean * mean.T
    spread = np.sqrt(np.maximum(squared * squared.T, 1e-12))
    raw = {}
    for (i, one), (j, other) in combinations(enumerate(signs), 2):
        if count[i, j] >= LEAST_CASES:
            raw[min(one, other), max(one, other)] = float(covariance[i, j] / spread[i, j])
    share = SHRUNK
    while (least := min(_least_eigenvalues(raw, share, signs))) < LEAST_EIGENVALUE:
        share -= SHRINKS
        print(f"least eigenvalue {least:.3f}: correlations drawn to {share:.2f}", file=sys.stderr)
    return {pair: share * value for pair, value in sorted(raw.items())}


def _least_eigenvalues(
    raw: Mapping[tuple[str, str], float], share: float, signs: Mapping[str, Sign]
) -> Iterator[float]:
    """Of every largest set of signs that can be read together."""
    better = [(sign.key, sign.in_place_of) for sign in signs.values() if sign.in_place_of]
    for chosen in product(*better):
        left = {key for pair in better for key in pair} - set(chosen)
        kept = [key for key in signs if key not in left]
        matrix = np.eye(len(kept))
        for i, j in combinations(range(len(kept)), 2):
            one, other = sorted((kept[i], kept[j]))
            matrix[i, j] = matrix[j, i] = share * raw.get((one, other), 0.0)
        yield float(np.linalg.eigvalsh(matrix)[0])


def write(seen: Sequence[Seen], folder: Path) -> None:
    """The files, from some cases."""
    signs = signs_in(seen[0].job.way)
    families = ", ".join(key for key in FAMILIES if any(s.job.family == key for s in seen))
    header = (
        f"# Made by tools/make_signatures.py from {len(seen)} simulated cases. "
        f"Temperatures °F. Families: {families}.\n"
    )
    tables: dict[str, list[list[str]]] = {
        "expectations.csv": [
            ["device", "sign", "base", "per °F outdoors", "per °F indoors", "per SEER", "±"]
        ],
        "signatures.csv": [["device", "suspect", "fault", "severity", "cases", *signs]],
        "carried.csv": [["device", "fault", "severity", "by", "about", *signs]],
        "together.csv": [["device", "sign", "with", "correlation"]],
    }
    for device in FEEDS:
        here = [s for s in seen if s.job.device == device]
        if not here:
            continue
        expected = expectations(here)
        tables["expectations.csv"] += [[device, *row] for row in _healthy(expected)]
        found = nodes(here, expected)
        for node, rows in found.items():
            _, suspects, variant, severity = node
            cells, count = dict(_cells(node, rows)), str(len(rows.departures))
            line = [device, "+".join(suspects), variant, severity, count]
            tables["signatures.csv"].append([*line, *(cells.get(sign, "") for sign in signs)])
            flat = [mark.sign for mark in _marks(node, rows)]
            tables["carried.csv"] += carried_cells(found, node, flat)
        for (one, other), value in correlations(found, signs).items():
            tables["together.csv"].append([device, one, other, f"{value:.3f}"])
    for name, lines in tables.items():
        if len(lines) > 1:
            with (folder / name).open("w", encoding="utf-8", newline="") as file:
                file.write(header)
                csv.writer(file, lineterminator="\n").writerows(lines)


def _healthy(expected: Mapping[str, Expectation]) -> Iterator[list[str]]:
    """Every expectation as a row of its file, in the units of the file."""
    for sign, row in expected.items():
        unit = scale_of(sign)
        yield [
            sign,
            f"{row.base / unit:.2f}",
            f"{row.per_outdoor / unit / 1.8:.3f}",
            f"{row.per_house / unit / 1.8:.3f}",
            f"{row.per_seer / unit:.3f}",
            f"{row.sigma / unit:.1f}",
        ]


def _cells(node: Node, rows: Rows) -> Iterator[tuple[str, str]]:
    for sign in rows.signs:
        found = rows.fit(sign)
        if found is None:
            continue
        middle, wide = (v / scale_of(sign) for v in found[:2])
        for mark in _marks(node, rows):
            if mark.sign == sign:
                middle, wide = mark.middle_f, mark.spread_f
        yield sign, f"{middle:.1f}±{wide:.1f}"


def _marks(node: Node, rows: Rows) -> list[TradeMark]:
    """What the trade knows better of a node."""
    device, _, variant, severity = node
    return [
        mark
        for mark in (TRADE_MARKS if "temperature_split" in rows.signs else ())
        if (mark.device, mark.fault) == (device, variant) and mark.severity in ("", severity)
    ]


def tables_without(family: str, seen: Sequence[Seen]) -> Path:
    """The tables made from all families but one, in a folder of their own."""
    folder = folder_without(family, seen[0].job.way)
    folder.mkdir(parents=True, exist_ok=True)
    write([one for one in seen if one.job.family != family], folder)
    return folder


def folder_without(family: str, way: str = "cooling") -> Path:
    """Where the tables made without a family are kept."""
    return SWEPT / ("" if way == "cooling" else way) / f"without-{family}"


def main(*arguments: str) -> None:
    for way in [name for name in WAYS if name in arguments] or WAYS:
        if "--fresh" in arguments:
            for name in FAMILIES:
                gather(name, way)
        folder = ROOT / f"nudge/core/behaviours/tables/{way}"
        folder.mkdir(exist_ok=True)
        write(all_seen(tuple(FAMILIES), way), folder)


if __name__ == "__main__":
    main(*sys.argv[1:])
