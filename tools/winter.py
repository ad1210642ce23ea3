"""Heat pumps met in heating: the sweep's systems with a heating device and rating points.

Each is commissioned in cooling like any other; its device for heating is its maker's choice, off
as devices are. Its plate says what its own two rating points would find.
"""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import cache
from random import Random

from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.equipment import Application
from nudge.plant.circuit import NoOperatingPoint
from nudge.plant.faults import FAULTS, Present, spoiled
from nudge.plant.machine import Conditions, Machine
from nudge.plant.sizing import heating_ready
from nudge.plant.steady import Steady, steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import air_of
from tools.sweep import (
    NOT_READ,
    USUAL_SPREAD,
    VALVE_FAULTS,
    WINTER,
    Site,
    Swept,
    read_points,
    site,
)

MILD, COLD = (8.33, 73.0), (-8.33, 76.0)
METERED = ("outdoor_unit_watts", "indoor_unit_watts")
WRITTEN = 0.01
"""A maker rounds what it rates (1 σ, share)."""
OUTDOORS_C, HUMIDITY = (-10.0, 15.5), (40.0, 96.0)
INDOORS_C, INDOOR_HUMIDITY = (18.5, 23.5), (25.0, 50.0)
NOT_IN_HEATING = ("low_load", "high_load", "low_ambient", "hunting")
WINTER_FAULTS = tuple(
    key for key, row in FAULTS.items() if row.suspect and key not in NOT_IN_HEATING
)
READ_IN_HEATING = tuple(point for point in NOT_READ if point not in METERED)


@cache
def pump(number: int, family: str, spread: float = USUAL_SPREAD) -> Site:
    """The heat pump of a number, with a valve, as it is met in winter."""
    rng = Random(f"winter{family}{number}")
    while True:
        of = site(number, f"{family}/{WINTER}valve", spread)
        try:
            machine = _with_device(of, rng)
            mild, cold = (at_rating(machine, *point) for point in (MILD, COLD))
        except (NoOperatingPoint, ValueError, ArithmeticError):
            number += 100_000
            continue
        plate = replace(
            of.plate,
            application=Application.HEAT_PUMP_HEATING,
            heat_47_w=heat_of(mild) * rng.gauss(1, WRITTEN),
            heat_17_w=heat_of(cold) * rng.gauss(1, WRITTEN),
            power_47_w=watts_of(mild) * rng.gauss(1, WRITTEN),
            power_17_w=watts_of(cold) * rng.gauss(1, WRITTEN),
        )
        return Site(machine, plate, of.right_kg)


def _with_device(of: Site, rng: Random) -> Machine:
    """A heating device chosen for the machine at its right charge, off as devices are."""
    left_kg = of.machine.charge_kg
    machine = heating_ready(replace(of.machine, charge_kg=of.right_kg))
    device = machine.heating_device
    assert device is not None
    device = replace(
        device,
        area_m2=device.area_m2 * rng.uniform(0.95, 1.2),
        static_superheat_k=max(device.static_superheat_k + rng.gauss(0, 0.6), 0.3),
        target_superheat_k=device.target_superheat_k + rng.gauss(0, 0.4),
    )
    store = machine.heating_store_kg * rng.uniform(0.9, 1.1)
    return replace(machine, heating_device=device, heating_store_kg=store, charge_kg=left_kg)


def at_rating(machine: Machine, outdoor_c: float, humidity: float) -> Steady:
    """A machine at a rating point."""
    air = Conditions(
        air_of(21.1, 40.0), air_of(outdoor_c, humidity), machine.charge_kg, heating=True
    )
    return steady(machine, air)


def heat_of(at: Steady) -> float:
    """What the air carries off, by its own enthalpy [W]: nothing of Nudge's in it."""
    truth, indoor = running_truth(at), at.conditions.indoor
    rise = truth["supply_air_temp"] - truth["return_air_temp"]
    return at.operating.indoor_air_kg_s * indoor.cp * rise * 1000


def watts_of(at: Steady) -> float:
    truth = running_truth(at)
    return sum(truth[point] for point in METERED)


def swept_in_winter(of: Site, faults: Sequence[Present], rng: Random) -> Swept | None:
    """The heat pump at rest with its faults, in weather of its own; None where it cannot run."""
    conditions = Conditions(
        air_of(rng.uniform(*INDOORS_C), rng.uniform(*INDOOR_HUMIDITY)),
        air_of(rng.uniform(*OUTDOORS_C), rng.uniform(*HUMIDITY)),
        of.machine.charge_kg,
        heating=True,
    )
    try:
        machine, met = spoiled(of.machine, conditions, faults)
        truth = running_truth(steady(machine, met))
        clean = running_truth(steady(of.machine, conditions)) if faults else truth
    except (NoOperatingPoint, ValueError, ArithmeticError):
        return None
    return Swept(of, tuple(faults), truth, met.charge_kg / of.right_kg, clean)


SHOWS: Mapping[str, float] = {
    "supply_air_temp": degrees_f(3),
    "true_suction_temp": degrees_f(4),
    "liquid_line_temp": degrees_f(5),
    "condenser_leaving_air_temp": degrees_f(3),
    "discharge_line_temp": degrees_f(15),
}
SHOWS_SHARE: Mapping[str, float] = {
    "suction_pressure": 0.06,
    "liquid_pressure": 0.06,
    "airflow": 0.12,
    "total_external_static": 0.30,
    "outdoor_unit_watts": 0.07,
    "indoor_unit_watts": 0.25,
}
STEPS = (("drier_inlet_temp", "drier_outlet_temp"), ("liquid_line_temp_indoor", "liquid_line_temp"))
STEP_K = degrees_f(3)


def shows(case: Swept) -> bool:
    """Whether a steady reading can show what is wrong: some point is further from what the same
    machine would read right than about twice what its instrument errs.
    """
    here, clean = case.truth, case.clean
    if clean is None:
        return True
    return (
        any(abs(here[p] - clean[p]) > limit for p, limit in SHOWS.items())
        or any(abs(here[p] / clean[p] - 1) > limit for p, limit in SHOWS_SHARE.items())
        or any(abs(here[a] - here[b] - clean[a] + clean[b]) > STEP_K for a, b in STEPS)
    )


def read_in_winter(case: Swept, rng: Random) -> dict[str, float]:
    """Every point a full set of instruments reads in heating."""
    return read_points(case.truth, READ_IN_HEATING, rng)


def may_have_in_winter(of: Site, fault: str) -> bool:
    """Whether a fault can befall this heat pump."""
    return fault not in VALVE_FAULTS or of.machine.device.kind == "txv"
