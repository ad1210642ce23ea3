"""What tubes and hoses hold."""

from dataclasses import dataclass
from math import pi

from nudge.core.language.errors import CoreError
from nudge.core.language.units import M_PER_FT, MM_PER_IN, fahrenheit
from nudge.core.physics.refrigerant.states import load_states

LIQUID_LINE_C = fahrenheit(100)
VAPOUR_LINE_C = fahrenheit(45)
HOSE_C = fahrenheit(85)
SIZE_SLACK_MM = 0.45
LINE_OWN_ERROR = 0.08


@dataclass(frozen=True, slots=True)
class Tube:
    """Copper refrigerant tube by its outside size, with its wall [in.]."""

    name: str
    outside_in: float
    wall_in: float

    @property
    def inside_mm(self) -> float:
        return (self.outside_in - 2 * self.wall_in) * MM_PER_IN

    @property
    def outside_mm(self) -> float:
        return self.outside_in * MM_PER_IN


TUBES: tuple[Tube, ...] = (
    Tube("1/4", 0.250, 0.030),
    Tube("5/16", 0.3125, 0.032),
    Tube("3/8", 0.375, 0.032),
    Tube("1/2", 0.500, 0.032),
    Tube("5/8", 0.625, 0.035),
    Tube("3/4", 0.750, 0.035),
    Tube("7/8", 0.875, 0.045),
    Tube("1 1/8", 1.125, 0.050),
    Tube("1 3/8", 1.375, 0.055),
    Tube("1 5/8", 1.625, 0.060),
    Tube("2 1/8", 2.125, 0.070),
)
"""Outside diameters and walls of refrigeration copper tube. Source: ASTM B280."""


@dataclass(frozen=True, slots=True)
class LiquidPipe:
    """All liquid pipe of one outside size [mm] in a plant with many rooms: how long it is together
    [m], and what the maker adds for a metre of it [g/m], where that is written.
    """

    outside_mm: float
    length_m: float
    g_per_m: float | None = None


@dataclass(frozen=True, slots=True)
class Hose:
    """A charging hose by its nominal size and its bore [in.]."""

    name: str
    inside_in: float


HOSES: tuple[Hose, ...] = (Hose("1/4", 3 / 16), Hose("3/8", 5 / 16), Hose("1/2", 7 / 16))
"""Nominal hose sizes and usual bores; the wall takes the rest."""


def tube_of(outside_mm: float) -> Tube:
    """The standard tube of an outside size [mm]. Raises: CoreError, naming the sizes there are."""
    nearest = min(TUBES, key=lambda tube: abs(tube.outside_mm - outside_mm))
    if abs(nearest.outside_mm - outside_mm) > SIZE_SLACK_MM:
        sizes = ", ".join(tube.name for tube in TUBES)
        raise CoreError(
            "tube size",
            f"No refrigeration tube is {outside_mm / MM_PER_IN:.3f} in. ({outside_mm:.1f} mm) "
            f"outside. Sizes: {sizes} in.",
        )
    return nearest


def liquid_per_length(fluid: str, outside_mm: float) -> float:
    """Liquid a liquid line holds [g/m]: bore area × liquid density at 100 °F.

    Raises: CoreError for no standard size, UnknownName for the fluid.
    """
    return _area_m2(tube_of(outside_mm).inside_mm) * _liquid_density(fluid, LIQUID_LINE_C) * 1000


def vapour_per_length(fluid: str, outside_mm: float) -> float:
    """Vapour a vapour line holds [g/m], at dew, 45 °F."""
    states = load_states(fluid)
    density = states.vapour(states.saturation.dew.pressure(VAPOUR_LINE_C)).density
    return _area_m2(tube_of(outside_mm).inside_mm) * density * 1000


def hose_contents(fluid: str, hose: Hose, length_m: float) -> float:
    """Liquid in a full hose [g], at 85 °F: about an ounce in 5 ft of 1/4 in."""
    return _area_m2(hose.inside_in * MM_PER_IN) * length_m * _liquid_density(fluid, HOSE_C) * 1000


def hose_named(name: str) -> Hose:
    """Raises: CoreError, naming the sizes there are."""
    for hose in HOSES:
        if hose.name == name:
            return hose
    raise CoreError("hose", f"Hoses are {', '.join(h.name for h in HOSES)} in.")


def _area_m2(bore_mm: float) -> float:
    return pi * (bore_mm / 2000) ** 2


def _liquid_density(fluid: str, temp_c: float) -> float:
    states = load_states(fluid)
    top = states.saturation.bubble.high_c  # R-744 is near its critical point by then
    return states.liquid(min(temp_c, top)).density


USUAL_INCLUDED_M = 15 * M_PER_FT
"""What a factory charge usually covers, where the plate does not say."""
