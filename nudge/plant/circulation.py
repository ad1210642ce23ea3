"""The refrigerant followed once round its circuit, from two pressures and the gas drawn in."""

from dataclasses import dataclass, replace
from math import exp
from typing import NamedTuple

from nudge.plant.compressor import CompressorStroke, compress
from nudge.plant.condenser import Condensed, condense
from nudge.plant.evaporator import Evaporated, evaporate
from nudge.plant.fluid import Fluid, Saturated
from nudge.plant.lines import LiquidLine, liquid_line, suction_rise
from nudge.plant.machine import Coil, Conditions, Machine
from nudge.plant.newton import Three
from nudge.plant.wet_air import WetAir, saturated_ratio

Unknowns = Three
"""ln of the compressor's suction and discharge pressure [kPa abs]; suction enthalpy ÷ 100."""

SUCTION_SCALE = 100.0
HEATING_SUCTION_SHARE = 0.15
"""Of the vapour line that carries suction gas in heating: the rest is hot then."""
HOT_GAS_SHARE = 0.7
"""Of its air's conductance that a coil fed hot gas has on its gas."""


@dataclass(frozen=True, slots=True)
class Setting:
    """A machine in its conditions, with the indoor air over its coil [kg/s dry].

    `opening` holds the device where it is; None lets a valve stand where it comes to rest.
    """

    machine: Machine
    conditions: Conditions
    indoor_air_kg_s: float
    opening: float | None = None


class Round(NamedTuple):
    """What was met on the way round, whether or not its ends agree. Units as in `Operating`."""

    low: Saturated
    """At the compressor's suction; `high` at its discharge, `coil` at the evaporator's outlet."""
    high: Saturated
    coil: Saturated
    stroke: CompressorStroke
    condensed: Condensed
    line: LiquidLine
    evaporated: Evaporated
    evaporator_kpa: float
    liquid_kpa: float
    coil_out_c: float
    superheat_k: float
    air_c: float
    mass: float
    gain: float
    fan_share: float


def followed(setting: Setting, fluid: Fluid, x: Unknowns) -> Round:
    """Once round, from the compressor through every part to the gas that comes back to it."""
    c = setting.conditions
    low_kpa, high_kpa, suction_h = exp(x[0]), exp(x[1]), x[2] * SUCTION_SCALE
    low, high = fluid.at(low_kpa), fluid.at(high_kpa)
    machine = _controlled(setting.machine, high.middle_c)
    sides = _sides(machine, c, setting.indoor_air_kg_s)
    stroke = compress(
        machine.compressor,
        fluid,
        (low_kpa, low),
        (high_kpa, high),
        suction_h,
        c.speed,
        machine.reversing_leak,
    )
    air_c, condensed, liquid_kpa = _condensed(machine, c, fluid, sides, stroke, (high_kpa, high))
    line = liquid_line(
        machine.lines, fluid, liquid_kpa, condensed.enthalpy, stroke.flow, c.lines_c, c.heating
    )
    fed_h = line.before_device.enthalpy
    evaporator_kpa = low_kpa + machine.lines.suction_resistance * stroke.flow**2 / low.vapour_rho
    at_coil = fluid.at(evaporator_kpa)
    met = _cooled_again(machine, sides, stroke, fed_h) if c.heating else None
    evaporated = evaporate(
        sides.cold_coil,
        fluid,
        evaporator_kpa,
        at_coil,
        stroke.flow,
        fed_h,
        met or sides.cold,
        sides.cold_air,
    )
    rise = suction_rise(machine.lines, at_coil, stroke.flow, evaporated.enthalpy, c.lines_c)
    gain = stroke.flow * (HEATING_SUCTION_SHARE if c.heating else 1.0) * rise
    coil_out_c, superheat_k = gas_at(fluid, evaporator_kpa, at_coil, evaporated.enthalpy)
    in_gas = machine.lines.suction_volume_m3 + machine.lines.accumulator_m3
    held = condensed.mass + evaporated.mass + line.mass + in_gas * low.vapour_rho
    return Round(
        low,
        high,
        at_coil,
        stroke,
        condensed,
        line,
        evaporated,
        evaporator_kpa,
        liquid_kpa,
        coil_out_c,
        superheat_k,
        air_c,
        held,
        gain,
        machine.fan.share / setting.machine.fan.share,
    )


def _condensed(
    machine: Machine,
    c: Conditions,
    fluid: Fluid,
    sides: "_Sides",
    stroke: CompressorStroke,
    high: tuple[float, Saturated],
) -> tuple[float, Condensed, float]:
    """The air on the condenser [°C], what leaves it, and its pressure there [kPa]."""
    high_kpa, gas = high
    gas_kpa = high_kpa
    if machine.foreign_gas_kpa:
        gas_kpa = max(high_kpa - machine.foreign_gas_kpa, 0.3 * high_kpa)
        gas = fluid.at(gas_kpa)
    air_c = _air_on(machine, sides.warm, stroke, gas.liquid_h, sides.hot_air, c.heating)
    coil = _with_gas(sides.hot_coil, machine)
    gas_in = (stroke.flow, stroke.discharge_h, air_c, sides.hot_air, sides.warm.cp)
    condensed = condense(coil, fluid, gas_kpa, gas, *gas_in)
    lost = machine.lines.condenser_resistance * stroke.flow**2 / gas.vapour_rho
    return air_c, condensed, high_kpa * high_kpa / (high_kpa + lost)


class _Sides(NamedTuple):
    """Which coil is hot and which is cold, and the air over each [kg/s]."""

    hot_coil: Coil
    cold_coil: Coil
    hot_air: float
    cold_air: float
    warm: WetAir
    cold: WetAir


def _sides(machine: Machine, c: Conditions, inside: float) -> _Sides:
    outside = _outdoor_air(machine)
    if c.heating:
        hot = _condensing(machine.indoor)
        return _Sides(hot, machine.outdoor, inside, outside, c.indoor, c.outdoor)
    return _Sides(machine.outdoor, machine.indoor, outside, inside, c.outdoor, c.indoor)


def _controlled(machine: Machine, condensing_c: float) -> Machine:
    """As its head control leaves it: a slower fan, or a condenser part full of liquid."""
    if machine.head is None:
        return machine
    share = machine.head.share(condensing_c)
    if machine.head.kind == "flooded":
        return replace(machine, outdoor=replace(machine.outdoor, flooded=1 - share))
    return replace(machine, fan=replace(machine.fan, share=machine.fan.share * share))


def gas_at(fluid: Fluid, kpa: float, here: Saturated, enthalpy: float) -> tuple[float, float]:
    """Temperature [°C] and superheat [K] of suction or discharge gas; wet gas is under zero."""
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
