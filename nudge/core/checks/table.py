"""Every look, reading and test that can be asked for next: one row each, with how to do it."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.checks.looks import LOOSE, Look, seen


@dataclass(frozen=True, slots=True)
class Check:
    """One look, reading or test.

    `minutes` is work, `risk` minutes added for what can hurt; `signs` are measured by it,
    `points` are the readings it asks for (done once all are there), `look` is what it answers.
    `devices` limits it to kinds of metering device; empty for all.
    """

    key: str
    label: str
    why: str
    minutes: float
    how: tuple[str, ...]
    risk: float = 0.0
    caution: str = ""
    signs: tuple[str, ...] = ()
    points: tuple[str, ...] = ()
    look: Look | None = None
    devices: tuple[str, ...] = ()
    form: str = ""
    """The form it is filled in with (`forms.py`); "" where a reading or a tick says it."""
    step: str = ""
    """The step of a visit that it does (`visit/steps.py`)."""
    doubted_by: frozenset[str] = frozenset()
    """Gates that say its reading does not pass: the step stays open."""

    @property
    def done_by(self) -> tuple[str, ...]:
        """Points or observations that record its result."""
        found = () if self.look is None else (self.look.no, self.look.yes)
        return (*self.points, *(key for key in found if key))


_GLOVES = "Butyl gloves and eye protection; hand clear of the fitting's end."
_GUARDS = "Disconnect off and proven dead before any guard is lifted."
_LIVE = "Live terminals: rated gloves, one hand, licensed persons only."

SECOND_LOAD = Look(
    "superheat_moves",
    "superheat_holds",
    0.12,
    MappingProxyType(
        {
            "metering_overfeed": 0.6,
            "metering_underfeed": 0.5,
            "bulb_loose": 0.6,
            "undercharge": 0.3,
            "drier_restricted": 0.3,
            "line_kinked": 0.3,
        }
    ),
    "a stuck valve is right at one load only",
)
CLEANED = Look(
    "head_fell",
    "head_stayed",
    0.08,
    MappingProxyType({"condenser_dirt": 0.93}),
    "only dirt washes off",
)

_ROWS = (
    Check(
        "read_return_air",
        "Read return air at the grille, dry and wet bulb",
        "A cold house looks like low charge.",
        2,
        (
            "Hold the probe in the middle of the grille, out of the sun.",
            "Wet the wick with clean water, or read humidity.",
            "Type RA and WB.",
        ),
        signs=("evaporator_difference", "return_air", "return_wet_bulb"),
        points=("return_air_temp",),
    ),
    Check(
        "read_liquid_side",
        "Read liquid pressure and liquid line",
        "Subcooling tells low charge from a restriction.",
        3,
        (
            "Zero the instrument open to air, connect the liquid port.",
            "Clamp the liquid line on clean bare pipe, shaded, near the port.",
            "Type LIQ and LL.",
        ),
        1.5,
        "High side. " + _GLOVES,
        ("subcooling", "condensing_over_ambient"),
        ("liquid_pressure", "liquid_line_temp"),
    ),
    Check(
        "read_suction_side",
        "Read suction pressure and suction line",
        "Superheat tells whether liquid reaches the evaporator.",
        3,
        (
            "Zero the instrument open to air, connect the suction port.",
            "Clamp the suction line on clean bare pipe near the port, insulated.",
            "Type SUCT and SL.",
        ),
        1,
        _GLOVES,
        ("superheat", "boiling"),
        ("suction_pressure", "suction_line_temp"),
    ),
    Check(
        "read_outdoor_air",
        "Read outdoor air, in shade at coil height",
        "Condensing over ambient shows the outdoor coil and air in the system.",
        1,
        (
            "Hang the probe in shade, a step from the coil, clear of the discharge air.",
            "Type OA.",
        ),
        signs=("condensing_over_ambient", "approach", "outdoor_air"),
        points=("outdoor_air_temp",),
    ),
    Check(
        "look_at_filter",
        "Take the filter in your hand",
        "A choked filter pulls suction down like low charge.",
        2,
        ("Look through it against the light.", "Ask for a second filter in the same air path."),
        look=seen(
            "Indoors: filter",
            ("filter_dirty", "Filter dirty"),
            ("filter_clean", "Filter clean"),
            0.12,
            "many a filter is grey without being the fault",
            filter_dirty=0.95,
        ),
        form="filter",
        step="filter",
    ),
    Check(
        "look_at_condenser",
        "Look through the outdoor coil",
        "A dirty coil looks exactly like overcharge.",
        3,
        (
            "Look through the fins against a light, inside row too.",
            "A clean face can hide felt between the rows.",
        ),
        1,
        _GUARDS,
        look=seen(
            "Outdoors: outdoor_coil",
            ("condenser_coil_dirty", "Condenser coil dirty"),
            ("condenser_coil_clean", "Condenser coil clean"),
            0.1,
            "dirt sits between the rows",
            condenser_dirt=0.93,
        ),
        form="coils",
        step="coils",
    ),
    Check(
        "watch_condenser_fan",
        "Watch the outdoor fan",
        "A slow fan raises the head like dirt does.",
        2,
        (
            "Watch it run: speed, direction, blade seated on its shaft.",
            "Amps against its plate if in doubt.",
        ),
        0.5,
        "Keep hands and sleeves out of the guard.",
        look=seen(
            "Outdoors: outdoor_fan",
            ("condenser_fan_weak", "Condenser fan slow or stopped"),
            ("condenser_fan_ok", "Condenser fan right"),
            0.03,
            "speed, pitch and direction are seen",
            condenser_fan=0.93,
        ),
    ),
    Check(
        "feel_discharge_air",
        "Feel where the outdoor unit's warm air goes",
        "Warm air that comes back in looks like a hot day.",
        1,
        (
            "Hold your hand at the coil's face all round while it runs.",
            "Look for fences, decks and plants closer than the maker allows.",
        ),
        look=seen(
            "Outdoors: outdoor_fan",
            ("discharge_air_returns", "Discharge air comes back in"),
            ("discharge_air_clear", "Discharge air gets away"),
            0.04,
            "felt by hand at the coil's face",
            recirculating=0.88,
        ),
    ),
    Check(
        "read_condenser_leaving_air",
        "Read the air leaving the outdoor coil",
        "Hot leaving air is too little air; cool leaving air is too little work.",
        1,
        ("Hold the probe in the discharge air, not over the motor.", "Type its reading."),
        0.5,
        "Keep the probe and hands out of the fan.",
        ("condenser_air_rise",),
        ("condenser_leaving_air_temp",),
    ),
    Check(
        "read_supply_air",
        "Read supply air inside the boot",
        "The split shows whether air or capacity is short.",
        2,
        ("Push the probe into the boot: at the face it reads mixed air.", "Type SA."),
        signs=("temperature_split",),
        points=("supply_air_temp",),
    ),
    Check(
        "measure_static",
        "Measure static pressure and the filter's drop",
        "Static and filter drop show where the air is held up.",
        6,
        (
            "Zero the manometer. Ports before and after the blower, and each side of the filter.",
            "Type supply and return static, and the filter's drop.",
        ),
        0.5,
        "Mind what is behind the sheet metal before drilling.",
        ("static", "filter_drop"),
        ("total_external_static", "filter_pressure_drop"),
        form="statics",
        step="statics",
        doubted_by=frozenset({"duct_trouble"}),
    ),
    Check(
        "measure_airflow",
        "Measure airflow",
        "Airflow in numbers ends the argument about air.",
        10,
        (
            "Flow grid, powered hood, or the maker's blower table by tap and static.",
            "Type CFM.",
        ),
        signs=("airflow", "capacity"),
        points=("airflow",),
        form="blower",
        step="blower",
        doubted_by=frozenset({"airflow_out_of_range"}),
    ),
    Check(
        "look_at_evaporator",
        "Look at the indoor coil's face",
        "A matted coil starves the air behind a clean filter.",
        10,
        ("Open the coil's panel; look at the entering face with a lamp.",),
        1,
        "Power locked out and proven dead; sharp fins.",
        look=seen(
            "Indoors: indoor_coil",
            ("evaporator_coil_dirty", "Evaporator coil dirty"),
            ("evaporator_coil_clean", "Evaporator coil clean"),
            0.08,
            "the face is seen, the depth is not",
            evaporator_dirt=0.92,
        ),
        form="coils",
        step="coils",
    ),
    Check(
        "test_blower_capacitor",
        "Measure the blower capacitor",
        "A weak capacitor halves the air and looks like a dirty filter.",
        6,
        (
            "Discharge it, lift one lead, measure microfarads.",
            "Weak is more than 6 % under its rating.",
        ),
        2,
        "Power locked out and proven dead; discharge the capacitor before touching it.",
        look=seen(
            "Indoors: blower",
            ("blower_capacitor_weak", "Blower capacitor weak"),
            ("blower_capacitor_ok", "Blower capacitor good"),
            0.04,
            "a meter says it; some are weak without being the fault",
            weak_capacitor=0.95,
        ),
        form="capacitor",
        step="capacitor",
    ),
    Check(
        "walk_liquid_line",
        "Walk the liquid line with a thermometer",
        "A temperature step shows a restriction, and where it is.",
        5,
        (
            "Read the liquid line leaving the outdoor unit.",
            "Read just before and just after the drier.",
            "Read just before the metering device.",
            "Same clamp, same pressure of the hand, clean bare pipe.",
        ),
        signs=("drier_drop", "drop_past_drier", "drop_to_drier"),
        points=("drier_inlet_temp", "drier_outlet_temp", "liquid_line_temp_indoor"),
    ),
    Check(
        "carry_one_clamp",
        "Carry one clamp along the whole liquid line",
        "With one clamp its own error drops out, and a small step shows.",
        8,
        (
            "Outdoor unit, before the drier, after it, before the device: the same clamp, a minute "
            "each.",
            "A step is {d2} or more in one place.",
        ),
        look=seen(
            "Refrigerant: liquid_line",
            ("liquid_step_found", "Step along the liquid line"),
            ("no_liquid_step", "No step along the liquid line"),
            0.03,
            "one clamp carried along the line: its own error drops out; a mild step is small",
            drier_restricted=0.65,
            line_kinked=0.65,
            service_valve=0.65,
        ),
    ),
    Check(
        "ask_the_house",
        "Ask how warm the house usually is",
        "A house that cooled while you worked looks like low charge.",
        1,
        ("Read the thermostat and its setting; ask what it was this morning.",),
        look=seen(
            "Indoors: thermostat",
            ("house_cool", "House cooled down"),
            ("house_not_cool", "House not cooled down"),
            0.05,
            "the thermostat and the people say it",
            low_load=0.9,
        ),
    ),
    Check(
        "ask_the_setting",
        "See how far the house is over its setting",
        "A house being pulled down overloads the coil.",
        1,
        ("Read the thermostat and its setting; ask when it was switched on.",),
        look=seen(
            "Indoors: thermostat",
            ("house_warm", "House far over its setting"),
            ("house_not_warm", "House near its setting"),
            0.05,
            "the thermostat and the people say it",
            high_load=0.9,
        ),
    ),
    Check(
        "look_at_service_valves",
        "See both service valves fully open",
        "A liquid valve left half shut after work starves the coil like a kink.",
        2,
        (
            "Caps off: stem all the way back, or the hexagon as far out as it goes.",
            "Feel the line on both sides of the liquid valve: one warm, one cool is a step.",
            "A port on the line side of a half-shut valve reads low head and no subcooling: see "
            "the valve before charge is judged.",
        ),
        0.5,
        _GLOVES,
        look=seen(
            "Refrigerant: ports",
            ("service_valve_not_open", "Service valve not fully open"),
            ("service_valves_open", "Service valves fully open"),
            0.01,
            "a stem is seen or it is not",
            service_valve=0.93,
        ),
    ),
    Check(
        "look_for_kink",
        "Follow the liquid line by eye and hand",
        "A kink is seen, or felt as a cold spot.",
        4,
        ("Follow it from unit to unit; feel for a place where it turns cold.",),
        look=seen(
            "Refrigerant: liquid_line",
            ("kink_found", "Kink found"),
            ("no_kink_seen", "Liquid line walked, no kink"),
            0.02,
            "part of a line runs behind walls",
            line_kinked=0.75,
        ),
    ),
    Check(
        "look_at_bulb",
        "Look at the bulb: tight, clean, wrapped, in its place",
        "A loose bulb feels the air and opens the valve.",
        4,
        ("Open the coil's panel. The bulb sits flat on clean suction pipe, strapped, wrapped.",),
        0.5,
        "Moving blower: keep hair and sleeves clear.",
        look=seen(
            "Refrigerant: bulb",
            ("bulb_loose", "Bulb loose or bare"),
            ("bulb_secure", "Bulb tight and wrapped"),
            0.05,
            "a bulb is seen or it is not",
            bulb_loose=0.94,
            metering_overfeed=0.12,
        ),
        devices=("txv",),
    ),
    Check(
        "test_bulb",
        "Warm the bulb in your hand, then cool it",
        "A live valve answers; a dead one does not.",
        8,
        (
            "Take the bulb off its pipe and warm it in your hand: superheat should fall.",
            "Cool it in ice water: superheat should rise.",
            "Wait two minutes each way.",
        ),
        1,
        "Watch superheat while it is warm: under {d5}, cool it at once. Moving blower: keep "
        "hair and sleeves clear.",
        look=seen(
            "Refrigerant: bulb",
            ("bulb_test_no_reaction", "Bulb test: no reaction"),
            ("bulb_test_reacts", "Bulb test: valve reacts"),
            0.06,
            "a dead or stuck valve does not answer; a starved one hardly",
            metering_underfeed=0.92,
            metering_overfeed=0.88,
            bulb_loose=0.3,
            undercharge=0.12,
        ),
        devices=("txv",),
    ),
    Check(
        "prove_valve_shut",
        "Prove the valve shut: a test dose that only bumps",
        "Starved by a shut valve looks like no charge at all; adding does nothing.",
        20,
        (
            "Start the test “Test dose on a valve thought shut”: it watches and times.",
            "At most 6 oz into suction; bulb in the hand; walk line, filters and valves.",
        ),
        3,
        "Two minutes a run, then rest. Discharge under {t225}. Never below atmosphere with a "
        "flammable refrigerant.",
        look=seen(
            "Refrigerant: bulb",
            ("valve_proven_shut", "Valve proven shut by a test dose"),
            ("valve_proven_open", "Test dose answered: the valve lets through"),
            0.004,
            "suction bumps, falls back, superheat stays, the bulb is dead, the walk is clean",
            metering_underfeed=0.6,
        ),
        devices=("txv", "eev"),
    ),
    Check(
        "read_compressor_amps",
        "Clamp the compressor's amps",
        "A compressor that is not pumping draws little.",
        3,
        ("Clamp one lead, read volts as well.", "Type the compressor's amps."),
        3,
        _LIVE,
        ("compressor_power",),
        ("compressor_amps",),
        form="compressor_amps",
        step="amps",
    ),
    Check(
        "read_discharge_line",
        "Read the discharge line near the compressor",
        "A hot discharge is starved or slipping; a cool one is flooded.",
        2,
        ("Clamp 6 in. (15 cm) from the compressor.", "Type DL."),
        1,
        "It burns: clamp, do not touch.",
        ("discharge_over_stroke",),
        ("discharge_line_temp",),
    ),
    Check(
        "feel_reversing_valve",
        "Read both sides of the reversing valve's suction path",
        "A leaking valve warms the suction gas on its way through.",
        3,
        ("Clamp the suction line before the valve and the true suction behind it.",),
        0.5,
        "The discharge pipe beside it burns.",
        ("rise_at_reversing_valve",),
        ("true_suction_temp",),
    ),
    Check(
        "test_compressor",
        "Prove that the compressor pumps",
        "Pressures that lean together can be the valve or the compressor.",
        15,
        ("Amps against the plate, then a short pump-down as its maker allows it.",),
        4,
        _LIVE,
        look=seen(
            "Tests: compressor",
            ("compressor_weak", "Compressor does not pump"),
            ("compressor_pumps", "Compressor pumps"),
            0.04,
            "amps against the plate, pump-down",
            compressor_worn=0.92,
            compressor_reed=0.95,
        ),
    ),
    Check(
        "standing_pressure",
        "Stop it, run the outdoor fan, compare standing pressure",
        "Standing pressure over its temperature's saturation is air in the system.",
        20,
        (
            "Compressor off, outdoor fan on, until the coil is as warm as the air.",
            "Compare the pressure with saturation at that temperature.",
        ),
        1,
        _GUARDS,
        look=seen(
            "Tests: ports",
            ("standing_pressure_high", "Standing pressure too high"),
            ("standing_pressure_right", "Standing pressure fits its temperature"),
            0.02,
            "with the fan run until temperatures are equal it settles it",
            non_condensables=0.98,
        ),
    ),
    Check(
        "ask_if_opened",
        "Ask whether the circuit was open, or in a vacuum, since it was right",
        "Air gets in only where something let it in.",
        1,
        (
            "Ask who worked on it last, and look for a new drier, fresh solder, missing caps.",
            "A leaking low side that ran in a vacuum counts as open.",
        ),
        look=seen(
            "Refrigerant: ports",
            ("circuit_opened_recently", "Circuit opened, or in a vacuum, since it was right"),
            ("circuit_never_opened", "Circuit not opened, nor in a vacuum, since it was right"),
            0.15,
            "air gets in where a circuit was open, or where a leaking one was pulled into a vacuum",
            non_condensables=0.9,
        ),
    ),
    Check(
        "second_load",
        "Read again at another load",
        "A stuck valve is right at one load only.",
        20,
        (
            "Change the load: a room opened or closed, a later hour.",
            "Let it settle; the superheats are compared by themselves.",
        ),
        look=SECOND_LOAD,
        devices=("txv", "eev"),
    ),
    Check(
        "clean_and_read",
        "Clean the outdoor coil, then read again",
        "Only dirt washes off; charge and air in the system stay.",
        25,
        ("Wash it from the inside out.", "Mark “Outdoor coil cleaned”, let it settle, read."),
        1.5,
        _GUARDS,
        look=CLEANED,
    ),
    Check(
        "look_for_leak",
        "Look for the leak: oil, bubbles at the joints",
        "What is missing went somewhere.",
        10,
        (
            "Wipe the joints, flares and ports; look for oil.",
            "Bubble solution on every one, caps off and on.",
        ),
        0.5,
        _GLOVES,
        look=seen(
            "Refrigerant: liquid_line",
            ("oil_seen_at_joint", "Oil at a joint"),
            None,
            0.03,
            "half of the leaks leave a trace",
            undercharge=0.35,
        ),
    ),
    Check(
        "swap_probes",
        "Swap or zero the probes and read again",
        "A number that moves with its probe was the probe.",
        4,
        ("Zero the gauges open to air.", "Put the doubtful clamp on the other pipe and compare."),
        0.5,
        _GLOVES,
        look=seen(
            "Tests: ports",
            ("reading_confirmed_wrong", "Probe found wrong"),
            ("readings_confirmed", "Probes swapped: readings confirmed"),
            0.004,
            "the probe swapped or zeroed and read again",
            **dict.fromkeys(
                (
                    "suction_clamp_loose",
                    "liquid_clamp_loose",
                    "liquid_clamp_in_sun",
                    "low_probe_zero",
                    "high_probe_zero",
                    "outdoor_probe_in_sun",
                    "supply_probe_mixed",
                    "return_wick_dry",
                    "some_probe",
                ),
                0.95,
            ),
        ),
    ),
    Check(
        "read_fan_amps",
        "Clamp the outdoor fan's amps",
        "A fan that labours shows it.",
        3,
        ("Clamp one lead.", "Read the FLA on its plate."),
        3,
        _LIVE,
        form="fan_amps",
        step="amps",
    ),
    Check(
        "read_blower_amps",
        "Clamp the blower's amps",
        "Amps tell which way the air is held up.",
        3,
        ("Clamp one lead.", "Read the FLA on its plate."),
        3,
        _LIVE,
        form="blower_amps",
        step="amps",
    ),
    Check(
        "measure_strips",
        "Measure the electric strips, by circuit",
        "A strip that is out, or one leg counted twice, shows in its amps.",
        5,
        ("One circuit at a time.", "Clamp it where nothing else runs."),
        3,
        _LIVE,
        form="strips",
        step="strips",
    ),
    Check(
        "see_the_drain",
        "See that the drain runs",
        "A pan that stands full stops the machine.",
        2,
        ("Pour a cup of water in and watch it go.",),
        form="drain",
        step="drain",
    ),
)

CHECKS: Mapping[str, Check] = MappingProxyType({row.key: row for row in _ROWS})
LOOKS: tuple[Look, ...] = (
    *(row.look for row in _ROWS if row.look is not None and row.look.where),
    *LOOSE,
)
"""Every look that is ticked."""
LOOK_OF: Mapping[str, Look] = MappingProxyType(
    {key: look for look in LOOKS for key in (look.yes, look.no) if key}
)
