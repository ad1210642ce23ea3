"""What a system showed on the visits it was found right."""

from collections.abc import Sequence
from statistics import median

from nudge.core.gaugeless.estimate import OwnHistory
from nudge.core.visit.record.kept import Kept

LAST_VISITS = 5


def own_history(earlier: Sequence[Kept]) -> OwnHistory:
    """The middle of the last right verdicts, latest first."""
    right = [one for one in earlier if one.was_right][:LAST_VISITS]
    return OwnHistory(
        _middle(right, "evaporator_difference"),
        _middle(right, "condensing_over_ambient"),
        _middle(right, "approach"),
    )


def _middle(kept: Sequence[Kept], key: str) -> float | None:
    known = [one.derived[key] for one in kept if key in one.derived]
    return median(known) if known else None
