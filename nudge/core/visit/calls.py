"""Kinds of call, and the route each takes through the visit: one row each, with its reason."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from nudge.core.language.errors import UnknownName
from nudge.core.language.vocabulary.stages import Stage

STAGES: Mapping[Stage, str] = MappingProxyType(
    {
        "arrive": "Arrive",
        "air": "Air first",
        "look": "Look without gauges",
        "recover": "Recover",
        "repair": "Repair",
        "prove": "Prove tight and dry",
        "fill": "Weigh in",
        "connect": "Connect",
        "settle": "Settle",
        "read": "Read",
        "judge": "Judge",
        "act": "Act",
        "close": "Prove and close",
    }
)
GAUGED: tuple[Stage, ...] = ("connect", "settle", "read", "judge", "act")
OPENED: tuple[Stage, ...] = ("recover", "repair", "prove", "fill")
"""Where the circuit is open."""
_ALL = tuple(stage for stage in STAGES if stage not in OPENED)
_NOT_LOOKED = tuple(stage for stage in _ALL if stage != "look")
_RUNS: tuple[Stage, ...] = ("air", "connect", "settle", "read", "judge", "act", "close")


@dataclass(frozen=True, slots=True)
class Call:
    """One kind of call: the stages it goes through, and those it only needs if something is off."""

    key: str
    label: str
    reason: str
    stages: tuple[Stage, ...] = _ALL
    if_needed: tuple[Stage, ...] = ()
    mode: Literal["", "cooling", "heating"] = ""
    """How the system runs on such a call; "" for what such plant is usually met in."""
    probes: tuple[str, ...] = ()
    """What is read on such a call, in the order it is placed: points."""
    begins: str = "charged"
    """The state of its circuit when it begins, of `opening/states.py`."""


_AIR = ("return_air_temp", "return_air_wet_bulb", "supply_air_temp", "outdoor_air_temp")
_LINES = ("suction_line_temp", "liquid_line_temp")
_GAUGES = ("suction_pressure", "liquid_pressure")
_ROWS = (
    Call("cooling_complaint", "Cooling complaint",
         "Somebody is warm: the whole way, air before charge.",
         probes=(*_AIR, *_LINES, *_GAUGES)),
    Call("yearly_check", "Yearly check",
         "A known system is looked at with its caps on; gauges only if something is off.",
         if_needed=GAUGED, probes=(*_AIR, *_LINES)),
    Call("commissioning", "Commissioning",
         "A new or opened system: tight, dry, weighed in, proven at full speed, baseline kept.",
         ("arrive", "prove", "fill", *_RUNS),
         probes=(*_AIR, "total_external_static", *_LINES, "discharge_line_temp", *_GAUGES)),
    Call("cold_charge_check", "Charge check on a cold day",
         "Too cold to judge as it stands: a collar, or by weight and back in season.",
         _NOT_LOOKED,
         probes=(*_AIR, "condenser_entering_air_temp", *_LINES, *_GAUGES)),
    Call("heating_check", "Heating check",
         "A heat pump is charged in cooling; in heating it is only checked.",
         ("arrive", "air", "connect", "settle", "read", "act", "close"), ("connect", "act"),
         "heating",
         ("return_air_temp", "supply_air_temp", "outdoor_air_temp", "true_suction_temp",
          "liquid_line_temp", *_GAUGES)),
    Call("no_heat", "No heat, or on emergency heat",
         "Both filters, the control's history, amps, lines, rise, strips, defrost, lockouts; then "
         "back to its normal mode.",
         ("arrive", "air", "connect", "settle", "read", "act", "close"), ("connect", "act"),
         "heating",
         ("return_air_temp", "supply_air_temp", "outdoor_air_temp", "true_suction_temp",
          "liquid_line_temp", *_GAUGES)),
    Call("repair", "Repair: the circuit is opened",
         "From the proof of the fault to the sum written inside the door: recovered and weighed, "
         "renewed, tight, dry, weighed in, trimmed.",
         ("arrive", *OPENED, *_RUNS),
         probes=(*_AIR, *_LINES, *_GAUGES)),
    Call("new_installation", "New installation",
         "A new machine on its line set: joints, tight, dry, by the sheet, its own charge mode, "
         "settings written down.",
         ("arrive", "repair", "prove", "fill", *_RUNS),
         probes=(*_AIR, "total_external_static", *_LINES, "discharge_line_temp", *_GAUGES),
         begins="opened"),
    Call("vehicle_after_repair", "Vehicle, after a repair",
         "Three differences of temperature at full work, all three or no verdict; charge by its "
         "label, by weight.",
         ("arrive", "read", "act", "close"), ("act",),
         probes=("condenser_inlet_line_temp", "condenser_outlet_line_temp",
                 "condenser_entering_air_temp", "vent_air_temp", "evaporator_outlet_temp",
                 "return_air_wet_bulb")),
    Call("multi_zone_log", "Multi-zone plant, by its log",
         "An hour of its log or more: which room is behind, what the valves and the compressor do "
         "about it, and what that comes to. Charge is never trimmed.",
         ("arrive", "read", "act", "close"), ("act",)),
    Call("nothing_found", "Nothing found wrong",
         "A valid outcome: what was tested is written down, and what was not.",
         if_needed=GAUGED, probes=(*_AIR, *_LINES)),
)  # fmt: skip

CALLS: Mapping[str, Call] = MappingProxyType({row.key: row for row in _ROWS})
USUAL_CALL = "cooling_complaint"


def call_named(key: str) -> Call:
    """The row of a kind of call; "" is a cooling complaint. Raises: UnknownName."""
    row = CALLS.get(key or USUAL_CALL)
    if row is None:
        raise UnknownName("kind", key, CALLS)
    return row
