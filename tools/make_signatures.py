"""Makes the judge's table from the simulated plant: `python -m tools.make_signatures`.

Sweeps every fault at every severity over many systems and weathers, read by instruments with
their errors; then the rows of `core/judgement/trade_marks.py` correct it where trade knowledge
knows better. Its seeds (sites 0 to 69) are not those of `tools.judge_study` (from 1000 on).
"""

import csv
import sys
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from itertools import combinations, pairwise
from random import Random

import numpy as np

from nudge.core.circuit.case import Context, open_case
from nudge.core.errors import CoreError
from nudge.core.judgement.departures import (
    RATED_OUTDOOR_C,
    RATED_WET_BULB_C,
    SIGNS,
    departures,
    held_outdoor,
    held_seer,
    held_wet_bulb,
)
from nudge.core.judgement.pairs import PAIRS
from nudge.core.judgement.signatures import DEVICES, SEVERITIES, Expectation, scale_of
from nudge.core.judgement.trade_marks import TRADE_MARKS
from nudge.core.plant.faults import FAULTS, Present
from nudge.core.targets.condensing import DEFAULT_SEER
from nudge.core.vocabulary.equipment import Plate
from tools.drive import ROOT
from tools.sweep import STEADY_FAULTS, may_have, read, site, swept
from tools.troubles_at_rest import PROBE_TROUBLES

TABLES = ROOT / "nudge/core/judgement/tables"
SITES, SPREAD = 70, 0.28
"""Its systems vary more than most do, so that the table holds for those it has not met."""
HEALTHY, CASES, PAIRED, TROUBLED = 500, 60, 60, 60
BANDS = dict(zip(SEVERITIES, pairwise((0.15, 0.4, 0.7, 1.0)), strict=True))
LEAST_CASES = 8
"""Nodes the plant reached fewer times than this are left out: it does not run like that."""
WIDER = 1.1
"""Real systems differ more than a lumped plant's: its spreads are widened by this."""
LEAST_SPREAD = 0.4
"""No sign is surer than this [°F or %]."""
WORTH_KEEPING, SHRUNK = 0.12, 0.85
"""Correlations are drawn a little towards none: real systems obey the plant's less closely."""
CHARGE, LEAST_CHARGE_FAULT = ("undercharge", "overcharge"), 0.08
"""A charge fault is worth naming from 4 % on: sooner than others show."""
ZERO: Mapping[str, Expectation] = defaultdict(lambda: Expectation(0.0, 0.0, 0.0))


@dataclass(frozen=True)
class Job:
    """One node to sweep: what is wrong (faults, or one bad probe) and how badly."""

    device: str
    suspects: tuple[str, ...]
    variant: str
    severity: str
    faults: tuple[str, ...]
    trouble: str
    cases: int


@dataclass(frozen=True)
class Seen:
    """One swept case: the weather as read, and every sign less its base."""

    job: Job
    outdoor_k: float
    wet_bulb_k: float
    over_seer: float
    offs: Mapping[str, float]


def jobs() -> Iterator[Job]:
    """Every node of the table."""
    for device in DEVICES:
        yield Job(device, ("none",), "none", "", (), "", HEALTHY)
        for fault in STEADY_FAULTS:
            for severity in SEVERITIES:
                yield Job(device, (FAULTS[fault].suspect,), fault, severity, (fault,), "", CASES)
        for pair in PAIRS:
            suspects = tuple(FAULTS[f].suspect for f in pair.faults)
            yield Job(device, suspects, "+".join(pair.faults), "moderate", pair.faults, "", PAIRED)
        for trouble in PROBE_TROUBLES:
            yield Job(device, ("sensor_suspect",), trouble, "moderate", (), trouble, TROUBLED)


def sweep(job: Job) -> list[Seen]:
    """All cases of one node, as far as the plant runs like that."""
    rng = Random(f"{job}")
    low, high = BANDS[job.severity or "moderate"] if len(job.faults) < 2 else (0.35, 0.95)
    if job.variant in CHARGE and job.severity == "mild":
        low = LEAST_CHARGE_FAULT
    found: list[Seen] = []
    for _ in range(3 * job.cases):
        if len(found) >= job.cases:
            break
        of = site(rng.randrange(SITES), job.device, SPREAD)
        if not all(may_have(of, fault) for fault in job.faults):
            continue
        case = swept(of, [Present(f, rng.uniform(low, high)) for f in job.faults], rng)
        if case is None:
            continue
        readings = read(case, rng)
        if job.trouble:
            PROBE_TROUBLES[job.trouble](readings, rng.uniform(0.2, 1.0), rng)
        try:
            opened = open_case(of.plate, readings, Context())
        except CoreError:
            continue
        offs = {key: d.off for key, d in departures(opened, ZERO).items()}
        offs |= _in_place(opened.readings, of.plate)
        found.append(
            Seen(job, readings["outdoor_air_temp"] - RATED_OUTDOOR_C,
                 readings["return_air_wet_bulb"] - RATED_WET_BULB_C,
                 held_seer(of.plate.rated_seer or DEFAULT_SEER), offs)
        )  # fmt: skip
    return found


def _in_place(readings: Mapping[str, float], plate: Plate) -> dict[str, float]:
    """The signs that only count while a better one is missing: swept by leaving readings out."""
    more: dict[str, float] = {}
    for sign in SIGNS.values():
        if not sign.in_place_of:
            continue
        hidden = set(SIGNS[sign.in_place_of].points) - set(sign.points)
        if sign.key == "boiling":
            hidden = {"return_air_temp"}
        left = {point: value for point, value in readings.items() if point not in hidden}
        opened = open_case(plate, left, Context())
        found = departures(opened, ZERO).get(sign.key)
        if found is not None:
            more[sign.key] = found.off
    return more


def expectations(seen: Sequence[Seen]) -> dict[str, Expectation]:
    """What healthy systems show, straight in outdoor air, wet bulb and class, by least squares."""
    healthy = [s for s in seen if s.job.variant == "none"]
    found = {}
    for sign in SIGNS:
        rows = [s for s in healthy if sign in s.offs]
        if not rows or SIGNS[sign].is_weather:
            found[sign] = Expectation(0.0, 0.0, 0.0)
            continue
        weather = np.array([[1.0, s.outdoor_k, s.wet_bulb_k, s.over_seer] for s in rows])
        fit, *_ = np.linalg.lstsq(weather, np.array([s.offs[sign] for s in rows]), rcond=None)
        found[sign] = Expectation(*(float(v) for v in fit))
    return found


def residual(one: Seen, expected: Mapping[str, Expectation]) -> dict[str, float]:
    """A case's departures once the weather is taken out."""
    return {
        sign: off - expected[sign].base - expected[sign].per_outdoor * held_outdoor(one.outdoor_k)
        - expected[sign].per_wet_bulb * held_wet_bulb(one.wet_bulb_k)
        - expected[sign].per_seer * one.over_seer
        for sign, off in one.offs.items()
    }  # fmt: skip


def collect() -> list[Seen]:
    with ProcessPoolExecutor() as pool:
        return [s for some in pool.map(sweep, list(jobs()), chunksize=2) for s in some]


def nodes(
    seen: Sequence[Seen], expected: Mapping[str, Expectation]
) -> dict[Job, list[dict[str, float]]]:
    """Every node's cases as departures; nodes the plant hardly reached are left out."""
    found: dict[Job, list[dict[str, float]]] = defaultdict(list)
    for one in seen:
        found[one.job].append(residual(one, expected))
    return {job: rows for job, rows in found.items() if len(rows) >= LEAST_CASES}


def spread(values: Sequence[float], sign: str) -> tuple[float, float]:
    """Middle and widened standard deviation of a sign over a node's cases."""
    wide = float(np.std(values, ddof=1)) * WIDER
    return float(np.mean(values)), max(wide, LEAST_SPREAD * scale_of(sign))


def correlations(
    found: Mapping[Job, list[dict[str, float]]],
) -> Iterator[tuple[str, str, float]]:
    """Which signs move together within a node, pooled over all nodes of one device."""
    pooled: dict[tuple[str, str], list[tuple[float, float]]] = defaultdict(list)
    for rows in found.values():
        keys = [key for key in SIGNS if sum(key in row for row in rows) >= LEAST_CASES]
        at = {key: spread([row[key] for row in rows if key in row], key) for key in keys}
        for row in rows:
            z = {k: (row[k] - at[k][0]) / at[k][1] for k in keys if k in row}
            for one, other in combinations(sorted(z), 2):
                pooled[one, other].append((z[one], z[other]))
    for (one, other), pairs in sorted(pooled.items()):
        if SIGNS[one].in_place_of == other or SIGNS[other].in_place_of == one:
            continue
        value = float(np.corrcoef(np.array(pairs).T)[0, 1])
        if abs(value) >= WORTH_KEEPING:
            yield one, other, value


def write(seen: Sequence[Seen]) -> None:
    """The three files beside the judge."""
    header = (
        f"# Made by tools/make_signatures.py from {len(seen)} simulated cases. Temperatures °F."
    )
    with (
        (TABLES / "expectations.csv").open("w", encoding="utf-8", newline="") as first,
        (TABLES / "signatures.csv").open("w", encoding="utf-8", newline="") as second,
        (TABLES / "together.csv").open("w", encoding="utf-8", newline="") as third,
    ):
        healthy, moves, jointly = (
            csv.writer(f, lineterminator="\n") for f in (first, second, third)
        )
        for file in (first, second, third):
            file.write(header + "\n")
        healthy.writerow(["device", "sign", "base", "per °F outdoors", "per °F wet bulb",
                          "per SEER"])  # fmt: skip
        moves.writerow(["device", "suspect", "fault", "severity", "cases", *SIGNS])
        jointly.writerow(["device", "sign", "with", "correlation"])
        for device in DEVICES:
            here = [s for s in seen if s.job.device == device]
            expected = expectations(here)
            for sign, row in expected.items():
                unit = scale_of(sign)
                healthy.writerow([device, sign, f"{row.base / unit:.2f}",
                                  f"{row.per_outdoor / unit / 1.8:.3f}",
                                  f"{row.per_wet_bulb / unit / 1.8:.3f}",
                                  f"{row.per_seer / unit:.3f}"])  # fmt: skip
            found = nodes(here, expected)
            for job, rows in found.items():
                cells = dict(_cells(device, job, rows))
                moves.writerow([device, "+".join(job.suspects), job.variant, job.severity,
                                len(rows), *(cells.get(sign, "") for sign in SIGNS)])  # fmt: skip
            for one, other, value in correlations(found):
                jointly.writerow([device, one, other, f"{SHRUNK * value:.2f}"])


def _cells(device: str, job: Job, rows: list[dict[str, float]]) -> Iterator[tuple[str, str]]:
    for sign in SIGNS:
        values = [row[sign] for row in rows if sign in row]
        if len(values) < LEAST_CASES:
            continue
        middle, wide = (v / scale_of(sign) for v in spread(values, sign))
        for mark in TRADE_MARKS:
            here = (mark.device, mark.fault, mark.sign) == (device, job.variant, sign)
            if here and mark.severity in ("", job.severity):
                middle, wide = mark.middle_f, mark.spread_f
        yield sign, f"{middle:.1f}±{wide:.1f}"


if __name__ == "__main__":
    write(collect())
    print(f"written to {TABLES}", file=sys.stderr)
