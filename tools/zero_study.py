"""Zero superheat in heating, followed on the simulated plant to its named outcome.

`python -m tools.zero_study [CASES]`: heat pumps of every family whose superheat reads under 3 °F
for one of six causes; each check is answered by the plant and its instruments, and by an eye that
misses a loose bulb, a wrong pipe or a cold one three times in a hundred.
"""

import sys
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from random import Random
from statistics import median

from nudge.core.behaviours.case import Case, Context, open_case
from nudge.core.judgement.zero_superheat import follow, reads_none
from nudge.core.language.errors import CoreError
from nudge.core.language.units import degrees_f
from nudge.plant.circuit import NoOperatingPoint
from nudge.plant.faults import Present, spoiled
from nudge.plant.machine import Conditions
from nudge.plant.steady import steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import air_of
from tools.cousins import FAMILIES
from tools.sweep import Site, read_points
from tools.winter import READ_IN_HEATING, pump

CASES, FIRST, TRIES = 210, 15_000, 60
MISSED = 0.03
PRESSURE_OFF_KPA, CLAMP_OFF_K, SENSOR_OFF_K = 3.5, 0.55, 1.0
"""What a gauge open to air, a clamp in ice and ohms against a table show as off."""
ANSWERS_K = degrees_f(2)
CAUSES = {
    "gauge zero": "probe",
    "clamp misplaced": "probe",
    "bulb loose": "sensing",
    "thermistor warm": "sensing",
    "valve stuck": "valve",
    "check valve": "bypass",
}
ELECTRONIC = ("thermistor warm",)
THERMOSTATIC = ("bulb loose",)


@dataclass(frozen=True)
class Chain:
    """How one was followed: what it was, what it came to, after how many checks."""

    cause: str
    outcome: str
    checks: int


@dataclass(frozen=True)
class _Met:
    of: Site
    conditions: Conditions
    faults: tuple[Present, ...]
    readings: dict[str, float]
    gauge_off: float
    sensor_off: float


def followed(number: int) -> Chain | None:
    """One case, to its outcome; None where nothing like it could be met."""
    rng = Random(f"zero{number}")
    cause = tuple(CAUSES)[number % len(CAUSES)]
    for _ in range(TRIES):
        met = _meet(cause, rng)
        if met is not None:
            return _follow(cause, met, rng)
    return None


def _meet(cause: str, rng: Random) -> _Met | None:
    of = pump(FIRST + rng.randrange(48), rng.choice(tuple(FAMILIES)))
    kind = of.machine.device.kind
    if (cause in ELECTRONIC and kind != "eev") or (cause in THERMOSTATIC and kind != "txv"):
        return None
    faults: tuple[Present, ...] = ()
    gauge_off, sensor_off, machine = 0.0, 0.0, of.machine
    if cause == "bulb loose":
        faults = (Present("bulb_loose", rng.uniform(0.3, 1.0)),)
    elif cause == "valve stuck":
        faults = (Present("metering_overfeed", rng.uniform(0.1, 1.0)),)
    elif cause == "check valve":
        faults = (Present("check_valve_leak", rng.uniform(0.6, 1.0)),)
    elif cause == "gauge zero":
        gauge_off = rng.uniform(25.0, 90.0)
    elif cause == "thermistor warm":
        sensor_off = rng.uniform(2.0, 5.0)
        device = machine.heating_device or machine.device
        device = replace(device, target_superheat_k=device.target_superheat_k - sensor_off)
        machine = replace(machine, heating_device=device)
    conditions = Conditions(
        air_of(21.0, 40), air_of(rng.uniform(-8, 12), 80), machine.charge_kg, heating=True
    )
    met = replace(of, machine=machine)
    try:
        truth = running_truth(steady(*spoiled(machine, conditions, faults)))
    except (NoOperatingPoint, ValueError, ArithmeticError):
        return None
    readings = read_points(truth, READ_IN_HEATING, rng)
    readings["suction_pressure"] += gauge_off
    if cause == "clamp misplaced":
        colder = truth["metering_outlet_temp"] + rng.uniform(0.0, 2.0)
        readings["true_suction_temp"] = colder
    found = _Met(met, conditions, faults, readings, gauge_off, sensor_off)
    case = _case(found, set())
    return found if case is not None and reads_none(case) else None


def _case(met: _Met, seen: set[str]) -> Case | None:
    try:
        context = Context(40.0, 40.0, frozenset(seen), mode="heating")
        return open_case(met.of.plate, met.readings, context)
    except CoreError:
        return None


def _follow(cause: str, met: _Met, rng: Random) -> Chain:
    seen: set[str] = set()
    for done in range(12):
        case = _case(met, seen)
        assert case is not None
        now = follow(case)
        if now.outcome is not None:
            return Chain(cause, now.outcome, done)
        assert now.check is not None
        look = now.check.look
        assert look is not None
        seen.add(look.yes if _finds(now.check.key, cause, met, rng) else look.no)
    return Chain(cause, "", 12)


def _finds(check: str, cause: str, met: _Met, rng: Random) -> bool:
    """Whether a check finds what it looks for, by the plant, the instruments and an eye."""
    sharp = rng.random() >= MISSED
    if check == "prove_low_probes":
        return abs(met.gauge_off + rng.gauss(0, 0.7)) > PRESSURE_OFF_KPA
    if check == "place_true_suction":
        return cause == "clamp misplaced" and sharp
    if check == "look_at_bulb":
        return cause == "bulb loose" and sharp
    if check == "read_thermistor":
        return abs(met.sensor_off + rng.gauss(0, 0.3)) > SENSOR_OFF_K
    if check in ("test_bulb", "drive_valve"):
        return not _answers(met, rng)
    return cause == "check valve" and sharp


def _answers(met: _Met, rng: Random) -> bool:
    """Whether superheat climbs when the valve is driven towards shut (its bulb cooled)."""
    machine, conditions = spoiled(met.of.machine, met.conditions, met.faults)
    device = machine.device
    if device.stuck_at is not None:
        return False
    asked = replace(
        device,
        static_superheat_k=device.static_superheat_k + 4.0,
        target_superheat_k=device.target_superheat_k + 4.0,
    )
    try:
        before = steady(machine, conditions).operating
        after = steady(replace(machine, device=asked), conditions).operating
    except (NoOperatingPoint, ValueError, ArithmeticError):
        return False
    climbed = after.true_suction_c - after.evaporating_c - before.true_suction_c
    moved = after.superheat_k - before.superheat_k
    return max(climbed + before.evaporating_c, moved) + rng.gauss(0, 0.2) > ANSWERS_K


def main(cases: str = str(CASES)) -> None:
    with ProcessPoolExecutor() as pool:
        found = [c for c in pool.map(followed, range(int(cases)), chunksize=4) if c is not None]
    right = [one for one in found if one.outcome == CAUSES[one.cause]]
    in_five = sum(one.checks <= 5 for one in right)
    print(
        f"right outcome in at most five checks {100 * in_five / len(found):.1f} % of {len(found)}, "
        f"median {median(one.checks for one in found):g} checks"
    )
    for cause, wanted in CAUSES.items():
        some = [one for one in found if one.cause == cause]
        print(f"  {cause:18s} {wanted:12s} {dict(Counter(one.outcome for one in some))}")


if __name__ == "__main__":
    main(*sys.argv[1:])
