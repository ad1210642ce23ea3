"""The indoor blower against its ducts: airflow, statics, amps, watts."""

from math import sqrt
from typing import NamedTuple

from nudge.plant.machine import Blower

PSC_IDLE_SHARE = 0.55
PSC_POWER_FACTOR = 0.92
ECM_POWER_FACTOR = 0.62


class Airflow(NamedTuple):
    """Dry air [kg/s], static pressures against the room [Pa], what the motor draws."""

    kg_s: float
    return_pa: float
    supply_pa: float
    filter_pa: float
    watts: float
    amps: float


def blow(blower: Blower, volts: float) -> Airflow:
    """The flow where the fan's curve meets the duct's.

    A PSC motor's fan gives less pressure the more it moves (a parabola scaled by speed); its
    amps fall when the duct chokes. A constant-airflow ECM holds its flow until it runs out of
    pressure; its amps rise. Source: fan laws, ASHRAE Systems and Equipment, fans.
    """
    b = blower
    whole = b.return_resistance + b.filter_resistance + b.coil_resistance + b.supply_resistance
    most_pa = b.most_pa * b.speed * b.speed
    if b.kind == "psc":
        flow = _falling(b, whole, most_pa)
        load = PSC_IDLE_SHARE + (1 - PSC_IDLE_SHARE) * flow / b.set_kg_s
        watts = b.rated_watts * load * (1.25 - 0.25 * b.capacitor_share)
        factor = PSC_POWER_FACTOR
    else:
        choked = max(1 - _rated_resistance(b) / whole, 0.0)
        flow = min(b.set_kg_s * b.speed * (1 - b.slackens * choked), sqrt(most_pa / whole))
        work = whole * flow * flow * flow
        rated = _rated_resistance(b) * b.set_kg_s**3
        watts = b.rated_watts * (0.25 + 0.75 * work / rated)
        factor = ECM_POWER_FACTOR
    square = flow * flow
    return Airflow(
        flow,
        (b.return_resistance + b.filter_resistance) * square,
        b.supply_resistance * square,
        b.filter_resistance * square,
        watts,
        watts / (volts * factor),
    )


def _falling(b: Blower, whole: float, most_pa: float) -> float:
    """Where a falling curve meets the ducts [kg/s]: a parabola, a straight line, or between.

    Pressure is most × (1 − straight × x − (1 − straight) × x²), x the share of its free flow at
    this speed.
    """
    free = b.most_kg_s * b.speed
    square = whole + (1 - b.straight) * most_pa / (free * free)
    if not b.straight:
        return sqrt(most_pa / square)
    line = b.straight * most_pa / free
    return (sqrt(line * line + 4 * square * most_pa) - line) / (2 * square)


def _rated_resistance(blower: Blower) -> float:
    """Resistance it was set up against: a clean filter and coil at its set flow."""
    return blower.most_pa * 0.5 / (blower.set_kg_s * blower.set_kg_s)
