"""Vacuum and decay from typed points: where water boils, what hoses cost, what it says."""

from nudge.core.calculators.blanks import given
from nudge.core.calculators.slip import Entered, Slip, SlipLine, SlipOutcome
from nudge.core.language.said import Said, say
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, work
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.physics.tightness.hoses import bore_of, conductance
from nudge.core.physics.tightness.water import boils_at
from nudge.core.settling.trace import Trace
from nudge.core.tests import decay
from nudge.core.tests.evacuation import TARGET_PA
from nudge.core.tests.run import Run, TestOutcome

MOMENTS = {"vacuum_start": 0.0, "vacuum_5": 5.0, "vacuum_10": 10.0, "vacuum_15": 15.0,
           "vacuum_20": 20.0, "vacuum_30": 30.0, "vacuum_60": 60.0}  # fmt: skip
"""Blanks of a decay, and their minute."""
USUAL_PIPE_C = 20.0

BOILS = Formula(
    "vacuum_boils",
    "Water boils there at",
    Quantity.TEMPERATURE,
    "Pipes colder than this hold their water as ice or liquid.",
    "boiling point of water, under 4,600 micron of ice, at the vacuum",
    "at {vacuum_level} water boils at {result}",
    ("vacuum_level",),
    "WMO No. 8, 2008, annex 4.B.",
)
HOSE = Formula(
    "vacuum_hose",
    "The hose lets through, at 500 micron",
    Quantity.PUMP_SPEED,
    "A large pump behind a narrow hose is a small pump.",
    "135 d⁴p̄/L + 12.1 d³/L (L/s; cm, mbar)",
    "{vacuum_hose_length} of it lets {result} through",
    ("vacuum_hose_length",),
    "Knudsen’s formula, laminar and molecular flow together.",
)
RISE = Formula(
    "vacuum_rise",
    "Rises now",
    Quantity.VACUUM_RATE,
    "The last minutes, whatever lifts it.",
    "slope of the last points",
    "over the last points {result}",
    (),
    "Least squares; ± with the gauge’s scale error in it.",
)


def vacuum(entered: Entered) -> SlipOutcome:
    """Where water boils now, what the hose costs, and what the points of a decay say."""
    points = [(m, entered[key]) for key, m in MOMENTS.items() if key in entered]
    lines: list[SlipLine] = []
    level = entered.get("vacuum_level", points[-1][1] if points else 0.0)
    if level:
        inputs = given(entered, "vacuum_level") or given(entered, "vacuum_start")
        lines.append(SlipLine(work(BOILS, lambda _: boils_at(level), inputs)))
    if "vacuum_hose_length" in entered:
        bore = bore_of(entered.pick("vacuum_hose"))
        lines.append(
            SlipLine(
                work(
                    HOSE,
                    lambda v: conductance(bore, v["vacuum_hose_length"] * 100, TARGET_PA / 2),
                    given(entered, "vacuum_hose_length"),
                )
            )
        )
    if len(points) < 3:
        asks = "the vacuum at the start, and at three moments up to ten minutes or more"
        return SlipOutcome(tuple(lines), (), (asks,))
    outcome = _decay(entered, points)
    for number in outcome.numbers:
        if number.key == "rise":
            lines.append(SlipLine(work(RISE, lambda _, n=number: n.measure.value, {})))  # type: ignore[misc]
    return SlipOutcome(tuple(lines), _words(outcome))


def _decay(entered: Entered, points: list[tuple[float, float]]) -> TestOutcome:
    pipe = entered.get("vacuum_pipe_temp", USUAL_PIPE_C)
    seconds = tuple(m * 60 for m, _ in points)
    levels = Trace(seconds, tuple(p for _, p in points))
    pipes = Trace(seconds, tuple(pipe for _ in points))
    settings: dict[str, float | str] = {"oil": entered.pick("vacuum_oil")}
    if "inside_volume" in entered:
        settings["litres"] = entered["inside_volume"]
    return decay.judge_decay(
        Run(
            "decay",
            Plate(entered.pick("refrigerant"), MeteringDevice.TXV),
            0.0,
            seconds[-1],
            settings,
            {"vacuum_level": levels, "suction_line_temp": pipes},
            {"vacuum_level": levels},
        )
    )


def _words(outcome: TestOutcome) -> tuple[Said, ...]:
    hidden = (
        (say("A leak that could still hide: {leak} a year.", leak=outcome.hidden.measure),)
        if outcome.hidden
        else ()
    )
    return (outcome.headline, *outcome.says, *hidden, *outcome.schools)


VACUUM = Slip(
    "vacuum",
    "Vacuum and decay",
    ("vacuum_level", *MOMENTS),
    vacuum,
    say("Never run a compressor in a vacuum: it arcs inside. Tightness is proven by nitrogen."),
    seldom=("vacuum_pipe_temp", "vacuum_oil", "inside_volume", "vacuum_hose", "vacuum_hose_length",
            "refrigerant"),
)  # fmt: skip
