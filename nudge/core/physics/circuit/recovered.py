"""What came out of a circuit against what belongs in it: how short it ran before it was opened."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import G_PER_OZ, Quantity
from nudge.core.language.working import Formula, Input, Working, work
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.circuit.whole import Whole, whole_charge

SURE_WHOLE = 0.15
"""A whole charge less sure than this (1 σ, share) says nothing of what was missing."""
WRITTEN_SPREAD = 0.03
"""How unsure a sum that was weighed in and written down is (1 σ, share)."""
SHORT_SHARE = 0.92
"""Less than this of it: hoses, oil and the machine keep a few percent of any recovery."""
SCALE_KG = 1.0 * G_PER_OZ / 1000
LARGEST_SHARE = 1.08

RECOVERED_SHARE = Formula(
    "recovered_share",
    "Recovered of what belongs in it",
    Quantity.PERCENT,
    "How much of its right charge was in it when it was opened. What is missing was missing while "
    "it ran. What this visit put in before counts against it.",
    "(recovered − added on this visit) ÷ total charge × 100",
    "({recovered} − {added}) ÷ {total_charge} = {result}",
    ("recovered", "added", "total_charge"),
    "Trade rule; total charge by plate and line set.",
)

Verdict = Literal["short", "right", "over", "cannot_tell"]


@dataclass(frozen=True, slots=True)
class Recovered:
    """The share worked out [%], what it says of the past, and that in words."""

    share: Working
    verdict: Verdict
    said: Said


@dataclass(frozen=True, slots=True)
class Booked:
    """What the system's book says of its charge [kg]."""

    written_kg: float | None = None
    """The sum written inside its door; None where nobody wrote one."""
    topped_up_kg: float = 0.0
    """Added on earlier visits since then, less what was taken out."""


def recovered(
    plate: Plate, taken_kg: float, added_kg: float = 0.0, booked: Booked | None = None
) -> Recovered | None:
    """Judge a whole recovery: `taken_kg` out of it, `added_kg` put in before on the same visit.

    The sum in its book comes before plate and line set. None where nothing came out, or where
    neither says what belongs in it.
    """
    booked = booked or Booked()
    whole = whole_charge(plate)
    if booked.written_kg is not None and booked.written_kg > 0:
        whole = Whole(booked.written_kg, WRITTEN_SPREAD, "the sum in its book")
    if taken_kg <= 0 or whole.spread > SURE_WHOLE:
        return None
    inputs = {
        "recovered": _of("recovered", "Recovered", taken_kg, "typed", SCALE_KG),
        "added": _of("added", "Added on this visit", added_kg, "typed"),
        "total_charge": _of(
            "total_charge", "Total charge", whole.kg, "computed", 2 * whole.spread * whole.kg
        ),
    }
    share = work(
        RECOVERED_SHARE,
        lambda v: 100 * (v["recovered"] - v["added"]) / v["total_charge"],
        inputs,
    )
    verdict = _verdict(share)
    return Recovered(share, verdict, _lost_before(_said(verdict, share), whole, inputs, booked))


def _lost_before(said: Said, whole: Whole, inputs: Mapping[str, Input], booked: Booked) -> Said:
    """With what was added on earlier visits: what it has lost in all."""
    missing = whole.kg - inputs["recovered"].measure.value + inputs["added"].measure.value
    if booked.topped_up_kg < SCALE_KG or missing + booked.topped_up_kg <= 0:
        return said
    more = say(
        " With {before} added on earlier visits it has lost {all} in all.",
        before=Measure(booked.topped_up_kg, Quantity.CHARGE),
        all=Measure(missing + booked.topped_up_kg, Quantity.CHARGE),
    )
    return Said(said.template + more.template, (*said.measures, *more.measures))


def _verdict(share: Working) -> Verdict:
    """Short or over only where the whole ± lies beyond right; right only where its middle does."""
    unsure = share.uncertainty or 0.0
    if share.value + unsure < 100 * SHORT_SHARE:
        return "short"
    if share.value - unsure > 100 * LARGEST_SHARE:
        return "over"
    return "right" if SHORT_SHARE <= share.value / 100 <= LARGEST_SHARE else "cannot_tell"


def _said(verdict: Verdict, share: Working) -> Said:
    came = f"{share.value:.0f} % of what belongs in it came out:"
    if verdict == "short":
        return say(
            f"{came} it ran {100 - share.value:.0f} % short. Short of refrigerant, a compressor "
            "runs hot and its oil comes back late: a cause of what failed. Find where it went "
            "before the circuit is closed."
        )
    if verdict == "over":
        return say(
            f"{came} it ran overfull, or plate or line length are not this system's. Check both "
            "before it is weighed in."
        )
    if verdict == "right":
        return say(f"{came} it did not run short.")
    return say(f"{came} short or not, plate and line set are too unsure to say.")


def _of(key: str, label: str, kg: float, source: str, unsure: float | None = None) -> Input:
    return Input(key, label, Measure(kg, Quantity.CHARGE), source, unsure)
