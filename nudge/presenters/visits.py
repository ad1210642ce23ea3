"""A visit over the wire: readings as given and as shown, verdict, Loop."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from functools import cache
from typing import Any, Literal

from pydantic import BaseModel

from nudge.contract.advice import AdviceOut
from nudge.contract.answer_shapes import AssessOut
from nudge.contract.look_answer import LookOut, look_answer
from nudge.contract.opened import OpenedOut, opened
from nudge.contract.pocket_answer import slip_text
from nudge.core.calculators.pocket import fill_pocket
from nudge.core.gaugeless.estimate import gauges
from nudge.core.language.units import Quantity, UnitSystem, decimals, from_si, unit_label
from nudge.core.language.vocabulary.actions import ACTIONS
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.circuit.derived_table import DERIVED, formula_of
from nudge.core.visit.record.kept import Kept
from nudge.core.visit.record.standing import void_ids
from nudge.presenters.book import SystemOut, system_out
from nudge.presenters.charts import ChartToday, charts_today
from nudge.presenters.drawing.map_layout import maps_of
from nudge.presenters.drawing.shapes import DrawnLoop, DrawnMap
from nudge.presenters.drawing.stage import stage_of
from nudge.presenters.footprints import FootprintOut, footprint_out
from nudge.presenters.kinds import ByKind, by_kind
from nudge.presenters.live import LiveOut, live_out
from nudge.presenters.loops import loop_out
from nudge.services.modes import mode_of
from nudge.services.rows import Reading, SlipRow, Visit, si_value
from nudge.services.snapshot import LIVE_ID, Snapshot

VisitState = Literal["due", "under_way", "closed"]


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingOut:
    """A row of the record: the value in the units asked for, and just as it was given."""

    id: str
    point: str
    label: str
    short: str
    side: str
    value: float
    unit: str
    decimals: int
    given: str
    source: str
    written_by: str
    """The device it was typed on; "" is the machine Nudge runs on."""
    taken_at: datetime
    corrects: str | None
    state: Literal["live", "current", "earlier", "void"]


class KeptSlipOut(BaseModel):
    """A slip of the Pocket as it was sent, worked out again in the units asked for."""

    id: str
    title: str
    sent_at: datetime
    text: str


@dataclass(frozen=True, slots=True)
class RecoveredOut:
    """What came out of an opened circuit of what belongs in it; `short` is a cause to print."""

    number: OpenedOut
    short: bool
    said: str


class VisitHead(BaseModel):
    """What every view of a visit begins with."""

    id: str
    state: VisitState
    system: SystemOut
    complaint: str
    due_on: date | None
    opened_at: datetime | None
    closed_at: datetime | None


class DoseOut(BaseModel):
    """What went in (or came out) on a visit, in ounces or grams."""

    id: str
    amount: float
    unit: str
    removes: bool
    happened_at: datetime


class VisitOut(VisitHead, ByKind):
    """A visit as it stands. `problem` says why there is no assessment, if there should be."""

    running_since: datetime | None
    stopped_because: str
    """Why it does not run, where somebody said so."""
    changed_at: datetime | None
    readings: list[ReadingOut]
    observations: list[str]
    assessment: AssessOut | None
    problem: str | None
    stage: list[DrawnLoop]
    """The Loop laid out, one a frame, smallest first."""
    look: LookOut | None
    estimated: dict[str, str]
    """What the look without gauges made of each pressure, beside what a gauge reads."""
    slips: list[KeptSlipOut]
    charts: list[ChartToday]
    can_undo: bool
    live: LiveOut | None
    is_simulated: bool
    broken: list[str]
    """What of the visit is damaged and left out, in words."""
    doses: list[DoseOut]
    recovered: RecoveredOut | None
    """Of a circuit that was opened on this visit."""
    cylinders_used: list[str]
    connection: str
    called: dict[str, str]
    """What a derived number is called here, where it is not what it is called elsewhere."""
    footprints: list[FootprintOut]
    """Where every settled moment of the visit stood on the target map, oldest first."""
    target_map: list[DrawnMap]
    """The same laid out, one a frame, smallest first; none while there is nothing to show."""


class VisitLine(VisitHead):
    """A visit in a list."""

    headline: str | None
    advice: str | None
    superheat: float | None
    subcooling: float | None
    mode: Literal["cooling", "heating"]
    """How its plant is met on it."""


def _doses(visit: Visit, units: UnitSystem) -> list[DoseOut]:
    return [
        DoseOut(
            id=event.id,
            amount=round(from_si(event.amount_kg * 1000, Quantity.SMALL_MASS, units), 1),
            unit=unit_label(Quantity.SMALL_MASS, units),
            removes=ACTIONS[event.kind].moves_charge < 0,
            happened_at=event.happened_at,
        )
        for event in visit.standing_events
        if event.amount_kg and event.kind in ACTIONS
    ]


def _recovered(snapshot: Snapshot, units: UnitSystem) -> RecoveredOut | None:
    found = snapshot.around.known.recovered
    if found is None:
        return None
    return RecoveredOut(
        opened(found.share, units), found.verdict == "short", found.said.text(units)
    )


def visit_out(
    snapshot: Snapshot,
    units: UnitSystem,
    advice: AdviceOut | None = None,
    answered: AssessOut | None = None,
) -> VisitOut:
    """A visit as it stands; `answered` is its assessment in these units, if it is at hand.

    With an `advice` the target map shows where its dose would land.
    """
    visit = snapshot.visit
    readings = _readings(snapshot, units)
    opened = snapshot.context.open_circuit is not None  # then there is nothing to look for
    look = look_answer(snapshot.look, units) if snapshot.look and not opened else None
    answer, called = answered or snapshot.answer(units), _called(snapshot)
    loop = loop_out(snapshot.loop, look, units) if snapshot.loop else None
    footprints = [footprint_out(step, units) for step in snapshot.footprints()]
    return VisitOut(
        **_head(visit, units),
        running_since=snapshot.running_since,
        stopped_because=_stopped_because(snapshot),
        changed_at=snapshot.changed_at,
        readings=readings,
        observations=sorted(snapshot.observations),
        doses=_doses(visit, units),
        recovered=_recovered(snapshot, units),
        cylinders_used=list(snapshot.folder.cylinders),
        connection=visit.connection,
        called=called,
        assessment=answer,
        problem=snapshot.problem.text(units) if snapshot.problem else None,
        stage=stage_of(loop, answer, look, _pressures(readings), called, units, is_open=opened),
        look=look,
        estimated=_estimated(snapshot, units),
        slips=[_kept_slip(row, units) for row in visit.slips],
        charts=charts_today(visit.system, snapshot.readings, units),
        is_simulated=snapshot.around.is_simulated,
        broken=list(snapshot.around.broken),
        live=live_out(snapshot.live, units) if snapshot.live else None,
        footprints=footprints,
        target_map=maps_of(footprints, answer, advice, units),
        **by_kind(snapshot, units),
        can_undo=visit.closed_at is None and any(r.state not in ("void", "live") for r in readings),
    )


def _pressures(readings: Sequence[ReadingOut]) -> dict[str, str]:
    """The two pressures as they stand and are written."""
    return {
        one.point: f"{one.value:.{one.decimals}f} {one.unit}"
        for one in readings
        if one.state in ("live", "current") and one.point in ("suction_pressure", "liquid_pressure")
    }


def _estimated(snapshot: Snapshot, units: UnitSystem) -> dict[str, str]:
    """The pressures as estimated, while gauges are on: how far the look can be trusted here."""
    found = snapshot.assessment
    if found is None or snapshot.look is not None or not found.case.behaviour.looks_without_gauges:
        return {}
    shown = {
        key: opened(one, units)
        for key, one in gauges(found.case, snapshot.around.own).items()
        if key in found.case.readings
    }
    return {key: f"{one.text} {one.uncertainty_text or ''}".strip() for key, one in shown.items()}


def _stopped_because(snapshot: Snapshot) -> str:
    last = next((e for e in reversed(snapshot.visit.standing_events) if e.kind in _RUNS), None)
    return last.note or "" if last is not None and last.kind == "system_stopped" else ""


_RUNS = ("system_started", "system_stopped")


def _called(snapshot: Snapshot) -> dict[str, str]:
    if snapshot.assessment is None:
        return {}
    derived = snapshot.assessment.case.derived
    here = {key: formula_of(key, derived).label for key in DERIVED if derived.get(key) is not None}
    return {key: label for key, label in here.items() if label != DERIVED[key].label}


def _kept_slip(row: SlipRow, units: UnitSystem) -> KeptSlipOut:
    written: UnitSystem = row.units  # type: ignore[assignment]
    pocket = fill_pocket(row.entries, written, [row.slip])
    filled = pocket.filled[0]
    return KeptSlipOut(
        id=row.id,
        title=filled.slip.title,
        sent_at=row.sent_at,
        text=slip_text(filled, pocket, units),
    )


def visit_line(visit: Visit, kept: Kept | None, units: UnitSystem) -> VisitLine:
    def shown(key: str) -> float | None:
        kelvin = kept.derived.get(key) if kept else None
        if kelvin is None:
            return None
        return round(from_si(kelvin, Quantity.TEMPERATURE_DIFFERENCE, units), 3)

    return VisitLine(
        **_head(visit, units),
        headline=kept.headline if kept else None,
        advice=kept.advice if kept else None,
        superheat=shown("superheat"),
        subcooling=shown("subcooling"),
        mode=mode_of(visit),
    )


def _head(visit: Visit, units: UnitSystem) -> dict[str, Any]:
    return {
        "id": visit.id,
        "state": _state(visit),
        "system": system_out(visit.system, visit.system.site, units),
        "complaint": visit.complaint,
        "due_on": visit.due_on,
        "opened_at": visit.opened_at,
        "closed_at": visit.closed_at,
    }


def _state(visit: Visit) -> VisitState:
    if visit.closed_at is not None:
        return "closed"
    return "under_way" if visit.opened_at is not None else "due"


def _readings(snapshot: Snapshot, units: UnitSystem) -> list[ReadingOut]:
    rows = snapshot.visit.readings
    void = void_ids(rows)
    current = {row.id for row in snapshot.current.values()}
    live = [row for row in snapshot.current.values() if row.id.startswith(LIVE_ID)]
    return [_reading(row, "live", units) for row in live] + [
        _reading(
            row, "current" if row.id in current else "void" if row.id in void else "earlier", units
        )
        for row in rows
        if row.withdraws is None
    ]


def _reading(
    row: Reading, state: Literal["live", "current", "earlier", "void"], units: UnitSystem
) -> ReadingOut:
    quantity, worn = _worn(row.point, units)
    return ReadingOut(
        id=row.id,
        point=row.point,
        value=round(from_si(si_value(row), quantity, units), 3),
        given=f"{row.given_value:g} {row.given_unit}",
        source=row.source,
        written_by=row.written_by or "",
        taken_at=row.taken_at,
        corrects=row.corrects,
        state=state,
        **worn,
    )


@cache
def _worn(key: str, units: UnitSystem) -> tuple[Quantity, dict[str, Any]]:
    """What every reading at a point wears: names, side, unit."""
    point = POINTS[key]
    return point.quantity, {
        "label": point.label,
        "short": point.short[0],
        "side": point.side,
        "unit": unit_label(point.quantity, units),
        "decimals": decimals(point.quantity, units),
    }
