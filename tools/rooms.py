"""Cold rooms with known faults: freezers and coolers of every family, met near their set point.

Each is designed for a box, a coil's and a condenser's class, left with its receiver part full, and
rated at its design. What it is read with is what somebody has who stands before it.
"""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import cache
from math import ceil
from random import Random
from typing import Literal

from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.equipment import Application, MeteringDevice, Plate
from nudge.plant.blower import blow
from nudge.plant.circuit import ROOM_STARTS, NoOperatingPoint, operate
from nudge.plant.circulation import Setting
from nudge.plant.faults import FAULTS, Present, spoiled
from nudge.plant.fluid import load_fluid
from nudge.plant.lines import receiver_level
from nudge.plant.machine import Coil, Conditions, HeadControl, Machine
from nudge.plant.metering import resting
from nudge.plant.newton import Root
from nudge.plant.presets import preset
from nudge.plant.rating import Rating, rated_conditions
from nudge.plant.sizing import sized
from nudge.plant.steady import Steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import air_of
from tools.cousins import FAMILIES
from tools.sweep import PLATE_ROUNDS, USUAL_SPREAD, Site, Swept, read_points, varied

Box = Literal["freezer", "cooler"]
BOXES: tuple[Box, ...] = ("freezer", "cooler")
FLUIDS: Mapping[Box, tuple[str, ...]] = {
    "freezer": ("R-404A", "R-507A", "R-290"),
    "cooler": ("R-404A", "R-449A", "R-134a", "R-448A", "R-290"),
}
SET_C: Mapping[Box, tuple[float, float]] = {"freezer": (-26.0, -15.0), "cooler": (0.0, 6.0)}
SIZE_KW = (1.2, 8.0)
COIL_F, CONDENSER_F = (8, 10, 12, 15), (20, 25, 30)
HEADS: tuple[Literal["none", "cycling", "flooded"], ...] = ("none", "cycling", "cycling", "flooded")
HELD_C = (27.0, 34.0)
LEFT_LEVEL = (0.3, 0.75)
"""How full a receiver is left."""
LEFT_COIL_K, LEFT_CONDENSER_K, LEFT_SUPERHEAT_K = 0.7, 1.0, 0.5
"""How near to its classes a room comes out, and how near its valve is left (1 σ)."""
MATCHES, MATCHED_K, GROWS_BY = 25, 0.25, 0.06
FILLS, LEVEL_GIVE = 8, 0.04
STATED_W = 500.0
"""A plate that states a size states the nearest of these [W]."""
OUTDOORS_C, SHELTERED_C, HUMIDITY = (-2.0, 38.0), (12.0, 38.0), (30.0, 80.0)
"""A condenser whose head nothing holds stands indoors."""
MILD_C, MILD_HUMIDITY, STEP_OUTDOORS_K = 26.0, 50.0, 5.0
GROWS = (0.25, 0.5, 0.75, 1.0)
"""A plant is led from a mild day to its weather, and from nothing wrong to its fault."""
NEAR_K = 1.3
"""A box that calls is near its set point: its thermostat’s own give."""
MOST_OFF_K = degrees_f(4.9)
BOX_HUMIDITY = (65.0, 90.0)
COMMON = (
    "condenser_dirt", "condenser_fan", "recirculating", "non_condensables", "drier_restricted",
    "line_kinked", "service_valve", "metering_underfeed", "metering_overfeed", "bulb_loose",
    "compressor_worn", "compressor_reed",
)  # fmt: skip
ROOM_FAULTS = (*COMMON, *(key for key, row in FAULTS.items() if row.only == "room"))
READ = (
    "suction_pressure", "liquid_pressure", "suction_line_temp", "evaporator_outlet_temp",
    "liquid_line_temp", "drier_inlet_temp", "drier_outlet_temp", "liquid_line_temp_indoor",
    "discharge_line_temp", "outdoor_air_temp", "condenser_leaving_air_temp", "box_air_temp",
    "supply_air_temp", "compressor_amps",
)  # fmt: skip
"""What a full set of instruments reads on a cold room."""


@cache
def room(number: int, family: str, box: Box, spread: float = USUAL_SPREAD) -> Site:
    """The cold room of a number: designed, built as its family builds, left running well."""
    rng = Random(f"{box}{family}{number}")
    while True:
        try:
            return _room(rng, family, box, spread)
        except (NoOperatingPoint, ValueError, ArithmeticError):
            continue


def _room(rng: Random, family: str, box: Box, spread: float) -> Site:
    of = FAMILIES[family]
    rating = preset("freezer-404a" if box == "freezer" else "walk-in-449a").rating
    box_c, kw = rng.uniform(*SET_C[box]), rng.uniform(*SIZE_KW)
    coil_f, condenser_f = rng.choice(COIL_F), rng.choice(CONDENSER_F)
    kind, set_c, band_k = rng.choice(HEADS), rng.uniform(*HELD_C), rng.uniform(2.5, 6.0)
    head = None if kind == "none" else HeadControl(kind, set_c, band_k)
    rating = replace(
        rating,
        fluid=rng.choice(FLUIDS[box]),
        nominal_kw=kw,
        evaporating_c=box_c - degrees_f(coil_f),
        over_ambient_k=degrees_f(condenser_f),
        indoor=(box_c, 82.0),
        line_m=rng.uniform(5.0, 18.0),
        receiver_l=kw * rng.uniform(0.9, 1.6),
        head=head,
    )
    built = varied(sized(rating, lambda m: of.shape(m, rng)), rng, spread)
    left = [rng.gauss(0, k) for k in (LEFT_COIL_K, LEFT_CONDENSER_K, LEFT_SUPERHEAT_K)]
    matched = _matched(replace(built, head=head), rating, left)
    machine = _filled(matched, rating, rng.uniform(*LEFT_LEVEL))
    at = _at_rest(machine, rated_conditions(rating, machine.charge_kg))
    watts = 1000 * at.operating.evaporated.heat * rng.gauss(1, PLATE_ROUNDS)
    if of.plates_by_class:
        watts = round(watts / STATED_W) * STATED_W
    return Site(
        machine,
        Plate(
            rating.fluid,
            MeteringDevice("txv"),
            application=Application.REFRIGERATION,
            nominal_capacity_w=max(watts, STATED_W),
            box_set_point_c=box_c,
            coil_class_k=degrees_f(coil_f),
            condenser_class_k=degrees_f(condenser_f),
            has_receiver="yes",
            head_pressure_control=kind,
        ),
        machine.charge_kg,
    )


def _matched(machine: Machine, rating: Rating, left: Sequence[float]) -> Machine:
    """Its coils as large as their classes say and its valve set, each off by what is `left` [K]:
    a room is designed so and its valve set by hand, whatever else of it varies.

    Raises: NoOperatingPoint, where it cannot be matched.
    """
    fluid, at = load_fluid(machine.fluid), None
    for _ in range(MATCHES):
        near = None if at is None else at.root
        at = _at_rest(machine, rated_conditions(rating, machine.charge_kg), near).operating
        over_k = fluid.at(at.discharge_kpa).middle_c - rating.outdoor_c
        coil = (rating.indoor[0] - at.evaporating_c) - (
            rating.indoor[0] - rating.evaporating_c + left[0]
        )
        condenser = over_k - (rating.over_ambient_k + left[1])
        superheat = at.superheat_k - (rating.superheat_k + left[2])
        if max(abs(coil), abs(condenser), abs(superheat)) < MATCHED_K:
            return machine
        device = machine.device
        machine = replace(
            machine,
            indoor=grown(machine.indoor, 1 + GROWS_BY * coil),
            outdoor=grown(machine.outdoor, 1 + GROWS_BY * condenser),
            device=replace(
                device,
                static_superheat_k=max(device.static_superheat_k - 0.7 * superheat, 0.05),
            ),
        )
    raise NoOperatingPoint("plant", "It cannot be matched to its classes.")


def grown(coil: Coil, share: float) -> Coil:
    """A coil with so much more surface, and the volume that goes with it."""
    return replace(
        coil,
        ua_air=coil.ua_air * share,
        ua_two_phase=coil.ua_two_phase * share,
        ua_vapour=coil.ua_vapour * share,
        ua_liquid=coil.ua_liquid * share,
        volume_m3=coil.volume_m3 * share,
    )


def _filled(machine: Machine, rating: Rating, level: float) -> Machine:
    """Its receiver left this full at the rated point; what stands in it then is its stock.

    Raises: NoOperatingPoint, where it cannot be filled so.
    """
    fluid, volume = load_fluid(machine.fluid), machine.lines.receiver_m3
    at = None
    for _ in range(FILLS):
        near = None if at is None else at.root
        at = _at_rest(machine, rated_conditions(rating, machine.charge_kg), near).operating
        now = receiver_level(fluid, at.line.leaving)
        holds_kg = volume * fluid.at(at.liquid_kpa).liquid_rho
        if abs(now - level) < LEVEL_GIVE:
            return replace(machine, stock_kg=now * holds_kg)
        machine = replace(machine, charge_kg=machine.charge_kg + (level - now) * holds_kg)
    raise NoOperatingPoint("plant", "Its receiver cannot be filled.")


def swept_room(of: Site, faults: Sequence[Present], rng: Random) -> Swept | None:
    """The room at rest near its set point with its faults; None where it cannot run so, or is too
    far from its set point to be judged.
    """
    set_c = of.plate.box_set_point_c
    assert set_c is not None
    box = air_of(set_c + rng.uniform(-NEAR_K, NEAR_K), rng.uniform(*BOX_HUMIDITY))
    coldest, warmest = OUTDOORS_C if of.machine.head else SHELTERED_C
    outdoor = air_of(rng.uniform(coldest, warmest), rng.uniform(*HUMIDITY))
    conditions = Conditions(box, outdoor, of.machine.charge_kg)
    machine, met = spoiled(of.machine, conditions, faults)
    try:
        well = _led([(of.machine, c) for c in _towards(conditions)])
        growing = [
            spoiled(of.machine, conditions, [replace(f, severity=f.severity * s) for f in faults])
            for s in GROWS
        ]
        at = _led(growing, well.operating.root) if faults else well
    except (NoOperatingPoint, ValueError, ArithmeticError):
        return None
    if abs(met.indoor.temp_c - set_c) > MOST_OFF_K or not _stands(at):
        return None
    truth = running_truth(at)
    share = (met.charge_kg - machine.lost_kg) / of.right_kg
    return Swept(of, tuple(faults), truth, share, running_truth(well))


def _towards(met: Conditions) -> list[Conditions]:
    """From a mild day to the weather that is met, a few kelvin at a time."""
    over = met.outdoor.temp_c - MILD_C
    steps = max(ceil(abs(over) / STEP_OUTDOORS_K), 1)
    airs = (air_of(MILD_C + over * n / steps, MILD_HUMIDITY) for n in range(steps))
    return [*(replace(met, outdoor=air) for air in airs), met]


def _led(way: Sequence[tuple[Machine, Conditions]], near: Root | None = None) -> Steady:
    """At rest at the end of a way, each found from the one before. Raises: NoOperatingPoint."""
    at = None
    for machine, conditions in way:
        at = _at_rest(machine, conditions, near)
        near = at.operating.root
    assert at is not None
    return at


def _at_rest(machine: Machine, conditions: Conditions, near: Root | None = None) -> Steady:
    """At rest where Newton's method finds it: what has to be bracketed is left out.

    Raises: NoOperatingPoint.
    """
    airflow = blow(machine.blower, machine.volts)
    point = operate(Setting(machine, conditions, airflow.kg_s), near, ROOM_STARTS[:2])
    return Steady(machine, conditions, airflow, point)


def _stands(at: Steady) -> bool:
    """Whether its valve rests where it was found: a bracket that missed does not."""
    point, device = at.operating, at.machine.device
    if device.stuck_at is not None:
        return True
    return abs(resting(device, point.superheat_k, point.evaporating_c) - point.opening) < 0.05


SHOWS: Mapping[str, float] = {
    "evaporator_outlet_temp": degrees_f(3),
    "suction_line_temp": degrees_f(6),
    "supply_air_temp": degrees_f(1.5),
    "liquid_line_temp": degrees_f(4),
    "condenser_leaving_air_temp": degrees_f(3),
    "discharge_line_temp": degrees_f(12),
}
SHOWS_SHARE: Mapping[str, float] = {
    "suction_pressure": 0.06,
    "liquid_pressure": 0.06,
    "compressor_amps": 0.06,
}
STEPS = (("drier_inlet_temp", "drier_outlet_temp"), ("liquid_line_temp", "drier_inlet_temp"))
STEP_K = degrees_f(3)
SEEN = (
    "room_fan_stands",
    "room_coil_iced",
    "door_open",
    "warm_goods",
    "receiver_low",
    "condenser_coil_dirty",
    "condenser_fan_weak",
)
"""What nobody walks past in a room, beside its receiver and at its condenser."""
SEEN_FAULTS = frozenset(
    {"room_fan", "room_coil_iced", "door_open", "receiver_short", "product_load"}
)


def shows_in_room(case: Swept) -> bool:
    """Whether a steady reading or a look into the room can show what is wrong."""
    here, clean = case.truth, case.clean
    if clean is None or any(p.key in SEEN_FAULTS for p in case.faults):
        return True
    kpa = 101.3
    return (
        any(abs(here[p] - clean[p]) > limit for p, limit in SHOWS.items())
        or any(
            abs((here[p] + kpa) / (clean[p] + kpa) - 1) > limit for p, limit in SHOWS_SHARE.items()
        )
        or any(abs(here[a] - here[b] - clean[a] + clean[b]) > STEP_K for a, b in STEPS)
    )


def read_room(case: Swept, rng: Random) -> dict[str, float]:
    """Every point a full set of instruments reads on a cold room."""
    return read_points({point: case.truth[point] for point in READ}, (), rng)


def may_have_in_room(of: Site, fault: str) -> bool:
    """Whether a fault can befall this room."""
    return of.machine.head is not None or not fault.startswith("head_held")
