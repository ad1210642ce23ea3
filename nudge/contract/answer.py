"""What `assess` answers, in the units asked for."""

from collections.abc import Callable
from functools import cache
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from nudge.core.circuit.derived import DERIVED
from nudge.core.judgement.assess import Assessment
from nudge.core.judgement.beliefs import Belief
from nudge.core.said import Said
from nudge.core.units import Quantity, UnitSystem, from_si

_K = Quantity.TEMPERATURE_DIFFERENCE


class TargetOut(BaseModel):
    value: float
    low: float
    high: float
    method: str
    source: str


class ReadinessOut(BaseModel):
    key: str
    effect: Literal["blocks", "warns"]
    message: str


class OtherMethodOut(BaseModel):
    method: str
    label: str
    state: Literal["low", "right", "high", "unknown"]
    off_by: float


class ChargeOut(BaseModel):
    state: Literal["low", "right", "high", "unknown"]
    advice: Literal["add", "remove", "leave", "do_not_charge", "find_leak"]
    headline: str
    reason: str
    method: str | None
    other_methods: list[OtherMethodOut]


class SuspectOut(BaseModel):
    """`for` is a Python keyword, so it has another name on this side of the JSON."""

    model_config = ConfigDict(validate_by_name=True, serialize_by_alias=True)

    fault: str
    label: str
    belief: float
    speaks_for: Annotated[list[str], Field(alias="for")]
    against: list[str]
    missing: list[str]


class NextCheckOut(BaseModel):
    key: str
    label: str
    why: str
    minutes: float
    separates: list[str]
    caution: str


class HazardOut(BaseModel):
    key: str
    message: str


class AssessOut(BaseModel):
    """The whole answer. `derived` has every key; null where a reading is missing."""

    units: Literal["ip", "si"]
    derived: dict[str, float | None]
    targets: dict[str, TargetOut]
    readiness: list[ReadinessOut]
    charge: ChargeOut
    suspects: list[SuspectOut]
    next_checks: list[NextCheckOut]
    hazards: list[HazardOut]


def answer(result: Assessment, units: UnitSystem) -> AssessOut:
    """The assessment as the contract's JSON. Numbers to three decimals, beliefs to four."""
    deciding = result.targets.deciding
    read = cache(lambda said: said.text(units))  # suspects share most of their sentences
    return AssessOut(
        units=units,
        derived={
            key: _rounded(result.case.derived.get(key), row.quantity, units)
            for key, row in DERIVED.items()
        },
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


def _rounded(value: float | None, quantity: Quantity, units: UnitSystem) -> float | None:
    return None if value is None else round(from_si(value, quantity, units), 3)
