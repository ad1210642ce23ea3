"""Heat strips by their amps, circuit by circuit."""

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, Input, Working, work

RATED_VOLTS = 240.0
HALF_A_STRIP = 0.5

EACH = Formula(
    "strip_amps_each",
    "One strip should draw",
    Quantity.CURRENT,
    "A strip is a resistor: it draws less on less voltage.",
    "kW × 1000 ÷ rated volts × (line volts ÷ rated volts)",
    "{strip_kw} ÷ {rated_volts} × ({line_volts} ÷ {rated_volts}) = {result}",
    ("strip_kw", "rated_volts", "line_volts"),
    "Ohm's law.",
)
CIRCUIT = Formula(
    "strip_amps_circuit",
    "Circuit should draw",
    Quantity.CURRENT,
    "Strips are judged circuit by circuit: three strips on two circuits are two and one.",
    "strips on the circuit × one strip",
    "{strips} × {strip_amps_each} = {result}",
    ("strips", "strip_amps_each"),
    "Ohm's law.",
)
WORKING = Formula(
    "strips_working",
    "Strips drawing",
    Quantity.RATIO,
    "How many strips the measured amps account for.",
    "measured amps ÷ one strip",
    "{strip_amps} ÷ {strip_amps_each} = {result}",
    ("strip_amps", "strip_amps_each"),
    "Ohm's law.",
)


def strip_amps_each(
    strip_kw: float, line_volts: float, rated_volts: float = RATED_VOLTS
) -> Working:
    """Amps one strip should draw at the volts it gets: 5 kW at 240 V about 21 A."""
    return work(
        EACH,
        lambda v: v["strip_kw"] * 1000 / v["rated_volts"] * v["line_volts"] / v["rated_volts"],
        {
            "strip_kw": Input(
                "strip_kw",
                "One strip",
                Measure(strip_kw, Quantity.HEATER_POWER),
                "plate",
                0.05 * strip_kw,
            ),
            "rated_volts": Input(
                "rated_volts", "Rated volts", Measure(rated_volts, Quantity.VOLTAGE), "plate"
            ),
            "line_volts": Input(
                "line_volts",
                "Line volts",
                Measure(line_volts, Quantity.VOLTAGE),
                "typed",
                0.01 * line_volts,
            ),
        },
    )


def judge_circuit(
    each: Working, strips: float, measured: float | None
) -> tuple[list[Working], Said | None]:
    """What a circuit of `strips` should draw, and what the measured amps say about it."""
    one = Input("strip_amps_each", "One strip", each.measure, "computed", each.uncertainty)
    count = Input("strips", "Strips", Measure(strips, Quantity.COUNT), "typed")
    found = [
        work(
            CIRCUIT,
            lambda v: v["strips"] * v["strip_amps_each"],
            {"strips": count, "strip_amps_each": one},
        )
    ]
    if measured is None:
        return found, None
    amps = Input(
        "strip_amps",
        "Measured",
        Measure(measured, Quantity.CURRENT),
        "typed",
        max(0.1, 0.02 * measured),
    )
    drawing = work(
        WORKING,
        lambda v: v["strip_amps"] / v["strip_amps_each"],
        {"strip_amps": amps, "strip_amps_each": one},
    )
    found.append(drawing)
    short = strips - drawing.value
    if short > HALF_A_STRIP:
        return found, say(
            f"About {max(round(drawing.value), 0)} of {strips:.0f} draw. Look at the fusible link, "
            "limit switch, sequencer and element of the others."
        )
    if short < -HALF_A_STRIP:
        return found, say(
            "More than these strips can draw: another circuit is in the clamp, or the strips are "
            "larger than said."
        )
    return found, say("Every strip on this circuit draws.")


CAUTION: Said = say("Live terminals: rated gloves, one hand, licensed persons only.")
