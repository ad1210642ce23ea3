"""What decides before charge: danger, readings that cannot be, what comes first, clocks."""

from collections.abc import Callable
from dataclasses import replace
from math import ceil

from nudge.core.judgement.decision.decision import HangsOn
from nudge.core.judgement.decision.doses import IN_VAIN, unanswered
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.heating import GAUGE_ON_HOT_GAS
from nudge.core.judgement.decision.leak import STEPS, find_empty
from nudge.core.judgement.decision.limits import least
from nudge.core.judgement.decision.opened import LOCKED_OR_FILLING, OPEN_CIRCUIT
from nudge.core.judgement.decision.other_plant import OTHER_PLANT
from nudge.core.judgement.decision.rule import Finding, Rule
from nudge.core.judgement.decision.window import came_right, reads_right
from nudge.core.judgement.decision.words import joined, paragraph
from nudge.core.judgement.suspect_table import Suspect
from nudge.core.language.said import Measure, difference, say
from nudge.core.language.units import Quantity, degrees_f
from nudge.core.language.vocabulary.stages import Stage
from nudge.core.physics.circuit.whole import whole_charge
from nudge.core.settling.breaches import CHANGE_MINUTES, RUN_MINUTES
from nudge.core.settling.charge_mode import minutes_short
from nudge.core.settling.gate import CLOCKS, Breach

SUPERHEAT_FLOOR_K = degrees_f(5)
"""Superheat never goes under this while refrigerant goes in."""
STACKING, COLLAR = "low_ambient_stacking", ("work", "collar_on")
ROOM_FOR_REST_K = degrees_f(8)
"""The rest of a sheet goes in only where superheat has room for it."""
MOST_ADDED = 0.50
"""Of the whole charge: more than that missing is a leak or an empty system, not a trim."""
FEEDS = frozenset({"liquid_line_restriction", "metering_underfeed"})
UNSETTLED_MINUTES = 2.0
STAGE_OF_WORK: dict[str, Stage] = {"collar_on": "connect", "condenser_dry": "settle"}
AIR = frozenset(
    {
        "filter_dirty",
        "evaporator_coil_dirty",
        "condenser_coil_dirty",
        "airflow_low",
        "blower_capacitor_weak",
        "duct_unmeasured",
        "condenser_fan_weak",
        "discharge_air_returns",
        "airflow_out_of_range",
    }
)
WATCH = (
    say("Watch superheat: under {least}, add nothing more.", least=difference(SUPERHEAT_FLOOR_K)),
    say("Watch the line temperatures come together, and the liquid line: it is the slow one."),
)


def _valve_shut(ground: Ground) -> Finding | None:
    if not ground.case.saw("valve_proven_shut"):
        return None
    return Finding(
        say(
            "A test dose only bumped, the bulb is dead, the line is open: the valve lets nothing "
            "through. Recover and weigh, renew it with its drier, prove it tight and dry, weigh in."
        ),
        state="right",
    )


def _stop_it(ground: Ground) -> Finding | None:
    stops = [said for hazard, said in ground.hazards if hazard.effect == "stops"]
    if not stops:
        return None
    empty = None if ground.case.heat is not None else find_empty(ground)
    if empty is None:
        return Finding(stops[0])
    # What runs hot or in a vacuum because it is empty is stopped, and its leak found.
    return replace(
        empty,
        reason=joined([stops[0], empty.reason]),
        advice="find_leak",
        headline="Stop it. Then find the leak.",
    )


def _stop_adding(ground: Ground) -> Finding | None:
    superheat = ground.case.derived.superheat
    if superheat is None or superheat >= SUPERHEAT_FLOOR_K or ground.given_kg <= 0:
        return None
    return Finding(
        say(
            "Superheat is {now}, under {floor}, and refrigerant has gone in: liquid is near the "
            "compressor. Nothing more goes in.",
            now=difference(superheat),
            floor=difference(SUPERHEAT_FLOOR_K),
        ),
    )


def _not_judged(ground: Ground) -> Finding | None:
    found = _by_gate(ground, lambda b: b.gate.key == "application_not_judged")
    return None if found is None or ground.case.is_checked else replace(found, stage=None)


def _standing(ground: Ground) -> Finding | None:
    return _by_gate(ground, lambda b: b.gate.key == "not_running")


def _impossible(ground: Ground) -> Finding | None:
    if not ground.doubts:
        return None
    check, said = ground.doubts[0]
    point = check.points[0] if check.points else ""
    hangs = HangsOn("reading", point, said) if point else HangsOn("test", "swap_probes", said)
    return Finding(said, hangs_on=hangs)


def _by_look(ground: Ground) -> Finding | None:
    look = ground.look
    if look is None:
        return None
    reason = look.reasons[0] if look.reasons else say("Nothing asks for gauges so far.")
    stages: dict[str, Stage] = {"connect": "connect", "leave_caps_on": "close"}
    hangs = None
    if look.decision == "connect":
        hangs = HangsOn("test", "read_liquid_side", say("Read it with gauges."))
    return Finding(
        reason, headline=look.headline, hangs_on=hangs, stage=stages.get(look.decision, "look")
    )


def _wrong_way(ground: Ground) -> Finding | None:
    if not ground.answers or not ground.answers[-1].went_wrong_way:
        return None
    return Finding(
        say(
            "Superheat rose after a dose and subcooling stood still: liquid is not getting "
            "through. Look for a restriction or a starving metering device."
        ),
        hangs_on=HangsOn("test", "walk_liquid_line", say("It shows where it is held back.")),
    )


def _in_vain(ground: Ground) -> Finding | None:
    """Not where doses too small to tell brought it right, or a renewed circuit near enough."""
    count = unanswered(ground.answers)
    none_refused = all(one.answered is not False for one in ground.answers)
    if count < IN_VAIN or (none_refused and came_right(ground)):
        return None
    return Finding(
        say(
            f"{count} doses were not answered: it is not charge, or it does not get through. Walk "
            "the liquid line, test the metering device. What went in may have to come out again."
        ),
        hangs_on=HangsOn("test", "walk_liquid_line", say("It shows whether the way is free.")),
    )


def _too_much_in(ground: Ground) -> Finding | None:
    whole = whole_charge(ground.case.plate)
    if ground.given_kg < MOST_ADDED * whole.kg or ground.past.weighed_in:
        return None
    return Finding(
        say(
            "{given} has gone in, more than half a charge. It is lost somewhere, or it was empty: "
            "find the leak, recover, evacuate and weigh in.",
            given=Measure(ground.given_kg, Quantity.CHARGE),
        ),
        state="low",
    )


def _another_suspect(ground: Ground) -> Finding | None:
    """Once refrigerant moved, the beliefs are read again: another leader ends it."""
    if not ground.answers or ground.leader in CHARGE or ground.weighing is None:
        return None
    if ground.belief(ground.leader) < (0.9 if ground.answers[-1].answered else least("leads")):
        return None
    row = ground.suspect(ground.leader)
    return Finding(
        say(f"What the doses did points to “{row.label.lower()}”, not to charge. {row.act}"),
        hangs_on=_test_of(ground.suspect(ground.leader)),
    )


CHARGE = frozenset(
    {"undercharge", "overcharge", "none", "something_else", "high_indoor_load", "low_indoor_load"}
)


def _restricted(ground: Ground) -> Finding | None:
    """A step was measured, and what holds liquid back leads: after the air, before all else."""
    if any(b.gate.key in AIR for b in ground.blocking):
        return None
    step = next((ground.marks[k] for k in STEPS if ground.level(k) == "high"), None)
    if step is None or ground.leader not in FEEDS:
        return None
    if ground.belief(ground.leader) < least("leads"):
        return None
    return Finding(
        paragraph(
            "There is a step on the liquid's way:",
            [step],
            "Find the kink or the plugged "
            "drier between the two clamps, renew it, then judge charge.",
        ),
        state="right" if reads_right(ground) else "unknown",
        hangs_on=HangsOn("test", "walk_liquid_line", say("It shows in which piece the step is.")),
    )


def _what_comes_first(ground: Ground) -> Finding | None:
    """Gates that work opens, before those that only another day does."""
    shut = [b for b in ground.blocking if b.gate.key not in CLOCKS]
    shut.sort(key=lambda b: (b.gate.key not in AIR, b.gate.opened_by is None))
    return _shut(shut[0]) if shut else None


def _rest_of_sheet(ground: Ground) -> Finding | None:
    """It cannot be judged before another day, and by the scale it lacks the rest of its sheet."""
    shut = [b for b in ground.blocking if b.gate.key not in CLOCKS]
    if not shut or not ground.past.is_known_short or ground.leader not in CHARGE | {STACKING}:
        return None
    if any(b.gate.opened_by not in (None, COLLAR) or b.gate.key in AIR for b in shut):
        return None
    superheat = ground.case.derived.superheat
    is_near_liquid = superheat is not None and superheat < ROOM_FOR_REST_K
    if is_near_liquid or ground.level("subcooling") == "high":
        return None
    return Finding(
        joined(
            [
                shut[0].message,
                say(
                    "By the scale {left} of its sheet is still to go in: weigh that in, trim "
                    "nothing, and read it on a day that can be judged.",
                    left=Measure(ground.past.sheet_left_kg, Quantity.CHARGE),
                ),
            ]
        ),
        watch=WATCH,
    )


def _clocks(ground: Ground) -> Finding | None:
    shut = [b for b in ground.blocking if b.gate.key in CLOCKS]
    if not shut:
        return None
    found = _shut(shut[0])
    waits = minutes_to_wait(ground)
    hangs = HangsOn("minutes", shut[0].gate.key, shut[0].message)
    return replace(
        found,
        hangs_on=hangs,
        stage="settle",
        ready_in=waits,
        watch=WATCH if ground.answers else (),
    )


def minutes_to_wait(ground: Ground) -> float:
    """Minutes after the readings until the clocks open and, by the instruments, it is steady."""
    context, device = ground.case.context, ground.case.plate.metering_device
    waits = [UNSETTLED_MINUTES if context.settles_in is None else context.settles_in]
    if context.minutes_running is not None:
        waits.append(RUN_MINUTES[device] - context.minutes_running)
    if context.minutes_since_change is not None:
        waits.append(CHANGE_MINUTES[device] - context.minutes_since_change)
    waits.append(minutes_short(ground.case))
    return float(ceil(max(waits)))


def _by_gate(ground: Ground, wanted: Callable[[Breach], bool]) -> Finding | None:
    shut = [b for b in ground.blocking if wanted(b)]
    return _shut(shut[0]) if shut else None


def _shut(breach: Breach) -> Finding:
    opened = breach.gate.opened_by
    hangs = None if opened is None else HangsOn(opened[0], opened[1], breach.message)
    stage: Stage = STAGE_OF_WORK.get(opened[1] if opened else "", "settle")
    if breach.gate.key in AIR:
        stage = "act" if opened is not None and opened[0] == "work" else "air"
    return Finding(breach.message, headline=breach.gate.headline, hangs_on=hangs, stage=stage)


def _test_of(suspect: Suspect) -> HangsOn | None:
    tests = suspect.own_test
    return HangsOn("test", tests[0], say(suspect.told_apart_by)) if tests else None


BEFORE: tuple[Rule, ...] = (
    OPEN_CIRCUIT,
    Rule("stop_it", "danger", "Stop it.", "do_not_charge", "act",
         "What can burst or burn out is switched off before anything else, at any minute.",
         _stop_it),
    Rule("stop_adding", "danger", "Stop adding.", "do_not_charge", "act",
         "Under 5 °F of superheat on the way in, liquid is near the compressor.", _stop_adding),
    *LOCKED_OR_FILLING,
    GAUGE_ON_HOT_GAS,
    Rule("not_judged", "impossible", "Charge is not judged here.", "do_not_charge", "judge",
         "Rules for other plant are not these.", _not_judged),
    Rule("standing", "impossible", "Start the system and let it run.", "do_not_charge", "settle",
         "Standing pressures say nothing of charge.", _standing),
    Rule("impossible", "impossible", "Put the reading right first.", "do_not_charge", "read",
         "Readings that cannot all be true are not judged.", _impossible),
    *OTHER_PLANT,
    Rule("caps_on", "charge", "Not enough to tell yet.", "do_not_charge", "look",
         "Without a pressure the look decides: leave the caps on, or connect.", _by_look),
    Rule("wrong_way", "first", "Stop. It does not get through.", "do_not_charge", "act",
         "Superheat that rises while refrigerant goes in is liquid held back.", _wrong_way),
    Rule("in_vain", "first", "Stop. Two doses were not answered.", "do_not_charge", "act",
         "Two doses that nothing answers, whatever their size: it is not charge.", _in_vain),
    Rule("too_much_in", "first", "Stop. Find where it went.", "do_not_charge", "act",
         "Half a charge missing is a leak or an empty system, not a trim.", _too_much_in),
    Rule("valve_shut", "first", "Renew the valve: it is proven shut.", "do_not_charge", "act",
         "Behind a shut valve the low side is empty and the charge may be right.", _valve_shut),
    Rule("another_suspect", "first", "Stop. It is not charge.", "do_not_charge", "act",
         "A dose is a test: when it convicts something else, dosing ends.", _another_suspect),
    Rule("restricted", "first", "Do not add. The liquid line is restricted.", "do_not_charge",
         "act", "A measured step is a restriction, whatever the gaps read.", _restricted),
)  # fmt: skip

FIRST: tuple[Rule, ...] = (
    Rule(
        "rest_of_sheet",
        "first",
        "Weigh in the rest of the sheet.",
        "weigh_in",
        "fill",
        "Where only another day can judge it, the maker's sheet is the best there is.",
        _rest_of_sheet,
    ),
    Rule(
        "first",
        "first",
        "",
        "do_not_charge",
        "air",
        "Air, coils, bulb and weather before charge: what opens the gate is the next step.",
        _what_comes_first,
    ),
    Rule(
        "wait",
        "clocks",
        "Wait.",
        "do_not_charge",
        "settle",
        "What has not settled is not read.",
        _clocks,
    ),
)
