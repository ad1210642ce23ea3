"""Checks of a heat pump that heats: one row each. None of them says anything of charge."""

from nudge.core.checks.check import Check
from nudge.core.checks.looks import seen

_BLADES = "The lead stays clear of the fan's blades: tie it before the guard goes back."
_HOT = "In heating the vapour service line carries discharge gas: hot."
_LOCKED = "Power locked out and proven dead before a terminal is touched."

HEATING_CHECKS: tuple[Check, ...] = (
    Check(
        "prove_low_probes",
        "Zero the low gauge; put its clamp in ice water",
        "A pound and a degree together are more than a degree of superheat.",
        5,
        (
            "Low gauge open to air: zero.",
            "Clamp in a cup of ice and water, stirred: {t32}. Write down what it is off.",
        ),
        look=seen(
            "Tests: ports",
            ("low_probe_off", "Gauge or clamp was off"),
            ("low_probe_true", "Gauge zeroed, clamp reads ice as ice"),
            0.02,
            "ice and air are known",
        ),
    ),
    Check(
        "place_true_suction",
        "See the clamp between reversing valve and compressor",
        "Anywhere else it reads hot gas, or the accumulator's wall.",
        4,
        (
            "Follow the middle one of the three pipes at the reversing valve to the compressor.",
            "Six inches before the compressor, on bare copper, wrapped.",
        ),
        0.5,
        f"{_BLADES} {_HOT}",
        look=seen(
            "Tests: reversing_valve",
            ("true_suction_misplaced", "Suction clamp was on another pipe"),
            ("true_suction_placed", "Suction clamp is on the true suction"),
            0.03,
            "pipes are followed by hand",
        ),
    ),
    Check(
        "read_thermistor",
        "The coil's thermistor against its table",
        "A sensor that reads warm opens an electronic valve too far.",
        5,
        (
            "Unplug it, read its ohms, and the pipe's temperature beside it.",
            "10 kΩ ones read 33.9 kΩ at {t32}; the maker's table wins.",
        ),
        0.5,
        _LOCKED,
        look=seen(
            "Tests: outdoor_coil",
            ("thermistor_off", "Thermistor is off its table"),
            ("thermistor_true", "Thermistor reads as its table says"),
            0.03,
            "ohms against a table",
        ),
        devices=("eev",),
    ),
    Check(
        "drive_valve",
        "Drive the electronic valve towards shut and back",
        "A valve that is stuck does not move its superheat.",
        6,
        (
            "By its controller's test, or a service driver: a third of its steps towards shut.",
            "Superheat should climb within two minutes; then give it back to its controller.",
        ),
        1,
        "Never shut it wholly while the compressor runs.",
        look=seen(
            "Refrigerant: bulb",
            ("valve_steps_dead", "Valve does not answer its steps"),
            ("valve_steps_answer", "Valve answers its steps"),
            0.05,
            "superheat moves or it does not",
        ),
        devices=("eev",),
    ),
    Check(
        "see_strips_off",
        "See the strips off",
        "With strips on, the rise is theirs as well.",
        1,
        ("Clamp the strips' feed: no amps. Or lower the call by a degree or two.",),
        1,
        "Live work: rated gloves, licensed persons only.",
        look=seen(
            "Indoors: blower",
            ("strips_on", "Strips on with the pump"),
            ("strips_off", "Strips off"),
            0.1,
            "amps on their feed",
        ),
    ),
    Check(
        "see_no_defrost",
        "See that it is not in a defrost, nor just out of one",
        "For ten minutes after a defrost nothing is steady.",
        1,
        ("Outdoor fan runs, vapour line hot: it heats.",),
        look=seen(
            "Outdoors: outdoor_coil",
            ("in_defrost", "In a defrost, or within ten minutes of one"),
            ("clear_of_defrost", "Ten minutes clear of a defrost"),
            0.1,
            "the fan and the vapour line tell",
        ),
    ),
    Check(
        "take_second_filter_out",
        "Take a second filter out, and put it back: what changes?",
        "Two filters in one path starve the blower, and each alone looks clean.",
        6,
        (
            "Static, or the blower's watts, with both in. Then with the second one out.",
            "A constant-airflow motor's watts fall; one with a capacitor moves more air and rises.",
        ),
        1,
        "Blower off while a filter comes out.",
        form="second_filter",
        step="second_filter",
    ),
    Check(
        "measure_feed",
        "Clamp the strips' feed, and every circuit behind it",
        "Circuits that do not add up to their feed hide one that was counted twice, or not at all.",
        6,
        ("The feed, one leg.", "Each circuit, one leg: follow the wires, not the colours."),
        3,
        "Live work: rated gloves, one hand, licensed persons only.",
        form="strips_feed",
        step="feed",
    ),
    Check(
        "read_lockouts",
        "Read the lockouts of strips and compressor",
        "Crossed, nobody heats; both off, strips run whenever they are asked for.",
        3,
        ("In the thermostat's installer menu, or on the board's switches.",),
        form="lockouts",
        step="lockouts",
    ),
    Check(
        "force_defrost",
        "Force a defrost, or wait for one, and watch its four events",
        "A missing event names its part.",
        12,
        (
            "At the board: its low-voltage test pins, as its maker says; or wait for one.",
            "Valve shifts, fan stops, vapour line turns cold; then the fan is back and it heats.",
            "Write down how long it took, and how often it comes.",
        ),
        1,
        "The outdoor fan starts again by itself. Low-voltage pins only, with an insulated tool.",
        form="defrost",
        step="defrost",
    ),
)
