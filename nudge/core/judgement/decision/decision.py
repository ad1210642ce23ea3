"""The one decision of a case: what every screen, card, paper and answer renders.

Made once, by `rules.decide`, from the case, its deciding target and the weighed suspects. The
advisor fills in how much (`dose`, `trim`); whether is decided here alone.
"""

from dataclasses import dataclass
from typing import Literal

from nudge.core.judgement.diagnosis import Diagnosis
from nudge.core.judgement.hazards import Hazard
from nudge.core.judgement.proof import HangsKind
from nudge.core.language.said import Said
from nudge.core.language.vocabulary.stages import Stage
from nudge.core.targets.school import Judged, School, Target

ChargeState = Literal["low", "right", "high", "unknown"]
Advice = Literal["add", "remove", "leave", "do_not_charge", "find_leak", "weigh_in"]
Order = Literal["danger", "impossible", "first", "clocks", "charge"]


@dataclass(frozen=True, slots=True)
class HangsOn:
    """The one thing that stands between this and an answer: a reading's point, an observation
    or a check to look for, a test, work to be done, or minutes.
    """

    kind: HangsKind
    key: str
    why: Said
    also: tuple["HangsOn", ...] = ()
    """What will be asked for next whatever this says: brought on the same way to the machine."""


@dataclass(frozen=True, slots=True)
class OtherMethod:
    """What another school would have decided, and how far the measured value is off its target."""

    school: School
    state: ChargeState
    off_by_k: float


@dataclass(frozen=True, slots=True)
class Dose:
    """How much moves next [kg, minus for out], and where what is watched settles after it [K]."""

    amount_kg: float
    watched: Judged
    expected_low_k: float
    expected_k: float
    expected_high_k: float
    wait_minutes: float


RIGHT_UNCHARGED = frozenset({"heat_right", "room_right"})
"""Answers that find plant right without a word of its charge."""


@dataclass(frozen=True, slots=True)
class Decision:
    """One answer, whole. Hazards stand beside it whatever it says.

    `belief` is how sure it is of what it says: of low (or high) charge where it speaks of that,
    else of its leading suspect.
    """

    key: str
    order: Order
    headline: str
    advice: Advice
    state: ChargeState
    reason: Said
    stage: Stage
    belief: float
    diagnosis: Diagnosis | None = None
    target: Target | None = None
    judged: Judged | None = None
    off_k: float | None = None
    """How far what is judged stands off its target [K]; None unread."""
    hangs_on: HangsOn | None = None
    hazards: tuple[tuple[Hazard, Said], ...] = ()
    dose: Dose | None = None
    trim: Dose | None = None
    """A small dose to the target itself, inside the window already: a choice, never urged."""
    ready_in: float | None = None
    """Minutes after the readings (or the change since) until it may be read again."""
    wrong_if: tuple[Said, ...] = ()
    watch: tuple[Said, ...] = ()
    """What to watch while it waits."""
    other_methods: tuple[OtherMethod, ...] = ()

    @property
    def is_right(self) -> bool:
        """Nothing is to be done to it: its charge is right, or it heats as it should."""
        return self.advice == "leave" or self.key in RIGHT_UNCHARGED

    @property
    def moves_refrigerant(self) -> bool:
        return self.advice in ("add", "remove")
