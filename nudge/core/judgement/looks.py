"""What a person sees or tests, and how often it comes out so with each fault: one row a look.

A look has two outcomes, or one that only counts when seen. People miss things and dirt is
relative: no outcome is certain. Faults are named as in the table of signatures.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

LEAST_SHARE = 0.01


@dataclass(frozen=True, slots=True, eq=False)
class Look:
    """`usually` is how often `yes` is seen where none of `with_fault` is there."""

    yes: str
    no: str
    usually: float
    with_fault: Mapping[str, float]
    reason: str

    def share(self, faults: tuple[str, ...]) -> float:
        """How often `yes` comes out with these faults in the system."""
        return max((self.with_fault.get(f, self.usually) for f in faults), default=self.usually)


def _look(yes: str, no: str, usually: float, reason: str, **with_fault: float) -> Look:
    return Look(yes, no, usually, MappingProxyType(with_fault), reason)


LOOKS: tuple[Look, ...] = (
    _look("filter_dirty", "filter_clean", 0.12, "many a filter is grey without being the fault",
          filter_dirty=0.95),
    _look("evaporator_coil_dirty", "evaporator_coil_clean", 0.08,
          "the face is seen, the depth is not", evaporator_dirt=0.92),
    _look("airflow_low", "airflow_ok", 0.06, "measured, or read from the blower's table",
          filter_dirty=0.9, evaporator_dirt=0.9, weak_capacitor=0.95),
    _look("blower_capacitor_weak", "blower_capacitor_ok", 0.04, "a meter says it; some are weak "
          "without being the fault", weak_capacitor=0.95),
    _look("condenser_coil_dirty", "condenser_coil_clean", 0.10, "dirt sits between the rows",
          condenser_dirt=0.93),
    _look("condenser_fan_weak", "condenser_fan_ok", 0.03, "speed, pitch and direction are seen",
          condenser_fan=0.93),
    _look("discharge_air_returns", "discharge_air_clear", 0.04, "felt by hand at the coil's face",
          recirculating=0.88),
    _look("kink_found", "no_kink_seen", 0.02, "part of a line runs behind walls", line_kinked=0.75),
    _look("liquid_step_found", "no_liquid_step", 0.03, "one clamp carried along the line: its own "
          "error drops out; a mild step is small", drier_restricted=0.65, line_kinked=0.65,
          service_valve=0.65),
    _look("service_valve_not_open", "service_valves_open", 0.01, "a stem is seen or it is not",
          service_valve=0.93),
    _look("house_cool", "house_not_cool", 0.05, "the thermostat and the people say it",
          low_load=0.9),
    _look("house_warm", "house_not_warm", 0.05, "the thermostat and the people say it",
          high_load=0.9),
    _look("bulb_loose", "bulb_secure", 0.05, "a bulb is seen or it is not", bulb_loose=0.94,
          metering_overfeed=0.12),
    _look("bulb_test_no_reaction", "bulb_test_reacts", 0.06, "a dead or stuck valve does not "
          "answer; a starved one hardly", metering_underfeed=0.92, metering_overfeed=0.88,
          bulb_loose=0.3, undercharge=0.12),
    _look("standing_pressure_high", "standing_pressure_right", 0.02,
          "with the fan run until temperatures are equal it settles it", non_condensables=0.98),
    _look("circuit_opened_recently", "circuit_never_opened", 0.15, "air gets in where a circuit "
          "was open, or where a leaking one was pulled into a vacuum", non_condensables=0.9),
    _look("reversing_valve_passes", "reversing_valve_tight", 0.03,
          "its suction lines differ in warmth", reversing_valve_leak=0.92),
    _look("compressor_weak", "compressor_pumps", 0.04, "amps against the plate, pump-down",
          compressor_worn=0.92, compressor_reed=0.95),
    _look("reading_confirmed_wrong", "readings_confirmed", 0.004,
          "the probe swapped or zeroed and read again",
          **dict.fromkeys(("suction_clamp_loose", "liquid_clamp_loose", "liquid_clamp_in_sun",
                           "low_probe_zero", "high_probe_zero", "outdoor_probe_in_sun",
                           "supply_probe_mixed", "return_wick_dry", "some_probe"), 0.95)),
    _look("oil_seen_at_joint", "", 0.03, "half of the leaks leave a trace", undercharge=0.35),
    _look("ice_on_coil", "", 0.03, "whatever starves the coil of air or refrigerant",
          filter_dirty=0.2, evaporator_dirt=0.25, weak_capacitor=0.25, undercharge=0.15,
          drier_restricted=0.12, line_kinked=0.12, service_valve=0.12,
          metering_underfeed=0.15, low_load=0.1),
    _look("sight_glass_bubbles", "sight_glass_clear", 0.10, "a short liquid column, or a drop "
          "before the glass", undercharge=0.8, drier_restricted=0.5, line_kinked=0.4,
          service_valve=0.5),
)  # fmt: skip

LOOK_OF: Mapping[str, Look] = MappingProxyType(
    {key: look for look in LOOKS for key in (look.yes, look.no) if key}
)


@cache
def times(look: Look | None, observation: str, faults: tuple[str, ...]) -> float:
    """How many times likelier this outcome of a look is with these faults than without."""
    if look is None:
        return 1.0  # a state of the work, such as a wet coil: it gates, and says nothing of faults
    share, usual = look.share(faults), look.usually
    if observation == look.no:
        share, usual = 1 - share, 1 - usual
    return max(share, LEAST_SHARE) / max(usual, LEAST_SHARE)
