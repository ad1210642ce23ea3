"""What a multi-zone plant's log comes to: one answer, and what would settle it.

Under an hour of what counts nothing is judged. Charge is never trimmed: what is short is recovered,
weighed and weighed in, and only once everything that looks the same is excluded.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from nudge.core.multizone.measuring import signs_of
from nudge.core.multizone.patterns import (
    NONE,
    OF_CHARGE,
    PATTERNS,
    SMALLEST_ROOM,
)
from nudge.core.multizone.signs import ZoneSigns
from nudge.core.multizone.weigh import Carried, ZoneBelief, ZoneTable, weigh, zone_table
from nudge.core.physics.zones.log import ZoneLog
from nudge.core.physics.zones.parts import Parts
from nudge.core.physics.zones.points import OUTDOOR

LEADS = 0.6
"""From this belief on a pattern is named. Under it the log cannot tell, and says so."""
EXCLUDED = 0.1
"""What looks like a charge that is wrong is excluded once all of it is believed less than this."""
NAMED = 0.5
SHOWN = 0.02
State = Literal["not_an_hour", "cannot_tell", "well", "named"]


@dataclass(frozen=True, slots=True)
class ZoneDecision:
    """One answer. It never moves refrigerant: such a plant is weighed in, never trimmed."""

    state: State
    headline: str
    reason: str
    pattern: str = ""
    parts: tuple[str, ...] = ()
    """The parts that carry it: `outdoor` or a room."""
    check: str = ""
    """The check that would settle it."""
    act: str = ""
    caution: str = ""

    @property
    def moves_refrigerant(self) -> bool:
        return False


@dataclass(frozen=True, slots=True)
class ZoneReading:
    """A log read: its signs, beliefs that add to one, and what they come to."""

    signs: ZoneSigns
    beliefs: Sequence[ZoneBelief]
    decision: ZoneDecision

    @property
    def is_judged(self) -> bool:
        return self.decision.state != "not_an_hour"

    @property
    def named(self) -> tuple[tuple[str, str], ...]:
        """Every pattern at a part that is believed more than not, alone or beside another."""
        return believed(self.beliefs, NAMED)

    @property
    def shown(self) -> Sequence[ZoneBelief]:
        """What is worth telling of; the rest is “something else”."""
        return [one for one in self.beliefs if one.belief >= SHOWN]


def read_log(log: ZoneLog, parts: Parts) -> ZoneReading:
    """A log, read by the table that ships."""
    return read_zones(signs_of(log, parts), log.is_an_hour, zone_table(), log.kept_s, parts)


def read_zones(
    signs: ZoneSigns,
    is_an_hour: bool,
    table: ZoneTable | None,
    kept_s: float = 0.0,
    parts: Parts | None = None,
) -> ZoneReading:
    """The signs of a log, weighed. Nothing is weighed of less than an hour."""
    if not is_an_hour or table is None:
        return ZoneReading(signs, (), _too_short(kept_s))
    beliefs = weigh(signs, table)
    return ZoneReading(signs, beliefs, decided(beliefs, parts))


def _too_short(kept_s: float) -> ZoneDecision:
    minutes = int(kept_s // 60)
    return ZoneDecision(
        "not_an_hour",
        "Not an hour yet.",
        f"{minutes} minutes of it count: running, past its warm-up, in one mode. Such a plant "
        "hides its trouble for longer than that. Log on.",
    )


def decided(beliefs: Sequence[ZoneBelief], parts: Parts | None) -> ZoneDecision:
    """What beliefs, the likeliest first, come to."""
    best = beliefs[0]
    if not best.carried and best.belief >= LEADS:
        said = "What this log did not pass through, it does not show."
        return ZoneDecision(
            "well", "Nothing stands out.", f"{PATTERNS[NONE].sentence} {said}", NONE
        )
    sure = believed(beliefs, LEADS)
    if best.carried and sure:
        return _named(beliefs, sure, parts)
    return _open(beliefs, best if best.carried else beliefs[1], parts)


def believed(beliefs: Sequence[ZoneBelief], least: float) -> Carried:
    """Every pattern at a part that is believed at least so much, alone and beside others."""
    whole: dict[tuple[str, str], float] = {}
    for one in beliefs:
        for pair in one.carried:
            whole[pair] = whole.get(pair, 0.0) + one.belief
    return tuple(pair for pair, belief in whole.items() if belief >= least)


def _open(beliefs: Sequence[ZoneBelief], best: ZoneBelief, parts: Parts | None) -> ZoneDecision:
    """No pattern leads: what is possible, and what would part it."""
    pattern, part = best.carried[-1]
    row = PATTERNS[pattern]
    names = "; ".join(called(one, parts) for one in beliefs[:3])
    return ZoneDecision(
        "cannot_tell",
        "This log cannot tell yet.",
        f"It may be: {names}. {row.parted_by}".strip(),
        pattern,
        (part,),
        row.check,
        caution=_caution([pattern]),
    )


def _named(beliefs: Sequence[ZoneBelief], carried: Carried, parts: Parts | None) -> ZoneDecision:
    rows = [PATTERNS[pattern] for pattern, _ in carried]
    keys = {row.key for row in rows}
    headline = " · ".join(called_alone(pair, parts) for pair in carried)
    reason = " ".join(PATTERNS[key].sentence for key in dict.fromkeys(row.key for row in rows))
    last = rows[-1]
    looks = {key for row in rows for key in row.look_alikes} - keys
    alike = sum(
        one.belief
        for one in beliefs
        if looks & {key for key, _ in one.carried} and not keys & {key for key, _ in one.carried}
    )
    is_open = bool(keys & set(OF_CHARGE)) and alike > EXCLUDED
    act = "" if is_open else " ".join(dict.fromkeys(row.act for row in rows))
    return ZoneDecision(
        "named",
        f"{headline}.",
        f"{reason} {last.parted_by}".strip() if is_open else reason,
        last.key,
        tuple(dict.fromkeys(part for _, part in carried)),
        last.check,
        act,
        _caution([row.key for row in rows]),
    )


def _caution(patterns: Sequence[str]) -> str:
    return SMALLEST_ROOM if set(patterns) & set(OF_CHARGE) else ""


def called(belief: ZoneBelief, parts: Parts | None) -> str:
    """What is believed, in words, with how much."""
    what = " and ".join(called_alone(pair, parts) for pair in belief.carried) or "nothing wrong"
    return f"{what[0].lower()}{what[1:]} ({min(belief.belief, 0.99):.0%})"


def called_alone(pair: tuple[str, str], parts: Parts | None) -> str:
    """A pattern at its part, in words."""
    pattern, part = pair
    label = PATTERNS[pattern].label
    if part == OUTDOOR:
        return label
    name = part if parts is None else parts.room(part).name
    return f"{name}: {label[0].lower()}{label[1:]}"
