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

from nudge.core.behaviours.behaviour import Mode
from nudge.core.judgement.pairs import PAIRS
from nudge.core.judgement.signatures import SEVERITIES
from nudge.core.physics.circuit.equipment import FEEDS, Plate
from nudge.plant.faults import FAULTS, Present
from tools.drive import ROOT
from tools.sweep import STEADY_FAULTS, may_have, read, site, swept
from tools.troubles_at_rest import HEATING_TROUBLES, PROBE_TROUBLES
from tools.winter import (
    WINTER_FAULTS,
    may_have_in_winter,
    pump,
    read_in_winter,
    swept_in_winter,
)

SWEPT = ROOT / "build/sweep"
SPREAD = 0.28
"""Its systems vary more than most do, so that the table holds for those it has not met."""
BANDS = dict(zip(SEVERITIES, pairwise((0.15, 0.4, 0.7, 1.0)), strict=True))
PAIR_BAND = (0.35, 0.95)
CHARGE, LEAST_CHARGE_FAULT = ("undercharge", "overcharge"), 0.08
"""A charge fault is worth naming from 4 % on: sooner than others show."""


@dataclass(frozen=True, slots=True)
class Size:
    """How much of a family is swept: systems of each device, and cases a node."""

    sites: int
    healthy: int
    cases: int
    paired: int


SIZES: Mapping[str, Size] = {"home": Size(70, 500, 60, 60)}
COUSIN = Size(40, 260, 34, 30)


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
    mode: Mode = field(default="cooling", repr=False)
    """Not in its name: the seeds of what was swept before there were modes stay."""


@dataclass(frozen=True)
class Case:
    """One swept case as its instruments read it, and how bad its fault is [0 to 1]."""

    job: Job
    plate: Plate
    readings: Mapping[str, float]
    severity: float


def jobs(family: str, mode: Mode = "cooling") -> Iterator[Job]:
    """Every node of the table of a mode."""
    size, heats = SIZES.get(family, COUSIN), mode == "heating"
    for device in ("valve",) if heats else FEEDS:
        yield Job(family, device, ("none",), "none", "", (), "", size.healthy, mode)
        for fault in WINTER_FAULTS if heats else STEADY_FAULTS:
            for severity in SEVERITIES:
                yield Job(
                    family,
                    device,
                    (FAULTS[fault].suspect,),
                    fault,
                    severity,
                    (fault,),
                    "",
                    size.cases,
                    mode,
                )
        for pair in () if heats else PAIRS:
            suspects = tuple(FAULTS[f].suspect for f in pair.faults)
            yield Job(
                family,
                device,
                suspects,
                "+".join(pair.faults),
                "moderate",
                pair.faults,
                "",
                size.paired,
            )
        for trouble in HEATING_TROUBLES if heats else PROBE_TROUBLES:
            yield Job(
                family,
                device,
                ("sensor_suspect",),
                trouble,
                "moderate",
                (),
                trouble,
                size.paired,
                mode,
            )


def sweep(job: Job) -> list[Case]:
    """All cases of one node, as far as the plant runs like that."""
    rng = Random(f"{job}")
    low, high = BANDS[job.severity or "moderate"] if len(job.faults) < 2 else PAIR_BAND
    if job.variant in CHARGE and job.severity == "mild":
        low = LEAST_CHARGE_FAULT
    found: list[Case] = []
    sites = SIZES.get(job.family, COUSIN).sites
    for _ in range(3 * job.cases):
        if len(found) >= job.cases:
            break
        heats, number = job.mode == "heating", rng.randrange(sites)
        if heats:
            of = pump(number, job.family, SPREAD)
        else:
            of = site(number, f"{job.family}/{job.device}", SPREAD)
        may = may_have_in_winter if heats else may_have
        if not all(may(of, fault) for fault in job.faults):
            continue
        present = [Present(f, rng.uniform(low, high)) for f in job.faults]
        case = swept_in_winter(of, present, rng) if heats else swept(of, present, rng)
        if case is None:
            continue
        readings = read_in_winter(case, rng) if heats else read(case, rng)
        if job.trouble:
            troubles = HEATING_TROUBLES if heats else PROBE_TROUBLES
            troubles[job.trouble](readings, rng.uniform(0.2, 1.0), rng)
        found.append(Case(job, of.plate, readings, present[0].severity if present else 0.0))
    return found


def _kept(family: str, mode: Mode) -> Path:
    return SWEPT / (f"{family}.pickle" if mode == "cooling" else f"{family}-{mode}.pickle")


def gather(family: str, mode: Mode = "cooling") -> Path:
    """Sweep a family in a mode and keep it."""
    SWEPT.mkdir(parents=True, exist_ok=True)
    with ProcessPoolExecutor() as pool:
        found = [c for some in pool.map(sweep, list(jobs(family, mode)), chunksize=2) for c in some]
    file = _kept(family, mode)
    file.write_bytes(pickle.dumps(found))
    print(f"{family}, {mode}: {len(found)} cases", flush=True)
    return file


def gathered(family: str, mode: Mode = "cooling") -> list[Case]:
    """What was swept of a family in a mode; swept now if it never was."""
    file = _kept(family, mode)
    if not file.exists():
        gather(family, mode)
    found: list[Case] = pickle.loads(file.read_bytes())
    return found
