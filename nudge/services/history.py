"""What a system showed on the visits it was found right."""

from collections.abc import Sequence
from statistics import median
from typing import Any

from nudge.core.look.estimate import OwnHistory
from nudge.core.units import Quantity, to_si
from nudge.store.tables import Verdict

LAST_VISITS = 5


def own_history(earlier: Sequence[Verdict]) -> OwnHistory:
    """The middle of the last right verdicts, latest first. Verdicts are kept in field units."""
    right = [v.answer for v in earlier if _was_right(v.answer)][:LAST_VISITS]
    return OwnHistory(
        _middle(right, "evaporator_difference"),
        _middle(right, "condensing_over_ambient"),
        _middle(right, "approach"),
    )


def _was_right(answer: dict[str, Any]) -> bool:
    return bool(answer["charge"]["advice"] == "leave" and not answer["hazards"])


def _middle(answers: list[dict[str, Any]], key: str) -> float | None:
    known = [a["derived"][key] for a in answers if a["derived"].get(key) is not None]
    if not known:
        return None
    return to_si(median(known), Quantity.TEMPERATURE_DIFFERENCE, "ip")
