"""A run capacitor against its label."""

from dataclasses import dataclass
from math import pi
from typing import Literal

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, Input, Working, work

USUAL_TOLERANCE = 6.0
WORN_OUT = 10.0
State = Literal["good", "weak", "worn_out", "over"]

UNDER_LOAD = Formula(
    "capacitance",
    "Capacitance, under load",
    Quantity.CAPACITANCE,
    "What the capacitor really gives while the motor runs on it.",
    "amps in its wire ÷ (2π × frequency × volts across it)",
    "{capacitor_amps} ÷ (2π × {frequency} Hz × {capacitor_volts}) = {result}",
    ("capacitor_amps", "capacitor_volts", "frequency"),
    "Alternating-current arithmetic.",
)
DEVIATION = Formula(
    "capacitor_deviation",
    "Off its label",
    Quantity.PERCENT,
    "How far the capacitor is from what it is labelled.",
    "(measured − rated) ÷ rated",
    "({measured} − {rated}) ÷ {rated} = {result}",
    ("measured", "rated"),
    "Trade definition.",
)


@dataclass(frozen=True, slots=True)
class CapacitorRule:
    """What a deviation [%] means; rows are tried in order, `low` inclusive."""

    state: State
    low: float
    high: float
    sentence: str
    reason: str


def capacitor_rules(tolerance: float = USUAL_TOLERANCE) -> tuple[CapacitorRule, ...]:
    """The rows for a label's tolerance [%]."""
    worn = max(WORN_OUT, tolerance)
    return (
        CapacitorRule("worn_out", -100, -worn, "Worn out: renew it, then read everything again.",
                      "10 % low leaves a motor slow and hot."),
        CapacitorRule("weak", -worn, -tolerance, "Weak: outside its label. Renew it.",
                      "Labels allow 5 to 10 %, most 6."),
        CapacitorRule("good", -tolerance, tolerance + 1e-9, "Good: inside its label.",
                      "Labels allow 5 to 10 %, most 6."),
        CapacitorRule("over", tolerance + 1e-9, 1e9, "Over its label: the wrong size, or failing. "
                      "Renew it with the size on the motor's plate.",
                      "Too much capacitance overheats the motor's start winding."),
    )  # fmt: skip


def judge_capacitor(
    rated: float,
    measured: float,
    tolerance: float = USUAL_TOLERANCE,
    measured_off: float | None = None,
) -> tuple[Working, CapacitorRule]:
    """Deviation of a capacitor [µF] from its label, and what it means."""
    off = 0.02 * measured if measured_off is None else measured_off
    working = work(
        DEVIATION,
        lambda v: 100 * (v["measured"] - v["rated"]) / v["rated"],
        {
            "measured": Input(
                "measured", "Measured", Measure(measured, Quantity.CAPACITANCE), "typed", off
            ),
            "rated": Input("rated", "Rated", Measure(rated, Quantity.CAPACITANCE), "typed"),
        },
    )
    rules = capacitor_rules(tolerance)
    low = -1e-9 - tolerance  # the label's own edge counts as inside
    value = -tolerance if low <= working.value < -tolerance else working.value
    return working, next(rule for rule in rules if rule.low <= value < rule.high)


def capacitance_under_load(amps: float, volts: float, hertz: float = 60.0) -> Working:
    """Capacitance [µF] from the current in a capacitor's wire and the volts across it."""
    return work(
        UNDER_LOAD,
        lambda v: v["capacitor_amps"] / (2 * pi * v["frequency"] * v["capacitor_volts"]) * 1e6,
        {
            "capacitor_amps": Input(
                "capacitor_amps",
                "Capacitor amps",
                Measure(amps, Quantity.CURRENT),
                "typed",
                max(0.05, 0.02 * amps),
            ),
            "capacitor_volts": Input(
                "capacitor_volts",
                "Capacitor volts",
                Measure(volts, Quantity.VOLTAGE),
                "typed",
                0.01 * volts,
            ),
            "frequency": Input("frequency", "Frequency", Measure(hertz, Quantity.COUNT), "assumed"),
        },
    )


CAUTION: Said = say(
    "Power locked out and proven dead; discharge the capacitor before touching it. Reading amps "
    "under load is live work: rated gloves, licensed persons only."
)
