"""A system’s book over the wire: baseline, drift, what is left, what was written."""

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from nudge.contract.request import Name
from nudge.contract.strict import Number, Strict, YesNo
from nudge.core.drift.drift import INTENDED, Drift, measure
from nudge.core.language.said import worded
from nudge.core.language.units import Quantity, UnitSystem, from_si, unit_label
from nudge.core.visit.seasons import SEASONS
from nudge.presenters.book import Id
from nudge.presenters.choices import ChoiceOut
from nudge.presenters.notes import Short
from nudge.services.baselines import Against
from nudge.services.rows import Deferred, IntendedChange
from nudge.services.system_records import Records


class NewEntry(Strict):
    id: Id


class BaselineEnd(NewEntry):
    """The baseline of a mode that no longer holds; the newest where none is said."""

    mode: Literal["", "cooling", "heating"] = ""


class NewIntended(Strict):
    id: Id
    key: Annotated[str, Field(max_length=80)]
    note: Short = ""
    corrects: Id | None = None


class NewDeferred(Strict):
    id: Id
    text: Short
    season: Name = "any"
    due_on: date | None = None


class DeferredDone(Strict):
    done: YesNo


class WrittenCharge(Strict):
    """The whole charge in pounds (ip) or kilograms; null takes it away."""

    charge: Annotated[Number, Field(gt=0)] | None


class MovedOut(BaseModel):
    """One sign against the baseline, and what it wanders anyway (1 σ)."""

    key: str
    label: str
    by: float
    sigma: float
    unit: str
    is_out: bool
    is_intended: bool


class DriftOut(BaseModel):
    since: datetime
    baseline_visit: str
    is_flagged: bool
    said: str
    causes: list[ChoiceOut]
    moved: list[MovedOut]
    intended: list[str]


class DeferredOut(BaseModel):
    id: str
    system_id: str
    visit_id: str
    text: str
    season: str
    due_on: date | None
    created_at: datetime
    done_at: datetime | None


class IntendedOut(BaseModel):
    id: str
    label: str
    note: str
    happened_at: datetime


class SnapOut(BaseModel):
    """One settled moment of a past visit; differences in the units asked for."""

    visit_id: str
    at: datetime
    outdoor: float | None
    values: dict[str, float]
    advice: str
    mode: Literal["cooling", "heating"]


class BaselineOut(BaseModel):
    """The baseline of a mode, and the last visit in that mode laid beside it."""

    mode: Literal["cooling", "heating"]
    baseline_at: datetime
    baseline_visit: str
    drift: DriftOut | None
    compared_visit: str


class RecordsOut(BaseModel):
    """A system's book: baselines and drift, changes, open items, charge, every settled snapshot."""

    baselines: list[BaselineOut]
    intended: list[IntendedOut]
    deferred: list[DeferredOut]
    snaps: list[SnapOut]
    unit: str
    added: float
    removed: float
    charge_unit: str
    written_charge: float | None
    written_at: datetime | None


def deferred_out(row: Deferred, units: UnitSystem) -> DeferredOut:
    season = SEASONS.get(row.season)
    return DeferredOut(
        id=row.id,
        system_id=row.system_id,
        visit_id=row.visit_id,
        text=row.text,
        season=worded(season.label, units) if season else row.season,
        due_on=row.due_on,
        created_at=row.created_at,
        done_at=row.done_at,
    )


def drift_out(found: Against | None, units: UnitSystem) -> DriftOut | None:
    if found is None:
        return None
    drift: Drift = found.drift
    moved = []
    for one in drift.moved:
        quantity = measure(one.sign, one.by).quantity
        moved.append(
            MovedOut(
                key=one.sign.key,
                label=one.sign.label,
                unit=unit_label(quantity, units),
                by=round(from_si(one.by, quantity, units), 2),
                sigma=round(from_si(one.sigma, quantity, units), 2),
                is_out=one.is_out,
                is_intended=one.is_intended,
            )
        )
    return DriftOut(
        since=found.baseline.set_at,
        baseline_visit=found.baseline.visit_id,
        is_flagged=drift.is_flagged,
        said=drift.said.text(units),
        causes=[ChoiceOut(key=named.cause.key, label=named.cause.label) for named in drift.causes],
        moved=moved,
        intended=[INTENDED[key].label for key in found.intended],
    )


def records_out(found: Records, units: UnitSystem) -> RecordsOut:
    kelvin = Quantity.TEMPERATURE_DIFFERENCE
    system = found.system
    return RecordsOut(
        baselines=[
            BaselineOut(
                mode=one.mode,
                baseline_at=one.baseline.set_at,
                baseline_visit=one.baseline.visit_id,
                drift=drift_out(one.against, units),
                compared_visit=one.compared_visit,
            )
            for one in found.standings
        ],
        intended=[_intended(row) for row in found.intended],
        deferred=[deferred_out(row, units) for row in found.deferred],
        snaps=[
            SnapOut(
                visit_id=snap.visit_id,
                at=snap.at,
                advice=snap.advice,
                mode=snap.mode,
                outdoor=None
                if snap.outdoor_c is None
                else round(from_si(snap.outdoor_c, Quantity.TEMPERATURE, units), 1),
                values={k: round(from_si(v, kelvin, units), 1) for k, v in snap.values.items()},
            )
            for snap in found.snaps
        ],
        unit=unit_label(kelvin, units),
        added=_mass(found.added_kg, units),
        removed=_mass(found.removed_kg, units),
        charge_unit=unit_label(Quantity.MASS, units),
        written_charge=None
        if system.written_charge_kg is None
        else _mass(system.written_charge_kg, units),
        written_at=system.written_charge_at,
    )


def _intended(row: IntendedChange) -> IntendedOut:
    return IntendedOut(
        id=row.id, label=INTENDED[row.key].label, note=row.note, happened_at=row.happened_at
    )


def _mass(kg: float, units: UnitSystem) -> float:
    return round(from_si(kg, Quantity.MASS, units), 2)
