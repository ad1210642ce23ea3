"""The refrigerants Nudge knows, and the facts about each that a technician acts on.

Compositions and safety classes: ASHRAE Standard 34. Global warming potentials of blends
are the mass-weighted sum of their components' (IPCC AR4 and AR5, 100 years).
Lubricants: the families the fluid is commonly run with; the plate decides.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from nudge.core.language.errors import UnknownName

SafetyClass = Literal["A1", "A2L", "A3"]


@dataclass(frozen=True, slots=True)
class Component:
    """A pure fluid: its name in the reference library and its warming potentials."""

    reference_name: str
    gwp_ar4: float
    gwp_ar5: float


COMPONENTS: Mapping[str, Component] = MappingProxyType(
    {
        "R-22": Component("R22", 1810, 1760),
        "R-32": Component("R32", 675, 677),
        "R-125": Component("R125", 3500, 3170),
        "R-134a": Component("R134a", 1430, 1300),
        "R-143a": Component("R143a", 4470, 4800),
        "R-290": Component("R290", 3, 3),
        "R-600": Component("n-Butane", 4, 4),
        "R-600a": Component("IsoButane", 3, 3),
        "R-744": Component("CarbonDioxide", 1, 1),
        "R-1234yf": Component("R1234yf", 4, 1),
        "R-1234ze(E)": Component("R1234ze(E)", 6, 1),
    }
)


@dataclass(frozen=True, slots=True)
class Refrigerant:
    """One row of the catalogue. `mass_fractions` sum to one; one entry is a pure fluid."""

    name: str
    mass_fractions: Mapping[str, float]
    safety_class: SafetyClass
    lubricants: tuple[str, ...]

    @property
    def is_blend(self) -> bool:
        return len(self.mass_fractions) > 1

    @property
    def leaves_cylinder_as(self) -> Literal["liquid", "either"]:
        """A blend drawn as vapour changes its make-up; a pure fluid may leave either way."""
        return "liquid" if self.is_blend else "either"

    @property
    def gwp_ar4(self) -> float:
        return sum(share * COMPONENTS[c].gwp_ar4 for c, share in self.mass_fractions.items())

    @property
    def gwp_ar5(self) -> float:
        return sum(share * COMPONENTS[c].gwp_ar5 for c, share in self.mass_fractions.items())


def _pure(name: str, safety: SafetyClass, *lubricants: str) -> Refrigerant:
    return Refrigerant(name, {name: 1.0}, safety, lubricants)


_POE = "POE"
_MINERAL, _ALKYL, _PAG = "mineral oil", "alkylbenzene", "PAG"

_ROWS = (
    _pure("R-22", "A1", _MINERAL, _ALKYL),
    _pure("R-32", "A2L", _POE),
    _pure("R-134a", "A1", _POE, "PAG (vehicles)"),
    _pure("R-290", "A3", _MINERAL, _POE),
    Refrigerant("R-404A", {"R-125": 0.44, "R-143a": 0.52, "R-134a": 0.04}, "A1", (_POE,)),
    Refrigerant("R-407A", {"R-32": 0.20, "R-125": 0.40, "R-134a": 0.40}, "A1", (_POE,)),
    Refrigerant("R-407C", {"R-32": 0.23, "R-125": 0.25, "R-134a": 0.52}, "A1", (_POE,)),
    Refrigerant("R-410A", {"R-32": 0.50, "R-125": 0.50}, "A1", (_POE,)),
    Refrigerant(
        "R-417A",
        {"R-125": 0.466, "R-134a": 0.50, "R-600": 0.034},
        "A1",
        (_MINERAL, _ALKYL, _POE),
    ),
    Refrigerant(
        "R-422D",
        {"R-125": 0.651, "R-134a": 0.315, "R-600a": 0.034},
        "A1",
        (_MINERAL, _ALKYL, _POE),
    ),
    Refrigerant(
        "R-448A",
        {"R-32": 0.26, "R-125": 0.26, "R-1234yf": 0.20, "R-134a": 0.21, "R-1234ze(E)": 0.07},
        "A1",
        (_POE,),
    ),
    Refrigerant(
        "R-449A",
        {"R-32": 0.243, "R-125": 0.247, "R-1234yf": 0.253, "R-134a": 0.257},
        "A1",
        (_POE,),
    ),
    Refrigerant("R-452B", {"R-32": 0.67, "R-125": 0.07, "R-1234yf": 0.26}, "A2L", (_POE,)),
    Refrigerant("R-454A", {"R-32": 0.35, "R-1234yf": 0.65}, "A2L", (_POE,)),
    Refrigerant("R-454B", {"R-32": 0.689, "R-1234yf": 0.311}, "A2L", (_POE,)),
    Refrigerant("R-454C", {"R-32": 0.215, "R-1234yf": 0.785}, "A2L", (_POE,)),
    Refrigerant("R-507A", {"R-125": 0.50, "R-143a": 0.50}, "A1", (_POE,)),
    Refrigerant("R-513A", {"R-1234yf": 0.56, "R-134a": 0.44}, "A1", (_POE,)),
    _pure("R-600a", "A3", _MINERAL, _POE),
    _pure("R-744", "A1", _POE, _PAG),
    _pure("R-1234yf", "A2L", _POE, "PAG (vehicles)"),
    _pure("R-1234ze(E)", "A2L", _POE),
)

CATALOGUE: Mapping[str, Refrigerant] = MappingProxyType({row.name: row for row in _ROWS})
_BY_PLAIN_NAME = {name.lower().replace("-", ""): row for name, row in CATALOGUE.items()}


def refrigerant(name: str) -> Refrigerant:
    """The catalogue row for a name; case and the hyphen do not matter (`r410a`).

    Raises: UnknownName, with the nearest known names.
    """
    row = CATALOGUE.get(name) or _BY_PLAIN_NAME.get(name[:40].lower().replace("-", "").strip())
    if row is None:
        raise UnknownName("refrigerant", name, CATALOGUE)
    return row
