"""What `assess` answers, in the units asked for.

Plain frozen dataclasses: built only here, from typed values, so there is nothing to check
again; Pydantic writes them out and describes them in the OpenAPI document.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter

from nudge.core.circuit.derived import Derived
from nudge.core.circuit.derived_table import DERIVED
from nudge.core.judgement.assess import Assessment
from nudge.core.judgement.beliefs import Belief
from nudge.core.said import Reader, Said
from nudge.core.units import Quantity, UnitSystem, from_si
from nudge.core.vocabulary.observations import OBSERVATIONS

_K = Quantity.TEMPERATURE_DIFFERENCE
_DERIVED = tuple((key, row.quantity) for key, row in DERIVED.items())


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


@dataclass(frozen=True, slots=True)
class OtherMethodOut:
    method: str
    label: str
    state: Literal["low", "right", "high", "unknown"]
    off_by: float


@dataclass(frozen=True, slots=True)
class ChargeOut:
    state: Literal["low", "right", "high", "unknown"]
    advice: Literal["add", "remove", "leave", "do_not_charge", "find_leak"]
    headline: str
    reason: str
    cautions: list[str]
    method: str | None
    other_methods: list[OtherMethodOut]


@dataclass(frozen=True, slots=True)
class SuspectOut:
    """`for` is a Python keyword, so it has another name on this side of the JSON."""

    fault: str
    label: str
    belief: float
    speaks_for: Annotated[list[str], Field(serialization_alias="for")]
    against: list[str]
    missing: list[str]


@dataclass(frozen=True, slots=True)
class NextCheckOut:
    key: str
    label: str
    why: str
    minutes: float
    separates: list[str]
    caution: str
    outcomes: list[str]
    """Observation keys that would record the result."""


@dataclass(frozen=True, slots=True)
class HazardOut:
    key: str
    message: str


@dataclass(frozen=True, slots=True)
class AssessOut:
    """The whole answer. `derived` has every key; null where a reading is missing."""

    units: UnitSystem
    derived: dict[str, float | None]
    targets: dict[str, TargetOut]
    readiness: list[ReadinessOut]
    charge: ChargeOut
    suspects: list[SuspectOut]
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


def answer(result: Assessment, units: UnitSystem) -> AssessOut:
    """The assessment as the contract's JSON. Numbers to three decimals, beliefs to four."""
    deciding = result.targets.deciding
    read = Reader(units).read
    return AssessOut(
        units=units,
        derived=_derived(result.case.derived, units),
        targets={
            judged: TargetOut(
                value=_difference(target.value, units),
                low=_difference(target.low, units),
                high=_difference(target.high, units),
                method=target.method,
                source=target.source,
            )
            for judged, target in result.targets.windows.items()
        },
        readiness=[
            ReadinessOut(key=check.key, effect="blocks", message=said.text(units))
            for check, said in result.doubts
        ]
        + [
            ReadinessOut(key=b.gate.key, effect=b.gate.effect, message=b.message.text(units))
            for b in result.breaches
        ],
        charge=ChargeOut(
            state=result.charge.state,
            advice=result.charge.advice,
            headline=result.charge.headline,
            reason=result.charge.reason.text(units),
            cautions=[read(caution.text) for caution in result.cautions],
            method=deciding.key if deciding else None,
            other_methods=[
                OtherMethodOut(
                    method=other.school.key,
                    label=other.school.label,
                    state=other.state,
                    off_by=_difference(other.off_by_k, units),
                )
                for other in result.charge.other_methods
            ],
        ),
        suspects=[_suspect(belief, read) for belief in result.suspects],
        next_checks=[
            NextCheckOut(
                key=check.key,
                label=check.label,
                why=check.why,
                minutes=check.minutes,
                separates=list(check.separates),
                caution=check.caution,
                outcomes=[key for key in check.done_by if key in OBSERVATIONS],
            )
            for check in result.checks
        ],
        hazards=[
            HazardOut(key=hazard.key, message=said.text(units)) for hazard, said in result.hazards
        ],
    )


def _suspect(belief: Belief, read: Callable[[Said], str]) -> SuspectOut:
    return SuspectOut(
        fault=belief.suspect.key,
        label=belief.suspect.label,
        belief=round(belief.belief, 4),
        speaks_for=[read(said) for said in belief.speaks_for],
        against=[read(said) for said in belief.speaks_against],
        missing=list(belief.missing),
    )


def _difference(kelvin: float, units: UnitSystem) -> float:
    return round(from_si(kelvin, _K, units), 3)


def _derived(derived: Derived, units: UnitSystem) -> dict[str, float | None]:
    found: dict[str, float | None] = {}
    for key, quantity in _DERIVED:
        value = getattr(derived, key)
        found[key] = None if value is None else round(from_si(value, quantity, units), 3)
    return found
