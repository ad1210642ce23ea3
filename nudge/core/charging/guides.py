"""Each way in, step by step, with its figures for this system today, and the other schools.

A figure that has to come right first says whether it is: a collar is set by its condensing
temperature and the valve's pressure difference, never by how much of the coil it covers.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

from nudge.core.behaviours.case import Case
from nudge.core.charging.way_steps import BY_PIPES, STEPS
from nudge.core.charging.ways import WAYS, ChargeWay, Connection, WayStep, way_for
from nudge.core.language.said import Measure, Said, pressure_difference, say
from nudge.core.language.said import temperature as shown_temperature
from nudge.core.language.units import Quantity
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.circuit.tubes import hose_contents, hose_named
from nudge.core.physics.circuit.whole import whole_charge
from nudge.core.settling.collar import (
    COLLAR_LEAST_C,
    COLLAR_WANTED_UNDER_C,
    condensing_wanted,
    valve_need_kpa,
)

Is = Literal["right", "low", "high", ""]


@dataclass(frozen=True, slots=True)
class Figure:
    """One figure of a way, and whether it is where it has to be ("" where it is only said)."""

    label: str
    said: Said
    stands: Is = ""


@dataclass(frozen=True, slots=True)
class Guide:
    """A way in for this system today: whether it is the one, and why (not)."""

    way: ChargeWay
    is_the_one: bool
    why: Said
    figures: tuple[Figure, ...]
    steps: tuple[WayStep, ...]


@dataclass(frozen=True, slots=True)
class OtherSchool:
    """Another way some hands work, and why it is not offered first."""

    key: str
    label: str
    how: str
    reason: str


OTHER_SCHOOLS: tuple[OtherSchool, ...] = (
    OtherSchool(
        "face_blocked",
        "Block part of the coil’s face",
        "On a cold day part of the condenser is covered until the head is up, then charged by "
        "subcooling.",
        "The covered circuits hold liquid the others do not: subcooling reads low, and the "
        "system ends overcharged. The collar leaves every circuit the same air.",
    ),
    OtherSchool(
        "weigh_only",
        "Weigh in and leave it",
        "The sheet’s charge goes in by weight and nothing is trimmed by readings.",
        "Right where the maker asks for it, and where it is too cold to judge. It stands on the "
        "sheet alone: a line longer than written is not seen. Come back in season and read.",
    ),
    OtherSchool(
        "vapour_only",
        "Feed vapour only",
        "A pure refrigerant goes in as vapour, the cylinder upright.",
        "Safe for the compressor, but slow, and the cylinder cools and stops pouring. Never with "
        "a blend: its parts leave in different shares.",
    ),
    OtherSchool(
        "by_pressures",
        "Match the maker’s pressures",
        "Refrigerant goes in until both pressures are those of the maker’s table.",
        "Pressures follow load, air and weather before they follow charge. They are a gross "
        "check on superheat and subcooling, never the target.",
    ),
)

NEVER_TRIMMED = say(
    "A plant with many rooms is never trimmed: all of it is recovered, weighed, and weighed in by "
    "the sum of its pipes."
)


def guides(plate: Plate, case: Case | None, given_kg: float, watched: str) -> list[Guide]:
    """Every way that this system can be charged, the one for today first.

    `given_kg` is what has gone in on this visit; `watched` what its method judges.
    """
    if plate.liquid_pipes is not None:
        figures = _weigh_in(_Today(plate, case, given_kg))
        return [Guide(WAYS["weigh_in"], True, NEVER_TRIMMED, figures, STEPS[BY_PIPES])]
    cold = _is_cold(case)
    found = []
    usual = way_for(plate.metering_device, watched, removes=False)
    keys = {usual.key, "cold_with_collar", "weigh_in", "remove"}
    for key, way in WAYS.items():
        if key not in keys:
            continue
        is_the_one, why = _why(key, usual.key, cold, case)
        found.append(
            Guide(way, is_the_one, why, _FIGURES[key](_Today(plate, case, given_kg)), STEPS[key])
        )
    return sorted(found, key=lambda guide: not guide.is_the_one)


def hose_kg(link: Connection, fluid: str) -> float:
    """Liquid in a connection's full hose [kg]; 0 where it has none."""
    if not link.hose_m:
        return 0.0
    return hose_contents(fluid, hose_named(link.hose), link.hose_m) / 1000


def _is_cold(case: Case | None) -> bool:
    air = None if case is None else case.outdoor_c
    return air is not None and air < COLLAR_WANTED_UNDER_C


def _why(key: str, usual: str, cold: bool, case: Case | None) -> tuple[bool, Said]:
    if key == usual:
        if cold:
            return False, say("Too cold outdoors for it today, unless a collar makes it warm.")
        return True, say("What this system is trimmed by.")
    if key == "cold_with_collar":
        air = None if case is None else case.outdoor_c
        if air is None or not cold:
            return False, say(
                "For days under {limit} outdoors.", limit=shown_temperature(COLLAR_WANTED_UNDER_C)
            )
        if air < COLLAR_LEAST_C:
            return False, say(
                "{air} is too cold even for it: weigh in, and come back in season.",
                air=shown_temperature(air),
            )
        return True, say(
            "{air} outdoors: too cold to judge as it stands.", air=shown_temperature(air)
        )
    if key == "weigh_in":
        air = None if case is None else case.outdoor_c
        if air is not None and air < COLLAR_LEAST_C:
            return True, say("Too cold to trim: the sheet’s weight, and a reading in season.")
        return False, say("For an empty system, after repair and evacuation.")
    return False, say("When the judge says that there is too much in it.")


@dataclass(frozen=True, slots=True)
class _Today:
    """What a figure is worked out from; `given_kg` is what went in on this visit."""

    plate: Plate
    case: Case | None
    given_kg: float


def _no_figures(_: _Today) -> tuple[Figure, ...]:
    return ()


def _weigh_in(today: _Today) -> tuple[Figure, ...]:
    whole = whole_charge(today.plate)
    left = max(whole.kg - today.given_kg, 0.0)
    return (
        Figure(
            "It should hold",
            say(f"{{whole}}, by {whole.source}", whole=Measure(whole.kg, Quantity.CHARGE)),
        ),
        Figure(
            "On this visit",
            say(
                "{given} in, {left} to go",
                given=Measure(today.given_kg, Quantity.CHARGE),
                left=Measure(left, Quantity.CHARGE),
            ),
        ),
    )


def _collar(today: _Today) -> tuple[Figure, ...]:
    plate, case = today.plate, today.case
    (low, high), need = condensing_wanted(plate), valve_need_kpa(plate.refrigerant)
    now = None if case is None else case.derived.condenser_saturation
    drop = None if case is None else case.derived.valve_pressure_difference
    ends = {"low": shown_temperature(low), "high": shown_temperature(high)}
    condensing = Figure("Condensing", say("{low} to {high} wanted, not read yet", **ends))
    if now is not None:
        stands: Is = "right"
        if not low <= now <= high:
            stands = "low" if now < low else "high"
        condensing = Figure(
            "Condensing",
            say("{now}, {low} to {high} wanted", now=shown_temperature(now), **ends),
            stands,
        )
    figures = [condensing]
    if plate.metering_device.is_valve:
        wants = pressure_difference(need)
        across = Figure("Across the valve", say("{need} or more wanted, not read yet", need=wants))
        if drop is not None:
            across = Figure(
                "Across the valve",
                say("{drop}, {need} or more wanted", drop=pressure_difference(drop), need=wants),
                "right" if drop >= need else "low",
            )
        figures.append(across)
    return tuple(figures)


_FIGURES: Mapping[str, Callable[[_Today], tuple[Figure, ...]]] = {
    "trim_by_subcooling": _no_figures,
    "trim_by_superheat": _no_figures,
    "inverter_charge_mode": _no_figures,
    "cold_with_collar": _collar,
    "weigh_in": _weigh_in,
    "remove": _no_figures,
}
