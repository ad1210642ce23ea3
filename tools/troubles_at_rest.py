"""What a bad probe does to a settled set of readings: one row a trouble, for the judge's sweep.

Severity 0 to 1 as with the plant's faults; each moves one reading, as the trade sees it happen.
"""

from collections.abc import Callable, Mapping
from random import Random
from types import MappingProxyType

Readings = dict[str, float]
Spoil = Callable[[Readings, float, Random], None]


def _toward(point: str, other: str, most: float) -> Spoil:
    """A clamp that half feels something else."""

    def spoil(readings: Readings, severity: float, _: Random) -> None:
        share = most * severity
        readings[point] += share * (readings[other] - readings[point])

    return spoil


def _off(point: str, least: float, most: float, both_ways: bool = True) -> Spoil:
    """A reading off by an amount [core units]."""

    def spoil(readings: Readings, severity: float, rng: Random) -> None:
        sign = rng.choice((-1, 1)) if both_ways else 1
        readings[point] += sign * (least + (most - least) * severity)

    return spoil


def _dry_wick(readings: Readings, severity: float, _: Random) -> None:
    dry, wet = readings["return_air_temp"], readings["return_air_wet_bulb"]
    readings["return_air_wet_bulb"] = wet + 0.9 * severity * (dry - wet)


def _at_coil(readings: Readings, severity: float, _: Random) -> None:
    left = readings["condenser_leaving_air_temp"] - readings["outdoor_air_temp"]
    readings["outdoor_air_temp"] += 0.8 * severity * left


PROBE_TROUBLES: Mapping[str, Spoil] = MappingProxyType(
    {
        "suction_clamp_loose": _toward("suction_line_temp", "outdoor_air_temp", 0.6),
        "liquid_clamp_loose": _off("liquid_line_temp", -1.0, -6.0, both_ways=False),
        "liquid_clamp_in_sun": _off("liquid_line_temp", 1.5, 7.0, both_ways=False),
        "low_probe_zero": _off("suction_pressure", 25.0, 110.0),
        "high_probe_zero": _off("liquid_pressure", 60.0, 260.0),
        "outdoor_probe_in_sun": _off("outdoor_air_temp", 2.0, 10.0, both_ways=False),
        "supply_probe_mixed": _toward("supply_air_temp", "return_air_temp", 0.6),
        "return_wick_dry": _dry_wick,
    }
)

ROOM_TROUBLES: Mapping[str, Spoil] = MappingProxyType(
    {
        "outlet_clamp_loose": _toward("evaporator_outlet_temp", "box_air_temp", 0.8),
        "supply_probe_mixed": _toward("supply_air_temp", "box_air_temp", 0.6),
        **{
            key: PROBE_TROUBLES[key]
            for key in (
                "suction_clamp_loose",
                "liquid_clamp_loose",
                "liquid_clamp_in_sun",
                "low_probe_zero",
                "high_probe_zero",
                "outdoor_probe_in_sun",
            )
        },
    }
)
"""The same on a cold room, where the coil’s feed is read at its outlet."""

HEATING_TROUBLES: Mapping[str, Spoil] = MappingProxyType(
    {
        "true_suction_clamp_loose": _toward("true_suction_temp", "outdoor_air_temp", 0.6),
        **{
            key: PROBE_TROUBLES[key]
            for key in (
                "liquid_clamp_loose",
                "low_probe_zero",
                "high_probe_zero",
                "outdoor_probe_in_sun",
                "supply_probe_mixed",
            )
        },
        "outdoor_probe_at_coil": _at_coil,
    }
)
"""The same in heating, where suction is read between reversing valve and compressor."""
