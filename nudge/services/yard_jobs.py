"""What can be done to a simulated system, one row a job."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType


@dataclass(frozen=True, slots=True)
class Job:
    """One thing a technician can do to the system: its caution, what it puts right or shows."""

    key: str
    label: str
    caution: str = ""
    puts_right: tuple[str, ...] = ()
    shows: tuple[tuple[str, str, str], ...] = ()
    """(fault, observation when it is there, observation when it is not)."""
    event: str | None = None
    takes_amount: bool = False
    moves_all: bool = False
    """What happened moved all it held."""
    on: str = ""
    """Only while it is charged, or open; "" always."""
    places: tuple[tuple[str, str], ...] = ()
    """Instruments it is done with: the channel, and the point it is put on."""
    part: str = "disconnect"
    """The part of the drawn machine it is done at."""
    mode: str = ""
    """Only while it works so; "" always."""
    at_thermostat: bool = False
    """Only where one calls it."""


_ROTATING = "Power off and locked, capacitor discharged, blades still, before a panel comes off."
_COLD = "Butyl gloves and eye protection. Liquid in short bursts, never a steady stream."
_SEEN = (
    ("filter_dirty", "filter_dirty", "filter_clean"),
    ("evaporator_dirt", "evaporator_coil_dirty", "evaporator_coil_clean"),
)
_ROWS = (
    Job("start_system", "Start it", event="system_started"),
    Job("stop_system", "Stop it", event="system_stopped"),
    Job("open_indoor_panel", "Open the indoor panel and look", _ROTATING, shows=_SEEN,
        part="indoor_coil"),
    Job("look_at_condenser", "Look at the outdoor coil", _ROTATING,
        shows=(("condenser_dirt", "condenser_coil_dirty", "condenser_coil_clean"),
               ("condenser_fan", "condenser_fan_weak", "condenser_fan_ok"),
               ("recirculating", "discharge_air_returns", "discharge_air_clear")),
        part="outdoor_coil"),
    Job("look_for_ice", "Look for ice between the outdoor fins", "",
        shows=(("outdoor_coil_iced", "outdoor_coil_ice", "outdoor_coil_frost_light"),),
        part="outdoor_coil", mode="heating"),
    Job("force_defrost", "Bridge the board's defrost pins",
        "Low-voltage pins only, insulated tool. The outdoor fan starts again by itself.",
        part="outdoor_coil", mode="heating"),
    Job("take_second_filter_out", "Take a second filter out",
        "Blower off while a filter comes out.", ("second_filter",), event="filter_changed",
        part="filter"),
    Job("renew_defrost_part", "Renew the part the defrost named", _ROTATING,
        ("defrost_valve_stuck", "defrost_fan_runs", "defrost_sensor", "defrost_board"),
        part="outdoor_coil", mode="heating"),
    Job("read_history", "Read the control's history and lockouts", part="thermostat",
        at_thermostat=True),
    Job("test_mode", "Start its test mode", part="thermostat", at_thermostat=True),
    Job("raise_call", "Raise the call, so that it runs on",
        "Write down first where the customer had it.", part="thermostat", at_thermostat=True),
    Job("put_call_back", "Put the call back where it stood", part="thermostat",
        at_thermostat=True),
    Job("call_emergency", "Call emergency heat, to see the strips", part="thermostat",
        at_thermostat=True),
    Job("normal_mode", "Put it in its normal mode", part="thermostat", at_thermostat=True),
    Job("set_lockouts", "Set the lockouts of strips and compressor", part="thermostat",
        at_thermostat=True),
    Job("clamp_circuits", "Clamp the strips' feed and every circuit",
        "Live work: rated gloves, one hand, licensed persons only.", part="blower",
        at_thermostat=True),
    Job("swap_bulb", "Renew the heating valve's bulb and power head",
        _ROTATING + " Recover first where the head is soldered.",
        ("bulb_loose", "metering_overfeed"), event="metering_renewed", part="outdoor_coil",
        mode="heating"),
    Job("check_bulb", "Check the bulb", _ROTATING,
        shows=(("bulb_loose", "bulb_loose", "bulb_secure"),), part="bulb"),
    Job("measure_capacitor", "Measure the blower capacitor", _ROTATING,
        shows=(("weak_capacitor", "blower_capacitor_weak", "blower_capacitor_ok"),), part="blower"),
    Job("change_filter", "Change the filter", "Blower off while the filter is out.",
        ("filter_dirty",), event="filter_changed", part="filter"),
    Job("clean_indoor_coil", "Clean the indoor coil", _ROTATING, ("evaporator_dirt",),
        event="evaporator_cleaned", part="indoor_coil"),
    Job("clean_condenser", "Clean the outdoor coil", _ROTATING, ("condenser_dirt",),
        event="condenser_cleaned", part="outdoor_coil"),
    Job("renew_capacitor", "Renew the blower capacitor", _ROTATING, ("weak_capacitor",),
        event="blower_mended", part="blower"),
    Job("refix_bulb", "Clean, refix and insulate the bulb", "", ("bulb_loose",),
        event="bulb_fixed", part="bulb"),
    Job("add_charge", "Add refrigerant", _COLD, event="refrigerant_added", takes_amount=True,
        places=(("low-probe", "suction_pressure"), ("vacuum", "")), part="ports"),
    Job("remove_charge", "Recover some", _COLD + " Into a recovery cylinder, never to air.",
        event="refrigerant_removed", takes_amount=True, part="ports"),
    Job("recover_all", "Recover all of it",
        _COLD + " Into a recovery cylinder, 80 % at most; power locked out, control voltage off.",
        event="refrigerant_removed", moves_all=True, part="ports", on="charged"),
    Job("open_circuit", "Open it and renew the valve and drier",
        "Swept with nitrogen before any flame, none left inside; fire watch; cut, not unsweated.",
        ("valve_shut", "metering_underfeed", "drier_restricted"), event="metering_renewed",
        part="bulb", on="open"),
    Job("raise_nitrogen", "Raise it with nitrogen to 150 psig",
        "Dry nitrogen through a regulator, never oxygen or air, never over the lower design "
        "pressure.", places=(("low-probe", "test_pressure"),), part="ports", on="open",
        event="circuit_pressurised"),
    Job("bubble_test", "Bubbles on every joint", "Never a finger on a leak.", part="ports",
        on="open"),
    Job("mend_joint", "Make the leaking joint anew", "Let it down first.", ("joint_leak",),
        part="ports", on="open"),
    Job("release_nitrogen", "Let the nitrogen out", "It displaces air in closed rooms.",
        part="ports", on="open",
        event="circuit_released"),
    Job("open_pump", "Open the pump to it", "Never run a compressor in a vacuum.",
        places=(("vacuum", "vacuum_level"),), part="ports", on="open",
        event="circuit_evacuating"),
    Job("shut_pump", "Shut the valve to the pump", part="ports", on="open",
        event="circuit_isolated"),
    Job("sweep_nitrogen", "Break the vacuum with dry nitrogen", part="ports", on="open"),
    Job("warm_pipes", "Warm the pipes with lamps", "Never a flame.", part="ports", on="open"),
)  # fmt: skip
JOBS: Mapping[str, Job] = MappingProxyType({row.key: row for row in _ROWS})
CLEAN_AFTER = {
    "filter_dirty": "filter_clean",
    "evaporator_dirt": "evaporator_coil_clean",
    "condenser_dirt": "condenser_coil_clean",
    "weak_capacitor": "blower_capacitor_ok",
    "bulb_loose": "bulb_secure",
}
"""What is seen of a part once its fault is put right."""
