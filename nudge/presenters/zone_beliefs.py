"""What a plant's log may show, over the wire: each pattern once, with what stands beside it."""

from collections.abc import Sequence
from dataclasses import dataclass

from nudge.core.checks.table import CHECKS
from nudge.core.multizone.patterns import NONE, PATTERNS
from nudge.core.multizone.reading import called_alone
from nudge.core.multizone.weigh import ZoneBelief
from nudge.core.physics.zones.parts import Parts

WORTH = 0.05
"""A valve that is believed less beside a charge is not named by itself."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ZoneShareOut:
    """Of a pattern's belief, what is its alone and what with something beside it."""

    label: str
    percent: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ZoneBeliefOut:
    """What may be wrong, where, and how much it is believed; what parts it from its like."""

    label: str
    parts: list[str]
    percent: float
    """Alone and with others together."""
    shares: list[ZoneShareOut]
    """Empty where there is no other beside it."""
    sentence: str
    look_alikes: list[str]
    parted_by: str
    check: str
    check_label: str


def beliefs_out(shown: Sequence[ZoneBelief], parts: Parts) -> list[ZoneBeliefOut]:
    """By what leads each: a charge stands once, whatever valve it is believed beside."""
    groups: dict[tuple[tuple[str, str], ...], list[ZoneBelief]] = {}
    for one in shown:
        is_beside = len({key for key, _ in one.carried}) > 1
        groups.setdefault(one.carried[:1] if is_beside else one.carried, []).append(one)
    found = [_belief(carried, group, parts) for carried, group in groups.items()]
    return sorted(found, key=lambda one: -one.percent)


def _shares(
    carried: Sequence[tuple[str, str]], group: Sequence[ZoneBelief], parts: Parts
) -> list[ZoneShareOut]:
    """Alone, with each that is worth naming, and the rest of them together."""
    named = [one for one in group if len(one.carried) == len(carried) or one.belief >= WORTH]
    found = [
        ZoneShareOut(
            label=_beside([called_alone(pair, parts) for pair in one.carried[len(carried) :]]),
            percent=round(100 * one.belief, 1),
        )
        for one in named
    ]
    rest = sum(one.belief for one in group) - sum(one.belief for one in named)
    if rest > 0:
        label = "with a valve in one room or another"
        found.append(ZoneShareOut(label=label, percent=round(100 * rest, 1)))
    return found


def _beside(others: Sequence[str]) -> str:
    return f"with {' and '.join(others)}" if others else "alone"


def _belief(
    carried: Sequence[tuple[str, str]], group: Sequence[ZoneBelief], parts: Parts
) -> ZoneBeliefOut:
    rows = [PATTERNS[key] for key, _ in carried] or [PATTERNS[NONE]]
    last = rows[-1]
    return ZoneBeliefOut(
        label=" and ".join(called_alone(pair, parts) for pair in carried) or last.label,
        parts=list(dict.fromkeys(part for one in group for _, part in one.carried)),
        percent=round(100 * min(sum(one.belief for one in group), 0.99), 1),
        shares=_shares(carried, group, parts) if len(group) > 1 else [],
        sentence=" ".join(row.sentence for row in dict.fromkeys(rows)),
        look_alikes=[PATTERNS[key].label for key in last.look_alikes],
        parted_by=last.parted_by,
        check=last.check,
        check_label=CHECKS[last.check].label if last.check else "",
    )
