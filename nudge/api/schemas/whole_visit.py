"""The whole visit over the wire: its order, checks, notes, pictures, links; a system's book."""

from collections.abc import Mapping
from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from nudge.api.schemas.book import Id, Text
from nudge.contract.request import Name
from nudge.contract.strict import Number, Strict
from nudge.core.checks.forms import SUBSYSTEMS, Blank, form_named
from nudge.core.drift.drift import INTENDED, Drift, measure
from nudge.core.language.errors import UnknownName
from nudge.core.language.said import worded
from nudge.core.language.units import Quantity, UnitSystem, decimals, from_si, to_si, unit_label
from nudge.core.visit.calls import CALLS
from nudge.core.visit.order import StageState
from nudge.core.visit.seasons import SEASONS
from nudge.services.rows import Deferred, IntendedChange, Note, Photo
from nudge.services.snapshot import Snapshot
from nudge.services.system_records import Against, Records, against
from nudge.services.work_order import Checked, order_now

Short = Annotated[str, Field(strict=True, max_length=500)]


class NewKind(Strict):
    id: Id
    kind: Name


class NewTick(Strict):
    """A step done, skipped (say why, where it blocks), or open again ("")."""

    id: Id
    step: Name
    state: Literal["done", "skipped", ""]
    reason: Short = ""


class NewCheck(Strict):
    """A filled form: numbers in the caller's units, choices by their keys."""

    id: Id
    key: Name
    entries: Annotated[dict[str, Number | Name], Field(max_length=20)]

    def to_core(self, units: UnitSystem) -> dict[str, float | str]:
        """Raises: UnknownName, for a check or an entry."""
        blanks = {blank.key: blank for blank in form_named(self.key).blanks}
        found: dict[str, float | str] = {}
        for name, value in self.entries.items():
            blank = blanks.get(name)
            if blank is None:
                raise UnknownName("entry", name, blanks)
            is_number = blank.quantity is not None and not isinstance(value, str)
            found[name] = to_si(float(value), blank.quantity, units) if is_number else value  # type: ignore[arg-type]
        return found


class NewNote(Strict):
    """A note; `corrects` puts it in another's place, and an empty text takes that back."""

    id: Id
    subsystem: Name
    text: Text
    corrects: Id | None = None


class NewClosing(Strict):
    """Close the visit; with something dangerous open, say why it is left."""

    id: Id
    reason: Short = ""


class NewEntry(Strict):
    id: Id


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
    done: bool


class WrittenCharge(Strict):
    """The whole charge in pounds (ip) or kilograms; null takes it away."""

    charge: Annotated[Number, Field(gt=0)] | None


class NewLinkIn(Strict):
    hours: Number = 4


class GuestNote(Strict):
    id: Id
    text: Text


class StepOut(BaseModel):
    key: str
    label: str
    caution: str
    state: Literal["done", "open", "skipped"]
    reason: str
    by_hand: bool
    blocks: str
    check: str


class StageOut(BaseModel):
    key: str
    label: str
    state: Literal["done", "here", "open", "blocked", "if_needed"]
    why: str
    open_steps: int
    steps: list[StepOut]


class CheckBlankOut(BaseModel):
    key: str
    label: str
    unit: str
    decimals: int
    choices: list[tuple[str, str]]
    is_needed: bool


class CheckOut(BaseModel):
    """A check's form, what was entered (here or, for labels, last time), and what it means."""

    key: str
    label: str
    subsystem: str
    caution: str
    blanks: list[CheckBlankOut]
    entries: dict[str, float | str]
    remembered: dict[str, float | str]
    state: str
    said: list[str]


class NoteOut(BaseModel):
    id: str
    subsystem: str
    subsystem_label: str
    text: str
    written_from: str
    written_at: datetime


class PhotoOut(BaseModel):
    id: str
    subsystem: str
    subsystem_label: str
    caption: str
    width: int
    height: int
    taken_at: datetime


class LinkOut(BaseModel):
    id: str
    expires_at: datetime


class NewLinkOut(LinkOut):
    """`path` is where the link leads on this Nudge: the only time it is told."""

    path: str


class ChoiceOut(BaseModel):
    key: str
    label: str


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


class OrderOut(BaseModel):
    """A visit's order of work and everything that belongs to it."""

    kind: str
    kinds: list[ChoiceOut]
    kind_reason: str
    here: str
    stages: list[StageOut]
    dangers: list[str]
    checks: list[CheckOut]
    notes: list[NoteOut]
    photos: list[PhotoOut]
    links: list[LinkOut]
    subsystems: list[ChoiceOut]
    seasons: list[ChoiceOut]
    intended_kinds: list[ChoiceOut]
    drift: DriftOut | None
    baseline_here: bool
    deferred: list["DeferredOut"]


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


class RecordsOut(BaseModel):
    """A system's book: baseline and drift, changes, open items, charge, every settled snapshot."""

    baseline_at: datetime | None
    baseline_visit: str | None
    drift: DriftOut | None
    compared_visit: str
    intended: list[IntendedOut]
    deferred: list[DeferredOut]
    snaps: list[SnapOut]
    unit: str
    added: float
    removed: float
    charge_unit: str
    written_charge: float | None
    written_at: datetime | None


def order_out(snapshot: Snapshot, units: UnitSystem) -> OrderOut:
    """A visit's order of work with all that belongs to it."""
    found, folder = order_now(snapshot), snapshot.folder
    order = found.order
    return OrderOut(
        kind=order.call.key,
        kinds=[ChoiceOut(key=row.key, label=row.label) for row in CALLS.values()],
        kind_reason=order.call.reason,
        here=order.here,
        stages=[_stage(stage, units) for stage in order.stages],
        dangers=[said.text(units) for said in order.dangers],
        checks=[_check(row, units) for row in found.checks],
        notes=[note_out(row) for row in found.notes],
        photos=[photo_out(row) for row in folder.photos],
        links=[LinkOut(id=row.id, expires_at=row.expires_at) for row in folder.links],
        subsystems=[ChoiceOut(key=key, label=label) for key, label in SUBSYSTEMS.items()],
        seasons=[ChoiceOut(key=r.key, label=worded(r.label, units)) for r in SEASONS.values()],
        intended_kinds=[ChoiceOut(key=r.key, label=r.label) for r in INTENDED.values()],
        drift=drift_out(against(snapshot), units),
        baseline_here=folder.baseline is not None and folder.baseline.visit_id == snapshot.visit.id,
        deferred=[deferred_out(row, units) for row in folder.deferred],
    )


def _stage(stage: StageState, units: UnitSystem) -> StageOut:
    return StageOut(
        key=stage.stage,
        label=stage.label,
        state=stage.state,
        why=stage.why.text(units) if stage.why else "",
        open_steps=stage.open_steps,
        steps=[
            StepOut(key=s.row.key, label=worded(s.row.label, units),
                    caution=worded(s.row.caution, units), state=s.state, reason=s.reason,
                    by_hand=s.by_hand, blocks=s.row.blocks, check=s.row.check)
            for s in stage.steps
        ],
    )  # fmt: skip


def _check(row: Checked, units: UnitSystem) -> CheckOut:
    blanks = {blank.key: blank for blank in row.check.blanks}
    return CheckOut(
        key=row.check.key,
        label=row.check.label,
        subsystem=row.check.subsystem,
        caution=row.check.caution,
        blanks=[_blank(blank, units) for blank in row.check.blanks],
        entries=_entries(row.entries, blanks, units),
        remembered=_entries(row.remembered, blanks, units),
        state=row.finding.state if row.finding else "",
        said=[said.text(units) for said in row.finding.said] if row.finding else [],
    )


def _blank(blank: Blank, units: UnitSystem) -> CheckBlankOut:
    return CheckBlankOut(
        key=blank.key, label=blank.label,
        unit=unit_label(blank.quantity, units) if blank.quantity else "",
        decimals=decimals(blank.quantity, units) if blank.quantity else 0,
        choices=list(blank.choices), is_needed=blank.is_needed,
    )  # fmt: skip


def _entries(
    entries: Mapping[str, float | str], blanks: Mapping[str, Blank], units: UnitSystem
) -> dict[str, float | str]:
    found: dict[str, float | str] = {}
    for key, value in entries.items():
        quantity = blanks[key].quantity if key in blanks else None
        if quantity is None or isinstance(value, str):
            found[key] = value
        else:
            found[key] = round(from_si(value, quantity, units), max(decimals(quantity, units), 2))
    return found


def note_out(row: Note) -> NoteOut:
    return NoteOut(id=row.id, subsystem=row.subsystem, text=row.text,
                   subsystem_label=SUBSYSTEMS.get(row.subsystem, row.subsystem),
                   written_from=row.written_from, written_at=row.written_at)  # fmt: skip


def photo_out(row: Photo) -> PhotoOut:
    return PhotoOut(id=row.id, subsystem=row.subsystem, caption=row.caption, width=row.width,
                    subsystem_label=SUBSYSTEMS.get(row.subsystem, row.subsystem),
                    height=row.height, taken_at=row.taken_at)  # fmt: skip


def deferred_out(row: Deferred, units: UnitSystem) -> DeferredOut:
    season = SEASONS.get(row.season)
    return DeferredOut(
        id=row.id, system_id=row.system_id, visit_id=row.visit_id, text=row.text,
        season=worded(season.label, units) if season else row.season, due_on=row.due_on,
        created_at=row.created_at, done_at=row.done_at,
    )  # fmt: skip


def drift_out(found: Against | None, units: UnitSystem) -> DriftOut | None:
    if found is None:
        return None
    drift: Drift = found.drift
    moved = []
    for one in drift.moved:
        quantity = measure(one.sign, one.by).quantity
        moved.append(MovedOut(
            key=one.sign.key, label=one.sign.label, unit=unit_label(quantity, units),
            by=round(from_si(one.by, quantity, units), 2),
            sigma=round(from_si(one.sigma, quantity, units), 2),
            is_out=one.is_out, is_intended=one.is_intended,
        ))  # fmt: skip
    return DriftOut(
        since=found.baseline.set_at, baseline_visit=found.baseline.visit_id,
        is_flagged=drift.is_flagged, said=drift.said.text(units),
        causes=[ChoiceOut(key=named.cause.key, label=named.cause.label) for named in drift.causes],
        moved=moved, intended=[INTENDED[key].label for key in found.intended],
    )  # fmt: skip


def records_out(found: Records, units: UnitSystem) -> RecordsOut:
    kelvin = Quantity.TEMPERATURE_DIFFERENCE
    system = found.system
    return RecordsOut(
        baseline_at=found.baseline.set_at if found.baseline else None,
        baseline_visit=found.baseline.visit_id if found.baseline else None,
        drift=drift_out(found.against, units),
        compared_visit=found.compared_visit,
        intended=[_intended(row) for row in found.intended],
        deferred=[deferred_out(row, units) for row in found.deferred],
        snaps=[
            SnapOut(
                visit_id=snap.visit_id, at=snap.at, advice=snap.advice,
                outdoor=None if snap.outdoor_c is None
                else round(from_si(snap.outdoor_c, Quantity.TEMPERATURE, units), 1),
                values={k: round(from_si(v, kelvin, units), 1) for k, v in snap.values.items()},
            )
            for snap in found.snaps
        ],
        unit=unit_label(kelvin, units),
        added=_mass(found.added_kg, units),
        removed=_mass(found.removed_kg, units),
        charge_unit=unit_label(Quantity.MASS, units),
        written_charge=None if system.written_charge_kg is None
        else _mass(system.written_charge_kg, units),
        written_at=system.written_charge_at,
    )  # fmt: skip


def _intended(row: IntendedChange) -> IntendedOut:
    return IntendedOut(id=row.id, label=INTENDED[row.key].label, note=row.note,
                       happened_at=row.happened_at)  # fmt: skip


def _mass(kg: float, units: UnitSystem) -> float:
    return round(from_si(kg, Quantity.MASS, units), 2)
