"""Sweeps the simulated plant for the judge's table: every fault, pair and bad probe, as read.

What instruments read on systems of a family of cousins is kept, node by node, under
`build/sweep/`; `tools.make_signatures` makes the tables from it, and `tools.judge_study` tables
without the family it judges on. Systems are numbered from 0 on; those of every study from 1000 on.
"""

import pickle
from collections.abc import Iterator, Mapping
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from itertools import pairwise
from pathlib import Path
from random import Random

from nudge.core.judgement.signatures import SEVERITIES
from nudge.core.physics.circuit.equipment import Plate
from nudge.plant.faults import FAULTS, Present
from tools.drive import ROOT
from tools.ways import WAYS

SWEPT = ROOT / "build/sweep"
SPREAD = 0.28
"""Its systems vary more than most do, so that the table holds for those it has not met."""
BANDS = dict(zip(SEVERITIES, pairwise((0.15, 0.4, 0.7, 1.0)), strict=True))
PAIR_BAND = (0.35, 0.95)
CHARGE, LEAST_CHARGE_FAULT = ("undercharge", "overcharge"), 0.08
"""A charge fault is worth naming from 4 % on: sooner than others show."""


@dataclass(frozen=True)
class Job:
    """One node to sweep: what is wrong (faults, or one bad probe) and how badly."""

    family: str
    device: str
    suspects: tuple[str, ...]
    variant: str
    severity: str
    faults: tuple[str, ...]
    trouble: str
    cases: int
    way: str = field(default="cooling", repr=False)
    """The kind of plant, of `WAYS`. Not in its name: the seeds of what was swept before there were
    several stay."""


@dataclass(frozen=True)
class Case:
    """One swept case as its instruments read it, and how bad its fault is [0 to 1]."""

    job: Job
    plate: Plate
    readings: Mapping[str, float]
    severity: float


def jobs(family: str, way: str = "cooling") -> Iterator[Job]:
    """Every node of the table of a kind of plant."""
    kind = WAYS[way]
    size = kind.size(family)

    for device in kind.devices:

        def job(
            suspects: tuple[str, ...],
            variant: str,
            cases: int,
            severity: str = "moderate",
            faults: tuple[str, ...] = (),
            trouble: str = "",
            device: str = device,
        ) -> Job:
            return Job(family, device, suspects, variant, severity, faults, trouble, cases, way)

        yield job(("none",), "none", size.healthy, severity="")
        for fault in kind.faults:
            for severity in SEVERITIES:
                suspects = (FAULTS[fault].suspect,)
                yield job(suspects, fault, size.cases, severity=severity, faults=(fault,))
        for pair in kind.pairs:
            both = tuple(FAULTS[f].suspect for f in pair.faults)
            yield job(both, "+".join(pair.faults), size.paired, faults=pair.faults)
        for trouble in kind.troubles:
            yield job(("sensor_suspect",), trouble, size.paired, trouble=trouble)


def sweep(job: Job) -> list[Case]:
    """All cases of one node, as far as the plant runs like that."""
    rng = Random(f"{job}")
    low, high = BANDS[job.severity or "moderate"] if len(job.faults) < 2 else PAIR_BAND
    if job.variant in CHARGE and job.severity == "mild":
        low = LEAST_CHARGE_FAULT
    found: list[Case] = []
    way = WAYS[job.way]
    sites = way.size(job.family).sites
    for _ in range(3 * job.cases):
        if len(found) >= job.cases:
            break
        of = way.site(rng.randrange(sites), job.family, job.device, SPREAD)
        if not all(way.may_have(of, fault) for fault in job.faults):
            continue
        present = [Present(f, rng.uniform(low, high)) for f in job.faults]
        case = way.swept(of, present, rng)
        if case is None:
            continue
        readings = way.read(case, rng)
        if job.trouble:
            way.troubles[job.trouble](readings, rng.uniform(0.2, 1.0), rng)
        found.append(Case(job, of.plate, readings, present[0].severity if present else 0.0))
    return found


def _kept(family: str, way: str) -> Path:
    return SWEPT / (f"{family}.pickle" if way == "cooling" else f"{family}-{way}.pickle")


def gather(family: str, way: str = "cooling") -> Path:
    """Sweep a family of a kind of plant and keep it."""
    SWEPT.mkdir(parents=True, exist_ok=True)
    with ProcessPoolExecutor() as pool:
        found = [c for some in pool.map(sweep, list(jobs(family, way)), chunksize=2) for c in some]
    file = _kept(family, way)
    file.write_bytes(pickle.dumps(found))
    print(f"{family}, {way}: {len(found)} cases", flush=True)
    return file


def gathered(family: str, way: str = "cooling") -> list[Case]:
    """What was swept of a family of a kind of plant; swept now if it never was."""
    file = _kept(family, way)
    if not file.exists():
        gather(family, way)
    found: list[Case] = pickle.loads(file.read_bytes())
    return found
