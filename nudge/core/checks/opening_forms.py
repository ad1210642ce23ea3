"""Forms of an opened circuit besides fitting: what is renewed, acid, the crankcase heater."""

from nudge.core.checks.blanks import Blank
from nudge.core.checks.fitting import FIT_FORMS, FIT_PARTS
from nudge.core.checks.form import Form
from nudge.core.checks.form_findings import Entries, FormFinding, number
from nudge.core.language.errors import CoreError
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity
from nudge.core.physics.circuit.equipment import Plate

PLAN = "repair_plan"
HEATER_HOURS = 12.0
"""A crankcase heater is on this long before the first start [h]; the maker may ask for more."""


def planned(entries: Entries) -> frozenset[str]:
    """Which parts a filled plan says are renewed."""
    return frozenset(part.key for part in FIT_PARTS if entries.get(part.key) == "yes")


def _plan_finding(_: Plate, entries: Entries) -> FormFinding:
    parts = [part.label.lower() for part in FIT_PARTS if entries.get(part.key) == "yes"]
    if not parts:
        raise CoreError("entry", "Say at least one part that is renewed or made anew.")
    return FormFinding("noted", (say(f"To be renewed: {', '.join(parts)}."),))


def _acid_finding(_: Plate, entries: Entries) -> FormFinding:
    found = {
        "none": ("good", "No acid: the oil may stay, and what was recovered may go back."),
        "slight": ("watch", "A trace of acid: an acid-holding drier, and test again after a day."),
        "strong": (
            "bad",
            "Acid: suction line drier for acid, oil out, sweep twice. What was recovered is "
            "reclaimed, in a cylinder marked burnt. Gloves: it burns the skin.",
        ),
    }
    state, words = found[str(entries["acid"])]
    return FormFinding(state, (say(words),))  # type: ignore[arg-type]


def _heater_finding(_: Plate, entries: Entries) -> FormFinding:
    if entries.get("has") == "no":
        return FormFinding("good", (say("It has no crankcase heater."),))
    hours = number(entries, "hours")
    asked = number(entries, "asked") or HEATER_HOURS
    if hours is None:
        raise CoreError("hours", "Say how many hours the heater has been on.")
    on = Measure(hours, Quantity.HOURS)
    if hours < asked:
        return FormFinding(
            "bad",
            (
                say(
                    "{on} on, {asked} asked: liquid lies in the oil. Do not start it yet.",
                    on=on,
                    asked=Measure(asked, Quantity.HOURS),
                ),
            ),
        )
    return FormFinding("good", (say("{on} on: its oil is warm.", on=on),))


_YES_NO = (("yes", "Yes"), ("no", "No"))
OPENING_FORMS: tuple[Form, ...] = (
    Form(
        PLAN,
        "What is renewed",
        "refrigerant",
        tuple(Blank(p.key, p.label, None, _YES_NO, is_needed=False) for p in FIT_PARTS),
        _plan_finding,
    ),
    Form(
        "acid_test",
        "Acid test of the oil",
        "refrigerant",
        (
            Blank(
                "acid",
                "What it shows",
                None,
                (("none", "None"), ("slight", "A trace"), ("strong", "Acid")),
            ),
        ),
        _acid_finding,
        "Oil of a burnt compressor burns the skin: gloves and eye protection.",
    ),
    Form(
        "crankcase_heater",
        "Crankcase heater",
        "electrical",
        (
            Blank("has", "It has one", None, _YES_NO),
            Blank("hours", "On for", Quantity.HOURS, (), 0, 2_000, is_needed=False),
            Blank("asked", "Its maker asks for", Quantity.HOURS, (), 0.5, 96, is_needed=False),
        ),
        _heater_finding,
    ),
    *FIT_FORMS,
)
