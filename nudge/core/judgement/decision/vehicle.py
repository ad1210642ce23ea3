"""What a vehicle's three tests come to: all three or no verdict, and never a dose.

Charge is weighed in by the label. What passes may still run a third short; the answer says so.
"""

from collections.abc import Callable
from dataclasses import replace

from nudge.core.judgement.decision.decision import HangsOn, Order
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.rule import Finding, Rule
from nudge.core.judgement.decision.words import joined
from nudge.core.language.said import difference, say
from nudge.core.language.units import degrees_f
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.vehicle.three_tests import (
    CONDENSER_K,
    EXCHANGED_K,
    OVER_VENT_K,
    CoilTests,
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
    for coil in tests.coils:
        if coil.by_inlet or coil.over_vent_k is None or coil.over_vent_k > -FOOT_K:
            continue
        said = say(
            f"The {_which(tests, coil)}vent is {{off}} warmer than the coil's outlet: is the probe "
            "in a foot outlet, or is the heater open? Put it in the middle vent, and read again.",
            off=difference(-coil.over_vent_k),
        )
        return Finding(said, hangs_on=HangsOn("reading", coil.spot.vent, said))
    return None


def _which(tests: ThreeTests, coil: CoilTests) -> str:
    """Which evaporator, where there are two."""
    return f"{coil.spot.name} " if tests.has_two else ""


def _unread(ground: Ground, tests: ThreeTests) -> Finding | None:
    if tests.all_read:
        return None
    needs = [*NEEDED, *(point for coil in tests.coils for point in coil.spot.points)]
    missing = [point for point in needs if point not in ground.case.readings]
    if not missing:
        said = say("Air's two bulbs describe no air: wet the wick, and read both again.")
        return Finding(said, hangs_on=HangsOn("reading", "return_air_wet_bulb", said))
    names = ", ".join(POINTS[point].label.lower() for point in missing)
    said = say(
        f"All three tests, or no verdict: each alone passes much that is wrong. Read: {names}."
    )
    return Finding(said, hangs_on=HangsOn("test", "read_three_tests", said))


def _starved(ground: Ground, tests: ThreeTests) -> Finding | None:
    starved = [coil for coil in tests.coils if coil.over_vent == "over"]
    if not starved:
        return None
    worst = max(starved, key=lambda coil: coil.off_by)
    said = say(
        f"The {_which(tests, worst)}evaporator's outlet is {{off}} over its "
        f"{'inlet' if worst.by_inlet else 'vent air'}, more than {{most}}: too little gets "
        "through.",
        off=difference(worst.over_vent_k or 0.0),
        most=difference(OVER_VENT_K[1]),
    )
    if len(starved) < len(tests.coils):
        name = worst.spot.name
        own = say(
            f"The other one is fed right, so what is common to both is not the likeliest: the "
            f"{name} one's own valve, its screen, its line or its shut-off."
        )
        headline = f"The {name} evaporator is starved."
        return Finding(joined([said, own, WEIGH]), headline=headline, hangs_on=_feed(ground))
    why = say("Little refrigerant, or a way that is choked.")
    leak = say("What was lost went somewhere: find the leak first.")
    return Finding(
        joined([said, why, leak, WEIGH]), hangs_on=HangsOn("test", "look_for_leak", leak)
    )


def _overfed(ground: Ground, tests: ThreeTests) -> Finding | None:
    overfed = [coil for coil in tests.coils if coil.over_vent == "under"]
    if not overfed:
        return None
    worst = max(overfed, key=lambda coil: coil.off_by)
    said = say(
        f"The {_which(tests, worst)}evaporator's outlet is {{off}} under its "
        f"{'inlet' if worst.by_inlet else 'vent'}: liquid comes back.",
        off=difference(-(worst.over_vent_k or 0.0)),
    )
    if len(overfed) < len(tests.coils):
        name = worst.spot.name
        own = say(f"Too much in it would flood both: the {name} one's own valve first.")
        headline = f"The {name} evaporator gets too much."
        return Finding(joined([said, own, WEIGH]), headline=headline, hangs_on=_feed(ground))
    why = say("A valve stuck open, or too much in it.")
    return Finding(joined([said, why, WEIGH]), hangs_on=_next(ground))


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
    warm = next((coil for coil in tests.coils if coil.air == "under"), None)
    if warm is None:
        return None
    said = say(
        f"The {_which(tests, warm)}air drops {{now}}; {{least}} is the least at this humidity. The "
        "circuit looks right: the heater, the blower, hot air from the engine.",
        now=difference(warm.air_k or 0.0),
        least=difference(warm.least_air_k or 0.0),
    )
    return Finding(joined([said, WEIGH]), hangs_on=_next(ground, LOOKS[::-1]))


def _passes(_: Ground, tests: ThreeTests) -> Finding | None:
    if not tests.passes:
        return None
    said = [say("Condenser {now}.", now=difference(tests.condenser_k or 0.0))]
    for coil in tests.coils:
        name = f"{coil.spot.name.capitalize()}: air" if tests.has_two else "Air"
        said.append(
            say(
                f"{name} {{air}}, outlet {{over}} over.",
                air=difference(coil.air_k or 0.0),
                over=difference(coil.over_vent_k or 0.0),
            )
        )
    return Finding(joined([*said, say("All three pass."), CAVEAT]))


def _next(ground: Ground, order: tuple[tuple[str, str], ...] = LOOKS) -> HangsOn | None:
    """The first look-alike that nobody has ruled out."""
    key = next((key for key, good in order if not ground.case.saw(good)), None)
    return None if key is None else HangsOn("test", key, say("It looks the same."))


def _feed(ground: Ground) -> HangsOn | None:
    """Where one of two evaporators is fed wrong: its own line, felt."""
    if ground.case.saw("feed_cold") or ground.case.saw("feed_warm"):
        return None
    return HangsOn("test", "feel_evaporator_feed", say("It parts its line from its valve."))


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
