"""The suspects: how common each is, how it is told from its look-alikes, what to do about it."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType


@dataclass(frozen=True, slots=True)
class Suspect:
    """One fault: how common it is (per hundred calls) and what settles it.

    `order` is its place in the order of elimination: of two that explain as much, the lower
    is looked at first, and a metering device is condemned last. `act` is what to do once it
    stands, and what is done instead of charging.
    """

    key: str
    label: str
    prior: float
    order: int
    told_apart_by: str
    act: str
    own_test: tuple[str, ...] = ()
    """Checks that prove it before anything is condemned, renewed or moved, in order."""


_ROWS = (
    Suspect("none", "Nothing wrong", 22, 0, "every number in its window",
            "Leave it. If there is a complaint, look at air, load and duct."),
    Suspect("undercharge", "Low charge", 16, 5,
            "subcooling low; a restriction has it normal or high",
            "Find the leak, then bring the charge to its target.",
            ("look_for_leak",)),
    Suspect("overcharge", "Too much charge", 9, 5,
            "liquid line close to outdoor air, outdoor coil seen clean, fan right",
            "Recover the surplus, a little at a time.",
            ("look_at_condenser", "watch_condenser_fan")),
    Suspect("condenser_airflow", "Condenser air", 9, 4,
            "look at the coil and the fan; air leaves hot, liquid line far over outdoor air",
            "Clean the outdoor coil, see the fan right, then read again before touching charge.",
            ("look_at_condenser", "watch_condenser_fan", "feel_discharge_air")),
    Suspect("non_condensables", "Air in the system", 3, 6,
            "standing pressure over the saturation of its own temperature",
            "Recover, evacuate, weigh in fresh refrigerant.",
            ("standing_pressure",)),
    Suspect("low_indoor_airflow", "Low indoor airflow", 10, 2,
            "airflow, static, filter and coil seen",
            "Put the air right: filter, indoor coil, ducts. Then read again.",
            ("look_at_filter", "look_at_evaporator", "measure_static")),
    Suspect("low_indoor_load", "Low indoor load", 4, 3,
            "return air temperatures; the house may have cooled while you worked",
            "Let the house warm to {t70} or more, or come back in season.",
            ("ask_the_house",)),
    Suspect("liquid_line_restriction", "Liquid line restriction", 5, 7,
            "a temperature step along the liquid side, and where it is",
            "Find the kink or the plugged drier between the two clamps and renew it.",
            ("walk_liquid_line", "look_at_service_valves", "look_for_kink")),
    Suspect("metering_underfeed", "Metering device starving", 5, 9,
            "a liquid line with no step up to the device; a bulb that does nothing when warmed",
            "Prove it with the bulb test, look at screen and orifice, then renew the device.",
            ("walk_liquid_line", "test_bulb")),
    Suspect("metering_overfeed", "Metering device overfeeding", 4, 9,
            "bulb cooled or refixed: reacts or not; airflow right",
            "Fix and wrap the bulb first; then test it, and only then renew the device.",
            ("look_at_bulb", "test_bulb", "test_compressor")),
    Suspect("inefficient_compressor", "Compressor not pumping", 3, 8,
            "pressure ratio and amps low with the valve wide open behind it",
            "Prove it: amps against the plate, then a pump-down by its maker's rules.",
            ("read_compressor_amps", "test_compressor")),
    Suspect("reversing_valve_leak", "Reversing valve leaking", 1, 8,
            "a temperature rise across the valve's suction path",
            "Feel its four lines, cycle the valve, then renew it.",
            ("feel_reversing_valve",)),
    Suspect("low_ambient_stacking", "Cold-day stacking", 2, 3,
            "raise the head by holding back discharge air, and read again",
            "Raise the head with a collar on the discharge air, weigh in, or come back in season."),
    Suspect("high_indoor_load", "High indoor load", 4, 3, "return air and wet bulb; time",
            "Let it pull the house down, then read again.",
            ("ask_the_setting",)),
    Suspect("sensor_suspect", "A reading is wrong", 2, 1, "swap the probes or zero them again",
            "Clean, shade, swap or zero the probe, then read again.",
            ("swap_probes",)),
    Suspect("electrical_blower", "Blower electrics", 5, 2,
            "capacitor microfarads, amps and tap",
            "Put the blower right: capacitor, tap, wheel. Then read again.",
            ("test_blower_capacitor",)),
    Suspect("something_else", "Something else", 2, 10, "nothing here explains all of it",
            "Go back to the beginning: probes, electrics, air. Ask somebody."),
)  # fmt: skip

SUSPECTS: Mapping[str, Suspect] = MappingProxyType({row.key: row for row in _ROWS})

FAULT_LABELS: Mapping[str, str] = MappingProxyType(
    {
        "condenser_dirt": "dirty outdoor coil",
        "condenser_fan": "outdoor fan",
        "recirculating": "its warm air coming back in",
        "filter_dirty": "dirty filter",
        "evaporator_dirt": "dirty indoor coil",
        "drier_restricted": "the drier",
        "line_kinked": "a kink in the line",
        "service_valve": "a service valve not fully open",
        "compressor_worn": "worn inside",
        "compressor_reed": "a broken reed",
        "bulb_loose": "the bulb",
        "metering_overfeed": "the device itself",
        "suction_clamp_loose": "the suction clamp",
        "liquid_clamp_loose": "the liquid clamp, reading cold",
        "liquid_clamp_in_sun": "the liquid clamp, reading warm",
        "low_probe_zero": "the low probe's zero",
        "high_probe_zero": "the high probe's zero",
        "outdoor_probe_in_sun": "the outdoor probe, warmed",
        "outdoor_probe_at_coil": "the outdoor probe, in air from the coil",
        "true_suction_clamp_loose": "the true-suction clamp",
        "supply_probe_mixed": "the supply probe, in mixed air",
        "return_wick_dry": "a wick that has dried",
        "outlet_clamp_loose": "the clamp at the coil's outlet",
        "valve_frozen": "water frozen in it",
        "head_held_low": "it does not hold the head",
        "head_held_high": "it holds the head too high",
    }
)
"""Which of a suspect's faults it is, in words, where a suspect has several."""

SEVERITY_SHARES: Mapping[str, float] = MappingProxyType(
    {"mild": 0.40, "moderate": 0.38, "severe": 0.22}
)
"""How bad a fault is when it is found: complaints come late, yearly checks find them early."""
