"""The one decision: made here once, rendered everywhere."""

from nudge.core.judgement.decision.decision import (
    Advice,
    ChargeState,
    Decision,
    Dose,
    HangsOn,
    OtherMethod,
)
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.rules import RULES, decide

__all__ = [
    "RULES",
    "Advice",
    "ChargeState",
    "Decision",
    "Dose",
    "Ground",
    "HangsOn",
    "OtherMethod",
    "decide",
]
