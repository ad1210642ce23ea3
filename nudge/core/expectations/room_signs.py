"""The signs of a cold room with a receiver: its two rungs, its coil's feed, its air, its stroke.

Each is expected near the room's own design: its classes, its set point, the superheat of its box.
A head-pressure control parts the head from the weather: on a cold day its setting counts, and
what the condenser's air shows says nothing.
"""

from collections.abc import Callable, Mapping
from dataclasses import replace
from types import MappingProxyType

from nudge.core.behaviours.case import Case
from nudge.core.expectations.signs import SIGNS, Sign, between, share
from nudge.core.language.units import Quantity, degrees_f, fahrenheit
from nudge.core.physics.circuit.compression import expected_power_w, watts_of_amps
from nudge.core.physics.cold_room.ladder import USUAL_COIL_K, USUAL_CONDENSER_K

FREEZER_SUPERHEAT_K, COOLER_SUPERHEAT_K = degrees_f(4.5), degrees_f(8)
HELD_C = fahrenheit(87)
"""Where a head-pressure control usually holds the condensing."""
RISE_SHARE = 0.45
"""Of the condenser's class, what its air warms by."""
_LOW = ("suction_pressure", "evaporator_outlet_temp")
_BOX = ("suction_pressure", "box_air_temp")


def _coil_superheat(case: Case) -> float:
    if case.plate.target_superheat_k is not None:
        return case.plate.target_superheat_k
    is_cooler = case.room is not None and case.room.freezer is False
    return COOLER_SUPERHEAT_K if is_cooler else FREEZER_SUPERHEAT_K


def _coil_class(case: Case) -> float:
    return USUAL_COIL_K if case.plate.coil_class_k is None else case.plate.coil_class_k


def _condenser_class(case: Case) -> float:
    kelvin = case.plate.condenser_class_k
    return USUAL_CONDENSER_K if kelvin is None else kelvin


def _is_held(case: Case) -> bool:
    """Whether the day is so cold that a head-pressure control decides the head, not the class."""
    outdoor = case.readings.get("outdoor_air_temp")
    if outdoor is None or case.plate.head_pressure_control in ("", "none"):
        return False
    return outdoor + _condenser_class(case) < HELD_C


def _free(row: Sign, base: Callable[[Case], float]) -> Sign:
    """A sign of the condenser that says something while its head is not held."""

    def value(case: Case) -> float | None:
        return None if _is_held(case) else row.value(case)

    return replace(row, value=value, base=base)


def _held_head(case: Case) -> float | None:
    return case.derived.condenser_saturation if _is_held(case) else None


def _box_over_set(case: Case) -> float | None:
    return None if case.room is None else case.room.off_k


def _at_compressor(case: Case) -> float | None:
    return None if case.derived.superheat_at_coil else case.derived.superheat


def _power(case: Case) -> float | None:
    """Compressor power against an ordinary stroke on this gas, sized for the room's own design."""
    plate, watts = case.plate, watts_of_amps(case.readings)
    if plate.box_set_point_c is None or watts is None:
        return None
    evaporating_c = plate.box_set_point_c - _coil_class(case)
    usual = expected_power_w(plate, case.readings, _condenser_class(case), evaporating_c)
    return share(watts, usual)


_K, _P = Quantity.TEMPERATURE_DIFFERENCE, Quantity.PERCENT
_ROWS = (
    Sign(
        "coil_superheat",
        "Superheat at the coil",
        _K,
        _LOW,
        lambda case: case.derived.evaporator_superheat,
        _coil_superheat,
    ),
    replace(SIGNS["superheat"], value=_at_compressor, base=lambda _: degrees_f(20)),
    replace(
        SIGNS["evaporator_difference"],
        label="Box over evaporating",
        points=_BOX,
        value=lambda case: case.derived.evaporator_difference,
        base=_coil_class,
    ),
    _free(SIGNS["condensing_over_ambient"], _condenser_class),
    Sign(
        "held_head",
        "Condensing, held",
        Quantity.TEMPERATURE,
        ("liquid_pressure", "outdoor_air_temp"),
        _held_head,
        lambda _: HELD_C,
    ),
    replace(SIGNS["subcooling"], base=lambda _: degrees_f(5), guessed=lambda _: 0.0),
    Sign("box_over_set", "Box over set point", _K, ("box_air_temp",), _box_over_set),
    Sign(
        "coil_air_drop",
        "Air drop over the coil",
        _K,
        ("box_air_temp", "supply_air_temp"),
        between("box_air_temp", "supply_air_temp"),
        lambda _: degrees_f(6),
    ),
    replace(SIGNS["compressor_power"], value=_power),
    SIGNS["discharge_over_stroke"],
    _free(SIGNS["condenser_air_rise"], lambda case: RISE_SHARE * _condenser_class(case)),
    SIGNS["drier_drop"],
    replace(SIGNS["liquid_line_drop"], in_place_of=""),
    replace(SIGNS["outdoor_air"], base=lambda _: fahrenheit(77)),
    replace(SIGNS["pressure_ratio"], base=lambda _: 5.0),
)
ROOM_SIGNS: Mapping[str, Sign] = MappingProxyType({row.key: row for row in _ROWS})
