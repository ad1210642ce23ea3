"""Heating visits on the simulated plant: is the arithmetic true, is healthy plant left alone.

`python -m tools.heat_study [VISITS]`: machines and weathers nothing was made from, of every family
of cousins; each is rated at its two points, then read at 15 to 58 °F, dry and wet.
"""

import sys
from collections import Counter
from collections.abc import Iterator, Mapping
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from functools import cache
from math import log
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.judgement.assess import Assessment, assess
from nudge.core.judgement.zero_superheat import UNDER_K
from nudge.core.language.errors import OutOfRange
from nudge.core.language.units import fahrenheit
from nudge.core.language.vocabulary.accuracy import accuracy_of
from nudge.core.physics.circuit.equipment import Application, Plate
from nudge.plant.circuit import NoOperatingPoint
from nudge.plant.faults import FAULTS, Present, spoiled
from nudge.plant.machine import Conditions, Machine
from nudge.plant.steady import Steady, steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import air_of
from tools.cousins import FAMILIES
from tools.sweep import NOT_READ, STEADY_FAULTS, may_have, site

VISITS, PUMPS, FIRST = 300, 60, 7_000
STILL = ("do_not_charge", "leave")
OUTDOORS_F = (15, 25, 35, 45, 58)
MILD, COLD = (8.33, 73.0), (-8.33, 76.0)
METERED = ("outdoor_unit_watts", "indoor_unit_watts")
WRITTEN = 0.01
"""A maker rounds what it rates (1 σ, share)."""


@dataclass(frozen=True)
class Pump:
    """A heat pump with the plate its own rating gives it."""

    machine: Machine
    plate: Plate


@dataclass(frozen=True)
class Visit:
    """One read visit: the truth, what instruments said, what was made of it."""

    truth: Mapping[str, float]
    heat_w: float
    found_true: Assessment
    found: Assessment


def pumps(count: int) -> Iterator[Pump]:
    """Heat pumps of every family in turn, numbered where nothing else looks."""
    made, number = 0, FIRST
    kinds = [*(f"{name}/valve" for name in FAMILIES), *(f"{name}/orifice" for name in FAMILIES)]
    while made < count:
        kind = kinds[number % len(kinds)]
        number += 1
        of = site(number, kind)
        if not of.machine.is_heat_pump:
            continue
        try:
            mild, cold = (_at(of.machine, *point) for point in (MILD, COLD))
        except (NoOperatingPoint, ValueError, ArithmeticError):
            continue
        rng = Random(f"plate{number}")
        plate = replace(
            of.plate,
            application=Application.HEAT_PUMP_HEATING,
            heat_47_w=_heat(mild) * rng.gauss(1, WRITTEN),
            heat_17_w=_heat(cold) * rng.gauss(1, WRITTEN),
            power_47_w=_watts(mild) * rng.gauss(1, WRITTEN),
            power_17_w=_watts(cold) * rng.gauss(1, WRITTEN),
        )
        made += 1
        yield Pump(of.machine, plate)


def _at(machine: Machine, outdoor_c: float, humidity: float, indoor_c: float = 21.1) -> Steady:
    air = Conditions(
        air_of(indoor_c, 40.0), air_of(outdoor_c, humidity), machine.charge_kg, heating=True
    )
    return steady(machine, air)


def _heat(at: Steady) -> float:
    """What the air carries off, by its own enthalpy [W]: nothing of Nudge's in it."""
    truth, indoor = running_truth(at), at.conditions.indoor
    return (
        at.operating.indoor_air_kg_s
        * indoor.cp
        * (truth["supply_air_temp"] - truth["return_air_temp"])
        * 1000
    )


def _watts(at: Steady) -> float:
    truth = running_truth(at)
    return sum(truth[point] for point in METERED)


def visit(pump: Pump, rng: Random, faults: list[Present]) -> Visit | None:
    """A visit in a weather of its own; None where it cannot run so."""
    outdoor = fahrenheit(rng.choice(OUTDOORS_F) + rng.uniform(-2, 2))
    conditions = Conditions(
        air_of(rng.uniform(19, 23), rng.uniform(25, 50)),
        air_of(outdoor, rng.choice((45.0, 92.0))),
        pump.machine.charge_kg,
        heating=True,
    )
    try:
        machine, met = spoiled(pump.machine, conditions, faults)
        at = steady(machine, met)
    except (NoOperatingPoint, ValueError, ArithmeticError):
        return None
    truth = running_truth(at)
    read = {
        point: rng.gauss(value, _sigma(point, value))
        for point, value in truth.items()
        if point not in NOT_READ or point in METERED
    }
    known = {point: value for point, value in truth.items() if point in read}
    context = Context(minutes_running=40.0, mode="heating")
    try:
        both = [assess(pump.plate, given, context) for given in (known, read)]
    except OutOfRange:
        return None  # a pressure off the refrigerant's table: said so, and nothing judged
    return Visit(truth, _heat(at), *both)


def _sigma(point: str, value: float) -> float:
    return accuracy_of(point).limit(value) / 2


@cache
def rated() -> tuple[Pump, ...]:
    """The pumps of a study, in every process the same."""
    return tuple(pumps(PUMPS))


def healthy_case(number: int) -> Visit | None:
    return visit(rated()[number % PUMPS], Random(f"healthy{number}"), [])


def spoilt_case(number: int) -> tuple[str, str, str] | None:
    """A fault, the decision's key and its advice; None where it cannot run so."""
    rng, pump = Random(f"spoilt{number}"), rated()[number % PUMPS]
    fault = STEADY_FAULTS[number % len(STEADY_FAULTS)]
    if not may_have_in(pump, fault):
        return None
    found = visit(pump, rng, [Present(fault, rng.uniform(0.4, 1.0))])
    if found is None:
        return None
    return fault, found.found.decision.key, found.found.decision.advice


def main(visits: str = str(VISITS), spoilt: str = str(10 * VISITS)) -> None:
    with ProcessPoolExecutor() as pool:
        healthy = [v for v in pool.map(healthy_case, range(int(visits)), chunksize=10) if v]
        arithmetic(healthy)
        keys = Counter(v.found.decision.key for v in healthy)
        wrong = sum(keys[name] for name in ("heat_short", "heat_over", "heat_dear"))
        flooded = sum(
            v.found.decision.key == "heat_no_superheat"
            and (v.found_true.case.derived.superheat or 0.0) < UNDER_K
            for v in healthy
        )
        print(f"healthy, {len(healthy)} visits: {dict(keys)}; {flooded} do flood on the plant")
        print(f"heat or power found wrong {100 * wrong / len(healthy):.1f} %")
        told = [one for one in pool.map(spoilt_case, range(int(spoilt)), chunksize=20) if one]
    moved = sum(advice not in STILL for _, _, advice in told)
    print(f"with a fault, {len(told)} visits: told to move refrigerant {moved}")
    for fault in sorted({fault for fault, _, _ in told}):
        keys = Counter(key for one, key, _ in told if one == fault)
        many = sum(keys.values())
        shown = many - keys["heat_right"] - keys["heat_unread"]
        print(f"  {FAULTS[fault].suspect:26s} {fault:20s} shows in {100 * shown / many:.0f} %")


def may_have_in(pump: Pump, fault: str) -> bool:
    """Whether a fault can befall it: by the sweep's own rule."""
    return may_have(_Has(pump.machine), fault)  # type: ignore[arg-type]


@dataclass(frozen=True)
class _Has:
    machine: Machine


def arithmetic(healthy: list[Visit]) -> None:
    """Heat and power from true readings against the truth; from instruments, is ± honest."""
    off_heat, off_power, held, powers = [], [], 0, 0
    for one in healthy:
        heat, power = one.found_true.case.heat, one.found.case.heat
        assert heat is not None
        assert power is not None
        if heat.delivered is None or power.delivered is None:
            continue
        off_heat.append(abs(log(heat.delivered.value / one.heat_w)))
        held += abs(power.delivered.value - one.heat_w) <= (power.delivered.uncertainty or 0)
        watts = one.truth[METERED[0]] + one.truth[METERED[1]]
        if heat.power is not None and power.power is not None:
            off_power.append(abs(log(heat.power.value / watts)))
            powers += abs(power.power.value - watts) <= (power.power.uncertainty or 0)
    print(
        f"true readings: heat within {100 * max(off_heat):.2f} %, power within "
        f"{100 * max(off_power):.2f} % at most; instruments: ± covers heat in "
        f"{100 * held / len(off_heat):.1f} %, power in {100 * powers / len(off_power):.1f} %"
    )


if __name__ == "__main__":
    main(*sys.argv[1:])
