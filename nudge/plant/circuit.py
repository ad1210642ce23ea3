"""The whole circuit at one opening of its device: where pressures, flow and charge agree.

Three unknowns (both pressures, the enthalpy at the compressor) and three conditions: the
device passes what the compressor moves, the zones hold the charge there is, and the suction
gas is what the evaporator and its line make of it. Newton's method; see `steady.py` for the
opening a valve then settles at.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import exp, log
from typing import NamedTuple

from nudge.core.language.errors import CoreError
from nudge.plant.compressor import CompressorStroke, compress
from nudge.plant.condenser import Condensed, condense
from nudge.plant.evaporator import Evaporated, evaporate
from nudge.plant.fluid import Fluid, load_fluid
from nudge.plant.lines import LiquidLine, liquid_line, receiver_miss, suction_rise
from nudge.plant.machine import Coil, Conditions, Machine
from nudge.plant.metering import passed, resting
from nudge.plant.newton import Root, Three, solve
from nudge.plant.wet_air import WetAir, saturated_ratio

Unknowns = Three
"""ln of the compressor's suction and discharge pressure [kPa abs]; suction enthalpy ÷ 100."""

SUCTION_SCALE = 100.0
HEATING_SUCTION_SHARE = 0.15
"""Of the vapour line that carries suction gas in heating: the rest is hot then."""


@dataclass(frozen=True, slots=True)
class Operating:
    """One operating point of a circuit. Pressures [kPa abs], temperatures [°C], heat [kW]."""

    root: Root | None
    opening: float
    flow: float
    suction_kpa: float
    discharge_kpa: float
    evaporator_kpa: float
    liquid_kpa: float
    """Leaving the condenser."""
    stroke: CompressorStroke
    condensed: Condensed
    line: LiquidLine
    evaporated: Evaporated
    coil_out_c: float
    suction_c: float
    true_suction_c: float
    discharge_c: float
    metering_out_c: float
    superheat_k: float
    """At the coil outlet, where the bulb sits; negative by how wet it is, 1 K to 1 % liquid."""
    condenser_air_c: float
    indoor_air_kg_s: float
    mass: float
    suction_gain: float
    """Heat the suction line lets in [kW]."""
    fan_share: float = 1.0
    """What its head control leaves of the outdoor fan's air."""

    @property
    def evaporating_c(self) -> float:
        """Dew temperature at the coil's outlet, by its bulb [°C]."""
        return self.coil_out_c - max(self.superheat_k, 0.0)

    @property
    def liquid_gain(self) -> float:
        """Heat the liquid line lets in [kW]."""
        return self.flow * (self.line.before_device.enthalpy - self.line.leaving.enthalpy)


class NoOperatingPoint(CoreError):
    """The circuit cannot run like that: the message says at what."""


@dataclass(frozen=True, slots=True)
class Setting:
    """A machine in its conditions, with the indoor air over its coil [kg/s dry].

    `opening` holds the device where it is; None lets a valve stand where it comes to rest.
    """

    machine: Machine
    conditions: Conditions
    indoor_air_kg_s: float
    opening: float | None = None


Starts = Sequence[tuple[float, float]]


def operate(setting: Setting, start: Root | None = None, starts: Starts | None = None) -> Operating:
    """Find the operating point, from a near-by one where there is one, else from first guesses.

    Raises: NoOperatingPoint, when none can be found.
    """
    fluid = load_fluid(setting.machine.fluid)

    def residuals(x: Unknowns) -> Unknowns:
        try:
            return _residuals(setting, fluid, x)
        except (ValueError, ZeroDivisionError, OverflowError, TypeError):
            return NOWHERE  # a trial step so far out that a root or logarithm has no value

    def within(x: Sequence[float]) -> Unknowns:
        return held(x, fluid)

    found = solve(residuals, start.x, within, start.inverse) if start else None
    in_room = setting.machine.application == "refrigeration"
    for low_k, high_k in starts or ((*ROOM_STARTS, *STARTS) if in_room else STARTS):
        if found is not None:
            break
        found = solve(residuals, first_guess(setting, fluid, low_k, high_k), within)
    if found is not None:
        return describe(setting, fluid, found.x, found)
    raise no_point(setting)


def no_point(setting: Setting) -> NoOperatingPoint:
    """The error that says at what the circuit cannot run."""
    c = setting.conditions
    return NoOperatingPoint(
        "plant",
        f"The simulated system finds no operating point with {c.charge_kg:.2f} kg in it at "
        f"{c.outdoor.temp_c:.0f} °C outdoors.",
    )


HOT_GAS_SHARE = 0.7
NOWHERE = (1e6, 1e6, 1e6)
STARTS = ((18.0, 12.0), (24.0, 8.0), (10.0, 20.0), (32.0, 16.0), (40.0, 6.0), (14.0, 30.0))
"""First guesses: evaporator under its air, condenser over its air [K]."""
ROOM_STARTS = ((6.0, 14.0), (9.0, 18.0), (5.0, 9.0), (20.0, 10.0), (10.0, 26.0))
"""The same for a cold room, whose coil works close to its air."""


def first_guess(setting: Setting, fluid: Fluid, low_k: float, high_k: float) -> Unknowns:
    """Where a solution is looked for: so far under and over its airs [K]."""
    c = setting.conditions
    cold, warm = (c.outdoor, c.indoor) if c.heating else (c.indoor, c.outdoor)
    low = max(fluid.dew_kpa(cold.temp_c - low_k), fluid.low_kpa * 1.05)
    high = min(
        fluid.dew_kpa(max(warm.temp_c, cold.temp_c - low_k + 8) + high_k), fluid.high_kpa * 0.97
    )
    return log(low), log(high), (fluid.at(low).vapour_h + 6) / SUCTION_SCALE


def held(x: Sequence[float], fluid: Fluid) -> Unknowns:
    """Keep a trial step on the tables and its pressures the right way round."""
    low = min(max(x[0], log(fluid.low_kpa * 0.4)), log(fluid.high_kpa * 0.8))
    high = min(max(x[1], low + 0.02), log(fluid.high_kpa * 1.08))
    at = fluid.at(exp(low))
    least, most = at.liquid_h + 0.1 * at.latent, at.vapour_h + 160
    return low, high, min(max(x[2], least / SUCTION_SCALE), most / SUCTION_SCALE)


def _residuals(setting: Setting, fluid: Fluid, x: Unknowns) -> tuple[float, float, float]:
    point = describe(setting, fluid, x)
    through = passed(
        setting.machine.device,
        fluid,
        point.line.before_device.kpa,
        point.line.before_device.enthalpy,
        point.evaporator_kpa,
        point.opening,
    )
    machine, conditions = setting.machine, setting.conditions
    charge = conditions.charge_kg - machine.lost_kg
    charge -= machine.heating_store_kg if conditions.heating else 0.0
    arrived = point.evaporated.enthalpy + point.suction_gain / point.flow
    held_back = None
    if machine.lines.receiver_m3:
        missing_kg = charge - point.mass
        held_back = receiver_miss(machine.lines, fluid, point.line.leaving, missing_kg)
    return (
        through / point.flow - 1,
        point.mass / charge - 1 if held_back is None else held_back,
        (arrived - x[2] * SUCTION_SCALE) / 20.0,
    )


class _Sides(NamedTuple):
    """Which coil is hot and which is cold, and the air over each [kg/s]."""

    hot_coil: Coil
    cold_coil: Coil
    hot_air: float
    cold_air: float
    warm: WetAir
    cold: WetAir


def _sides(setting: Setting) -> _Sides:
    machine, c = setting.machine, setting.conditions
    inside, outside = setting.indoor_air_kg_s, _outdoor_air(machine)
    if c.heating:
        hot = _condensing(machine.indoor)
        return _Sides(hot, machine.outdoor, inside, outside, c.indoor, c.outdoor)
    return _Sides(machine.outdoor, machine.indoor, outside, inside, c.outdoor, c.indoor)


def describe(setting: Setting, fluid: Fluid, x: Unknowns, root: Root | None = None) -> Operating:
    """Everything about the circuit at these unknowns, whether or not they agree yet."""
    machine, c = setting.machine, setting.conditions
    low_kpa, high_kpa, suction_h = exp(x[0]), exp(x[1]), x[2] * SUCTION_SCALE
    suction = fluid.at(low_kpa)
    gas_kpa = max(high_kpa - machine.foreign_gas_kpa, 0.3 * high_kpa)
    high = fluid.at(gas_kpa)
    machine = _controlled(machine, fluid.at(high_kpa).middle_c)
    sides = _sides(replace(setting, machine=machine))
    stroke = compress(
        machine.compressor,
        fluid,
        (low_kpa, suction),
        (high_kpa, fluid.at(high_kpa)),
        suction_h,
        c.speed,
        machine.reversing_leak,
    )
    air_c = _air_on(machine, sides.warm, stroke, high.liquid_h, sides.hot_air, c.heating)
    coil = _with_gas(sides.hot_coil, machine)
    gas_in = (stroke.flow, stroke.discharge_h, air_c, sides.hot_air, sides.warm.cp)
    condensed = condense(coil, fluid, gas_kpa, high, *gas_in)
    lost = machine.lines.condenser_resistance * stroke.flow**2 / high.vapour_rho
    liquid_kpa = high_kpa * high_kpa / (high_kpa + lost)
    line = liquid_line(
        machine.lines, fluid, liquid_kpa, condensed.enthalpy, stroke.flow, c.lines_c, c.heating
    )
    evaporator_kpa = (
        low_kpa + machine.lines.suction_resistance * stroke.flow**2 / suction.vapour_rho
    )
    at_coil = fluid.at(evaporator_kpa)
    met = _cooled_again(machine, sides, stroke, line.before_device.enthalpy) if c.heating else None
    evaporated = evaporate(
        sides.cold_coil,
        fluid,
        evaporator_kpa,
        at_coil,
        stroke.flow,
        line.before_device.enthalpy,
        met or sides.cold,
        sides.cold_air,
    )
    rise = suction_rise(machine.lines, at_coil, stroke.flow, evaporated.enthalpy, c.lines_c)
    gain = stroke.flow * (HEATING_SUCTION_SHARE if c.heating else 1.0) * rise
    coil_out_c, superheat_k = _gas(fluid, evaporator_kpa, evaporated.enthalpy)
    opening = setting.opening
    if opening is None:
        opening = resting(machine.device, superheat_k, at_coil.dew_c)
    true_c, _ = _gas(fluid, low_kpa, stroke.suction_h)
    suction_c, _ = _gas(fluid, low_kpa, suction_h)
    discharge_c, _ = _gas(fluid, high_kpa, stroke.discharge_h)
    in_gas = machine.lines.suction_volume_m3 + machine.lines.accumulator_m3
    held = condensed.mass + evaporated.mass + line.mass + in_gas * suction.vapour_rho
    quality = min(max(at_coil.quality(line.before_device.enthalpy), 0.0), 1.0)
    return Operating(
        root, opening, stroke.flow, low_kpa, high_kpa, evaporator_kpa, liquid_kpa, stroke,
        condensed, line, evaporated, coil_out_c, suction_c, true_c, discharge_c,
        at_coil.temp_at(quality), superheat_k, air_c, setting.indoor_air_kg_s, held,
        gain, machine.fan.share / setting.machine.fan.share,
    )  # fmt: skip


def _controlled(machine: Machine, condensing_c: float) -> Machine:
    """As its head control leaves it: a slower fan, or a condenser part full of liquid."""
    if machine.head is None:
        return machine
    share = machine.head.share(condensing_c)
    if machine.head.kind == "flooded":
        return replace(machine, outdoor=replace(machine.outdoor, flooded=1 - share))
    return replace(machine, fan=replace(machine.fan, share=machine.fan.share * share))


def _gas(fluid: Fluid, kpa: float, enthalpy: float) -> tuple[float, float]:
    """Temperature [°C] and superheat [K] of suction or discharge gas; wet gas is under zero."""
    here = fluid.at(kpa)
    if enthalpy >= here.vapour_h:
        gas = fluid.vapour_by_enthalpy(kpa, enthalpy, here)
        return gas.temp_c, gas.temp_c - here.dew_c
    quality = here.quality(enthalpy)
    return here.temp_at(quality), (quality - 1) * 100


def _outdoor_air(machine: Machine) -> float:
    fan, coil = machine.fan, machine.outdoor
    return float(coil.rated_air_kg_s * fan.share * coil.open_face**fan.face_exponent)


def _air_on(
    machine: Machine,
    air: WetAir,
    stroke: CompressorStroke,
    liquid_h: float,
    air_kg_s: float,
    heating: bool,
) -> float:
    """Air reaching the condenser: some of what left it comes back where a collar turns it."""
    back = 0.0 if heating else machine.fan.recirculation
    heat = stroke.flow * (stroke.discharge_h - liquid_h)
    return float(air.temp_c + back / (1 - back) * heat / (air_kg_s * air.cp))


def _cooled_again(
    machine: Machine, sides: _Sides, stroke: CompressorStroke, liquid_h: float
) -> WetAir | None:
    """Air reaching the outdoor coil in heating, where some of what left it comes back; None
    where none does.
    """
    back = machine.fan.recirculation
    if not back:
        return None
    heat = stroke.flow * (stroke.suction_h - liquid_h)
    temp_c = sides.cold.temp_c - back / (1 - back) * heat / (sides.cold_air * sides.cold.cp)
    most = saturated_ratio(temp_c, sides.cold.kpa)
    return WetAir(temp_c, min(sides.cold.ratio, most), sides.cold.kpa)


def _condensing(coil: Coil) -> Coil:
    """An indoor coil fed hot gas, which goes faster through it than cold suction gas does."""
    return replace(coil, ua_vapour=HOT_GAS_SHARE * coil.ua_air)


def _with_gas(coil: Coil, machine: Machine) -> Coil:
    """Foreign gas blankets the condensing surface as well as adding its pressure."""
    if machine.foreign_gas_kpa <= 0:
        return coil
    return replace(coil, ua_two_phase=coil.ua_two_phase / (1 + machine.foreign_gas_kpa / 900))
