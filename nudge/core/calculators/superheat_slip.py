"""The target superheat of a fixed orifice, from two readings of the air."""

from nudge.core.calculators.blanks import given
from nudge.core.calculators.slip import Entered, Slip, SlipLine, SlipOutcome
from nudge.core.language.said import difference, say, temperature
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, work
from nudge.core.targets.formula_superheat import (
    LEAST_TARGET_K,
    OUTDOOR_RANGE_C,
    TOLERANCE_K,
    WET_BULB_RANGE_C,
    formula_superheat,
)

TARGET_SUPERHEAT = Formula(
    "target_superheat_by_air",
    "Target superheat",
    Quantity.TEMPERATURE_DIFFERENCE,
    "What a fixed orifice should leave at the suction line on this air, rightly charged.",
    "(3 × return wet bulb − 80 − outdoor air) / 2, in °F",
    "from {return_air_wet_bulb} wet bulb and {outdoor_air_temp} outdoors: {result}",
    ("return_air_wet_bulb", "outdoor_air_temp"),
    "Trade rule, a straight-line fit to makers' charging charts.",
)
READ = Formula(
    "superheat_as_read",
    "Superheat, as read",
    Quantity.TEMPERATURE_DIFFERENCE,
    "What was read, against that target.",
    "as read",
    "{superheat_now}",
    ("superheat_now",),
    "The reading.",
)
_AIR = ("outdoor_air_temp", "return_air_wet_bulb")
_NEEDS = {"outdoor_air_temp": "outdoor air", "return_air_wet_bulb": "return wet bulb"}


def target_superheat(entered: Entered) -> SlipOutcome:
    """The target and its window; beside it the superheat that was read, where one was."""
    missing = tuple(label for key, label in _NEEDS.items() if key not in entered)
    if missing:
        return SlipOutcome(needs=missing)
    target = work(
        TARGET_SUPERHEAT,
        lambda v: formula_superheat(v["return_air_wet_bulb"], v["outdoor_air_temp"]),
        given(entered, *_AIR),
    )
    words = []
    wet, outdoor = entered["return_air_wet_bulb"], entered["outdoor_air_temp"]
    if not (
        WET_BULB_RANGE_C[0] <= wet <= WET_BULB_RANGE_C[1]
        and OUTDOOR_RANGE_C[0] <= outdoor <= OUTDOOR_RANGE_C[1]
    ):
        words.append(
            say(
                "Outside what the rule was fitted to (wet bulb {wet_low} to {wet_high}, outdoors "
                "{out_low} to {out_high}): do not charge by it.",
                wet_low=temperature(WET_BULB_RANGE_C[0]),
                wet_high=temperature(WET_BULB_RANGE_C[1]),
                out_low=temperature(OUTDOOR_RANGE_C[0]),
                out_high=temperature(OUTDOOR_RANGE_C[1]),
            )
        )
    if target.value < LEAST_TARGET_K:
        words.append(
            say(
                "Under {least} of target, liquid may reach the compressor: do not charge by it.",
                least=difference(LEAST_TARGET_K),
            )
        )
    low, high = target.value - TOLERANCE_K, target.value + TOLERANCE_K
    lines = [SlipLine(target, low, high, "formula")]
    if "superheat_now" in entered:
        read = work(READ, lambda v: v["superheat_now"], given(entered, "superheat_now"))
        lines.append(SlipLine(read, low, high, "formula"))
    return SlipOutcome(tuple(lines), tuple(words))


SLIPS = (
    Slip(
        "target_superheat",
        "Target superheat, fixed orifice",
        ("outdoor_air_temp", "return_air_wet_bulb", "superheat_now"),
        target_superheat,
    ),
)
