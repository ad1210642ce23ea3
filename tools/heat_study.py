"""Heating visits on the simulated plant: is the arithmetic true, is healthy plant left alone.

`python -m tools.heat_study [VISITS]`: machines and weathers nothing was made from, of every family
of cousins; each is rated at its two points, then read at 15 to 58 °F, dry and wet.
"""

import sys
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import cache
from math import log
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.judgement.assess import assess
from nudge.core.judgement.zero_superheat import UNDER_K
from nudge.core.language.errors import OutOfRange
from nudge.core.language.units import fahrenheit
from nudge.core.language.working import Working
from nudge.plant.circuit import NoOperatingPoint
from nudge.plant.faults import FAULTS, Present, spoiled
from nudge.plant.machine import Conditions
from nudge.plant.steady import steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import air_of
from tools.cousins import FAMILIES
from tools.sweep import Site, read_points
from tools.winter import METERED, READ_IN_HEATING, WINTER_FAULTS, heat_of, may_have_in_winter, pump

VISITS, PUMPS, FIRST = 300, 60, 7_000
STILL = ("do_not_charge", "leave")
OUTDOORS_F = (15, 25, 35, 45, 58)


@dataclass(frozen=True)
class Found:
    """A number that was worked out [W], its ±, and the truth."""

    true: float
    by_true_readings: float
    by_instruments: float
    give: float

    @property
    def off(self) -> float:
        return abs(log(self.by_true_readings / self.true))

    @property
    def is_covered(self) -> bool:
        return abs(self.by_instruments - self.true) <= self.give


@dataclass(frozen=True)
class Visit:
    """One read visit: its heat and power, and what was made of it."""

    key: str
    advice: str
    headline: str
    floods: bool
    heat: Found | None
    power: Found | None


@cache
def rated() -> tuple[Site, ...]:
    """The pumps of a study, of every family in turn, in every process the same."""
    names = tuple(FAMILIES)
    return tuple(pump(FIRST + number, names[number % len(names)]) for number in range(PUMPS))


def visit(of: Site, rng: Random, faults: list[Present]) -> Visit | None:
    """A visit in a weather of its own; None where it cannot run so."""
    outdoor = fahrenheit(rng.choice(OUTDOORS_F) + rng.uniform(-2, 2))
    conditions = Conditions(
        air_of(rng.uniform(19, 23), rng.uniform(25, 50)),
        air_of(outdoor, rng.choice((45.0, 92.0))),
        of.machine.charge_kg,
        heating=True,
    )
    try:
        machine, met = spoiled(of.machine, conditions, faults)
        at = steady(machine, met)
    except (NoOperatingPoint, ValueError, ArithmeticError):
        return None
    truth = running_truth(at)
    read = read_points(truth, READ_IN_HEATING, rng)
    known = {point: value for point, value in truth.items() if point in read}
    context = Context(minutes_running=40.0, mode="heating")
    try:
        by_truth, found = (assess(of.plate, given, context) for given in (known, read))
    except OutOfRange:
        return None  # a pressure off the refrigerant's table: said so, and nothing judged
    true, told = by_truth.case.heat, found.case.heat
    assert true is not None
    assert told is not None
    watts = truth[METERED[0]] + truth[METERED[1]]
    return Visit(
        found.decision.key,
        found.decision.advice,
        found.decision.headline,
        (by_truth.case.derived.superheat or 0.0) < UNDER_K,
        _found(heat_of(at), true.delivered, told.delivered),
        _found(watts, true.power, told.power),
    )


def _found(true: float, exact: Working | None, read: Working | None) -> Found | None:
    if exact is None or read is None:
        return None
    return Found(true, exact.value, read.value, read.uncertainty or 0.0)


def healthy_case(number: int) -> Visit | None:
    return visit(rated()[number % PUMPS], Random(f"healthy{number}"), [])


def spoilt_case(number: int) -> tuple[str, str, str] | None:
    """A fault, the decision's key and its advice; None where it cannot run so."""
    rng, of = Random(f"spoilt{number}"), rated()[number % PUMPS]
    fault = WINTER_FAULTS[number % len(WINTER_FAULTS)]
    if not may_have_in_winter(of, fault):
        return None
    found = visit(of, rng, [Present(fault, rng.uniform(0.4, 1.0))])
    return None if found is None else (fault, found.key, found.advice)


def main(visits: str = str(VISITS), spoilt: str = str(10 * VISITS)) -> None:
    with ProcessPoolExecutor() as pool:
        healthy = [v for v in pool.map(healthy_case, range(int(visits)), chunksize=10) if v]
        arithmetic(healthy)
        keys = Counter(v.key for v in healthy)
        wrong = sum(keys[name] for name in ("heat_short", "heat_over", "heat_dear", "heat_suspect"))
        flooded = sum(v.key == "heat_no_superheat" and v.floods for v in healthy)
        print(f"healthy, {len(healthy)} visits: {dict(keys)}; {flooded} do flood on the plant")
        print(f"heat, power or a suspect found wrong {100 * wrong / len(healthy):.1f} %")
        print(Counter(v.headline for v in healthy if v.key == "heat_suspect"))
        told = [one for one in pool.map(spoilt_case, range(int(spoilt)), chunksize=20) if one]
    moved = sum(advice not in STILL for _, _, advice in told)
    print(f"with a fault, {len(told)} visits: told to move refrigerant {moved}")
    for fault in sorted({fault for fault, _, _ in told}):
        keys = Counter(key for one, key, _ in told if one == fault)
        many = sum(keys.values())
        shown = many - keys["heat_right"] - keys["heat_unread"]
        print(f"  {FAULTS[fault].suspect:26s} {fault:20s} shows in {100 * shown / many:.0f} %")


def arithmetic(healthy: list[Visit]) -> None:
    """Heat and power from true readings against the truth; from instruments, is ± honest."""
    for name in ("heat", "power"):
        found = [one for v in healthy if (one := getattr(v, name)) is not None]
        covered = sum(one.is_covered for one in found) / len(found)
        print(
            f"{name}: true readings within {100 * max(one.off for one in found):.2f} % at most; "
            f"instruments: ± covers it in {100 * covered:.1f} % of {len(found)}"
        )


if __name__ == "__main__":
    main(*sys.argv[1:])
