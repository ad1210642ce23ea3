"""The rules of a system that reads low: a leak, a hold with the one thing missing, or add."""

from dataclasses import replace

from nudge.core.checks.table import CHECKS
from nudge.core.judgement.decision.decision import HangsOn
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.hangs import (
    best_check,
    hang_on_check,
    hang_on_contradiction,
    hang_on_row,
    parting_check,
)
from nudge.core.judgement.decision.holds import Hold, again, named, weakest
from nudge.core.judgement.decision.leak import (
    FREEZING_C,
    LEAK_ACT,
    evidence,
    find_empty,
    is_one_readings_word,
    leak_by_history,
    leak_seen,
)
from nudge.core.judgement.decision.limits import least
from nudge.core.judgement.decision.robust import four_of
from nudge.core.judgement.decision.rule import Finding, Rule
from nudge.core.judgement.decision.window import reads_low
from nudge.core.judgement.decision.words import but_leads, capital, joined, paragraph, percent
from nudge.core.language.said import Said, difference, say
from nudge.core.language.units import degrees_f
from nudge.core.language.vocabulary.accuracy import GAP_LIMIT_K
from nudge.core.language.vocabulary.points import POINTS

NOT_USED_UP = say("Then look for the leak: a system does not use refrigerant up.")
PAST_ITS_GATE = "A gate was passed to say this, so it is no ground to move refrigerant."


def door_is_open(ground: Ground) -> bool:
    """A first dose in was proven, every one was answered, and nothing but charge leads; or the
    scale says that the rest of its sheet is still to come.
    """
    goes_well = ground.given_kg > 0 and ground.goes_well
    untold = not any(a.answered is not None or a.went_wrong_way for a in ground.answers)
    is_short = ground.past.is_known_short and untold
    likely = ground.standing_low + ground.belief("none")
    return (goes_well or is_short) and likely >= least("add_again")


def is_trimmed(ground: Ground) -> bool:
    """The door is open, or what lies between sheet and plate is trimmed away: by then the scale,
    nitrogen and the decay have excluded what else reads so. What must be seen must be all the same.
    """
    likely = ground.standing_low + ground.belief("none")
    return door_is_open(ground) or (ground.is_brought_to_plate and likely >= least("add_again"))


def _contradicted(ground: Ground) -> Finding | None:
    if not reads_low(ground):
        return None
    found = ground.proof_of_low(is_answered=door_is_open(ground)).contradicted
    if not found or (_would_be_a_leak(ground) and all(row.look_alike == "icing" for row in found)):
        return None
    row = found[0]
    return Finding(
        paragraph("It reads low on charge:", evidence(ground), f"But: {row.if_contradicted}."),
        hangs_on=hang_on_contradiction(row, ground),
    )


def _another_leads(ground: Ground) -> Finding | None:
    """It reads low, and something else explains it better, or cannot be told from it."""
    if not reads_low(ground):
        return None
    if ground.weighing is not None and ground.leader == "undercharge":
        return None
    if ground.leader == "none" and is_trimmed(ground):
        return None
    return Finding(
        paragraph(
            "It reads low on charge:",
            evidence(ground),
            but_leads(ground),
        ),
        hangs_on=best_check(ground),
    )


def _something_missing(ground: Ground) -> Finding | None:
    if not reads_low(ground) or door_is_open(ground):
        return None
    missing = ground.proof_of_low().missing
    unsure = [point for point in four_of(ground.case) if point in ground.case.context.unsure]
    if not missing and not unsure:
        return None
    asks = list(dict.fromkeys(row.if_missing for row in missing))
    asks += [
        f"measure {POINTS[point].label.lower()}, which is old or an estimate" for point in unsure
    ]
    count = "One thing is" if len(asks) == 1 else f"{len(asks)} things are"
    hangs = hang_on_row(missing[0]) if missing else again(unsure[0])
    return _almost(ground, say(f"{count} missing: {'; '.join(asks)}."), hangs)


def _held_back(ground: Ground) -> Hold | None:
    """What keeps a low reading from being proven: the beliefs, their own ±, or one reading."""
    standing = ground.standing
    if standing.low < least("add") or standing.low_alone < least("add_alone"):
        pair = _beside(ground)
        what = "That is not enough to add on."
        if pair:
            what = f"“{capital(pair)}” is likely there as well, and comes first."
        return Hold(say(what), parting_check(ground))
    if standing.worst_low < least("add_moved"):
        turns = f"It hangs on {named(standing.worst_by)}: within its own ± it turns. Read it again."
        return Hold(say(turns), again(standing.worst_by))
    return weakest(ground)


def _no_liquid(ground: Ground) -> Finding | None:
    """None leaves the condenser as liquid, and adding is not proven: a leak is looked for."""
    if not reads_low(ground) or door_is_open(ground) or ground.answers or ground.past.is_weighed_in:
        return None
    subcooling, standing = ground.case.derived.subcooling, ground.standing
    if subcooling is None or subcooling > GAP_LIMIT_K or standing.low < least("no_liquid"):
        return None
    held = _held_back(ground)
    if held is None or standing.worst_low < least("add_moved") or is_one_readings_word(ground):
        return None
    found = _almost(ground, joined([held.said, NOT_USED_UP]), held.hangs_on)
    two = "Looks far too low. Two things first, then find the leak."
    return replace(found, headline=two) if _asks_for_two(held) else found


def _not_sure(ground: Ground) -> Finding | None:
    if not reads_low(ground) or is_trimmed(ground):
        return None
    held = _held_back(ground)
    return (
        None if held is None or held.is_one_reading else _almost(ground, held.said, held.hangs_on)
    )


def _would_be_a_leak(ground: Ground) -> bool:
    """Low charge leads, nothing has gone in, and the coil is fed: superheat in its window. Suction
    in the freezing range, which keeps anything from going in, is then one of its marks. Where
    superheat is high too it may starve as well (`leak.find_empty`).
    """
    untouched = not ground.answers and not ground.past.is_weighed_in
    return untouched and ground.leader == "undercharge" and ground.level("superheat") == "in"


def _freezing(ground: Ground) -> Finding | None:
    """Low charge is proven, and suction is in the freezing range: more is missing than a trim."""
    saturation = ground.case.derived.evaporator_saturation
    if not reads_low(ground) or not _would_be_a_leak(ground):
        return None
    if saturation is None or saturation >= FREEZING_C:
        return None
    why = f"Suction is in the freezing range: that is a leak, not a trim. {LEAK_ACT}"
    return Finding(
        paragraph("Low on charge:", evidence(ground), why),
        "low",
        belief=ground.standing.low,
    )


def _beside(ground: Ground) -> str:
    """What is likeliest to be wrong besides low charge; "" where nothing is."""
    if ground.weighing is None or ground.standing.low < least("add"):
        return ""
    rows = [
        (belief, row.signature.suspects)
        for row, belief in ground.weighing.rows
        if len(row.signature.suspects) == 2 and "undercharge" in row.signature.suspects
    ]
    names = max(rows)[1] if rows else ()
    return next((ground.suspect(n).label.lower() for n in names if n != "undercharge"), "")


def _hangs_on_one(ground: Ground) -> Finding | None:
    """One pressure or clamp alone makes it low: that one is asked for, and nothing else."""
    if not reads_low(ground) or is_trimmed(ground):
        return None
    held = _held_back(ground)
    if held is None:
        return None
    found = _almost(ground, held.said, held.hangs_on)
    two = "Looks low. Prove two readings before you add."
    return replace(found, headline=two) if _asks_for_two(held) else found


def _asks_for_two(held: Hold) -> bool:
    return held.hangs_on is not None and bool(held.hangs_on.also)


def _almost(ground: Ground, what: Said, hangs: HangsOn | None) -> Finding:
    belief = ground.standing.low
    return Finding(
        joined(
            [
                paragraph("It reads low on charge:", evidence(ground)),
                say("{sure} low charge.", sure=percent(belief)),
                what,
            ]
        ),
        "low",
        hangs_on=hangs,
        belief=belief,
    )


def open_steps(ground: Ground, reads: str) -> Finding | None:
    """What of the visit stands before judging holds whatever would move."""
    context = ground.case.context
    if context.before is None:
        return None
    check = CHECKS.get(context.before_check)
    looks, _, _ = reads.partition(":")
    return Finding(
        joined([paragraph(reads, evidence(ground)), context.before]),
        headline=f"{looks}? First: {check.label[0].lower()}{check.label[1:]}." if check else "",
        hangs_on=None if check is None else hang_on_check(check),
    )


def _steps_open(ground: Ground) -> Finding | None:
    found = open_steps(ground, "Low on charge:") if reads_low(ground) else None
    return None if found is None else replace(found, state="low", belief=ground.standing.low)


def _past_a_gate(ground: Ground) -> Finding | None:
    if not reads_low(ground) or not any(b.passed for b in ground.breaches):
        return None
    return Finding(
        paragraph("Low on charge:", evidence(ground), PAST_ITS_GATE),
        "low",
        belief=ground.standing.low,
    )


def _add(ground: Ground) -> Finding | None:
    if not reads_low(ground):
        return None
    look = "" if ground.past.is_weighed_in else "Look for the leak too: it went somewhere."
    opening = "Low on charge, and its look-alikes are ruled out:"
    if ground.is_brought_to_plate:
        opening = "Proven tight and weighed in, it stands under what its plate asks for:"
    if ground.answers:
        opening, look = "Still low, and it answers:", ""
    now = ground.deciding
    return Finding(
        paragraph(opening, evidence(ground), look),
        "low",
        belief=ground.standing.low,
        wrong_if=(
            say(
                f"{capital(ground.targets.deciding.judges if ground.targets.deciding else '')} "
                "still near {now} after the wait, or suction that did not move: then it is not "
                "getting through, and nothing more goes in.",
                now=difference(now.value if now else 0.0),
            ),
            say("Superheat under {floor}: stop at once.", floor=difference(degrees_f(5))),
        ),
    )


EMPTY: tuple[Rule, ...] = (
    Rule(
        "empty",
        "charge",
        "Find the leak first.",
        "find_leak",
        "act",
        "No subcooling and superheat far over is an empty system, and low charge leads.",
        find_empty,
    ),
)

LOW: tuple[Rule, ...] = (
    Rule("contradicted", "charge", "Not proven to be charge. Do not add or remove.",
         "do_not_charge", "judge", "Something measured contradicts low charge.", _contradicted),
    Rule("another_leads", "charge", "Not proven to be charge. Do not add.", "do_not_charge",
         "judge", "What else explains the readings better is settled first.", _another_leads),
    Rule("leak_seen", "charge", "Find the leak first.", "find_leak", "act",
         "Oil at a joint is where it went.", leak_seen),
    Rule("leak_by_history", "charge", "Find the leak first.", "find_leak", "act",
         "What needs refrigerant again and again leaks.", leak_by_history),
    Rule("low_missing", "charge", "Looks low. Not proven: do not add yet.", "do_not_charge",
         "read", "What must be known before anything goes in is not.", _something_missing),
    Rule("no_liquid", "charge", "Looks far too low. One thing first, then find the leak.",
         "find_leak", "read", "No liquid leaves the condenser: short by more than a trim. What is "
         "not proven adds nothing, and looking for the leak moves nothing.", _no_liquid),
    Rule("low_unsure", "charge", "Looks low. Not proven: do not add yet.", "do_not_charge", "judge",
         "The beliefs are not sure enough, or turn within a reading's own ±.", _not_sure),
    Rule("low_hangs", "charge", "Looks low. Read one thing again before you add.", "do_not_charge",
         "read", "One reading alone must never add.", _hangs_on_one),
    Rule("low_freezing", "charge", "Find the leak first.", "find_leak", "act",
         "Low charge is proven, and suction is in the freezing range: short by more than a trim.",
         _freezing),
    Rule("low_steps_open", "charge", "Looks low. First what stands before judging.",
         "do_not_charge", "air", "Air, and the proofs of a new circuit, come before charge moves.",
         _steps_open),
    Rule("low_past_gate", "charge", "Looks low, judged past a gate: do not add.", "do_not_charge",
         "act", "What was judged past a gate moves no refrigerant.", _past_a_gate),
    Rule("add", "charge", "Add refrigerant, a little at a time.", "add", "act",
         "Everything measured isolates low charge, and no one reading made it.", _add),
)  # fmt: skip
