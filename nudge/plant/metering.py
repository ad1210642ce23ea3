"""Metering devices: how much passes an opening, and how far a valve opens."""

from math import copysign, sqrt

from nudge.plant.fluid import Fluid, Saturated
from nudge.plant.inventory import mixture_rho
from nudge.plant.machine import Device

ELECTRONIC_GRADIENT_K = 0.6
ELECTRONIC_STEP_PER_K_S = 0.0004
GIVES_PER_K = 0.03
"""Of a whole opening, for each kelvin at a valve's bulb, while its point of rest is looked for:
fewest trials over two hundred systems with faults, 0.02 and 0.06 hardly more."""
BULB_SURROUNDINGS_K = 16.0
"""A loose bulb's air over the suction line."""


def passed(
    device: Device, fluid: Fluid, kpa_in: float, enthalpy: float, kpa_out: float, opening: float
) -> float:
    """Flow [kg/s] through the device at an opening."""
    return open_area(device, opening) * driven(device, fluid, kpa_in, enthalpy, kpa_out)


def open_area(device: Device, opening: float) -> float:
    """What is free to pass [m²]: a dirty strainer narrows it, a leaking check valve adds to it."""
    return device.area_m2 * (opening * (1 - device.plugged) + device.leaks_by)


def driven(device: Device, fluid: Fluid, kpa_in: float, enthalpy: float, kpa_out: float) -> float:
    """Flow [kg/(s m²)] through each part of a device's area.

    Turbulent flow of the inlet mixture; below a share of the liquid's own vapour pressure the
    outlet no longer matters (it flashes in the throat). More subcooling passes a little more,
    flash gas before it much less. Source: short-tube measurements as summed up by Kim,
    O'Neal and Yuan 2005, in this reduced form.
    """
    inlet = fluid.at(kpa_in)
    quality = inlet.quality(enthalpy)
    subcooling = max((inlet.liquid_h - enthalpy) / inlet.liquid_cp, 0.0)
    throat = max(kpa_out, device.choked_share * _vapour_kpa(fluid, inlet, kpa_in, subcooling))
    drop = max(kpa_in - throat, 0.0)
    gain = 1 + device.subcooling_gain * min(subcooling, 20.0)
    # A square root has no slope at zero: blend to a straight line under 20 kPa.
    root = sqrt(drop * 1000) if drop > 20 else drop * 1000 / sqrt(20_000)
    return gain * sqrt(2 * mixture_rho(inlet, quality)) * root


def opening_at(
    device: Device,
    superheat_k: float,
    felt_extra_k: float = 0.0,
    evaporating_c: float | None = None,
) -> float:
    """Opening a thermostatic valve takes up at a superheat at its bulb; fixed ones stay at 1."""
    if device.stuck_at is not None:
        return device.stuck_at
    if device.kind == "fixed_orifice":
        return 1.0
    return _limited(device, _drawn(device, superheat_k, felt_extra_k, evaporating_c))


def resting(device: Device, superheat_k: float, evaporating_c: float | None = None) -> float:
    """Where a device stands at rest at a superheat: an electronic one close on its target."""
    if device.kind == "eev" and device.stuck_at is None:
        return _limited(device, _drawn(device, superheat_k))
    return opening_at(device, superheat_k, loose_bulb_k(device), evaporating_c)


def given_way(
    device: Device, needed: float, superheat_k: float, evaporating_c: float | None = None
) -> float:
    """A valve's opening on the way to rest: from the one a flow needs, a little towards where its
    superheat draws it, the less the harder it pulls. What superheat does not move stands.

    It is at rest where it stays, just there where `resting` is what is needed. But a kelvin moves
    it little, so that it lies at a stop only where it rests there, and not wherever a trial is off.
    """
    if device.stuck_at is not None or device.kind == "fixed_orifice":
        return resting(device, superheat_k)
    pull = min(GIVES_PER_K * _gradient_k(device), 1.0)
    drawn = _drawn(device, superheat_k, loose_bulb_k(device), evaporating_c)
    return _limited(device, needed + pull * (drawn - needed))


def loose_bulb_k(device: Device) -> float:
    """What a bulb feels over the pipe's superheat when part of it feels the air instead."""
    return (1 - device.bulb_contact) * BULB_SURROUNDINGS_K


def seek(device: Device, opening: float, superheat_k: float, seconds: float) -> float:
    """An electronic valve's next opening: integral steps towards its target superheat."""
    if device.stuck_at is not None:
        return device.stuck_at
    error = max(-6.0, min(6.0, superheat_k - device.target_superheat_k))
    return _limited(device, opening + error * ELECTRONIC_STEP_PER_K_S * seconds)


def _gradient_k(device: Device) -> float:
    return ELECTRONIC_GRADIENT_K if device.kind == "eev" else device.gradient_k


def _drawn(
    device: Device,
    superheat_k: float,
    felt_extra_k: float = 0.0,
    evaporating_c: float | None = None,
) -> float:
    """Where its superheat draws a free valve, its stops aside: under its static superheat the
    other way.
    """
    if device.kind == "eev":
        over = superheat_k - device.target_superheat_k
        return device.least_open + 0.5 + over / ELECTRONIC_GRADIENT_K
    felt = superheat_k * device.bulb_contact + felt_extra_k
    over_c = 0.0 if evaporating_c is None else evaporating_c - device.usual_c
    static = device.static_superheat_k + device.cross * over_c
    wanted = (felt - static) / device.gradient_k
    if device.curve != 1.0:
        wanted = copysign(abs(wanted) ** device.curve, wanted)
    return wanted * device.bulb_charge


def _limited(device: Device, opening: float) -> float:
    return min(max(opening, device.least_open), device.most_open)


def _vapour_kpa(fluid: Fluid, inlet: Saturated, kpa_in: float, subcooling: float) -> float:
    if subcooling <= 0:
        return kpa_in
    return fluid.bubble_kpa(inlet.bubble_c - subcooling)
