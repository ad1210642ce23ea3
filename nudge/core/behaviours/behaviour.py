"""What a kind of plant is met with, as one frozen row."""

from dataclasses import dataclass, field
from importlib.resources.abc import Traversable
from typing import Literal

from nudge.core.language.said import Said
from nudge.core.language.units import degrees_f, fahrenheit
from nudge.core.physics.circuit.equipment import Application
from nudge.core.physics.circuit.roles import COOLING, Roles

Mode = Literal["cooling", "heating"]
Charge = Literal["trim", "check_only", "weigh_only", "none"]
Side = Literal["high", "low"]


@dataclass(frozen=True, slots=True)
class StationRow:
    """One place on the Loop: its words by side, the reading taken there, whether it is a part."""

    key: str
    label: str
    side: Side
    point: str | None
    is_part: bool = False


@dataclass(frozen=True, slots=True)
class RatedAir:
    """The air that expectations are fitted about: outdoors, and one thing of the house [°C].

    Each is held within `from` and `to` of its rated point [K]; `usual_k` is where a house usually
    is against it, when nobody read it; blurs are how far unread air may be from the usual (1 σ).
    """

    outdoor_c: float
    outdoor_from_k: float
    outdoor_to_k: float
    house_point: str
    house_c: float
    house_from_k: float
    house_to_k: float
    usual_k: float
    outdoor_blur_k: float = 6.0
    house_blur_k: float = 2.0


COOLING_AIR = RatedAir(
    outdoor_c=fahrenheit(95),
    outdoor_from_k=degrees_f(-27),
    outdoor_to_k=degrees_f(15),
    house_point="return_air_wet_bulb",
    house_c=fahrenheit(67),
    house_from_k=degrees_f(-13),
    house_to_k=degrees_f(9),
    usual_k=-2.0,
)


@dataclass(frozen=True, slots=True, eq=False)
class Behaviour:
    """One kind of plant in one mode.

    What has no `tables` is not judged by suspects: it answers by windows, and `not_judged` says so.
    `gates` are the gates that hold here (all, where None); `without_schools` the schools of targets
    that do not apply. `usual_boiling_c` is where it boils when nothing better is known; without one
    it boils `UNDER_AIR_K` under its cold side's air.
    """

    key: str
    application: Application
    mode: Mode
    charge: Charge
    reason: str
    roles: Roles = COOLING
    box: Literal["", "freezer", "cooler"] = ""
    """The kind of cold room it is, where it has a receiver; "" for any other plant."""
    tables: Traversable | None = None
    not_judged: Said | None = None
    gates: frozenset[str] | None = None
    without_schools: frozenset[str] = frozenset()
    superheat_tolerance_k: float | None = None
    """How near the plate's superheat has to be met; None: a valve's plate says none."""
    run_minutes: float = 0.0
    """How long it has to run before it is judged, where that is longer than its device's."""
    icing_c: float | None = None
    """Boiling under this the coil ices, where that is no part of its work."""
    usual_boiling_c: float | None = None
    rated_air: RatedAir = COOLING_AIR
    floods_at: tuple[str, ...] = ("superheat", "evaporator_superheat")
    """The superheats that tell liquid at the compressor, the least of them counts."""
    has_three_tests: bool = False
    reads_logs: bool = False
    """It is judged by its log alone."""
    """It is tested by three differences of temperature (a vehicle)."""
    has_coil_model: bool = False
    """The indoor coil works as the coil model knows it."""
    looks_without_gauges: bool = False
    suction_under_air: bool = False
    """Gas from the coil is never warmer than all the air it met."""
    stations: tuple[StationRow, ...] = field(default=())

    @property
    def is_judged(self) -> bool:
        """Whether suspects are weighed here."""
        return self.tables is not None
