"""Lockouts as numbers: where strips and compressor are kept from running, and what that leaves."""

from nudge.core.language.said import Said, difference, say, temperature
from nudge.core.language.units import degrees_f
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.heating.house import COMPRESSOR_OFF_UNDER_C, STRIPS_OFF_OVER_C

NEAR_K = degrees_f(5)
"""A lockout this near the balance point follows it."""


def lockouts_said(plate: Plate, balance_c: float | None) -> tuple[Said, ...]:
    """What the lockouts of a plate are worth, the worst first; nothing where none is written.

    Crossed is a finding, both off a question, and the balance point shows why. Usual figures by
    trade: strips off over 40 °F, compressor off under 20; a cold-climate machine has none.
    """
    strips, compressor = plate.strips_off_over_c, plate.compressor_off_under_c
    found: list[Said] = []
    if strips is not None and compressor is not None and compressor > strips:
        found.append(
            say(
                "Crossed: between {strips} and {compressor} neither strips nor compressor may run. "
                "Nobody is warmed there. Set the strips over the compressor.",
                strips=temperature(strips),
                compressor=temperature(compressor),
            )
        )
    if strips is None and compressor is None and plate.strips_kw:
        found.append(
            say(
                "Both lockouts off? Then strips help whenever the thermostat asks, and the "
                "compressor runs in any cold. Usual: strips off over {strips}; compressor off "
                "under {compressor}, by the machine's rated minimum.",
                strips=temperature(STRIPS_OFF_OVER_C),
                compressor=temperature(COMPRESSOR_OFF_UNDER_C),
            )
        )
    lowest = plate.lowest_outdoor_c
    if compressor is not None and lowest is not None and compressor < lowest:
        found.append(
            say(
                "The compressor may run down to {compressor}, under its rated minimum of {lowest}.",
                compressor=temperature(compressor),
                lowest=temperature(lowest),
            )
        )
    if balance_c is not None and strips is not None and strips > balance_c + NEAR_K:
        found.append(
            say(
                "Strips may run up to {strips}; the pump alone holds the house down to {balance}. "
                "Between them they cost {off} of weather for nothing.",
                strips=temperature(strips),
                balance=temperature(balance_c),
                off=difference(strips - balance_c),
            )
        )
    if balance_c is not None and compressor is not None and compressor > balance_c + NEAR_K:
        found.append(
            say(
                "The compressor is kept off under {compressor}, though it would hold the house "
                "alone down to {balance}.",
                compressor=temperature(compressor),
                balance=temperature(balance_c),
            )
        )
    return tuple(found)
