"""Every test with time: one row each, with its reason, guards, cautions and what it proves."""

from collections.abc import Mapping
from types import MappingProxyType

from nudge.core.checks.blanks import Blank
from nudge.core.language.errors import UnknownName
from nudge.core.language.said import say
from nudge.core.language.units import KPA_PER_PSI, LPS_PER_CFM, PA_PER_MICRON, Quantity
from nudge.core.tests import (
    adjusting,
    bulb,
    decay,
    defrost,
    evacuation,
    nitrogen,
    steady_things,
    valve,
)
from nudge.core.tests.row import MarkRow, TimedTest
from nudge.core.tests.run import EVERY_PIPE, Run, TestOutcome

_VOLUME = Blank(
    "litres", "Room inside, if it is known", Quantity.VOLUME, (), 0.2, 2_000, is_needed=False
)
_GAUGE = Blank(
    "gauge",
    "Where the gauge sits",
    None,
    (
        ("system", "On the system, away from the pump"),
        ("pump", "At the pump"),
        ("cold_pipe", "On a cold pipe"),
    ),
    is_needed=False,
)
_LOCKED = "Compressor locked out and control voltage off until refrigerant is in."
_ROOM = "Nitrogen displaces air in closed rooms: air the room, nobody alone in a pit."
_BURNS = "Pump and recovery machine rated for the refrigerant; no flame, no spark near A2L and A3."
_COLD = "Butyl gloves and eye protection. Licensed persons only."
_ROTATING = "Power off and blades still before a panel comes off."

_ROWS = (
    TimedTest(
        "nitrogen", "Nitrogen test",
        "Tightness is proven by pressure, bubbles and time: no vacuum proves it.",
        "circuit", ("test_pressure", "suction_line_temp", "outdoor_air_temp"), ("test_pressure",),
        nitrogen.judge,
        entries=(
            Blank("gas", "Gas in the cylinder", None,
                  (("nitrogen", "Dry nitrogen"), ("oxygen", "Oxygen"), ("air", "Air"),
                   ("other", "Another")), is_needed=False),
            Blank("pressure", "Pressure wanted", Quantity.TEST_PRESSURE, (), 10 * KPA_PER_PSI,
                  700 * KPA_PER_PSI, is_needed=False),
            _VOLUME,
            Blank("wanted", "Leak a year to exclude", Quantity.MASS, (), 0.001, 100,
                  is_needed=False),
            Blank("repeats", "How well the gauge repeats, ±", Quantity.TEST_PRESSURE_DIFFERENCE,
                  (), 0.01 * KPA_PER_PSI, 5 * KPA_PER_PSI, is_needed=False),
        ),
        marks=(
            MarkRow("topped_up", "Pressure raised or let down: it stands anew"),
            MarkRow("joint_dry", "A joint stays dry"),
            MarkRow("joint_bubbles", "A joint bubbles", "Never a finger on a leak."),
            MarkRow("joint_mended", "Joint mended",
                    "Let it down first, and no flame on a pipe under pressure."),
            MarkRow("joints_dry", "Every joint bubble-tested, none bubbles"),
        ),
        cautions=(
            "Dry nitrogen through a regulator only: oxygen and compressed air explode with oil.",
            "Never over the lower design pressure on the plates. Stand clear while it rises.",
            _ROOM, _LOCKED,
        ),
        how=(
            "Raise it in three steps, listening at each: a third, two thirds, full.",
            "Shut the cylinder and take the regulator's pressure off: the gauge stays.",
            "Clamp one pipe in the shade. Bubbles on every joint, caps and cores too.",
        ),
        proves=("tight",), step="pressure_test", guard=nitrogen.guard,
    ),
    TimedTest(
        "evacuation", "Evacuation",
        "Water leaves as vapour only, and air as fast as the hoses let it.",
        "circuit", ("vacuum_level", "suction_line_temp", "outdoor_air_temp"), ("vacuum_level",),
        evacuation.judge_evacuation,
        entries=(
            Blank("hose", "Hose to the pump", None,
                  (("1/4", "1/4 in."), ("3/8", "3/8 in."), ("1/2", "1/2 in."), ("3/4", "3/4 in.")),
                  is_needed=False),
            Blank("hose_length", "Its length", Quantity.LENGTH, (), 0.1, 20, is_needed=False),
            Blank("hoses", "Hoses", None, (("one", "One"), ("two", "Two, both ports")),
                  is_needed=False),
            Blank("cores", "Valve cores", None, (("out", "Out"), ("in", "In")), is_needed=False),
            Blank("pump", "Pump’s speed", Quantity.PUMP_SPEED, (), 0.2 * LPS_PER_CFM,
                  40 * LPS_PER_CFM, is_needed=False),
            Blank("ballast", "Gas ballast", None, (("open", "Open"), ("shut", "Shut")),
                  is_needed=False),
            Blank("target", "Go down to", Quantity.VACUUM, (), 50 * PA_PER_MICRON,
                  2_000 * PA_PER_MICRON, is_needed=False),
            _GAUGE, _VOLUME,
        ),
        marks=(MarkRow("swept", "Broken with dry nitrogen, pumped again", _ROOM),),
        cautions=(_LOCKED, "Never run a compressor in a vacuum: it arcs inside.", _BURNS),
        how=(
            "Cores out, wide short hoses from both ports, gauge on its own valve at the system.",
            "Ballast open until about 3,000 micron, then shut.",
            "A triple evacuation: down, break with dry nitrogen, down; three times.",
        ),
        proves=("evacuated",),
    ),
    TimedTest(
        "decay", "Decay: isolated vacuum",
        "The shape of the rise tells dry from wet; it proves dryness, never tightness.",
        "circuit", ("vacuum_level", *EVERY_PIPE[:3]), ("vacuum_level",), decay.judge_decay,
        entries=(
            _GAUGE,
            Blank("oil", "Inside", None,
                  (("used", "Old oil in it"), ("new", "New and clean")), is_needed=False),
            _VOLUME,
        ),
        marks=(
            MarkRow("pump_on", "Pump opened to it again"),
            MarkRow("isolated", "Isolated again"),
            MarkRow("swept", "Broken with dry nitrogen", _ROOM),
            MarkRow("warmed", "Pipes warmed", "Lamp or warm water, never a flame."),
        ),
        cautions=(
            _LOCKED, "Never run a compressor in a vacuum: it arcs inside.",
            "Not passed: the vacuum is not broken with refrigerant without a reason, in writing.",
        ),
        how=(
            "Shut the valve at the system, then stop the pump; the gauge stays on the system.",
            "Ten minutes at least, twenty tell more. Clamp the coldest pipe.",
        ),
        proves=("dry",), step="vacuum",
    ),
    TimedTest(
        "standing_pressure", "Standing pressure",
        "A stopped system stands at its refrigerant’s own pressure; more is air in it.",
        "circuit", ("liquid_pressure", "suction_pressure", "outdoor_air_temp"),
        ("liquid_pressure", "outdoor_air_temp"), steady_things.judge_standing,
        cautions=("Disconnect off and proven dead before any guard is lifted.",),
        how=("Compressor off, outdoor fan on, until the coil is as warm as the air.",),
        proves=("gauges_true",),
    ),
    TimedTest(
        "test_dose", "Test dose on a valve thought shut",
        "Behind a shut valve a dose only bumps: suction jumps, falls back, superheat stays.",
        "running", ("suction_pressure", "liquid_pressure", "suction_line_temp",
                    "discharge_line_temp"),
        ("suction_pressure", "suction_line_temp"), valve.judge_dose,
        entries=(Blank("dose", "Dose", Quantity.SMALL_MASS, (), 5, 400, is_needed=False),),
        marks=(
            MarkRow("dose_given", "Dose let in", _COLD),
            MarkRow("stopped", "System stopped, resting"),
            MarkRow("bulb_dead", "Bulb warmed in the hand: nothing moved"),
            MarkRow("walk_clean", "Line, filters and service valves walked: all open"),
        ),
        cautions=(
            "At most two minutes a run, then rest. Discharge under {t225}.", _COLD,
            "Never below atmosphere with a flammable refrigerant: air gets in.",
        ),
        how=(
            "Read suction, head and both lines for a minute before.",
            "At most 6 oz as liquid in one burst into suction. Mark it. Watch two minutes.",
            "Flammable: stop it at 40 psig, let the dose in standing, run on, stop at 35 psig.",
        ),
        proves=("valve_shut",), guard=valve.guard_dose,
    ),
    TimedTest(
        "bulb", "Bulb in the hand", "A live valve answers its bulb; a dead or shut one does not.",
        "running", ("suction_pressure", "suction_line_temp"),
        ("suction_pressure", "suction_line_temp"), bulb.judge_bulb,
        marks=(MarkRow("bulb_warm", "Bulb in the hand"), MarkRow("bulb_cold", "Bulb in ice water")),
        cautions=("Superheat under {d5}: cool the bulb at once.",
                  "Moving blower: keep hair and sleeves clear."),
        how=("Bulb off its pipe, warm it in the hand two minutes, then ice water two minutes.",),
    ),
    TimedTest(
        "two_loads", "Valve at two loads",
        "A valve holds its superheat at any load; one that is stuck moves like an orifice.",
        "running", ("suction_pressure", "suction_line_temp", "return_air_wet_bulb"),
        ("suction_pressure", "suction_line_temp"), bulb.judge_loads,
        marks=(MarkRow("load_changed", "Load changed"),),
        how=("Read at one load, change it (a room shut off, a later hour), ten minutes, read.",),
    ),
    TimedTest(
        "valve_adjust", "Adjust the valve",
        "Each valve answers a turn its own way: turn a little, wait, learn, turn again.",
        "running", ("suction_pressure", "suction_line_temp"),
        ("suction_pressure", "suction_line_temp"), adjusting.judge,
        entries=(
            Blank("adjustable", "Made to be adjusted", None,
                  (("yes", "Yes, it has a stem under its cap"), ("no", "No"))),
            Blank("target", "Superheat wanted", Quantity.TEMPERATURE_DIFFERENCE, (), 2, 20,
                  is_needed=False),
        ),
        marks=(
            MarkRow("in_eighth", "In, an eighth"), MarkRow("in_quarter", "In, a quarter"),
            MarkRow("in_half", "In, a half"), MarkRow("in_turn", "In, one turn"),
            MarkRow("out_eighth", "Out, an eighth"), MarkRow("out_quarter", "Out, a quarter"),
            MarkRow("out_half", "Out, a half"), MarkRow("out_turn", "Out, one turn"),
        ),
        cautions=("A non-adjustable valve is never opened.",
                  "Superheat under {d5}: turn in at once. Moving blower: keep clear."),
        how=("Stem in (clockwise) is less flow and more superheat.",
             "A turn, a quarter of an hour, read; cap on and tight at the end."),
        proves=("valve_set",), guard=adjusting.guard,
    ),
    TimedTest(
        "filter", "Filter out and in", "What a filter costs is the difference it makes.",
        "air", ("total_external_static", "indoor_unit_watts"), (), steady_things.judge_filter,
        marks=(MarkRow("filter_out", "Filter out"), MarkRow("filter_in", "Filter back in")),
        cautions=("Blower off while the filter is taken out or put in.",),
    ),
    TimedTest(
        "defrost", "Defrost watched",
        "Valve, fan, vapour line, fan again: a missing event names its part.",
        "running", (defrost.VAPOUR, defrost.LIQUID, defrost.FAN, "outdoor_air_temp"),
        (defrost.VAPOUR, defrost.FAN), defrost.judge_defrost,
        entries=(
            Blank("every", "Minutes since the last one", Quantity.MINUTES, (), 5, 1_440,
                  is_needed=False),
            Blank("humidity", "Humidity outdoors", Quantity.PERCENT, (), 5, 100, is_needed=False),
        ),
        marks=(
            MarkRow("forced", "Pins bridged: a defrost asked for",
                    "Low-voltage pins only, with an insulated tool, as its maker says."),
            MarkRow("ice", "Ice between the fins"),
            MarkRow("frost_light", "Light even frost"),
        ),
        cautions=("The outdoor fan starts again by itself: hands and leads clear of the blades.",
                  "Low-voltage pins only, with an insulated tool."),
        how=("Clamp the vapour line, the liquid line and one lead of the outdoor fan.",
             "Let it heat for two minutes, then bridge the pins, or wait for one.",
             "Watch it to its end, and a minute more."),
        proves=("defrosts",), step="defrost",
    ),
    TimedTest(
        "ice_bath", "Clamp in ice water",
        "Crushed ice and water stand at {t32}: a clamp must say so.",
        "instrument", ("suction_line_temp", "liquid_line_temp"), (), steady_things.judge_ice_bath,
        entries=(
            Blank("clamp", "Which clamp", None,
                  (("suction_line_temp", "The suction line’s"),
                   ("liquid_line_temp", "The liquid line’s"),
                   ("discharge_line_temp", "The discharge line’s"))),
        ),
    ),
)  # fmt: skip

TESTS: Mapping[str, TimedTest] = MappingProxyType({row.key: row for row in _ROWS})
FACTS: Mapping[str, str] = MappingProxyType(
    {
        "tight": "Tight, by nitrogen and bubbles",
        "dry": "Dry, by its decay",
        "evacuated": "Evacuated",
        "valve_shut": "Valve lets nothing through",
        "valve_set": "Valve set, by its superheat",
        "gauges_true": "Gauges true, by standing pressure",
        "true": "Clamp true, by ice water",
        "defrosts": "Defrosts, all four events seen",
    }
)
"""What tests prove, in words."""


def test_named(key: str) -> TimedTest:
    """The row of a test. Raises: UnknownName, with the nearest."""
    row = TESTS.get(key)
    if row is None:
        raise UnknownName("test", key, TESTS)
    return row


def judged(run: Run) -> TestOutcome:
    """What a run shows: by its row, or that it was broken off and why.

    Raises: UnknownName, for a test there is none of.
    """
    row = test_named(run.key)
    if run.aborted:
        return TestOutcome("aborted", "aborted", say(f"Broken off: {_plain(run.aborted)}"))
    if run.now_s < run.began_s:
        return TestOutcome(
            "cannot_tell",
            "clock",
            say("The clock was set back behind its beginning. Nothing is judged; begin again."),
        )
    return row.judge(run)


def _plain(text: str) -> str:
    return text.replace("{", "(").replace("}", ")")
