"""What can hurt the machine or somebody now, raised beside any verdict. One row a hazard.

A hazard that stops asks for the system to be switched off, at any minute of running. None is
raised from a reading that is doubted already.
"""

from collections.abc import Callable
from collections.abc import Set as AbstractSet
from dataclasses import dataclass
from typing import Literal

from nudge.core.behaviours.case import Case
from nudge.core.language.said import Measure, Said, difference, say, temperature
from nudge.core.language.units import Quantity, atmospheric_kpa, degrees_f, fahrenheit
from nudge.core.physics.refrigerant.catalogue import refrigerant
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.settling.breaches import is_standing

LIQUID_RETURN_K = degrees_f(3)
AT_COIL_K = 0.0
"""A freezer's coil works near its saturation: where only its outlet is read, liquid is told by no
superheat at all."""
OVERHEATING_C = fahrenheit(225)
HIGH_HEAD_K, FAR_TOO_HIGH_HEAD_K = degrees_f(40), degrees_f(55)
HEAD_LIMIT_C = fahrenheit(149)
"""Condensing at 149 °F is near every high-pressure switch."""
DESIGN_SHARE = 0.90
UNDER_AIR_K = degrees_f(15)
"""A cold room or an outdoor coil boils at about this under its air, where nothing says better."""

Effect = Literal["warns", "stops"]


@dataclass(frozen=True, slots=True)
class Hazard:
    """A danger with its reason and the readings it rests on; `raised` answers the warning."""

    key: str
    effect: Effect
    points: frozenset[str]
    reason: str
    raised: Callable[[Case], Said | None]


def _liquid_return(case: Case) -> Said | None:
    values = [case.derived.get(key) for key in case.behaviour.floods_at]
    least = min((v for v in values if v is not None), default=None)
    at_coil = case.room is not None and case.derived.superheat_at_coil
    limit = AT_COIL_K if at_coil else LIQUID_RETURN_K
    if least is None or least >= limit or is_standing(case):
        return None
    return say(
        "Superheat {sh} is under {limit}: liquid may be reaching the compressor. Add nothing.",
        sh=difference(least),
        limit=difference(limit),
    )


def _icing(case: Case) -> Said | None:
    saturation = case.derived.evaporator_saturation
    ices_at = case.behaviour.icing_c
    if saturation is None or ices_at is None or saturation >= ices_at or is_standing(case):
        return None
    return say(
        "Evaporator saturation {sat} is under freezing: the coil will ice.",
        sat=temperature(saturation),
    )


def _overheating(case: Case) -> Said | None:
    line = case.readings.get("discharge_line_temp")
    if line is None or line <= OVERHEATING_C:
        return None
    return say(
        "Discharge line {line} is over {limit}: oil and valves are failing. Stop it, do not run it "
        "on.",
        line=temperature(line),
        limit=temperature(OVERHEATING_C),
    )


def _head_over(case: Case) -> float | None:
    """Condensing over the air that the condenser draws [K]; None unread or standing."""
    saturation = case.derived.condenser_saturation
    if saturation is None or is_standing(case):
        return None
    if case.behaviour.roles.heats:
        return None  # indoors there is no such limit: the house is warmed by it
    drawn = case.record.get("condenser_entering_air_temp")
    if drawn is not None:
        return saturation + (case.derived.condenser_glide or 0.0) / 2 - drawn
    return case.derived.condensing_over_ambient


def _high_head(case: Case) -> Said | None:
    over = _head_over(case)
    if over is None or over <= HIGH_HEAD_K or _far_too_high(case) is not None:
        return None
    return say(
        "Condensing is {over} over the air the condenser draws, over {limit}: look at the outdoor "
        "coil, its fan and where its warm air goes.",
        over=difference(over),
        limit=difference(HIGH_HEAD_K),
    )


def _far_too_high(case: Case) -> Said | None:
    saturation, over = case.derived.condenser_saturation, _head_over(case)
    liquid, design = case.readings.get("liquid_pressure"), case.plate.design_pressure_high_kpa
    if over is not None and over > FAR_TOO_HIGH_HEAD_K:
        return say(
            "Condensing is {over} over the air the condenser draws, over {limit}. Stop it. Then "
            "look at the outdoor coil and fan; move no refrigerant.",
            over=difference(over),
            limit=difference(FAR_TOO_HIGH_HEAD_K),
        )
    if saturation is not None and saturation >= HEAD_LIMIT_C and not is_standing(case):
        return say(
            "Condensing at {now}, {limit} or over. Stop it. Then look at the outdoor coil, the "
            "fan and the load; move no refrigerant.",
            now=temperature(saturation),
            limit=temperature(HEAD_LIMIT_C),
        )
    if liquid is not None and design is not None and liquid >= DESIGN_SHARE * design:
        return say(
            "Liquid pressure {now} is nine tenths of the {design} the plate allows, or more. Stop "
            "it, and move no refrigerant.",
            now=Measure(liquid, Quantity.PRESSURE),
            design=Measure(design, Quantity.PRESSURE),
        )
    return None


def _in_vacuum(case: Case) -> Said | None:
    """Suction under the atmosphere, on a machine that works above it by nature."""
    suction = case.readings.get("suction_pressure")
    if suction is None or suction >= 0 or is_standing(case) or not _works_above(case):
        return None
    fluid = refrigerant(case.plate.refrigerant)
    air = (
        " This refrigerant burns, and air may have come in: no spark, no flame."
        if (fluid.safety_class != "A1")
        else ""
    )
    return say(
        "Suction is in a vacuum, {suction}: stop it. It draws air in at any leak, and the "
        f"compressor overheats.{air} Something shuts the way to the evaporator, or it is empty.",
        suction=Measure(suction, Quantity.PRESSURE),
    )


def _works_above(case: Case) -> bool:
    """Whether this machine's evaporating pressure is above the atmosphere when all is well."""
    expected, roles = case.behaviour.usual_boiling_c, case.behaviour.roles
    if case.rated_coil is not None:
        expected = case.rated_coil.saturation_c
    elif expected is None:
        air = roles.read(roles.cold_air, case.readings)
        if air is None:
            return False
        expected = air - UNDER_AIR_K
    table = load_table(case.plate.refrigerant)
    if not table.dew.low_c <= expected <= table.dew.high_c:
        return False
    return table.dew.pressure(expected) > atmospheric_kpa(case.plate.elevation_m)


HAZARDS: tuple[Hazard, ...] = (
    Hazard(
        "high_head",
        "stops",
        frozenset({"liquid_pressure"}),
        "Over 55 °F above its air, at 149 °F condensing, or at nine tenths of the plate's design "
        "pressure, the head is near its switch or past what the parts are made for.",
        _far_too_high,
    ),
    Hazard(
        "high_head",
        "warns",
        frozenset({"liquid_pressure"}),
        "Over 40 °F above the air the condenser draws is trouble in anything built lately.",
        _high_head,
    ),
    Hazard(
        "in_vacuum",
        "stops",
        frozenset({"suction_pressure"}),
        "A running compressor that pulls its suction under the atmosphere draws in air and water, "
        "and is not cooled. Some fluids work there by nature: those are not warned of.",
        _in_vacuum,
    ),
    Hazard(
        "overheating",
        "stops",
        frozenset({"discharge_line_temp"}),
        "Over 225 °F on the discharge line 6 in. from the compressor, oil breaks down.",
        _overheating,
    ),
    Hazard(
        "liquid_return",
        "warns",
        frozenset(
            {"suction_pressure", "suction_line_temp", "evaporator_outlet_temp", "true_suction_temp"}
        ),
        "Total superheat under 3 °F leaves nothing between the coil and the compressor.",
        _liquid_return,
    ),
    Hazard(
        "icing",
        "warns",
        frozenset({"suction_pressure"}),
        "In comfort cooling an evaporator under 32 °F freezes the water it takes from the air.",
        _icing,
    ),
)


def raise_hazards(case: Case, doubted: AbstractSet[str] = frozenset()) -> list[tuple[Hazard, Said]]:
    """The hazards these readings show, but for those that rest on a doubted point."""
    found = ((hazard, hazard.raised(case)) for hazard in HAZARDS if not hazard.points & doubted)
    return [(hazard, said) for hazard, said in found if said is not None]
