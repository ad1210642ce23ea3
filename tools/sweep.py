"""Random systems in random weather with known faults, read by instruments with known errors.

What the judge's table is built from (`tools.make_signatures`) and what it is measured on
(`tools.judge_study`), with seeds that never meet. Nothing here is used by the application.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields, replace
from functools import cache
from random import Random
from typing import Any, TypeVar

from nudge.core.language.units import atmospheric_kpa, degrees_f, fahrenheit
from nudge.core.language.vocabulary.accuracy import accuracy_of
from nudge.core.physics.air.load import HIGH_LOAD_C, HIGH_LOAD_WET_BULB_C, LOW_LOAD_C
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate, ReversingValve
from nudge.core.physics.refrigerant.saturation import glide_at
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.targets.condensing import DEFAULT_SEER
from nudge.plant.blower import blow
from nudge.plant.circuit import NoOperatingPoint
from nudge.plant.faults import FAULTS, Present, spoiled
from nudge.plant.machine import Coil, Compressor, Conditions, Lines, Machine
from nudge.plant.presets import PRESETS, TON_KW, preset
from nudge.plant.rating import Rating, rated_conditions
from nudge.plant.sizing import sized
from nudge.plant.steady import Steady, steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import WetAir, air_of
from tools.cousins import Family, family_of

Part = TypeVar("Part", Coil, Compressor, Lines)
COMFORT = tuple(k for k, row in PRESETS.items() if row.rating.application == "comfort_cooling")
STEADY_FAULTS = tuple(
    key for key, row in FAULTS.items() if row.suspect and not row.only and key != "hunting"
)
"""Faults that show in settled readings; hunting shows in a trace."""
EER_OF_SEER = 0.85
"""A season's efficiency against the rated point's."""
GLIDING = ("R-407C", "R-407A", "R-422D", "R-417A", "R-454C", "R-448A")
ORIFICE_SUPERHEAT_K = 7.3
RATED_TIMES = 2
"""How often a machine is rated before its plate is written: its air follows its capacity."""
PLATE_ROUNDS = 0.04
"""A plate's capacity and efficiency are the maker's test, rounded to a size (1 σ, share)."""
WATTS_PER_EER = 0.29307
USUAL_SPREAD, STRANGE_SPREAD = 0.20, 0.30
"""How far every constant of a system may be from its preset's, ordinary or strange (share)."""
LEFT_SUBCOOLING_K, LEFT_SUPERHEAT_K = 0.67, 1.2
"""How near to its target a good installer leaves a system (1 σ): tolerances are ±3 and ±5 °F."""
FIVE = (
    "suction_pressure",
    "liquid_pressure",
    "suction_line_temp",
    "liquid_line_temp",
    "outdoor_air_temp",
)
NOT_READ = (
    "discharge_pressure",
    "return_air_rh",
    "supply_air_rh",
    "indoor_unit_watts",
    "outdoor_unit_watts",
    "blower_amps",
    "condenser_fan_amps",
    "capacitor_microfarads",
    "metering_outlet_temp",
    "line_volts",
    "strip_amps",
    *(
        f"{unit}_unit_{what}"
        for unit in ("outdoor", "indoor")
        for what in ("volts", "amps", "power_factor")
    ),
)
"""Points of the truth that repeat another, or that need a plate number Nudge does not keep."""
HEAT_PUMP_FAULTS = ("reversing_valve_leak",)
VALVE_FAULTS = ("bulb_loose",)


@dataclass(frozen=True)
class Site:
    """A commissioned system: the machine, what its plate says, how high it stands."""

    machine: Machine
    plate: Plate
    right_kg: float
    """The charge that gives exactly what the plate asks for; it was left near that."""


@dataclass(frozen=True)
class Swept:
    """One system at rest with its faults: perfect readings, and what is true of it."""

    site: Site
    faults: tuple[Present, ...]
    truth: Mapping[str, float]
    charge_share: float
    """What is in it, of what should be."""
    clean: Mapping[str, float] | None = None
    """What it would read then and there with nothing wrong; None where nobody asked."""

    @property
    def suspects(self) -> tuple[str, ...]:
        return tuple(FAULTS[p.key].suspect for p in self.faults) or ("none",)


@cache
def site(number: int, kind: str, spread: float = USUAL_SPREAD) -> Site:
    """The system of a number: `kind` is valve or orifice, "strange valve" for one far from them,
    "circuits/valve" for one of a family of cousins (`tools.cousins`).

    Ordinary ones vary by `spread` in every constant about a preset; strange ones by ±30 %, with
    other sizes, glides and elevations. Each is then commissioned (charge, orifice and air), and
    rated: its plate says what its maker's test would have found.
    """
    rng = Random(f"{kind}{number}")
    family, of = family_of(kind)
    while True:
        try:
            strange = of.startswith("strange")
            return _site(rng, family, of, STRANGE_SPREAD if strange else spread)
        except NoOperatingPoint:
            continue


def _glide_k(fluid: str, dew_c: float) -> float:
    """Coils work at the mean of the glide: both ends are placed round it."""
    return glide_at(load_table(fluid), dew_c)


def _site(rng: Random, family: Family, kind: str, spread: float) -> Site:
    strange = kind.startswith("strange")
    keys = [
        k
        for k in COMFORT
        if (PRESETS[k].rating.device == "fixed_orifice") is kind.endswith("orifice")
    ]
    row = preset(rng.choice(keys))
    rating, elevation_m = row.rating, 0.0
    if kind.startswith(WINTER):
        rating = replace(rating, is_heat_pump=True)
    efficiency = 0.0
    if strange:
        elevation_m = rng.choice((0.0, rng.uniform(300, 1800)))
        fluid = rng.choice(GLIDING) if rng.random() < 0.4 else rating.fluid
        rating = replace(
            rating,
            fluid=fluid,
            nominal_kw=TON_KW * rng.uniform(1.3, 6),
            over_ambient_k=rating.over_ambient_k - _glide_k(fluid, 45) / 2,
            evaporating_c=rating.evaporating_c + 0.4 * _glide_k(fluid, 5),
            line_m=rng.uniform(4, 15),
        )
    machine = varied(sized(rating, lambda m: family.shape(m, rng)), rng, spread)
    share = rng.uniform(0.92, 1.08)
    exact, capacity_kw = machine, rating.nominal_kw
    for _ in range(RATED_TIMES):
        machine = _with_air(machine, share * rating.air_kg_s_per_kw * capacity_kw)
        exact = _commissioned(rating, machine, 0.0, 0.0)
        capacity_kw, efficiency = _rated(rating, exact)
    left = _commissioned(
        rating, exact, rng.gauss(0, LEFT_SUBCOOLING_K), rng.gauss(0, LEFT_SUPERHEAT_K)
    )
    is_valve = rating.device != "fixed_orifice"
    seer = max(efficiency / EER_OF_SEER * rng.gauss(1, PLATE_ROUNDS), 6.0)
    if family.plates_by_class:
        capacity_kw = max(round(capacity_kw / HALF_TON_KW), 2) * HALF_TON_KW
        seer = (row.rated_seer or DEFAULT_SEER) + rng.uniform(-CLASS_BAND_SEER, CLASS_BAND_SEER)
    return Site(
        left,
        Plate(
            rating.fluid,
            MeteringDevice(rating.device),
            nominal_capacity_w=capacity_kw * 1000 * rng.gauss(1, PLATE_ROUNDS),
            rated_seer=seer,
            elevation_m=elevation_m,
            target_subcooling_k=rating.subcooling_k if is_valve else None,
            reversing_valve=ReversingValve("present" if rating.is_heat_pump else "absent"),
        ),
        exact.charge_kg,
    )


WINTER = "winter "
"""Systems that are met in heating: every one is a heat pump."""
STROKES = 0.10
"""How far an efficiency is from its class's (share): hermetic compressors of a class differ by
less than coils do, whatever else is varied."""
HALF_TON_KW = TON_KW / 2
"""Machines are sold by the half ton: a plate that states a size states the nearest."""
CLASS_BAND_SEER = 1.2
"""How far a machine's efficiency may be from the class its plate states."""
_FIXED = {"open_face", "conductance", "bypass", "leak", "rated_air_kg_s", "best_ratio",
          "restriction", "receiver_m3", "accumulator_m3", "leak_again", "over_best",
          "under_best", "suction_heat", "air_exponent", "flow_exponent", "rated_flow",
          "slip_exponent", "uneven"}  # fmt: skip


def varied(machine: Machine, rng: Random, spread: float) -> Machine:
    """Every constant of the machine moved by up to ± `spread`."""

    def moved(part: Part) -> Part:
        changes: dict[str, Any] = {}
        for f in fields(part):
            value = getattr(part, f.name)
            if f.name not in _FIXED and isinstance(value, float):
                far = min(STROKES, spread) if f.name == "isentropic" else spread
                changes[f.name] = value * rng.uniform(1 - far, 1 + far)
        if "volumetric" in changes:
            changes["volumetric"] = min(changes["volumetric"], 1.0)
        return replace(part, **changes)

    blower = replace(
        machine.blower,
        **{
            name: getattr(machine.blower, name) * rng.uniform(1 - spread, 1 + spread)
            for name in (
                "most_pa",
                "return_resistance",
                "filter_resistance",
                "coil_resistance",
                "supply_resistance",
                "rated_watts",
            )
        },
    )
    device = machine.device
    if device.kind != "fixed_orifice":
        device = replace(
            device,
            area_m2=device.area_m2 * rng.uniform(1, 1 + spread),
            gradient_k=device.gradient_k * rng.uniform(1 - spread, 1 + spread),
            static_superheat_k=device.static_superheat_k + rng.gauss(0, 0.6),
        )
    return replace(
        machine,
        compressor=moved(machine.compressor),
        outdoor=moved(machine.outdoor),
        indoor=moved(machine.indoor),
        lines=moved(machine.lines),
        blower=blower,
        device=device,
        fan=replace(machine.fan, watts=machine.fan.watts * rng.uniform(1 - spread, 1 + spread)),
    )


def _rated(rating: Rating, machine: Machine) -> tuple[float, float]:
    """What its maker's test would find: capacity at the rated point [kW], and EER [Btu/h per W]."""
    at = steady(machine, rated_conditions(rating, machine.charge_kg))
    point, truth = at.operating, running_truth(at)
    watts = truth["outdoor_unit_watts"] + truth["indoor_unit_watts"]
    heat_w = 1000 * point.evaporated.heat - truth["indoor_unit_watts"]
    return heat_w / 1000, heat_w / watts / WATTS_PER_EER


def _with_air(machine: Machine, wanted: float) -> Machine:
    """Its air set [kg/s], near 400 CFM a ton, by tap or by setting."""
    if machine.blower.kind == "ecm":
        return replace(machine, blower=replace(machine.blower, set_kg_s=wanted))
    for _ in range(12):
        share = wanted / blow(machine.blower, machine.volts).kg_s
        blower = machine.blower
        blower = replace(
            blower, most_kg_s=blower.most_kg_s * share**2, most_pa=blower.most_pa * share
        )
        machine = replace(machine, blower=blower)
    return machine


def _commissioned(rating: Rating, machine: Machine, over_k: float, hotter_k: float) -> Machine:
    """Charge (and an orifice) to the plate at its point, off by what a good installer leaves."""
    for _ in range(14):
        at = steady(machine, rated_conditions(rating, machine.charge_kg))
        miss = rating.subcooling_k + over_k - _subcooling(at)
        charge = machine.charge_kg * (1 + max(-0.12, min(0.12, 0.022 * miss)))
        area = machine.device.area_m2
        over = 0.0
        if rating.device == "fixed_orifice":
            over = _superheat(at) - ORIFICE_SUPERHEAT_K - hotter_k
            area *= 1 + max(-0.1, min(0.1, 0.015 * over))
        machine = replace(machine, charge_kg=charge, device=replace(machine.device, area_m2=area))
        if abs(miss) < 0.15 and abs(over) < 0.3:
            return machine
    if abs(miss) > 1.5 or abs(over) > 3:
        raise NoOperatingPoint("plant", "It cannot be commissioned to its plate.")
    return machine


def _subcooling(at: Steady) -> float:
    table, t = load_table(at.machine.fluid), running_truth(at)
    kpa = t["liquid_pressure"] + at.conditions.outdoor.kpa
    return table.bubble.temperature(kpa) - t["liquid_line_temp"]


def _superheat(at: Steady) -> float:
    table, t = load_table(at.machine.fluid), running_truth(at)
    return t["suction_line_temp"] - table.dew.temperature(
        t["suction_pressure"] + at.conditions.outdoor.kpa
    )


def swept(of: Site, faults: Sequence[Present], rng: Random) -> Swept | None:
    """The system at rest with its faults in weather of its own; None where it cannot run so."""
    kpa = atmospheric_kpa(of.plate.elevation_m)
    cold = any(p.key == "low_ambient" for p in faults)
    outdoors = rng.uniform(23, 30) if cold else rng.uniform(22.5, 40.5)
    outdoor = air_of(outdoors, rng.uniform(30, 60), kpa)
    for _ in range(HOUSES):
        indoor = air_of(rng.gauss(HOUSE_C, HOUSE_SPREAD_K), rng.uniform(30, 65), kpa)
        conditions = Conditions(indoor, outdoor, of.machine.charge_kg)
        machine, met = spoiled(of.machine, conditions, faults)
        if load_of(met.indoor) == {p.key for p in faults} & {"low_load", "high_load"}:
            break
    else:
        return None
    try:
        at = steady(machine, met)
    except (NoOperatingPoint, ValueError, ArithmeticError):
        return None
    share = at.conditions.charge_kg / of.right_kg
    return Swept(of, tuple(faults), running_truth(at), share)


HOUSES = 60
"""How often a house is drawn until its load is what the case is of."""
HOUSE_C, HOUSE_SPREAD_K = fahrenheit(76), degrees_f(4.4)
"""Return air of real houses (mean, 1 σ)."""


def load_of(air: WetAir) -> set[str]:
    """What the air itself says of the load: the judge's own definition."""
    if air.temp_c < LOW_LOAD_C:
        return {"low_load"}
    high = air.temp_c > HIGH_LOAD_C or air.wet_bulb_c > HIGH_LOAD_WET_BULB_C
    return {"high_load"} if high else set()


def read(case: Swept, rng: Random) -> dict[str, float]:
    """Every point a full set of instruments reads, each off by its kind's own error."""
    return read_points(case.truth, NOT_READ, rng)


def read_points(
    truth: Mapping[str, float], left_out: Sequence[str], rng: Random
) -> dict[str, float]:
    """The truth as instruments read it, some points left out."""
    given = {}
    for point, value in truth.items():
        if point not in left_out:
            given[point] = rng.gauss(value, accuracy_of(point).limit(value) / 2)
    return given


def may_have(of: Site, fault: str) -> bool:
    """Whether a fault can befall this system."""
    if fault in HEAT_PUMP_FAULTS:
        return of.machine.is_heat_pump
    if fault in VALVE_FAULTS:
        return of.machine.device.kind == "txv"
    return True
