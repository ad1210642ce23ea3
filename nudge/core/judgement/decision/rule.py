"""What a rule of the decision is: a row with its reason, and what it finds on a case."""

from collections.abc import Callable
from dataclasses import dataclass

from nudge.core.judgement.decision.decision import Advice, ChargeState, HangsOn, Order
from nudge.core.judgement.decision.ground import Ground
from nudge.core.language.said import Said
from nudge.core.language.vocabulary.stages import Stage


@dataclass(frozen=True, slots=True)
class Finding:
    """What a rule found: why, and what of its row is different here."""

    reason: Said
    state: ChargeState = "unknown"
    headline: str = ""
    """"" for the row's own."""
    advice: Advice | None = None
    """None for the row's own."""
    hangs_on: HangsOn | None = None
    stage: Stage | None = None
    ready_in: float | None = None
    wrong_if: tuple[Said, ...] = ()
    watch: tuple[Said, ...] = ()
    belief: float | None = None
    """How sure, where it speaks of low or high charge; None for the leader's."""


@dataclass(frozen=True, slots=True)
class Rule:
    """One row: the first that finds something decides.

    `order` is what it speaks of: danger, impossible readings, what comes first, clocks, charge.
    """

    key: str
    order: Order
    headline: str
    advice: Advice
    stage: Stage
    reason: str
    finds: Callable[[Ground], Finding | None]
