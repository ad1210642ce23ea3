"""The two lines: what they lose in pressure, what heat they pick up, what they hold."""

from math import exp, log, tanh
from typing import NamedTuple

from nudge.plant.fluid import Fluid, Saturated
from nudge.plant.inventory import mixture_rho
from nudge.plant.machine import Lines


class LineStation(NamedTuple):
    """One place along the liquid line: [kPa], [kJ/kg], [°C], share of gas, [kg/m³]."""

    kpa: float
    enthalpy: float
    temp_c: float
    quality: float
    rho: float


class LiquidLine(NamedTuple):
    """Leaving the condenser, at the outdoor unit's port, both sides of the drier, before the
    device; mass held [kg]."""

    leaving: LineStation
    port: LineStation
    drier_in: LineStation
    drier_out: LineStation
    before_device: LineStation
    mass: float


def liquid_line(
    lines: Lines,
    fluid: Fluid,
    kpa: float,
    enthalpy: float,
    flow: float,
    around_c: float,
    heating: bool = False,
) -> LiquidLine:
    """Follow the liquid from the condenser to the metering device: in heating along the line
    first, then by the outdoor unit's port, service valve and drier to its device.

    Pressure falls with the square of flow over density; below its bubble point the line holds
    flash gas and its temperature follows pressure. Heat exchange with the air around it.
    """
    leaving = station(fluid, kpa, enthalpy)
    port = leaving
    if heating:
        port = _run(lines, fluid, leaving, flow, around_c)
    elif lines.subcooler_ua:
        port = _subcooled(lines, fluid, leaving, flow, around_c)
    drier_in = port
    if lines.restricted_at == "service_valve":
        drier_in = _after(fluid, port, lines.restriction, flow)
    at_drier = lines.drier_resistance
    if lines.restricted_at == "drier":
        at_drier += lines.restriction
    drier_out = _after(fluid, drier_in, at_drier, flow)
    end = drier_out if heating else _run(lines, fluid, drier_out, flow, around_c)
    both = (leaving, port) if heating else (drier_out, end)
    held = (both[0].rho + both[1].rho) / 2 * lines.liquid_volume_m3
    if lines.receiver_m3:
        held += lines.receiver_m3 * _receiver_rho(fluid, leaving)
    return LiquidLine(leaving, port, drier_in, drier_out, end, held)


def _subcooled(
    lines: Lines, fluid: Fluid, leaving: LineStation, flow: float, around_c: float
) -> LineStation:
    """Behind a receiver's subcooling pass, which gas in it hardly uses."""
    cp = fluid.at(leaving.kpa).liquid_cp
    taken = cp * (around_c - leaving.temp_c) * (1 - exp(-lines.subcooler_ua / (flow * cp)))
    return station(fluid, leaving.kpa, leaving.enthalpy + taken)


def _run(
    lines: Lines, fluid: Fluid, start: LineStation, flow: float, around_c: float
) -> LineStation:
    """The other end of the line from house to unit."""
    resistance = lines.liquid_resistance
    resistance += lines.restriction if lines.restricted_at == "line" else 0.0
    warmed = lines.liquid_ua * (around_c - start.temp_c) / flow
    limit = 1.8 * abs(around_c - start.temp_c)
    return _after(fluid, start, resistance, flow, max(-limit, min(limit, warmed)))


def station(fluid: Fluid, kpa: float, enthalpy: float) -> LineStation:
    """Where liquid, or liquid with flash gas, stands at a pressure and enthalpy."""
    here = fluid.at(kpa)
    quality = here.quality(enthalpy)
    if quality <= 0:
        temp_c = here.bubble_c - (here.liquid_h - enthalpy) / here.liquid_cp
    else:
        temp_c = here.temp_at(quality)
    return LineStation(kpa, enthalpy, temp_c, quality, mixture_rho(here, quality))


def suction_rise(
    lines: Lines, saturated: Saturated, flow: float, enthalpy: float, around_c: float
) -> float:
    """Heat the suction gas picks up on its way [kJ/kg]; wet gas stays at dew while it dries."""
    over = max(enthalpy - saturated.vapour_h, 0.0)
    temp_c = saturated.dew_c + over / saturated.vapour_cp
    ntu = lines.suction_ua / (flow * saturated.vapour_cp)
    return (around_c - temp_c) * saturated.vapour_cp * (1 - exp(-ntu))


def _after(
    fluid: Fluid, start: LineStation, resistance: float, flow: float, warmed: float = 0.0
) -> LineStation:
    if resistance == 0 and warmed == 0:
        return start
    loss = resistance * flow * flow / start.rho
    # However plugged, some pressure is left behind it: the loss fades into what there is.
    loss = start.kpa * loss / (start.kpa + loss) if loss > 0 else 0.0
    return station(fluid, start.kpa - loss, start.enthalpy + warmed)


SURFACE_K, SURFACE_GIVE_K = 0.8, 0.25
"""Subcooling entering a receiver half full, and how narrow the band is in which its surface is
free: liquid under its own vapour is saturated at any level; gas passes through an empty one, and a
full one backs up."""


def receiver_level(fluid: Fluid, place: LineStation) -> float:
    """How full a receiver stands behind this outlet of the condenser, 0 to 1."""
    return (1 + tanh((_entering_k(fluid, place) - SURFACE_K) / (2 * SURFACE_GIVE_K))) / 2


def receiver_miss(
    lines: Lines, fluid: Fluid, place: LineStation, missing_kg: float
) -> float | None:
    """How far the liquid that enters is from what the level would have it that takes up what is
    missing [20 K], all but linear where the mass itself is a step; None past its ends.
    """
    here = fluid.at(place.kpa)
    a_level = lines.receiver_m3 * (here.liquid_rho - here.vapour_rho)
    wanted = receiver_level(fluid, place) + missing_kg / a_level
    if not LEVEL_EDGE < wanted < 1 - LEVEL_EDGE:
        return None
    wanted_k = SURFACE_K + SURFACE_GIVE_K * log(wanted / (1 - wanted))
    return (_entering_k(fluid, place) - wanted_k) / 20.0


LEVEL_EDGE = 0.001


def _entering_k(fluid: Fluid, place: LineStation) -> float:
    """Subcooling of what enters; below zero by its flash gas."""
    here = fluid.at(place.kpa)
    return (here.liquid_h - place.enthalpy) / here.liquid_cp


def _receiver_rho(fluid: Fluid, place: LineStation) -> float:
    here = fluid.at(place.kpa)
    level = receiver_level(fluid, place)
    return here.vapour_rho + level * (here.liquid_rho - here.vapour_rho)
