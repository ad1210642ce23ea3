"""A visit’s order of work over the wire: stages, steps, forms."""

from typing import Literal

from pydantic import BaseModel

from nudge.contract.request import Name
from nudge.contract.strict import Strict
from nudge.core.checks.forms import SUBSYSTEMS, form_named
from nudge.core.drift.drift import INTENDED
from nudge.core.language.said import worded
from nudge.core.language.units import UnitSystem
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.tests.table import TESTS
from nudge.core.visit.calls import CALLS
from nudge.core.visit.order import StageState
from nudge.core.visit.seasons import SEASONS
from nudge.presenters.blanks import (
    Filled,
    FormOut,
    filled_in_si,
    filled_shown,
    forms_out,
)
from nudge.presenters.book import Id
from nudge.presenters.choices import ChoiceOut
from nudge.presenters.notes import LinkOut, NoteOut, PhotoOut, Short, note_out, photo_out
from nudge.presenters.records import DeferredOut, DriftOut, deferred_out, drift_out
from nudge.services.baselines import against, unfit
from nudge.services.snapshot import Snapshot
from nudge.services.work_order import Checked, order_now

NOT_MEASURED = " (ticked by hand: not measured)"
TEST_OF_STEP = {row.step: row.key for row in TESTS.values() if row.step}


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
    entries: Filled

    def to_core(self, units: UnitSystem) -> dict[str, float | str]:
        """Raises: UnknownName, for a check or an entry."""
        return filled_in_si("entry", form_named(self.key).blanks, self.entries, units)


class NewClosing(Strict):
    """Close the visit; with something dangerous open, say why it is left."""

    id: Id
    reason: Short = ""


class StepOut(BaseModel):
    key: str
    label: str
    caution: str
    state: Literal["done", "open", "skipped"]
    reason: str
    by_hand: bool
    blocks: str
    check: str
    part: str
    """Where on the machine it is done; "" elsewhere."""
    test: str
    """The test with time that proves it."""


class StageOut(BaseModel):
    key: str
    label: str
    state: Literal["done", "here", "open", "blocked", "if_needed"]
    why: str
    open_steps: int
    steps: list[StepOut]


class CheckOut(FormOut):
    """A form with what was entered (here or, for labels, last time), and what it means."""

    entries: dict[str, float | str]
    remembered: dict[str, float | str]
    state: str
    said: list[str]


class ProbeOut(BaseModel):
    """A point a kind of call reads."""

    point: str
    label: str
    is_read: bool


class OrderOut(BaseModel):
    """A visit's order of work and everything that belongs to it."""

    kind: str
    kinds: list[ChoiceOut]
    kind_reason: str
    probes: list["ProbeOut"]
    """What this kind of call reads, and what of it is read."""
    here: str
    stages: list[StageOut]
    dangers: list[str]
    checks: list[CheckOut]
    """Forms with something in them; what they all ask stands in the vocabulary."""
    notes: list[NoteOut]
    photos: list[PhotoOut]
    links: list[LinkOut]
    subsystems: list[ChoiceOut]
    seasons: list[ChoiceOut]
    intended_kinds: list[ChoiceOut]
    drift: DriftOut | None
    baseline_here: bool
    no_baseline: str
    """Why this visit is no baseline as it stands; "" where it may be kept as one."""
    deferred: list["DeferredOut"]


def order_out(snapshot: Snapshot, units: UnitSystem) -> OrderOut:
    """A visit's order of work with all that belongs to it."""
    found, folder = order_now(snapshot), snapshot.folder
    order = found.order
    return OrderOut(
        kind=order.call.key,
        kinds=[ChoiceOut(key=row.key, label=row.label) for row in CALLS.values()],
        kind_reason=order.call.reason,
        probes=[
            ProbeOut(point=p, label=POINTS[p].label, is_read=p in snapshot.readings)
            for p in order.call.probes
        ],
        here=order.here,
        stages=[_stage(stage, units) for stage in order.stages],
        dangers=[said.text(units) for said in order.dangers],
        checks=[_check(r, units) for r in found.checks if r.entries or r.remembered],
        notes=[note_out(row) for row in found.notes],
        photos=[photo_out(row) for row in folder.photos],
        links=[LinkOut(id=row.id, expires_at=row.expires_at) for row in folder.links],
        subsystems=[ChoiceOut(key=key, label=label) for key, label in SUBSYSTEMS.items()],
        seasons=[ChoiceOut(key=r.key, label=worded(r.label, units)) for r in SEASONS.values()],
        intended_kinds=[ChoiceOut(key=r.key, label=r.label) for r in INTENDED.values()],
        drift=drift_out(against(snapshot), units),
        no_baseline=unfitting.text(units) if (unfitting := unfit(snapshot)) else "",
        baseline_here=folder.has_baseline_of(snapshot.visit.id),
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
            StepOut(
                key=s.row.key,
                label=worded(s.row.label, units) + (NOT_MEASURED if s.not_measured else ""),
                caution=worded(s.row.caution, units),
                state=s.state,
                reason=s.reason,
                by_hand=s.by_hand,
                blocks=s.row.blocks,
                check=s.row.check,
                part=s.row.part,
                test=TEST_OF_STEP.get(s.row.key, ""),
            )
            for s in stage.steps
        ],
    )


def _check(row: Checked, units: UnitSystem) -> CheckOut:
    blanks = {blank.key: blank for blank in row.check.blanks}
    return CheckOut(
        **dict(forms_out(units)[row.check.key]),
        entries=filled_shown(row.entries, blanks, units),
        remembered=filled_shown(row.remembered, blanks, units),
        state=row.finding.state if row.finding else "",
        said=[said.text(units) for said in row.finding.said] if row.finding else [],
    )
