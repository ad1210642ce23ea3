"""A filter taken out and put back: an experiment on static or on the blower's watts."""

from dataclasses import dataclass
from typing import Literal

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import PA_PER_IN_WC, Quantity

BLOWER_EFFICIENCY = 0.35
"""Air power over electric power of a house's blower; trade."""
COSTS_PA = 0.05 * PA_PER_IN_WC
"""A second filter that takes less is no finding."""
CHANGES_W = 15.0
"""Less than this a meter cannot tell."""
Motor = Literal["psc", "ecm"]


@dataclass(frozen=True, slots=True)
class FilterOut:
    """What was read with the filter in and with it out; None where it was not."""

    motor: Motor
    static_in_pa: float | None = None
    static_out_pa: float | None = None
    watts_in: float | None = None
    watts_out: float | None = None
    airflow_lps: float | None = None


def cost_w(drop_pa: float, airflow_lps: float) -> float:
    """What a pressure drop costs the blower [W] at an airflow [L/s]."""
    return drop_pa * airflow_lps / 1000 / BLOWER_EFFICIENCY


def judge_filter_out(seen: FilterOut) -> tuple[bool, tuple[Said, ...]]:
    """Whether the filter may stay, and what the experiment showed.

    Taken out, a constant-airflow motor's watts fall; a motor with a capacitor moves more air, and
    its watts rise.
    """
    said: list[Said] = []
    costs = False
    if seen.static_in_pa is not None and seen.static_out_pa is not None:
        drop = abs(seen.static_in_pa) - abs(seen.static_out_pa)
        costs = drop >= COSTS_PA
        said.append(_static(drop, seen.airflow_lps, costs))
    if seen.watts_in is not None and seen.watts_out is not None:
        off = seen.watts_in - seen.watts_out
        helped = off if seen.motor == "ecm" else -off
        costs = costs or helped >= CHANGES_W
        said.append(_watts(seen.motor, off, helped))
    return not costs, tuple(said)


def _static(drop: float, airflow_lps: float | None, costs: bool) -> Said:
    if not costs:
        return say(
            "It takes {drop}: no finding.", drop=Measure(max(drop, 0.0), Quantity.STATIC_PRESSURE)
        )
    measures = {"drop": Measure(drop, Quantity.STATIC_PRESSURE)}
    words = "The second filter takes {drop}"
    if airflow_lps is not None:
        words += ", about {watts} of the blower's power"
        measures["watts"] = Measure(cost_w(drop, airflow_lps), Quantity.POWER)
    return say(f"{words}. One filter in the path: take it out for good.", **measures)


def _watts(motor: Motor, off: float, helped: float) -> Said:
    now = Measure(abs(off), Quantity.POWER)
    way = "fell" if off > 0 else "rose"
    if helped >= CHANGES_W:
        why = (
            "a constant-airflow motor works less for the same air"
            if motor == "ecm"
            else "a motor with a capacitor moves more air"
        )
        return say(f"Taken out, its watts {way} by {{off}}: {why}.", off=now)
    if helped <= -CHANGES_W:
        return say(
            f"Taken out, its watts {way} by {{off}}, the wrong way for this motor: is it the kind "
            "you said?",
            off=now,
        )
    return say("Its watts hardly changed: the filter is no finding by them.")
