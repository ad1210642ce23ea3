"""Where a running system comes to rest: the circuit, its valve and its air together."""

from dataclasses import dataclass

from nudge.plant.blower import Airflow, blow
from nudge.plant.circuit import NoOperatingPoint, Operating, no_point, operate
from nudge.plant.circulation import Setting
from nudge.plant.machine import Conditions, Machine
from nudge.plant.metering import resting
from nudge.plant.newton import Root

CLOSE_ENOUGH = 2e-4


@dataclass(frozen=True, slots=True)
class Steady:
    """A system at rest in its conditions."""

    machine: Machine
    conditions: Conditions
    airflow: Airflow
    operating: Operating


def steady(machine: Machine, conditions: Conditions, start: Root | None = None) -> Steady:
    """Solve circuit, valve and air together; a valve that will not be solved is bracketed.

    Raises: NoOperatingPoint, when the circuit cannot run so (hardly any charge, weather off
    the tables).
    """
    machine = machine.turned(conditions.heating)
    airflow = blow(machine.blower, machine.volts)
    setting = Setting(machine, conditions, airflow.kg_s)
    try:
        point = operate(setting, start)
    except NoOperatingPoint:
        if machine.device.kind == "fixed_orifice" or machine.device.stuck_at is not None:
            raise
        point = _bracketed(setting, start)
    return Steady(machine, conditions, airflow, point)


def _bracketed(setting: Setting, start: Root | None) -> Operating:
    """The opening at which the valve wants no other, by bisection from where it can run."""
    device = setting.machine.device
    low, high = device.least_open, device.most_open
    point, count = None, 0
    while high - low > CLOSE_ENOUGH and count < 40:
        middle, count = (low + high) / 2, count + 1
        try:
            point = operate(
                Setting(setting.machine, setting.conditions, setting.indoor_air_kg_s, middle),
                point.root if point else start,
            )
        except NoOperatingPoint:
            low = middle
            continue
        wants = resting(device, point.superheat_k, point.evaporating_c)
        low, high = (middle, high) if wants > middle else (low, middle)
    if point is None:
        raise no_point(setting)
    return point
