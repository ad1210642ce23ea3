"""What each suspect does to each mark: the table the beliefs are computed from.

A cell is how often the mark reads (under, inside, over) its expected window when that
suspect is the fault, of a hundred moderate cases. Trade knowledge, coarse on purpose: this
is the first judge. A tolerance is set wide enough that a right system is inside it in 19 of
20 readings, and a valve holds its superheat until the liquid column breaks.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

Odds = tuple[float, float, float]

FLAT: Odds = (34, 33, 33)
NORMAL: Odds = (8, 84, 8)


@dataclass(frozen=True, slots=True)
class Suspect:
    """One fault: how common it is (per hundred calls), and the odds of each mark."""

    key: str
    label: str
    prior: float
    marks: Mapping[str, Odds]
    valve_superheat: Odds
    orifice_superheat: Odds

    def odds(self, mark: str, has_valve: bool) -> Odds:
        """Odds of (under, inside, over) for a mark, by metering device for superheat."""
        if mark == "superheat":
            return self.valve_superheat if has_valve else self.orifice_superheat
        return self.marks.get(mark, NORMAL)


def _suspect(
    key: str, label: str, prior: float, valve: Odds, orifice: Odds, **marks: Odds
) -> Suspect:
    return Suspect(key, label, prior, MappingProxyType(marks), valve, orifice)


_STARVED: Odds = (1, 9, 90)
_LOW_SUCTION: Odds = (2, 25, 73)
_NOT_SAID = dict.fromkeys(
    (
        "subcooling", "condensing_over_ambient", "evaporator_difference", "temperature_split",
        "pressure_ratio", "liquid_line_drop", "drier_drop",
    ),
    FLAT,
)  # fmt: skip

_ROWS = (
    _suspect("none", "Nothing wrong", 22, (3, 94, 3), (4, 92, 4), subcooling=(2.5, 95, 2.5),
             condensing_over_ambient=(6, 88, 6), pressure_ratio=(2, 96, 2),
             liquid_line_drop=(0, 97, 3), drier_drop=(0, 98, 2)),
    _suspect("undercharge", "Low charge", 16, (2, 46, 52), (1, 14, 85), subcooling=(85, 14, 1),
             condensing_over_ambient=(40, 58, 2), evaporator_difference=(2, 48, 50),
             temperature_split=(45, 50, 5), pressure_ratio=(10, 70, 20),
             liquid_line_drop=(0, 92, 8), drier_drop=(0, 95, 5)),
    _suspect("overcharge", "Too much charge", 9, (15, 80, 5), (65, 33, 2), subcooling=(1, 12, 87),
             condensing_over_ambient=(2, 43, 55), evaporator_difference=(20, 75, 5)),
    _suspect("condenser_airflow", "Condenser air", 9, (25, 65, 10), (50, 45, 5),
             subcooling=(10, 65, 25), condensing_over_ambient=(1, 12, 87),
             evaporator_difference=(35, 60, 5), pressure_ratio=(1, 60, 39)),
    _suspect("non_condensables", "Air in the system", 3, (10, 80, 10), (20, 70, 10),
             subcooling=(2, 23, 75), condensing_over_ambient=(1, 15, 84),
             pressure_ratio=(1, 65, 34)),
    _suspect("low_indoor_airflow", "Low indoor airflow", 10, (25, 70, 5), (75, 23, 2),
             subcooling=(8, 77, 15), condensing_over_ambient=(30, 66, 4),
             evaporator_difference=(1, 22, 77), temperature_split=(2, 28, 70)),
    _suspect("low_indoor_load", "Low indoor load", 4, (20, 75, 5), (70, 28, 2),
             subcooling=(8, 80, 12), condensing_over_ambient=(30, 66, 4),
             evaporator_difference=(10, 60, 30), temperature_split=(30, 60, 10)),
    _suspect("liquid_line_restriction", "Liquid line restriction", 5, _STARVED, _STARVED,
             subcooling=(1, 50, 49), condensing_over_ambient=(40, 57, 3),
             evaporator_difference=_LOW_SUCTION, temperature_split=(50, 45, 5),
             liquid_line_drop=(0, 35, 65), drier_drop=(0, 35, 65)),
    _suspect("metering_underfeed", "Metering device starving", 5, _STARVED, _STARVED,
             subcooling=(2, 50, 48), condensing_over_ambient=(40, 57, 3),
             evaporator_difference=_LOW_SUCTION, temperature_split=(50, 45, 5)),
    _suspect("metering_overfeed", "Metering device overfeeding", 4, (88, 11, 1), (80, 18, 2),
             subcooling=(35, 60, 5), evaporator_difference=(50, 46, 4),
             temperature_split=(25, 70, 5), pressure_ratio=(15, 80, 5)),
    _suspect("inefficient_compressor", "Compressor not pumping", 3, (5, 45, 50), (5, 45, 50),
             subcooling=(15, 70, 15), condensing_over_ambient=(60, 39, 1),
             evaporator_difference=(80, 19, 1), temperature_split=(75, 24, 1),
             pressure_ratio=(70, 30, 0.2)),
    _suspect("reversing_valve_leak", "Reversing valve leaking", 1, (5, 45, 50), (5, 45, 50),
             subcooling=(15, 70, 15), condensing_over_ambient=(60, 39, 1),
             evaporator_difference=(80, 19, 1), temperature_split=(75, 24, 1),
             pressure_ratio=(65, 35, 0.2)),
    _suspect("low_ambient_stacking", "Cold-day stacking", 2, (5, 40, 55), (10, 40, 50),
             subcooling=(3, 37, 60), condensing_over_ambient=(25, 50, 25),
             evaporator_difference=(5, 45, 50), pressure_ratio=(40, 59, 1)),
    _suspect("high_indoor_load", "High indoor load", 4, (3, 40, 57), (15, 55, 30),
             subcooling=(12, 78, 10), condensing_over_ambient=(5, 65, 30),
             evaporator_difference=(55, 42, 3), temperature_split=(55, 42, 3)),
    _suspect("sensor_suspect", "A reading is wrong", 2, FLAT, FLAT, **_NOT_SAID),
    _suspect("electrical_blower", "Blower electrics", 3, (25, 70, 5), (75, 23, 2),
             subcooling=(8, 77, 15), condensing_over_ambient=(30, 66, 4),
             evaporator_difference=(1, 22, 77), temperature_split=(2, 28, 70)),
    _suspect("something_else", "Something else", 2, FLAT, FLAT, **_NOT_SAID),
)  # fmt: skip

SUSPECTS: Mapping[str, Suspect] = MappingProxyType({row.key: row for row in _ROWS})

OBSERVED: Mapping[str, Mapping[str, float]] = MappingProxyType(
    {
        "filter_clean": {"low_indoor_airflow": 0.5},
        "filter_dirty": {"low_indoor_airflow": 8},
        "evaporator_coil_clean": {"low_indoor_airflow": 0.5},
        "evaporator_coil_dirty": {"low_indoor_airflow": 8},
        "condenser_coil_clean": {"condenser_airflow": 0.15},
        "condenser_coil_dirty": {"condenser_airflow": 12},
        "condenser_fan_ok": {"condenser_airflow": 0.6},
        "airflow_ok": {"low_indoor_airflow": 0.06, "electrical_blower": 0.06},
        "blower_capacitor_ok": {"electrical_blower": 0.2},
        "blower_capacitor_weak": {"electrical_blower": 25},
        "no_kink_seen": {"liquid_line_restriction": 0.6},
        "bulb_secure": {"metering_overfeed": 0.5},
        "bulb_loose": {"metering_overfeed": 6},
        "bulb_test_reacts": {"metering_underfeed": 0.2, "metering_overfeed": 0.4},
        "bulb_test_no_reaction": {"metering_underfeed": 6, "metering_overfeed": 3},
        "oil_seen_at_joint": {"undercharge": 4},
        "ice_on_coil": {"low_indoor_airflow": 3, "undercharge": 1.5},
        "sight_glass_bubbles": {"undercharge": 2.5, "liquid_line_restriction": 1.5},
    }
)
"""How many times likelier a seen fact makes each suspect; under one, less likely."""
