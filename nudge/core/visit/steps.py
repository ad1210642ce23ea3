"""Every step of a visit: one row each, with the caution that stands beside it.

A step is done when the visit already shows it, or when somebody ticks it. One that blocks can
be skipped only with a reason, which is printed. `ends` says what must not be left open at the
end without saying so.
"""

from nudge.core.checks.table import CHECKS
from nudge.core.visit.calls import CALLS
from nudge.core.visit.facts import Facts
from nudge.core.visit.step_row import StepRow, is_right, passed, read, seen
from nudge.core.visit.steps_opening import OPENED, OPENING_STEPS


def _gauged(facts: Facts) -> bool:
    return facts.has_gauges or facts.connection not in ("", "nothing")


def _with_hoses(facts: Facts) -> bool:
    return facts.connection in ("hose_manifold", "probe_and_tee", "core_tool")


def _opened(facts: Facts) -> bool:
    """A panel was off: something was looked at or measured behind one."""
    behind = {
        "evaporator_coil",
        "capacitor",
        "compressor_amps",
        "fan_amps",
        "blower_amps",
        "strips",
    }
    inside = {
        "evaporator_coil_clean",
        "evaporator_coil_dirty",
        "blower_capacitor_ok",
        "blower_capacitor_weak",
        "bulb_secure",
        "bulb_loose",
    }
    return bool(behind & facts.findings.keys() or inside & facts.observations or facts.has_acted)


_collared = seen("collar_on", "collar_off")


_LIVE = "Live work: rated gloves, licensed persons only. Locked out for everything else."
_LOCKED = "Power locked out and proven dead, capacitor discharged, blades still."
_NEW = frozenset({"commissioning", "new_installation"})
_NO_HEAT = frozenset({"no_heat"})
_HEAT = frozenset({"heating_check"}) | _NO_HEAT
_NOT_HEAT = frozenset(CALLS) - _HEAT

_ROWS: tuple[StepRow, ...] = (
    StepRow("complaint", "arrive", "The complaint, in the customer’s words",
            shows=lambda f: f.has_complaint),
    StepRow("thermostat", "arrive", "Thermostat: its call, its mode, its setting written down"),
    StepRow("plate", "arrive", "The plate: capacity, target, factory charge",
            shows=lambda f: f.plate_is_known),
    StepRow("history", "arrive", "What it did last time", applies=lambda f: not f.is_first_visit),
    StepRow("dangers", "arrive", "What can hurt you here",
            "Electricity and stored charge, fans under lifted guards, ladders, heat, refrigerant "
            "in closed rooms."),
    StepRow("control_history", "arrive", "The control’s history and its mode written down",
            calls=_NO_HEAT),
    StepRow("manual", "arrive", "The maker’s manual read; crankcase heater on long enough",
            calls=_NEW),
    StepRow("filter", "air", "Filter in your hand", "Blower off while the filter is out.",
            "judging", passed("filter"), check="filter"),
    StepRow("second_filter", "air", "A second filter in the same path, taken out and put back",
            "Blower off while a filter comes out.", shows=passed("second_filter"),
            calls=_NO_HEAT, check="second_filter"),
    StepRow("coils", "air", "Both coils’ faces", _LOCKED, "judging",
            passed("coils"), check="coils"),
    StepRow("statics", "air", "Static pressures, manometer zeroed",
            shows=passed("statics"), check="statics"),
    StepRow("capacitor", "air", "Blower capacitor, rated and measured",
            _LOCKED + " Discharge it before touching it.",
            shows=passed("capacitor"),
            check="capacitor"),
    StepRow("blower", "air", "Airflow by the blower’s table",
            shows=lambda f: passed("blower")(f) or seen("airflow_ok")(f), check="blower"),
    StepRow("amps", "air", "Amps against the plate", _LIVE,
            shows=passed("amps"), check="compressor_amps"),
    StepRow("drain", "air", "Drain and pan", shows=passed("drain"), check="drain"),
    StepRow("strips", "air", "Strips, by circuit", _LIVE, calls=_HEAT,
            shows=passed("strips"), check="strips"),
    StepRow("feed", "air", "Strips’ circuits against their feed", _LIVE, calls=_NO_HEAT,
            shows=passed("strips_feed"), check="strips_feed"),
    StepRow("look", "look", "Air and line temperatures, caps still on",
            "Probes in place with the fan still; keep leads out of the blades.",
            shows=lambda f: bool(f.look), applies=lambda f: bool(f.look) or not f.has_gauges),
    StepRow("collar", "connect", "Collar set by condensing and by the valve’s pressure",
            "Keep clear of the fan; the top stays open.", shows=seen("collar_on", "collar_off"),
            applies=lambda f: f.is_cold_call or _collared(f)),
    StepRow("collar_air", "connect", "The air the condenser draws, between collar and coil",
            shows=read("condenser_entering_air_temp"), applies=seen("collar_on")),
    StepRow("collar_amps", "connect", "Outdoor fan amps watched against its plate",
            "A fan that works against a collar can overload. " + _LIVE, applies=_collared),
    StepRow("connection", "connect", "Say how it is connected",
            "Hold a fitting by its sides; turn it fully home, or fully off, without stopping. "
            "Butyl gloves, eye protection.",
            shows=lambda f: bool(f.connection)),
    StepRow("zeroed", "connect", "Instruments zeroed open to air", applies=_gauged),
    StepRow("clamps", "connect", "Clamp spots clean, bare, shaded, insulated", applies=_gauged),
    StepRow("purged", "connect", "Hoses purged with a breath",
            "No more than the law calls minimal. Ventilate: it displaces air.",
            applies=_with_hoses),
    StepRow("runs", "settle", "It runs", shows=lambda f: f.is_running),
    StepRow("steady", "settle", "Long enough, and steady",
            shows=lambda f: f.is_running and not f.minutes_unsettled and f.unsettled is None),
    StepRow("full_speed", "settle", "Its charge mode on, its speed confirmed",
            "An inverter’s capacitors stay charged for minutes after it is switched off.",
            shows=lambda f: f.charge_mode in ("full", "partial", "ended"), calls=OPENED,
            applies=lambda f: f.charge_mode != ""),
    StepRow("circuit", "read", "Both pressures, both line temperatures",
            shows=read("suction_pressure", "liquid_pressure", "suction_line_temp",
                        "liquid_line_temp"), calls=_NOT_HEAT),
    StepRow("airs", "read", "Outdoor air, return air, wet bulb",
            shows=read("outdoor_air_temp", "return_air_temp", "return_air_wet_bulb"),
            calls=_NOT_HEAT),
    StepRow("true_suction", "read", "True suction, between reversing valve and compressor",
            "The vapour service line carries discharge gas in heating: hot.",
            shows=read("true_suction_temp"), calls=_HEAT),
    StepRow("rise", "read", "Supply over return, strips off: what is right moves with the weather",
            shows=read("supply_air_temp", "return_air_temp"), calls=_HEAT),
    StepRow("defrost", "read", "Defrost forced and seen, and back to heat",
            "The outdoor fan starts again by itself. Low-voltage pins only, insulated tool.",
            shows=passed("defrost"), calls=_HEAT, check="defrost"),
    StepRow("lockouts", "read", "Lockouts of strips and compressor read", calls=_HEAT,
            shows=passed("lockouts"), check="lockouts"),
    StepRow("verdict", "judge", "The verdict read, and what it does not mean",
            shows=lambda f: f.is_judged and not f.shut),
    StepRow("done", "act", "What the verdict asks for",
            "Each kind of work shows its own cautions.",
            shows=lambda f: f.has_acted and f.advice == "leave",
            applies=lambda f: f.has_acted or f.stage == "act"),
    StepRow("mode_ended", "act", "Charge mode ended, indoor settings put back",
            "Left in it, it runs at full speed until somebody notices.", "closing",
            lambda f: f.charge_mode in ("ended", "lapsed"), calls=OPENED,
            applies=lambda f: f.charge_mode in ("full", "partial", "ended", "lapsed")),
    StepRow("both_modes", "act", "Both modes run: cooling and heating", calls=_NEW),
    StepRow("final", "close", "Final settled readings", shows=lambda f: f.read_after_last_change,
            applies=lambda f: f.has_acted),
    StepRow("ports", "close", "Ports bubble-tested through a vented cap",
            "Hose left full bursts in a hot van: bleed it into suction.", "closing",
            applies=_gauged, part="ports"),
    StepRow("caps", "close", "Caps on, with their seals", "", "closing", applies=_gauged,
            part="ports"),
    StepRow("weighed", "close", "Cylinder weighed back, closed and capped",
            shows=lambda f: not f.unweighed, applies=lambda f: bool(f.cylinders), part="cylinder"),
    StepRow("collar_off", "close", "Collar off the discharge air",
            "Left on, the head climbs on the next warm day.", "closing", seen("collar_off"),
            applies=_collared, part="outdoor_fan"),
    StepRow("panels", "close", "Panels and every screw on",
            "An open panel is a live part and a turning fan.", "closing", applies=_opened,
            part="panels"),
    StepRow("disconnect", "close", "Disconnect on", blocks="closing", applies=_opened,
            part="disconnect"),
    StepRow("thermostat_back", "close", "Thermostat back to the customer’s setting, and calling",
            part="thermostat"),
    StepRow("normal_mode", "close", "Back from emergency to its normal mode, and seen to heat",
            calls=_NO_HEAT),
    StepRow("drain_runs", "close", "Drain running", part="drain"),
    StepRow("written", "close", "Total charge on the unit and in the book",
            applies=lambda f: f.has_moved_charge, shows=lambda f: "trimmed" in f.passed),
    StepRow("baseline", "close", "Settled result kept as this system’s baseline",
            shows=lambda f: f.has_baseline, calls=_NEW),
    StepRow("tools", "close", "Tools counted"),
    StepRow("said", "close", "Report to the customer, and what was left for which season"),
)  # fmt: skip

STEPS: tuple[StepRow, ...] = (*_ROWS, *OPENING_STEPS)
STEP_KEYS = {row.key: row for row in STEPS}


def check_of(step: str, facts: Facts) -> str:
    """The first check of a step that is not right yet; "" for one nothing but a hand does."""
    rows = [row for row in CHECKS.values() if row.step == step]
    wanted = [row for row in rows if row.look is None or not is_right(row, facts)]
    return next((row.key for row in (*wanted, *rows)), "")
