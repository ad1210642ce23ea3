"""The steps of an opened circuit, one row each: most of them guard a move (`opening/moves.py`)."""

from nudge.core.checks.fitting import FIT_PARTS
from nudge.core.checks.opening_forms import PLAN
from nudge.core.visit.facts import Facts
from nudge.core.visit.step_row import Shows, StepRow, proven

REPAIR = frozenset({"repair"})
NEW = frozenset({"new_installation"})
FITS = REPAIR | NEW
OPENED = FITS | {"commissioning"}
_LOCKED = "Power locked out and proven dead, capacitor discharged, blades still."
_GLOVES = "Butyl gloves and eye protection: what is liquid freezes what it touches."
FAULTS = frozenset(
    {
        "undercharge",
        "non_condensables",
        "liquid_line_restriction",
        "metering_underfeed",
        "metering_overfeed",
        "compressor_worn",
    }
)
"""Suspects whose repair opens the circuit."""


def _is_opened(facts: Facts) -> bool:
    """On a repair the circuit is proven only once it was opened; on a new one always."""
    return facts.kind != "repair" or facts.circuit not in ("charged", "recovered")


def is_opened_next(facts: Facts) -> bool:
    """A repair that is planned, on a system locked out for it and still charged."""
    ticked = facts.ticks.get("locked_out")
    is_locked = ticked is not None and ticked.state == "done"
    return facts.kind == "repair" and facts.circuit == "charged" and is_locked


def _renews(part: str) -> Shows:
    return lambda facts: part in facts.repairs


def _fitted(part: str) -> Shows:
    return lambda facts: facts.findings.get(f"fit_{part}") in ("good", "watch")


def _fault_proven(facts: Facts) -> bool:
    return "valve_shut" in facts.proven or (facts.is_judged and facts.leader in FAULTS)


def _form_done(key: str) -> Shows:
    return lambda facts: facts.findings.get(key) in ("good", "watch", "noted")


_FITTING = tuple(
    StepRow(
        f"fit_{part.key}",
        "repair",
        f"{part.label}: fitted by its points",
        part.caution,
        "opening",
        _fitted(part.key),
        calls=FITS,
        applies=_renews(part.key),
        check=part.form_key,
    )
    for part in FIT_PARTS
)

OPENING_STEPS: tuple[StepRow, ...] = (
    StepRow("fault_proven", "recover", "The fault proven, and by what",
            "A circuit opened on a guess is opened twice.", "opening", _fault_proven, calls=REPAIR),
    StepRow("plan", "recover", "What is renewed", "", "opening", lambda f: bool(f.repairs),
            calls=REPAIR, check=PLAN),
    StepRow("locked_out", "recover", "Compressor locked out, control voltage off",
            _LOCKED + " An inverter’s capacitors stay charged for minutes: measure.", "opening",
            calls=REPAIR),
    StepRow("acid", "recover", "Acid test of the oil", "Burnt oil burns the skin: gloves.",
            shows=lambda f: bool(f.findings.get("acid_test")), calls=REPAIR,
            applies=_renews("compressor"), check="acid_test"),
    StepRow("recovery_cylinder", "recover", "A recovery cylinder that may take it, on the scale",
            "Room under 80 %, in date, rated for it, its own refrigerant. A cylinder’s check valve "
            "is not trusted: shut its valve by hand.", "opening", lambda f: f.has_recovered,
            calls=REPAIR),
    StepRow("recovered_weighed", "recover", "All of it recovered, and weighed",
            _GLOVES + " Never to air.", "opening", lambda f: f.has_recovered, calls=REPAIR),
    StepRow("swept", "repair", "Swept with dry nitrogen: no refrigerant left inside",
            "Refrigerant in a flame makes toxic fumes; a flammable one burns. Ventilate: nitrogen "
            "displaces air.", "opening", calls=REPAIR),
    StepRow("fire_watch", "repair", "Fire watch: extinguisher at hand, what burns taken away",
            "Stay half an hour after the last flame. Not brazed: skip it and say so.", "opening",
            calls=FITS),
    *_FITTING,
    StepRow("photos", "repair", "Photos of what was there and what was fitted",
            shows=lambda f: f.photos > 0, calls=FITS),
    StepRow("pressure_test", "prove", "Pressure test stood with nitrogen",
            "Never oxygen or compressed air; never over the lower design pressure of the plates.",
            "judging", proven("tight"), calls=OPENED, applies=_is_opened, proven_by="tight"),
    StepRow("vacuum", "prove", "Evacuated, isolated, and it held",
            "Never run a compressor in a vacuum.", "judging", proven("dry"), calls=OPENED,
            applies=_is_opened, proven_by="dry"),
    StepRow("gauge_off", "fill", "Vacuum gauge valved off before refrigerant comes",
            "Liquid and pressure destroy its sensor.", "opening", calls=OPENED,
            applies=_is_opened),
    StepRow("weighed_in", "fill", "Weighed in what the plate and line set ask for",
            "Gloves and eye protection; blends leave as liquid.", "judging",
            lambda f: bool({"weighed", "trimmed"} & f.passed), calls=OPENED, applies=_is_opened),
    StepRow("heater", "fill", "Crankcase heater on long enough",
            "Started cold, liquid boils out of the oil and takes the oil with it.",
            shows=_form_done("crankcase_heater"), calls=FITS, check="crankcase_heater"),
    StepRow("control_on", "fill", "Control voltage back on, lock off",
            "Only once refrigerant is in: a compressor started in a vacuum arcs.", calls=FITS,
            applies=_is_opened),
)  # fmt: skip
