"""What calls a heat pump in winter: its setting, its stages, its lockouts, what it remembers.

The pump is the first stage; strips help, a circuit at a time, when it has been called for long and
the house is still short. Lockouts by outdoor air keep either from running. Usual of the trade; the
numbers are ours.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from types import MappingProxyType
from typing import Literal

BAND_K = 0.4
"""Off this far over the set point, on this far under it."""
REST_S = 180.0
"""A compressor that stopped stays off so long."""
HELP_AFTER_S, HELP_K, MORE_K = 600.0, 0.9, 1.6
"""Strips help a pump that was called so long: the first circuit, then all, this far under."""
ALONE_K = 0.6
"""Strips alone: the next circuit for every so much."""
RAISED_K = 2.0
MOST_REMEMBERED = 12

Stands = Literal["heat", "emergency", "test", "off"]

REMEMBERS: Mapping[str, str] = MappingProxyType(
    {
        "emergency": "Emergency heat chosen by hand",
        "high_pressure": "High-pressure switch opened",
        "low_pressure": "Low-pressure switch opened",
        "defrost_by_clock": "Defrost ended by its clock, not by its coil",
        "compressor_locked": "Compressor locked out by outdoor air",
        "strips_locked": "Strips asked for and locked out by outdoor air",
        "strips_long": "Strips on for two hours without a rest",
    }
)
"""What its memory holds, in words."""
LONG_S = 7200.0


@dataclass(frozen=True, slots=True)
class Thermostat:
    """How it is set: temperatures [°C], circuits of strips [kW]; a lockout of None is off."""

    stands: Stands = "heat"
    set_c: float = 21.0
    usual_c: float = 21.0
    """What the customer has it at."""
    circuits_kw: tuple[float, ...] = ()
    strips_off_over_c: float | None = None
    compressor_off_under_c: float | None = None

    def asks(self, stands: Stands) -> "Thermostat":
        return replace(self, stands=stands)


@dataclass(frozen=True, slots=True)
class Remembered:
    """One entry of its memory: what, and at which moment of the plant's own time [s]."""

    what: str
    at_s: float


@dataclass(frozen=True, slots=True)
class Called:
    """What it calls now, and since when [s]."""

    is_on: bool = True
    """Its disconnect is closed."""
    pump: bool = False
    circuits: int = 0
    called_s: float = 0.0
    """How long the pump has been called without a rest."""
    rested_s: float = REST_S
    strips_s: float = 0.0
    memory: tuple[Remembered, ...] = ()

    def remembers(self, what: str, at_s: float) -> "Called":
        """With one more entry; what is remembered last already is not written twice."""
        if self.memory and self.memory[-1].what == what:
            return self
        return replace(self, memory=(*self.memory, Remembered(what, at_s))[-MOST_REMEMBERED:])


def call(
    set_to: Thermostat,
    was: Called,
    indoor_c: float,
    outdoor_c: float,
    is_defrosting: bool,
    at_s: float,
    dt: float,
) -> Called:
    """What it calls a step later."""
    short_k = set_to.set_c - indoor_c
    pump = was.is_on and _wants(set_to, was, short_k)
    locked = set_to.compressor_off_under_c
    found = was
    if pump and set_to.stands == "heat" and locked is not None and outdoor_c < locked:
        pump, found = False, found.remembers("compressor_locked", at_s)
    if pump and not was.pump and was.rested_s < REST_S:
        pump = False
    circuits = _circuits(set_to, was, short_k, pump) if was.is_on else 0
    limit = set_to.strips_off_over_c
    is_free = set_to.stands == "emergency" or limit is None or outdoor_c <= limit
    if circuits and not is_free:
        circuits, found = 0, found.remembers("strips_locked", at_s)
    if is_defrosting and pump and set_to.circuits_kw:
        circuits = max(circuits, 1)  # warms what the turned machine takes from the house
    strips_s = was.strips_s + dt if circuits else 0.0
    if strips_s >= LONG_S > was.strips_s:
        found = found.remembers("strips_long", at_s)
    return replace(
        found,
        pump=pump,
        circuits=circuits,
        called_s=was.called_s + dt if pump else 0.0,
        rested_s=0.0 if pump else was.rested_s + dt,
        strips_s=strips_s,
    )


def _wants(set_to: Thermostat, was: Called, short_k: float) -> bool:
    if set_to.stands == "test":
        return True
    if set_to.stands != "heat":
        return False
    return short_k > (-BAND_K if was.pump else BAND_K)


def _circuits(set_to: Thermostat, was: Called, short_k: float, pump: bool) -> int:
    """How many circuits of strips it asks for."""
    many = len(set_to.circuits_kw)
    if set_to.stands in ("off", "test") or not many:
        return 0
    if set_to.stands == "heat" and pump:
        if was.called_s < HELP_AFTER_S:
            return 0
        if short_k > MORE_K:
            return many
        wants = HELP_K - (BAND_K if was.circuits else 0.0)
        return min(max(was.circuits, 1), many) if short_k > wants else 0
    if set_to.stands == "heat" and was.rested_s < REST_S and was.called_s == 0 and short_k < MORE_K:
        return 0  # the pump rests a moment and comes again
    if short_k <= (-BAND_K if was.circuits else BAND_K):
        return 0
    return min(max(int(short_k / ALONE_K), 1, was.circuits if short_k > 0 else 1), many)


def strips_kw(set_to: Thermostat | None, called: Called) -> float:
    """The heat of the circuits that are on [kW]."""
    return 0.0 if set_to is None else sum(set_to.circuits_kw[: called.circuits])
