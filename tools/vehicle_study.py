"""Vehicles after a repair on the plant: what three tests pass, and what they never may.

`python -m tools.vehicle_study [CASES]`: charge from 40 to 125 %, valve open or starved, half a fan,
a clutch that slips, humidity from 10 to 60 %, engine speed, sun; read by instruments with their
errors. Another pass leaves readings out: no verdict may come from fewer than three tests.
"""

import sys
from collections import Counter, defaultdict
from collections.abc import Mapping
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from functools import cache
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.judgement.assess import assess
from nudge.core.physics.circuit.equipment import Application, MeteringDevice, Plate
from nudge.core.physics.vehicle.three_tests import FRONT, POINTS, three_tests
from nudge.plant.circuit import NoOperatingPoint
from nudge.plant.faults import Present, spoiled
from nudge.plant.machine import Conditions, Machine
from nudge.plant.presets import preset
from nudge.plant.sizing import sized
from nudge.plant.steady import steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import WetAir, air_of
from tools.cousins import FAMILIES
from tools.sweep import read_points, varied

CASES, VEHICLES, SPREAD = 200, 24, 0.12
OUTDOORS_C, HUMIDITY = (27.0, 41.0), (10.0, 60.0)
SUN_K, SPEED = (0.0, 4.0), (0.85, 1.4)
READ = (*POINTS, *FRONT.points, "outdoor_air_temp")
KINDS: Mapping[str, tuple[tuple[float, float], tuple[Present, ...]]] = {
    "healthy": ((0.97, 1.03), ()),
    "a tenth to a third short": ((0.67, 0.90), ()),
    "45 % short or more": ((0.40, 0.55), ()),
    "over by a fifth or more": ((1.20, 1.25), ()),
    "valve stuck open": ((0.97, 1.03), (Present("metering_overfeed", 1.0),)),
    "valve starved": ((0.97, 1.03), (Present("metering_underfeed", 0.6),)),
    "half a fan": ((0.97, 1.03), (Present("condenser_fan", 0.7),)),
    "clutch slips": ((0.97, 1.03), ()),
}
"""By what is wrong: the charge [of the right one], and what else is spoiled."""
SLIPS = 0.35
VERDICTS = frozenset(
    f"vehicle_{key}" for key in ("starved", "overfed", "hot", "idle", "warm", "passes")
)
CAVEAT = "Only weighing tells"
READY = frozenset({"vehicle_ready"})


@dataclass(frozen=True)
class Met:
    """One vehicle as it was judged, whole and with a reading left out."""

    kind: str
    key: str
    moves: bool
    caveat: bool
    humid_only: bool
    """It fails by the air's drop alone: in dry air it would pass."""
    from_fewer: bool


@cache
def vehicle(number: int) -> Machine:
    """A van of a number, of one of the families in turn."""
    rng = Random(f"vehicle{number}")
    family = list(FAMILIES.values())[number % len(FAMILIES)]
    rating = preset("vehicle-134a").rating
    rating = replace(
        rating,
        nominal_kw=rng.uniform(3.5, 6.5),
        superheat_k=rating.superheat_k + rng.uniform(-1, 1),
        over_ambient_k=rating.over_ambient_k + rng.uniform(-2, 2),
    )
    return varied(sized(rating, lambda m: family.shape(m, rng)), rng, SPREAD)


def meet(number: int) -> Met | None:
    """A vehicle of a kind in its weather; None where it cannot run so."""
    rng = Random(f"met{number}")
    kind = list(KINDS)[number % len(KINDS)]
    charge, faults = KINDS[kind]
    machine = vehicle(rng.randrange(VEHICLES))
    outdoor_c = rng.uniform(*OUTDOORS_C)
    outdoor = air_of(outdoor_c, rng.uniform(*HUMIDITY))
    cabin = _warmed(outdoor, rng.uniform(*SUN_K))
    speed = SLIPS if kind == "clutch slips" else rng.uniform(*SPEED)
    conditions = Conditions(
        cabin, outdoor, machine.charge_kg * rng.uniform(*charge), outdoor_c + 15.0, speed
    )
    try:
        truth = running_truth(steady(*spoiled(machine, conditions, faults)))
    except (NoOperatingPoint, ValueError, ArithmeticError):
        return None
    readings = read_points({point: truth[point] for point in READ}, (), rng)
    key, said, moves = _judged(readings)
    tests = three_tests(readings, 0.0)
    missing = rng.choice((*POINTS, *FRONT.points))
    left = {p: v for p, v in readings.items() if p != missing}
    return Met(
        kind,
        key,
        moves,
        CAVEAT in said,
        key == "vehicle_warm" and tests.condenser == tests.coils[0].over_vent == "in",
        _judged(left)[0] in VERDICTS,
    )


def _warmed(air: WetAir, warmer_k: float) -> WetAir:
    """Air warmed by the sun on the roof, its water as it was."""
    return air._replace(temp_c=air.temp_c + warmer_k)


def _judged(readings: Mapping[str, float]) -> tuple[str, str, bool]:
    plate = Plate("R-134a", MeteringDevice("txv"), application=Application.VEHICLE)
    found = assess(plate, readings, Context(20.0, 20.0, READY)).decision
    return found.key, found.reason.text("ip"), found.moves_refrigerant


def main(*arguments: str) -> None:
    cases = next((int(a) for a in arguments if a.isdigit()), CASES)
    with ProcessPoolExecutor() as pool:
        found = [one for one in pool.map(meet, range(cases), chunksize=8) if one is not None]
    by_kind: dict[str, list[Met]] = defaultdict(list)
    for one in found:
        by_kind[one.kind].append(one)
    for kind, some in by_kind.items():
        print(f"{kind}: {dict(Counter(one.key for one in some))} of {len(some)}")
    passed = [one for one in found if one.key == "vehicle_passes"]
    well = by_kind["healthy"]
    print(
        f"{len(found)} met; verdicts from fewer than three {sum(o.from_fewer for o in found)}; "
        f"healthy failed by the air's drop alone {sum(o.humid_only for o in well)} of {len(well)}; "
        f"passes without the caveat {sum(not o.caveat for o in passed)} of {len(passed)}; "
        f"told to move refrigerant {sum(o.moves for o in found)}"
    )


if __name__ == "__main__":
    main(*sys.argv[1:])
