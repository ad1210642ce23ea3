"""Superheat that reads nothing while it heats: a chain of proofs to a named outcome.

Under 3 °F is a hazard, and under 1.1 °F nobody can tell gas from liquid: so the reading is proven
first, then where it was taken, then what senses it, and the valve last. Trade order.
"""

from dataclasses import dataclass
from typing import Literal

from nudge.core.behaviours.case import Case
from nudge.core.checks.check import Check
from nudge.core.checks.table import CHECKS
from nudge.core.language.said import Said, say
from nudge.core.language.units import degrees_f
from nudge.core.settling.breaches import is_standing

UNDER_K = degrees_f(3)
NOT_TOLD_K = degrees_f(1.1)
"""A pound and a degree together: under this it may be gas or liquid."""

Outcome = Literal["probe", "sensing", "valve", "bypass", "cannot_tell"]


@dataclass(frozen=True, slots=True)
class Link:
    """One proof: the check that makes it, what it shows when it was the cause, and what that is."""

    check: str
    found: str
    outcome: Outcome
    reason: str


CHAIN: tuple[Link, ...] = (
    Link("prove_low_probes", "low_probe_off", "probe", "a pound and a degree hide a superheat"),
    Link(
        "place_true_suction",
        "true_suction_misplaced",
        "probe",
        "in heating three other pipes are near",
    ),
    Link("look_at_bulb", "bulb_loose", "sensing", "a loose bulb feels the air and opens the valve"),
    Link(
        "read_thermistor",
        "thermistor_off",
        "sensing",
        "a sensor that reads warm opens an electronic valve",
    ),
    Link(
        "feel_check_valve",
        "check_valve_leaks",
        "bypass",
        "liquid goes round a device that may be right",
    ),
    Link(
        "test_bulb",
        "bulb_test_no_reaction",
        "valve",
        "a valve that does not answer is condemned last",
    ),
    Link(
        "drive_valve", "valve_steps_dead", "valve", "a valve that does not answer is condemned last"
    ),
)

SAID: dict[Outcome, Said] = {
    "probe": say(
        "It was the reading: gauge, clamp or its place. Put it right and read superheat again."
    ),
    "sensing": say(
        "What senses it was wrong: fix it tight, wrapped, or renew the sensor. Run it a quarter of "
        "an hour, then read superheat again."
    ),
    "valve": say(
        "Reading and bulb are proven and the valve does not answer: it overfeeds. Renew it, with "
        "the circuit opened by its own way."
    ),
    "bypass": say(
        "Reading and sensing are proven, and liquid goes round the device through its check valve. "
        "Renew that, with the circuit opened by its own way."
    ),
    "cannot_tell": say(
        "Reading, place and sensing are proven and liquid still comes back. What floods it cannot "
        "be told in heating: air outdoors, an overcharge, a valve. Recover and weigh, or come back "
        "when it can be judged in cooling."
    ),
}
HEADLINES: dict[Outcome, str] = {
    "probe": "It was the reading. Read it again.",
    "sensing": "Fix what senses it, then read again.",
    "valve": "The heating valve overfeeds.",
    "bypass": "Liquid goes round the device.",
    "cannot_tell": "Liquid comes back. Its cause cannot be told here.",
}


OPEN_SAID: dict[Outcome | Literal["open"], tuple[str, str]] = {
    "open": ("Superheat read none while it heated, and was not followed to its cause.", "heating"),
    "probe": ("Superheat read none while it heated: it was the reading. Read it again.", "heating"),
    "sensing": (
        "Superheat read none while it heated: what senses it was put right. Read it again.",
        "heating",
    ),
    "valve": ("Renew the heating valve: liquid came back, and it did not answer.", "parts"),
    "bypass": ("Renew the check valve at the heating device: liquid goes round it.", "parts"),
    "cannot_tell": (
        "Liquid came back while it heated, cause not found. Weigh the charge, or judge it in "
        "cooling.",
        "over_70",
    ),
}
"""What stays open in the system's book until a later superheat is one, and for which season."""


@dataclass(frozen=True, slots=True)
class Followed:
    """Where the chain stands: its outcome, or the next proof to make."""

    outcome: Outcome | None
    check: Check | None
    made: tuple[str, ...]
    """Checks that were made, in order."""


def reads_none(case: Case) -> bool:
    """Whether a machine that heats shows next to no superheat at its compressor."""
    superheat = case.derived.superheat
    return (
        case.behaviour.roles.heats
        and superheat is not None
        and superheat < UNDER_K
        and not is_standing(case)
    )


def follow(case: Case) -> Followed:
    """Where the chain stands on what was seen; links of other devices are passed over."""
    made: list[str] = []
    device = case.plate.metering_device
    for link in CHAIN:
        check = CHECKS[link.check]
        if check.devices and device not in check.devices:
            continue
        if case.saw(link.found):
            return Followed(link.outcome, None, (*made, link.check))
        good = check.look.no if check.look is not None else ""
        if not case.saw(good):
            return Followed(None, check, tuple(made))
        made.append(link.check)
    return Followed("cannot_tell", None, tuple(made))
