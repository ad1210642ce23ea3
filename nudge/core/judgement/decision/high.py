"""The rules of what reads high: what must be ruled out before anything comes out."""

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
from nudge.core.judgement.decision.leak import evidence
from nudge.core.judgement.decision.limits import least
from nudge.core.judgement.decision.low import PAST_ITS_GATE, open_steps
from nudge.core.judgement.decision.robust import four_of
from nudge.core.judgement.decision.rule import Finding, Rule
from nudge.core.judgement.decision.window import reads_high
from nudge.core.judgement.decision.words import but_leads, joined, paragraph, percent
from nudge.core.judgement.departures import departures_of_approach
from nudge.core.language.said import say
from nudge.core.language.units import degrees_f
from nudge.core.language.vocabulary.accuracy import GAP_LIMIT_K
from nudge.core.language.vocabulary.points import POINTS

APPROACH_NEAR_K = degrees_f(2.5)
INTO_RECOVERY = "Recover into a recovery cylinder, never to air."


def _took_too_much(ground: Ground) -> Finding | None:
    """The last dose was answered, and went past the window: its own surplus comes out again."""
    if not reads_high(ground) or not ground.answers or ground.given_kg <= 0:
        return None
    last = ground.answers[-1]
    if last.amount_kg <= 0 or not last.answered or not ground.first_was_proven():
        return None
    return Finding(
        paragraph(
            "The last dose went past the window:",
            evidence(ground),
            "Part of it comes out again, by what it did. " + INTO_RECOVERY,
        ),
        "high",
        belief=1.0,
        wrong_if=(
            say(
                "The reading does not come back into its window after the wait: then it was "
                "not that dose."
            ),
        ),
    )


def door_is_open(ground: Ground) -> bool:
    """A first dose out was proven, every one was answered, and nothing but charge leads."""
    likely = ground.belief("overcharge") + ground.belief("none")
    return ground.given_kg < 0 and ground.goes_well and likely >= least("add_again")


def is_trimmed(ground: Ground) -> bool:
    """The door is open, or what lies between sheet and plate is trimmed away: air was pumped out of
    it, and what went in was weighed.
    """
    likely = ground.belief("overcharge") + ground.belief("none")
    return door_is_open(ground) or (ground.is_brought_to_plate and likely >= least("add_again"))


def _air_not_charge(ground: Ground) -> Finding | None:
    """Low superheat on an orifice is charge only if the liquid side says so too: by its window,
    which is a guess, or by how sure all that is read makes it.
    """
    school = ground.targets.deciding
    if not reads_high(ground) or school is None or school.judges != "superheat":
        return None
    if door_is_open(ground) or ground.standing.high_alone >= least("remove"):
        return None
    if ground.level("subcooling") == "high":
        return None
    return Finding(
        paragraph(
            "Superheat is low but the liquid line is not over-full:",
            evidence(ground),
            "Low airflow, low load or an oversized orifice does that. Check filter, coil, "
            "blower, then the orifice.",
        ),
        hangs_on=best_check(ground),
        stage="air",
    )


def _contradicted(ground: Ground) -> Finding | None:
    if not reads_high(ground):
        return None
    found = ground.proof_of_high().contradicted
    if not found:
        return None
    return Finding(
        paragraph(
            "The numbers do not agree on charge:", evidence(ground), found[0].if_contradicted + "."
        ),
        hangs_on=hang_on_contradiction(found[0], ground),
    )


def _something_missing(ground: Ground) -> Finding | None:
    if not reads_high(ground):
        return None
    missing = ground.proof_of_high().missing
    if not missing:
        return None
    asks = list(dict.fromkeys(row.if_missing for row in missing))
    return _almost(ground, f"Before removing: {'; '.join(asks)}.", hang_on_row(missing[0]))


def _indoor_air_open(ground: Ground) -> Finding | None:
    """On an orifice, low superheat is low indoor air as often as too much charge."""
    school = ground.targets.deciding
    if door_is_open(ground):
        return None
    if not reads_high(ground) or school is None or school.judges != "superheat":
        return None
    split = ground.marks.get("temperature_split")
    if split is not None and split.value <= split.high + GAP_LIMIT_K:
        return None
    if _airflow_is_right(ground):
        return None
    if split is not None:
        return _almost(
            ground,
            "The split is large: too little air does that. Measure the airflow first.",
            hang_on_check(CHECKS["measure_airflow"]),
        )
    return _almost(
        ground,
        "First rule out low indoor air: measure supply air, see filter and indoor coil.",
        hang_on_check(CHECKS["read_supply_air"]),
    )


def _airflow_is_right(ground: Ground) -> bool:
    """Measured, not an estimate, on plant of a known size: then its gate holds the range."""
    case = ground.case
    measured = "airflow" in case.readings and "airflow" not in case.context.unsure
    return measured and case.derived.airflow_per_capacity is not None


def _another_leads(ground: Ground) -> Finding | None:
    if is_trimmed(ground):
        return None
    if not reads_high(ground) or (ground.weighing is not None and ground.leader == "overcharge"):
        return None
    return Finding(
        paragraph(
            "It reads high on charge:",
            evidence(ground),
            but_leads(ground),
        ),
        "high",
        hangs_on=_parting(ground) or best_check(ground),
    )


def _not_sure(ground: Ground) -> Finding | None:
    if is_trimmed(ground):
        return None
    if not reads_high(ground):
        return None
    standing = ground.standing
    if standing.high_alone < least("remove"):
        parting = (
            _parting(ground) or _its_plate(ground) or parting_check(ground, "overcharge", "remove")
        )
        return _almost(ground, "That is not enough to remove on.", parting)
    if standing.worst_high < least("remove_moved"):
        return _almost(
            ground,
            "Within a reading's own ± it turns. Read it again.",
            HangsOn("reading", standing.worst_by, say("Read it again.")),
        )
    return None


def _its_plate(ground: Ground) -> HangsOn | None:
    """The plate, where its target is guessed: what one maker calls too much another asks for."""
    if not ground.target_is_guessed:
        return None
    return HangsOn(
        "look",
        "plate",
        say("Find the target subcooling on the plate: makers differ, and a guess proves nothing."),
    )


def _parting(ground: Ground) -> HangsOn | None:
    """The standing test, while air in the system is a live rival and nothing has parted it."""
    if _air_is_parted(ground) or ground.belief("non_condensables") < 0.02:
        return None
    return hang_on_check(CHECKS["standing_pressure"])


def _air_is_parted(ground: Ground) -> bool:
    case = ground.case
    return (
        case.saw("standing_pressure_right")
        or "condensing_over_ambient" in case.context.own
        or (
            case.saw("circuit_never_opened")
            and case.derived.approach is not None
            and departures_of_approach(case) <= APPROACH_NEAR_K
        )
    )


def _air_not_parted(ground: Ground) -> Finding | None:
    if is_trimmed(ground):
        return None
    if not reads_high(ground) or _air_is_parted(ground):
        return None
    return _almost(
        ground,
        "Air in the system reads the same. Stop it, run the outdoor fan, compare the "
        "standing pressure; or say that the circuit was never open.",
        hang_on_check(CHECKS["standing_pressure"]),
    )


def _steps_open(ground: Ground) -> Finding | None:
    found = open_steps(ground, "Too much charge:") if reads_high(ground) else None
    return None if found is None else replace(found, state="high")


def _past_a_gate(ground: Ground) -> Finding | None:
    if not reads_high(ground) or not any(b.passed for b in ground.breaches):
        return None
    return Finding(paragraph("Too much charge:", evidence(ground), PAST_ITS_GATE), "high")


def _remove(ground: Ground) -> Finding | None:
    if not reads_high(ground):
        return None
    opening = "Too much charge, with the outdoor coil and fan seen right:"
    if ground.is_brought_to_plate:
        opening = "Proven tight and weighed in, it stands over what its plate asks for:"
    return Finding(
        paragraph(
            opening,
            evidence(ground),
            INTO_RECOVERY,
        ),
        "high",
        belief=ground.standing.high_alone,
        wrong_if=(
            say("Nothing moves after the wait: then it is not charge, and no more comes out."),
        ),
    )


def _unsure_reading(ground: Ground) -> Finding | None:
    """An old or estimated pressure or clamp moves nothing, whatever it says."""
    unsure = [point for point in four_of(ground.case) if point in ground.case.context.unsure]
    if not reads_high(ground) or not unsure:
        return None
    label = POINTS[unsure[0]].label.lower()
    said = say(f"Measure {label}: it is old, or an estimate.")
    return _almost(ground, said.template, HangsOn("reading", unsure[0], said))


def _almost(ground: Ground, what: str, hangs: HangsOn | None) -> Finding:
    belief = 0.0 if ground.weighing is None else ground.weighing.alone("overcharge")
    return Finding(
        joined(
            [
                paragraph("It reads high on charge:", evidence(ground)),
                say("{sure} too much charge.", sure=percent(belief)),
                say(what),
            ]
        ),
        "high",
        hangs_on=hangs,
        belief=belief,
    )


HIGH: tuple[Rule, ...] = (
    Rule("took_too_much", "charge", "Take part of the last dose back.", "remove", "act",
         "What went in on this visit and went past the window is known, and comes out again.",
         _took_too_much),
    Rule("air_not_charge", "charge", "Not a charge reading. Look at the indoor air.",
         "do_not_charge", "air", "A low superheat without a full liquid line is air or load.",
         _air_not_charge),
    Rule("high_contradicted", "charge", "Not proven to be charge. Do not add or remove.",
         "do_not_charge", "judge", "Something measured contradicts too much charge.",
         _contradicted),
    Rule("high_missing", "charge", "Looks overcharged. Not proven: do not remove yet.",
         "do_not_charge", "air", "Coil and fan are looked at before anything comes out.",
         _something_missing),
    Rule("high_old", "charge", "Looks overcharged. Not proven: do not remove yet.",
         "do_not_charge", "read", "Old and estimated readings prove nothing.", _unsure_reading),
    Rule("indoor_air_open", "charge", "Looks overcharged. Not proven: do not remove yet.",
         "do_not_charge", "air", "On an orifice the indoor air is ruled out first.",
         _indoor_air_open),
    Rule("high_another_leads", "charge", "Reads high. Not proven to be charge: do not remove yet.",
         "do_not_charge", "judge", "What explains the readings better is settled first.",
         _another_leads),
    Rule("high_unsure", "charge", "Reads high. Not proven to be charge: do not remove yet.",
         "do_not_charge", "judge", "The beliefs are not sure enough, or turn within a reading's "
         "own ±.", _not_sure),
    Rule("air_not_parted", "charge", "Reads high. Rule out air in the system first.",
         "do_not_charge", "act", "Air in the system reads like too much charge.", _air_not_parted),
    Rule("high_steps_open", "charge", "Looks overcharged. First what stands before judging.",
         "do_not_charge", "air", "Air, and the proofs of a new circuit, come before charge moves.",
         _steps_open),
    Rule("high_past_gate", "charge", "Looks overcharged, judged past a gate: do not remove.",
         "do_not_charge", "act", "What was judged past a gate moves no refrigerant.",
         _past_a_gate),
    Rule("remove", "charge", "Remove refrigerant, a little at a time.", "remove", "act",
         "Too much charge stands alone, coil and fan are right, air is ruled out.", _remove),
)  # fmt: skip
