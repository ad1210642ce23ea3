"""Doses nothing answers: what the card says after each."""

from dataclasses import replace
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.charging.advise import advise
from nudge.core.charging.sizing import Dosed
from nudge.core.checks.table import LOOK_OF
from nudge.core.language.units import fahrenheit
from nudge.core.language.vocabulary.accuracy import accuracy_of
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate

TICKS = ("filter_dirty", "evaporator_coil_dirty", "condenser_coil_dirty", "condenser_fan_weak")
"""The looks whose right outcome is meant by *ticks*."""


VAIN_PLATES = {
    "valve": ("R-410A", MeteringDevice.TXV, 9 / 1.8, {
        "liquid_pressure": 341, "liquid_line_temp": 102.5, "suction_pressure": 121,
        "suction_line_temp": 58.5, "outdoor_air_temp": 90, "return_air_temp": 77,
        "return_air_wet_bulb": 64}),
    "electronic": ("R-410A", MeteringDevice.EEV, 10 / 1.8, {
        "liquid_pressure": 325, "liquid_line_temp": 98.5, "suction_pressure": 112,
        "suction_line_temp": 58, "outdoor_air_temp": 86, "return_air_temp": 77,
        "return_air_wet_bulb": 64, "supply_air_temp": 61}),
    "orifice": ("R-22", MeteringDevice.FIXED_ORIFICE, None, {
        "suction_pressure": 61.5, "liquid_pressure": 217, "suction_line_temp": 63,
        "liquid_line_temp": 104, "outdoor_air_temp": 90, "return_air_temp": 76,
        "return_air_wet_bulb": 64, "supply_air_temp": 63}),
}  # fmt: skip


def in_vain(number: int) -> tuple[str, str, int, int]:
    """Doses as the card asks, and as a person gives them, on a system nothing moves.

    Answers device, manner, doses given while the card said add, and how often the card's action
    was not its decision's.
    """
    rng = Random(f"vain {number}")
    name, manner = list(VAIN_PLATES)[number % 3], ("still", "worse", "noisy")[number // 3 % 3]
    fluid, device, target, spoken = VAIN_PLATES[name]
    plate = Plate(
        fluid,
        device,
        nominal_capacity_w=rng.uniform(24, 48) * 293.07,
        rated_seer=15,
        target_subcooling_k=target,
    )
    base = {p: _core(p, v) for p, v in spoken.items()}
    seen = frozenset(LOOK_OF[key].no for key in TICKS) | {"readings_confirmed"}
    minutes, doses, apart = 40.0, 0, 0
    history = [Dosed(minutes, 0.0, _as_read(base, manner, 0, rng))]
    since = 40.0
    for _ in range(8):
        said = advise(plate, history, Context(minutes, since, seen))
        apart += (said.action in ("add", "remove")) != said.decision.moves_refrigerant
        if said.action == "wait":
            minutes += said.wait_minutes
            since += said.wait_minutes
            history[-1] = replace(history[-1], minutes=minutes)
            continue
        if said.action != "add":
            break
        doses += 1
        given = said.amount_kg if rng.random() < 0.4 else rng.uniform(0.014, 0.5)
        since = 15.0
        minutes += since
        history.append(Dosed(minutes, given, _as_read(base, manner, doses, rng)))
    return name, manner, doses, apart


def _core(point: str, value: float) -> float:
    return value * 6.894757 if point.endswith("pressure") else fahrenheit(value)


def _as_read(base: dict[str, float], manner: str, step: int, rng: Random) -> dict[str, float]:
    """The same system read again: still, or a little worse, or with the noise of instruments."""
    found = dict(base)
    if manner == "worse":
        found["suction_line_temp"] += 0.4 * step
        found["suction_pressure"] -= 5.0 * step
    if manner == "noisy":
        for point, value in found.items():
            found[point] = value + rng.gauss(0, 0.15 * accuracy_of(point).limit(value))
    return found
