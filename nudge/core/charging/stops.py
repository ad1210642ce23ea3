"""When to stop: one row a rule. A stop re-opens the case; it is never argued with by dosing on."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from nudge.core.charging.shortfall import UNLIKELY, Settled, Shortfall
from nudge.core.charging.ways import SUPERHEAT_FLOOR_K
from nudge.core.judgement.assess import Assessment
from nudge.core.said import Said, degrees_f, difference, say, temperature

IN_VAIN = 2
"""Doses without an answer after which it is not charge."""
MOVED_K, ROSE_K = degrees_f(0.8), degrees_f(3)
HEAD_LIMIT_C = 65.0
"""Condensing over 149 °F is near every high-pressure switch."""
MOST_ADDED = 0.50
RIVAL, SURE_RIVAL = 0.50, 0.90
"""Belief at which another suspect ends it: where the dose was not answered, and where it was."""
CHARGE = {"undercharge", "overcharge", "none", "something_else", "high_indoor_load",
          "low_indoor_load"}  # fmt: skip


@dataclass(frozen=True, slots=True)
class StopRow:
    """A rule of `STOPS`, with its reason."""

    key: str
    reason: str
    said: Callable[["Step"], Said | None]


@dataclass(frozen=True, slots=True)
class Stop:
    """A rule that holds here, in words."""

    key: str
    said: Said


@dataclass(frozen=True, slots=True)
class Step:
    """Where a charging visit stands: what a rule may look at."""

    assessed: Assessment
    added_kg: tuple[float, ...]
    learned: Shortfall
    settled: Sequence[Settled]

    @property
    def has_dosed(self) -> bool:
        return any(self.added_kg)


def _superheat_falls(step: Step) -> Said | None:
    superheat = step.assessed.case.derived.superheat
    adds = sum(step.added_kg) > 0
    if superheat is None or not adds or superheat >= SUPERHEAT_FLOOR_K:
        return None
    return say("Superheat is {now}, under {floor}: stop adding. Liquid is near the compressor.",
               now=difference(superheat), floor=difference(SUPERHEAT_FLOOR_K))  # fmt: skip


def _head_over(step: Step) -> Said | None:
    saturation = step.assessed.case.derived.condenser_saturation
    if saturation is None or saturation <= HEAD_LIMIT_C:
        return None
    return say("Condensing at {now}, over {limit}: stop. Look at the outdoor coil, the fan and the "
               "load.", now=temperature(saturation), limit=temperature(HEAD_LIMIT_C))  # fmt: skip


def _in_vain(step: Step) -> Said | None:
    """Neither of two doses did anything that this system, or any, would do."""
    doses = [kg for kg in step.added_kg[1:] if kg]
    if len(doses) < IN_VAIN or step.learned.surprise_in_all > UNLIKELY:
        return None
    first, last = step.settled[-1 - IN_VAIN], step.settled[-1]
    pairs = ((first.subcooling_off_k, last.subcooling_off_k),
             (first.superheat_off_k, last.superheat_off_k))  # fmt: skip
    moved = [abs(b - a) for a, b in pairs if a is not None and b is not None]
    if any(change > MOVED_K for change in moved):
        return None
    return say(f"{IN_VAIN} doses did nothing: it is not charge. Walk the liquid line, test the "
               "metering device; what went in may have to come out again.")  # fmt: skip


def _wrong_way(step: Step) -> Said | None:
    """Superheat climbs or subcooling stands still while suction falls: it is not getting there."""
    if not step.has_dosed or len(step.settled) < 2 or step.added_kg[-1] <= 0:
        return None
    before, now = step.settled[-2], step.settled[-1]
    rose = _change(before.superheat_off_k, now.superheat_off_k)
    if rose < ROSE_K or _change(before.subcooling_off_k, now.subcooling_off_k) > MOVED_K:
        return None
    return say("Superheat rose by {rose} after a dose: liquid is not getting through. Stop, and "
               "look for a restriction or a starving valve.", rose=difference(rose))  # fmt: skip


def _change(before: float | None, now: float | None) -> float:
    return 0.0 if before is None or now is None else now - before


def _too_much_in(step: Step) -> Said | None:
    whole = max((g.whole_kg for g in step.learned.guesses), default=0.0)
    if not whole or sum(step.added_kg) < MOST_ADDED * whole:
        return None
    return say("More than half a charge has gone in. It is lost somewhere, or it was empty: find "
               "the leak, recover, evacuate and weigh in.")  # fmt: skip


def _another_suspect(step: Step) -> Said | None:
    """Once refrigerant moved, the judge looks again: another leader ends it."""
    weighing = step.assessed.weighing
    if not step.has_dosed or weighing is None:
        return None
    leader, belief = next(iter(weighing.suspects.items()))
    is_answered = step.learned.surprise > UNLIKELY
    if leader in CHARGE or belief < (SURE_RIVAL if is_answered else RIVAL):
        return None
    first = step.assessed.suspects[0].suspect
    return say(f"What the doses did points to “{first.label.lower()}”, not to charge. {first.act}")


STOPS: tuple[StopRow, ...] = (
    StopRow("superheat_falls", "Under 5 °F of superheat on the way in, liquid is near the "
            "compressor.", _superheat_falls),
    StopRow("head_over", "A head near its switch is a condenser or an overcharge, never low "
            "charge.", _head_over),
    StopRow("in_vain", "No response to two doses: it is not charge, and the case is opened again.",
            _in_vain),
    StopRow("wrong_way", "Superheat that rises while refrigerant goes in is liquid held back.",
            _wrong_way),
    StopRow("too_much_in", "Half a charge missing is a leak or an empty system, not a trim.",
            _too_much_in),
    StopRow("another_suspect", "A dose is a test: when it convicts something else, dosing ends.",
            _another_suspect),
)  # fmt: skip


def stopped(step: Step) -> Stop | None:
    """The first rule that holds, in the order of `STOPS`."""
    for row in STOPS:
        said = row.said(step)
        if said is not None:
            return Stop(row.key, said)
    return None
