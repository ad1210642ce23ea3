"""What a vehicle's three tests come to: all three or no verdict, and never a dose.

Charge is weighed in by the label. What passes may still run a third short; the answer says so.
"""

from collections.abc import Callable
from dataclasses import replace

from nudge.core.judgement.decision.decision import HangsOn, Order
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.rule import Finding, Rule
from nudge.core.judgement.decision.words import joined
from nudge.core.language.said import Said, difference, say
from nudge.core.language.units import degrees_f
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.vehicle.three_tests import (
    CONDENSER_K,
    EXCHANGED_K,
    OVER_VENT_K,
    ThreeTests,
)
from nudge.core.physics.vehicle.three_tests import POINTS as NEEDED
from nudge.core.settling.gate import NEVER_PASSED

CAVEAT = say(
    "A vehicle a third short passes all three, and one a fifth over may. Only weighing tells: "
    "recover, weigh, and weigh in by its label."
)
WEIGH = say("Move no refrigerant by feel: recover, weigh, and weigh in by its label.")
LOOKS: tuple[tuple[str, str], ...] = (
    ("see_condenser_air", "vehicle_fan_right"),
    ("see_clutch_hold", "clutch_holds"),
    ("see_blend_door", "heater_shut"),
)
"""What looks like a charge that is wrong, the likeliest first."""


FOOT_K = degrees_f(18)
"""A flooded coil stays within half of this of its vent."""


def _on_vehicle(
    finds: Callable[[Ground, ThreeTests], Finding | None],
) -> Callable[[Ground], Finding | None]:
    """A rule for vehicles alone."""

    def found(ground: Ground) -> Finding | None:
        tests = ground.case.vehicle
        return None if tests is None else finds(ground, tests)

    return found


def _orifice(ground: Ground, _: ThreeTests) -> Finding | None:
    if ground.case.plate.metering_device.is_valve:
        return None
    return Finding(
        joined(
            [
                say(
                    "An orifice tube feeds by pressure alone: its outlet stands off the vent by "
                    "load, and these tests say nothing of it."
                ),
                WEIGH,
            ]
        )
    )


def _clock(ground: Ground, _: ThreeTests) -> Finding | None:
    shut = [b for b in ground.blocking if b.gate.key not in NEVER_PASSED and not b.passed]
    if not shut:
        return None
    found = Finding(shut[0].message, headline=shut[0].gate.headline or "Not yet.")
    if shut[0].gate.key == "vehicle_not_ready" and not ground.case.saw("vehicle_ready"):
        hangs = HangsOn("test", "make_vehicle_ready", shut[0].message)
        return replace(found, hangs_on=hangs)
    return found


def _exchanged(_: Ground, tests: ThreeTests) -> Finding | None:
    if tests.condenser_k is None or tests.condenser_k >= -EXCHANGED_K:
        return None
    said = say(
        "The condenser's outlet is {off} warmer than its inlet. Are the two clamps exchanged, or "
        "is one on paint? Put them right, and read again.",
        off=difference(-tests.condenser_k),
    )
    return Finding(said, hangs_on=HangsOn("reading", "condenser_inlet_line_temp", said))


def _foot_outlet(_: Ground, tests: ThreeTests) -> Finding | None:
    """A vent far warmer than the coil that feeds it is not that coil's vent."""
    if tests.by_inlet or tests.over_vent_k is None or tests.over_vent_k > -FOOT_K:
        return None
    said = say(
        "The vent is {off} warmer than the coil's outlet: is the probe in a foot outlet, or is the "
        "heater open? Put it in the middle vent, and read again.",
        off=difference(-tests.over_vent_k),
    )
    return Finding(said, hangs_on=HangsOn("reading", "vent_air_temp", said))


def _unread(ground: Ground, tests: ThreeTests) -> Finding | None:
    if tests.all_read:
        return None
    needs = [*NEEDED, "evaporator_outlet_temp"]
    missing = [point for point in needs if point not in ground.case.readings]
    if not missing:
        said = say("Air's two bulbs describe no air: wet the wick, and read both again.")
        return Finding(said, hangs_on=HangsOn("reading", "return_air_wet_bulb", said))
    names = ", ".join(POINTS[point].label.lower() for point in missing)
    said = say(
        f"All three tests, or no verdict: each alone passes much that is wrong. Read: {names}."
    )
    return Finding(said, hangs_on=HangsOn("test", "read_three_tests", said))


def _starved(_: Ground, tests: ThreeTests) -> Finding | None:
    if tests.over_vent != "over":
        return None
    said = say(
        "The evaporator's outlet is {off} over its {what}, more than {most}: too little gets "
        "through. Little refrigerant, or a way that is choked.",
        off=difference(tests.over_vent_k or 0.0),
        most=difference(OVER_VENT_K[1]),
    )
    against = "inlet" if tests.by_inlet else "vent air"
    said = Said(said.template.replace("{what}", against), said.measures)
    leak = say("What was lost went somewhere: find the leak first.")
    return Finding(joined([said, leak, WEIGH]), hangs_on=HangsOn("test", "look_for_leak", leak))


def _overfed(ground: Ground, tests: ThreeTests) -> Finding | None:
    if tests.over_vent != "under":
        return None
    said = say(
        "The evaporator's outlet is {off} under the vent: liquid comes back. A valve stuck open, "
        "or too much in it.",
        off=difference(-(tests.over_vent_k or 0.0)),
    )
    return Finding(joined([said, WEIGH]), hangs_on=_next(ground))


def _hot(ground: Ground, tests: ThreeTests) -> Finding | None:
    if tests.condenser != "over":
        return None
    said = say(
        "The condenser drops {now}, over {most}: too little air over it, or too much in it.",
        now=difference(tests.condenser_k or 0.0),
        most=difference(CONDENSER_K[1]),
    )
    return Finding(joined([said, WEIGH]), hangs_on=_next(ground))


def _idle(ground: Ground, tests: ThreeTests) -> Finding | None:
    if tests.condenser != "under":
        return None
    said = say(
        "The condenser drops only {now}, under {least}: little gas comes to it. The compressor's "
        "clutch or its stroke, before anything else.",
        now=difference(tests.condenser_k or 0.0),
        least=difference(CONDENSER_K[0]),
    )
    return Finding(joined([said, WEIGH]), hangs_on=_next(ground, LOOKS[1:]))


def _warm(ground: Ground, tests: ThreeTests) -> Finding | None:
    if tests.air != "under" or tests.least_air_k is None:
        return None
    said = say(
        "The air drops {now}; {least} is the least at this humidity. The circuit looks right: the "
        "heater, the blower, hot air from the engine.",
        now=difference(tests.air_k or 0.0),
        least=difference(tests.least_air_k),
    )
    return Finding(joined([said, WEIGH]), hangs_on=_next(ground, LOOKS[::-1]))


def _passes(_: Ground, tests: ThreeTests) -> Finding | None:
    if not tests.passes:
        return None
    said = say(
        "Condenser {condenser}, air {air}, outlet {over} over: all three pass.",
        condenser=difference(tests.condenser_k or 0.0),
        air=difference(tests.air_k or 0.0),
        over=difference(tests.over_vent_k or 0.0),
    )
    return Finding(joined([said, CAVEAT]))


def _next(ground: Ground, order: tuple[tuple[str, str], ...] = LOOKS) -> HangsOn | None:
    """The first look-alike that nobody has ruled out."""
    key = next((key for key, good in order if not ground.case.saw(good)), None)
    return None if key is None else HangsOn("test", key, say("It looks the same."))


def _row(
    key: str,
    order: Order,
    headline: str,
    reason: str,
    finds: Callable[[Ground, ThreeTests], Finding | None],
) -> Rule:
    return Rule(key, order, headline, "do_not_charge", "judge", reason, _on_vehicle(finds))


VEHICLE: tuple[Rule, ...] = (
    _row(
        "vehicle_orifice",
        "impossible",
        "Not by these tests.",
        "An orifice tube's outlet follows the load, not its feed.",
        _orifice,
    ),
    _row(
        "vehicle_not_yet",
        "clocks",
        "Not yet.",
        "Doors open, engine warm, maximum cold, blower high, five minutes steady.",
        _clock,
    ),
    _row(
        "vehicle_exchanged",
        "impossible",
        "Put the clamps right first.",
        "A condenser's outlet is never warmer than its inlet.",
        _exchanged,
    ),
    _row(
        "vehicle_foot_outlet",
        "impossible",
        "Move the vent probe first.",
        "No valve floods a coil so cold; warm air is mixed in where the probe hangs.",
        _foot_outlet,
    ),
    _row(
        "vehicle_unread",
        "charge",
        "Read all three.",
        "All three tests or no verdict; the least air drop wants a wet bulb.",
        _unread,
    ),
    _row(
        "vehicle_starved",
        "charge",
        "Too little gets through.",
        "Outlet over 10 °F over vent: little refrigerant or a restriction.",
        _starved,
    ),
    _row(
        "vehicle_overfed",
        "charge",
        "Too much gets through.",
        "Outlet colder than vent: a valve stuck open, or overcharged.",
        _overfed,
    ),
    _row(
        "vehicle_hot",
        "charge",
        "The condenser works too hard.",
        "Over 50 °F across the condenser: its air, or too much in it.",
        _hot,
    ),
    _row(
        "vehicle_idle",
        "charge",
        "The compressor does little.",
        "Under 20 °F across the condenser: little gas comes to it.",
        _idle,
    ),
    _row(
        "vehicle_warm",
        "charge",
        "The circuit works, the vent is warm.",
        "Only the air's drop is short: what is mixed in, not the circuit.",
        _warm,
    ),
    _row(
        "vehicle_passes",
        "charge",
        "All three tests pass.",
        "Each in its window, the air's by today's humidity.",
        _passes,
    ),
)
