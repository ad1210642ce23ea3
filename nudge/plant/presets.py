"""The systems that ship with the plant: sizes, refrigerants and devices of every usual class.

Each row is a rated point typical of its class and year; `sizing.py` makes the machine. None
is a maker's: the numbers are round, the nicknames our own.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from nudge.core.language.errors import UnknownName
from nudge.plant.machine import HeadControl, Machine
from nudge.plant.rating import Rating
from nudge.plant.sizing import sized

TON_KW = 3.517


@dataclass(frozen=True, slots=True)
class Preset:
    """One system: its key, what it is in plain words, its rated point."""

    key: str
    title: str
    rating: Rating
    rated_seer: float | None


def _comfort(
    key: str,
    title: str,
    tons: float,
    fluid: str,
    device: str,
    seer: float,
    over_k: float,
    **more: float | str | bool,
) -> Preset:
    """Comfort cooling of so many tons; efficiency goes with outdoor surface and compressor."""
    liquid_mm, suction_mm = (6.6, 14.0) if tons < 2 else (8.0, 17.3) if tons < 4 else (8.0, 20.0)
    values = {
        "fluid": fluid,
        "nominal_kw": tons * TON_KW,
        "device": device,
        "over_ambient_k": over_k,
        "isentropic": 0.60 if seer < 11 else 0.66 if seer < 15 else 0.70,
        "liquid_bore_mm": liquid_mm,
        "suction_bore_mm": suction_mm,
        "condenser_l_per_kw": 0.34 if seer < 11 else 0.40 if seer < 15 else 0.46,
    } | more
    return Preset(key, title, Rating(**values), seer)  # type: ignore[arg-type]


FREEZER_RATIO, COOLER_RATIO = 7.5, 3.4
"""The pressure ratio a stroke is built for, by the box it serves."""


def _box(
    key: str, title: str, fluid: str, kw: float, box_c: float, class_k: float, **more: object
) -> Preset:
    """A cold room of so many kW: its coil by class, a receiver, lines that are insulated."""
    is_freezer = box_c < -5
    values = {
        "fluid": fluid,
        "nominal_kw": kw,
        "device": "txv",
        "evaporating_c": box_c - class_k,
        "over_ambient_k": 13.9,
        "superheat_k": 2.6 if is_freezer else 4.2,
        "subcooling_k": 0.8,
        "indoor": (box_c, 82.0),
        "application": "refrigeration",
        "air_kg_s_per_kw": 0.34,
        "outdoor_air_kg_s_per_kw": 0.28 if is_freezer else 0.20,
        "receiver_l": 1.1 * kw if is_freezer else 0.8 * kw,
        "subcooler_ua": 0.004,
        "line_m": 12.0,
        "suction_bore_mm": 20.0,
        "suction_ua": 0.0002 if is_freezer else 0.0003,
        "suction_gain_k": 9.0 if is_freezer else 6.0,
        "isentropic": 0.62,
        "best_ratio": FREEZER_RATIO if is_freezer else COOLER_RATIO,
        "indoor_fan_watts": 42.0,
        "outdoor_fan_watts": 40.0,
        "head": HeadControl("cycling", 32.0),
    } | more
    return Preset(key, title, Rating(**values), None)  # type: ignore[arg-type]


_ROWS = (
    _comfort("split-15-410-orifice", "1.5-ton split, R-410A, fixed orifice", 1.5, "R-410A",
             "fixed_orifice", 13, 11.5),
    _comfort("split-2-22-orifice", "2-ton split, R-22, fixed orifice, an old one", 2, "R-22",
             "fixed_orifice", 10, 14.0),
    _comfort("split-25-22-valve", "2.5-ton split, R-22, expansion valve", 2.5, "R-22",
             "txv", 12, 13.0),
    _comfort("split-3-410-valve", "3-ton split, R-410A, expansion valve", 3, "R-410A",
             "txv", 14, 10.5),
    _comfort("split-3-410-orifice", "3-ton split, R-410A, fixed orifice", 3, "R-410A",
             "fixed_orifice", 13, 11.0),
    _comfort("split-35-407c-valve", "3.5-ton split, R-407C, expansion valve", 3.5, "R-407C",
             "txv", 13, 12.5),
    _comfort("split-4-454b-valve", "4-ton split, R-454B, expansion valve, quiet blower", 4,
             "R-454B", "txv", 15, 10.0, blower="ecm"),
    _comfort("split-5-410-valve", "5-ton split, R-410A, expansion valve, long line", 5, "R-410A",
             "txv", 14, 11.0, line_m=18.0, suction_bore_mm=26.0),
    _comfort("inverter-2-32", "2-ton inverter split, R-32, electronic valve", 2, "R-32",
             "eev", 19, 8.5, blower="ecm", superheat_k=4.0),
    _comfort("inverter-3-410", "3-ton inverter split, R-410A, electronic valve", 3, "R-410A",
             "eev", 18, 8.5, blower="ecm", superheat_k=4.0),
    _comfort("heat-pump-3-410", "3-ton heat pump, R-410A, expansion valve", 3, "R-410A",
             "txv", 15, 10.0, is_heat_pump=True, accumulator_l=2.5),
    _comfort("heat-pump-25-454b", "2.5-ton heat pump, R-454B, expansion valve", 2.5, "R-454B",
             "txv", 16, 9.5, is_heat_pump=True, accumulator_l=2.0, blower="ecm"),
    Preset("vehicle-134a", "A van's air conditioning, R-134a, expansion valve", Rating(
        "R-134a", 5.0, "txv", evaporating_c=7.5, over_ambient_k=11.5, superheat_k=8.0,
        subcooling_k=3.0, indoor=(37.0, 20.0), outdoor_c=35.0, application="vehicle",
        air_kg_s_per_kw=0.041, outdoor_air_kg_s_per_kw=0.24, line_m=3.0, liquid_bore_mm=8.0,
        suction_bore_mm=15.0, condenser_l_per_kw=0.26, evaporator_l_per_kw=0.14, isentropic=0.76,
        indoor_fan_watts=40.0, outdoor_fan_watts=40.0, suction_ua=0.0012), None),
    _box("walk-in-449a", "Walk-in cooler, R-449A, expansion valve, receiver", "R-449A", 5.0, 2.0,
         5.6),
    _box("cooler-134a", "Walk-in cooler, R-134a, expansion valve, receiver", "R-134a", 3.0, 3.0,
         5.6, outdoor_air_kg_s_per_kw=0.18),
    _box("freezer-404a", "Walk-in freezer, R-404A, expansion valve, receiver", "R-404A", 2.2,
         -20.6, 5.6, head=HeadControl("flooded", 30.0, 5.0)),
    _box("freezer-290", "Small freezer, R-290, expansion valve, receiver", "R-290", 1.4, -18.0,
         5.6, over_ambient_k=11.1, line_m=6.0),
)  # fmt: skip

PRESETS: Mapping[str, Preset] = MappingProxyType({row.key: row for row in _ROWS})


def preset(key: str) -> Preset:
    """A preset row. Raises: UnknownName, with the nearest."""
    if key not in PRESETS:
        raise UnknownName("plant", key, PRESETS)
    return PRESETS[key]


@cache
def preset_machine(key: str) -> Machine:
    """The machine of a preset, sized once. Raises: UnknownName."""
    return sized(preset(key).rating)
