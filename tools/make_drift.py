"""Makes the table of drift from the simulated plant: `python -m tools.make_drift`.

Every system is met twice, in two weathers, each time by instruments with new errors. Where
nothing happened in between, what its signs moved is the noise a drift must stand out from;
where something did, the mean of what they moved is its signature. Numbers 2000 on, apart from
those of `tools.drift_study`. In cooling they are the plant as it ships, ordinary and strange; in
heating, where a valve's superheat wanders by its law, its cousins as well.
"""

import csv
import sys
from collections.abc import Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from random import Random
from statistics import fmean

from nudge.core.behaviours.behaviour import Behaviour
from nudge.core.behaviours.case import Context, open_case
from nudge.core.behaviours.rows import BEHAVIOURS
from nudge.core.drift.drift import LIKE_OUTDOORS_K
from nudge.core.expectations.by_kind import signs_of
from nudge.core.judgement.departures import departures
from nudge.core.language.errors import CoreError
from nudge.core.language.units import atmospheric_kpa
from nudge.core.language.vocabulary.accuracy import accuracy_of
from nudge.plant.circuit import NoOperatingPoint
from nudge.plant.faults import Present, spoiled
from nudge.plant.machine import Conditions
from nudge.plant.steady import steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import air_of
from tools.cousins import FAMILIES
from tools.drive import ROOT
from tools.gather import SWEPT
from tools.sweep import NOT_READ, STRANGE_SPREAD, USUAL_SPREAD, Site, site
from tools.winter import READ_IN_HEATING, pump

TABLES = ROOT / "nudge/core/drift/tables"
SYSTEMS, FROM = 90, 2000
COOLED_HOUSE, SUMMER_DAY = ((22.3, 27.0), (42.0, 58.0)), ((24.0, 37.0), (30.0, 60.0))
HEATED_HOUSE, WINTER_DAY = ((19.0, 23.0), (25.0, 50.0)), ((-8.0, 14.0), (45.0, 92.0))
"""Between which air and humidity two visits lie [°C, %]."""
BIAS, NOISE = 0.30, 0.08
"""Of an instrument's limit: off for a whole visit, and from one settled reading to the next."""
HEATED = {
    f"{family}/{strange}heating": (family, spread)
    for strange, spread in (("", USUAL_SPREAD), ("strange ", STRANGE_SPREAD))
    for family in FAMILIES
}
"""Kinds of heat pump met in their winter: a family, and how far its constants are off."""
CAUSES: Mapping[str, tuple[Present, ...]] = {
    "charge_lost": (),
    "charge_over": (),
    "condenser_fouls": (Present("condenser_dirt", 0.35),),
    "condenser_fan_slows": (Present("condenser_fan", 0.35),),
    "indoor_air_falls": (Present("filter_dirty", 0.5),),
    "indoor_coil_fouls": (Present("evaporator_dirt", 0.5),),
    "liquid_line_chokes": (Present("drier_restricted", 0.5),),
    "compressor_wears": (Present("compressor_worn", 0.4),),
    "metering_starves": (Present("metering_underfeed", 0.4),),
}
CHARGE = {"charge_lost": 0.90, "charge_over": 1.10}
FAR = {"charge_lost": 0.75}
"""Charge left where a second row of the same cause is wanted: a little gone moves subcooling
alone, much of it gone opens the valve and moves superheat too, which no share of the first does."""


def met(
    of: Site,
    rng: Random,
    faults: Sequence[Present] = (),
    charge: float = 1.0,
    exact: bool = False,
    kind: Behaviour = BEHAVIOURS["cooling"],
    around_c: float | None = None,
) -> dict[str, float]:
    """One visit: every sign's departure from what is expected in that weather, any of its season's
    or one within half of what counts as like weather of `around_c`.
    """
    kpa = atmospheric_kpa(of.plate.elevation_m)
    heats = kind.roles.heats
    house, day = (HEATED_HOUSE, WINTER_DAY) if heats else (COOLED_HOUSE, SUMMER_DAY)
    if around_c is not None:
        half = LIKE_OUTDOORS_K[kind.key] / 2
        day = ((around_c - half, around_c + half), day[1])
    held = Conditions(
        air_of(rng.uniform(*house[0]), rng.uniform(*house[1]), kpa),
        air_of(rng.uniform(*day[0]), rng.uniform(*day[1]), kpa),
        of.right_kg * charge,
        heating=heats,
    )
    truth = running_truth(steady(*spoiled(of.machine, held, list(faults))))
    read = {}
    for point, value in truth.items():
        if point not in (READ_IN_HEATING if heats else NOT_READ):
            limit = 0.0 if exact else accuracy_of(point).limit(value)
            read[point] = value + rng.gauss(0, BIAS * limit) + rng.gauss(0, NOISE * limit)
    found = departures(open_case(of.plate, read, Context(mode=kind.mode), kind))
    return {key: one.off for key, one in found.items() if not one.sign.is_weather}


def moved(job: tuple[str, int, str, float]) -> dict[str, float] | None:
    """What the signs of one system moved from one visit to the next, with the share of charge
    left at the later one; None where it cannot run."""
    name, number, cause, left = job
    rng = Random(f"drift {name} {number} {cause}")
    kind = BEHAVIOURS["heating" if name in HEATED else "cooling"]
    try:
        of = pump(number, *HEATED[name]) if name in HEATED else site(number, name)
        kept = rng.uniform(0.97, 1.03)
        exact = bool(cause)
        around_c = rng.uniform(*WINTER_DAY[0]) if kind.key in LIKE_OUTDOORS_K else None
        before = met(of, rng, (), kept, exact, kind, around_c)
        now = met(of, rng, CAUSES.get(cause, ()), kept * left, exact, kind, around_c)
    except (NoOperatingPoint, CoreError, ValueError, ArithmeticError):
        return None
    return {key: now[key] - before[key] for key in now.keys() & before.keys()}


def main() -> None:
    with ProcessPoolExecutor() as pool:
        kinds = {device: (device, f"strange {device}") for device in ("valve", "orifice")}
        _write(pool, "cooling", kinds)
        _write(pool, "heating", {"valve": tuple(HEATED)})


def heated_without(family: str) -> Path:
    """A folder with the table of heating made from all families but one; made now if it never
    was.
    """
    folder = SWEPT / "drift" / f"without-{family}"
    if not folder.exists():
        folder.mkdir(parents=True)
        kinds = tuple(name for name, (of, _) in HEATED.items() if of != family)
        with ProcessPoolExecutor() as pool:
            _write(pool, "heating", {"valve": kinds}, folder)
    return folder


def _write(
    pool: ProcessPoolExecutor,
    kind: str,
    devices: Mapping[str, Sequence[str]],
    folder: Path = TABLES,
) -> None:
    """The table of a kind of plant, a block a device."""
    keys = [sign.key for sign in signs_of(BEHAVIOURS[kind]).values() if not sign.is_weather]
    rows: list[list[object]] = []
    for device, kinds in devices.items():
        jobs = [(kinds[n % len(kinds)], FROM + n, "", 1.0) for n in range(3 * SYSTEMS)]
        healthy = [one for one in pool.map(moved, jobs, chunksize=8) if one]
        for key in keys:
            rows.append([device, "", key, *(_together(healthy, key, other) for other in keys)])
        shapes = [(cause, CHARGE.get(cause, 1.0)) for cause in CAUSES]
        for cause, left in (*shapes, *FAR.items()):
            jobs = [(kinds[n % len(kinds)], FROM + n, cause, left) for n in range(SYSTEMS)]
            found = [one for one in pool.map(moved, jobs, chunksize=8) if one]
            rows.append([device, cause, "", *(_mean(found, key) for key in keys)])
    table = folder / f"{kind}.csv"
    with table.open("w", encoding="utf-8", newline="") as file:
        file.write(
            "# Made by tools/make_drift.py from the simulated plant. Core units: K, or %.\n"
            "# Rows with a sign: how it and the others move together where nothing "
            "happened. With a cause: what it moves.\n"
        )
        out = csv.writer(file, lineterminator="\n")
        out.writerow(["device", "cause", "sign", *keys])
        out.writerows(rows)
    print(f"written to {table}", file=sys.stderr)


def _together(found: Sequence[Mapping[str, float]], one: str, other: str) -> str:
    pairs = [(row[one], row[other]) for row in found if one in row and other in row]
    if len(pairs) < 10:
        return ""
    ends = sorted(abs(a) for a, _ in pairs)
    cap = 4 * ends[len(ends) // 2] + 1e-9
    kept = [(a, b) for a, b in pairs if abs(a) < cap]
    return f"{fmean(a * b for a, b in kept):.4g}"


def _mean(found: Sequence[Mapping[str, float]], key: str) -> str:
    values = sorted(row[key] for row in found if key in row)
    if len(values) < 10:
        return ""
    cut = len(values) // 10
    return f"{fmean(values[cut : len(values) - cut]):.4g}"


if __name__ == "__main__":
    main()
