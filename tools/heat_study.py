"""Heating visits on the simulated plant: is the arithmetic true, is healthy plant left alone.

`python -m tools.heat_study [VISITS]`: machines and weathers nothing was made from, of every family
of cousins; each is rated at its two points, then read at 15 to 58 °F, dry and wet.
"""

import sys
from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from math import log
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.judgement.assess import Assessment, assess
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

VISITS, FIRST = 300, 7_000
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


def main(visits: str = str(VISITS)) -> None:
    count = int(visits)
    rng = Random("heat")
    all_pumps = list(pumps(60))
    healthy = [v for v in (visit(all_pumps[n % 60], rng, []) for n in range(count)) if v]
    arithmetic(healthy)
    keys = Counter(v.found.decision.key for v in healthy)
    wrong = count_of(keys, "heat_short", "heat_over", "heat_dear")
    print(f"healthy, {len(healthy)} visits: {dict(keys)}")
    print(f"false findings {100 * wrong / len(healthy):.1f} %")
    with_faults(all_pumps, 10 * count, rng)


def with_faults(all_pumps: list[Pump], count: int, rng: Random) -> None:
    """Every fault in turn: does it show in the heat, and is refrigerant ever moved."""
    said: Counter[str] = Counter()
    shown: Counter[str] = Counter()
    moved = told = 0
    for n in range(count):
        fault = rng.choice(STEADY_FAULTS)
        pump = all_pumps[n % 60]
        if not may_have_in(pump, fault):
            continue
        found = visit(pump, rng, [Present(fault, rng.uniform(0.4, 1.0))])
        if found is None:
            continue
        told += 1
        decision = found.found.decision
        moved += decision.advice not in ("do_not_charge", "leave")
        said[fault] += 1
        shown[fault] += decision.key not in ("heat_right", "heat_unread")
    print(f"with a fault, {told} visits: told to move refrigerant {moved}")
    for fault, many in sorted(said.items()):
        print(
            f"  {FAULTS[fault].suspect:26s} {fault:20s} shows in {100 * shown[fault] / many:.0f} %"
        )


def may_have_in(pump: Pump, fault: str) -> bool:
    """Whether a fault can befall it: by the sweep's own rule."""
    return may_have(_Has(pump.machine), fault)  # type: ignore[arg-type]


@dataclass(frozen=True)
class _Has:
    machine: Machine


def count_of(keys: Counter[str], *names: str) -> int:
    return sum(keys[name] for name in names)


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
