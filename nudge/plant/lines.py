"""The two lines: what they lose in pressure, what heat they pick up, what they hold."""

from math import exp
from typing import NamedTuple

from nudge.plant.fluid import Fluid, Saturated
from nudge.plant.inventory import mixture_rho
from nudge.plant.machine import Lines


class LineStation(NamedTuple):
    """One place along the liquid line."""

    kpa: float
    enthalpy: float
    temp_c: float
    quality: float


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
    port = _run(lines, fluid, leaving, flow, around_c) if heating else leaving
    drier_in = port
    if lines.restricted_at == "service_valve":
        drier_in = _after(fluid, port, lines.restriction, flow)
    at_drier = lines.drier_resistance
    if lines.restricted_at == "drier":
        at_drier += lines.restriction
    drier_out = _after(fluid, drier_in, at_drier, flow)
    end = drier_out if heating else _run(lines, fluid, drier_out, flow, around_c)
    both = (leaving, port) if heating else (drier_out, end)
    held = sum(_rho(fluid, place) for place in both) / 2 * lines.liquid_volume_m3
    if lines.receiver_m3:
        held += lines.receiver_m3 * _receiver_rho(fluid, leaving)
    return LiquidLine(leaving, port, drier_in, drier_out, end, held)


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
    return LineStation(kpa, enthalpy, temp_c, quality)


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
    loss = resistance * flow * flow / _rho(fluid, start)
    # However plugged, some pressure is left behind it: the loss fades into what there is.
    loss = start.kpa * loss / (start.kpa + loss) if loss > 0 else 0.0
    return station(fluid, start.kpa - loss, start.enthalpy + warmed)


def _rho(fluid: Fluid, place: LineStation) -> float:
    return mixture_rho(fluid.at(place.kpa), place.quality)


def _receiver_rho(fluid: Fluid, place: LineStation) -> float:
    """A receiver fills as the liquid entering it goes from flashing to well subcooled."""
    here = fluid.at(place.kpa)
    subcooling = (here.liquid_h - place.enthalpy) / here.liquid_cp
    level = min(max((subcooling + 0.5) / 5.0, 0.0), 1.0)
    level = level * level * (3 - 2 * level)
    return here.vapour_rho + level * (here.liquid_rho - here.vapour_rho)
