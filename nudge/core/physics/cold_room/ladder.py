"""The ladder of a cold room: set point − coil class is evaporating, outdoor + class is condensing.

Evaporating counts at dew, where the coil's gas leaves; condensing at bubble, as a maker's class
does. Trade rule; the classes are those of `docs/method.md`.
"""

from dataclasses import dataclass

from nudge.core.language.units import atmospheric_kpa, degrees_f, fahrenheit
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.refrigerant.table import load_table

USUAL_COIL_K, USUAL_CONDENSER_K = degrees_f(10), degrees_f(30)
"""The classes of a room whose plate says none: the commonest, shown as a guess."""
FREEZER_UNDER_C = fahrenheit(25)
"""A set point under this is a freezer's; over it a cooler's."""


@dataclass(frozen=True, slots=True)
class Rungs:
    """What a room's design asks of its circuit at one box temperature and outdoor air.

    Temperatures in °C, pressures in gauge kPa; condensing is None where outdoor air is unread.
    """

    box_c: float
    evaporating_c: float
    suction_kpa: float
    condensing_c: float | None
    head_kpa: float | None
    is_guessed: bool
    """A class is missing on the plate: the usual one stood in for it."""


def rungs(plate: Plate, box_c: float, outdoor_c: float | None) -> Rungs:
    """The rungs at a box temperature. Raises: OutOfRange, off the refrigerant's table."""
    table, air_kpa = load_table(plate.refrigerant), atmospheric_kpa(plate.elevation_m)
    coil_k, condenser_k = plate.coil_class_k, plate.condenser_class_k
    boils_c = box_c - (USUAL_COIL_K if coil_k is None else coil_k)
    condensing_c = None
    if outdoor_c is not None:
        condensing_c = outdoor_c + (USUAL_CONDENSER_K if condenser_k is None else condenser_k)
    return Rungs(
        box_c,
        boils_c,
        table.dew.pressure(boils_c) - air_kpa,
        condensing_c,
        None if condensing_c is None else table.bubble.pressure(condensing_c) - air_kpa,
        coil_k is None or condenser_k is None,
    )


def is_freezer(plate: Plate) -> bool | None:
    """Whether the plate's set point is a freezer's; None where it has none."""
    return None if plate.box_set_point_c is None else plate.box_set_point_c < FREEZER_UNDER_C
