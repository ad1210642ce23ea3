"""The shapes of an assessment, as the contract writes them."""

from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter

from nudge.contract.decision_answer import DecisionOut
from nudge.core.judgement.decision.decision import Advice
from nudge.core.language.units import (
    UnitSystem,
)


@dataclass(frozen=True, slots=True)
class TargetOut:
    value: float
    low: float
    high: float
    method: str
    source: str


@dataclass(frozen=True, slots=True)
class ReadinessOut:
    key: str
    effect: Literal["blocks", "warns"]
    message: str
    passed: bool = False
    """Somebody passed it on purpose; the message says why."""
    may_pass: bool = False


@dataclass(frozen=True, slots=True)
class OtherMethodOut:
    method: str
    label: str
    state: Literal["low", "right", "high", "unknown"]
    off_by: float


@dataclass(frozen=True, slots=True)
class ChargeOut:
    """The decision as it was written before it had a place of its own. Derived from it."""

    state: Literal["low", "right", "high", "unknown"]
    advice: Advice
    headline: str
    reason: str
    cautions: list[str]
    method: str | None
    other_methods: list[OtherMethodOut]


@dataclass(frozen=True, slots=True)
class LandsOut:
    """Where a suspect would put this system on the target map: middle ± one spread."""

    superheat: float
    superheat_spread: float
    subcooling: float
    subcooling_spread: float


@dataclass(frozen=True, slots=True)
class SuspectOut:
    """`for` is a Python keyword, so it has another name on this side of the JSON."""

    fault: str
    label: str
    belief: float
    severity: str
    which: str
    """Which of its faults it mostly is, in words; "" while that is open."""
    act: str
    told_apart_by: str
    speaks_for: Annotated[list[str], Field(serialization_alias="for")]
    against: list[str]
    missing: list[str]
    for_signs: list[str]
    """Sentence by sentence, the sign, observation or episode it speaks of."""
    against_signs: list[str]
    missing_signs: list[str]
    acquits: list[str]
    """Observations that speak strongly against it."""
    convicts: list[str]
    lands: LandsOut | None


@dataclass(frozen=True, slots=True)
class DiagnosisOut:
    sentence: str
    faults: list[str]
    confidence: Literal["sure", "likely", "open"]
    severity: str
    act: str
    valve: str


@dataclass(frozen=True, slots=True)
class PairOut:
    faults: list[str]
    label: str
    belief: float
    order: str


@dataclass(frozen=True, slots=True)
class SignOut:
    """One sign: measured, expected of this system today, and the readings it rests on."""

    key: str
    label: str
    value: float
    expected: float
    off: float
    unit: str
    points: list[str]


@dataclass(frozen=True, slots=True)
class EpisodeOut:
    key: str
    message: str


@dataclass(frozen=True, slots=True)
class StretchOut:
    """One stretch of the temperature walk, from one point to the next."""

    key: str
    start: str
    end: str
    drop: float
    state: Literal["normal", "watch", "restricted"]
    message: str


@dataclass(frozen=True, slots=True)
class OutcomeOut:
    """One way a check can come out, and who would lead then."""

    observation: str
    label: str
    chance: float
    leads: str
    leads_label: str
    belief: float


@dataclass(frozen=True, slots=True)
class NextCheckOut:
    key: str
    label: str
    why: str
    minutes: float
    separates: list[str]
    caution: str
    how: list[str]
    points: list[str]
    form: str
    """The form it is filled in with; "" where a reading or a tick says it."""
    outcomes: list[OutcomeOut]


@dataclass(frozen=True, slots=True)
class HazardOut:
    key: str
    effect: Literal["warns", "stops"]
    message: str


@dataclass(frozen=True, slots=True)
class AssessOut:
    """The whole answer. `derived` has every key; null where a reading is missing."""

    units: UnitSystem
    derived: dict[str, float | None]
    targets: dict[str, TargetOut]
    readiness: list[ReadinessOut]
    decision: DecisionOut
    charge: ChargeOut
    diagnosis: DiagnosisOut | None
    suspects: list[SuspectOut]
    pairs: list[PairOut]
    signs: list[SignOut]
    over_time: list[EpisodeOut]
    walk: list[StretchOut]
    next_checks: list[NextCheckOut]
    hazards: list[HazardOut]

    def to_json(self) -> bytes:
        """The answer as it goes over the wire."""
        return _ADAPTER.dump_json(self, by_alias=True)

    def to_dict(self) -> dict[str, Any]:
        """The answer as plain JSON values."""
        plain: dict[str, Any] = _ADAPTER.dump_python(self, mode="json", by_alias=True)
        return plain


_ADAPTER = TypeAdapter(AssessOut)
