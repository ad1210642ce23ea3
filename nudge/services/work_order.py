"""The order of work on a visit: steps ticked or skipped, checks filled in, notes, closing."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session

from nudge.core.errors import CoreError, Impossible
from nudge.core.said import Said
from nudge.core.settling.gate import CLOCKS
from nudge.core.units import unit_label
from nudge.core.visit.calls import call_named
from nudge.core.visit.checks import (
    CHECKS,
    SUBSYSTEMS,
    Check,
    Entries,
    Finding,
    judge_check,
)
from nudge.core.visit.facts import Facts, Ticked
from nudge.core.visit.order import Order, check_tick, order_of
from nudge.core.vocabulary.actions import ACTIONS
from nudge.core.vocabulary.points import POINTS
from nudge.services.clock import Clock
from nudge.services.plates import plate_of
from nudge.services.snapshot import PRESSURES, Snapshot
from nudge.services.visits import Visits
from nudge.store.database import Database
from nudge.store.live_tables import Override
from nudge.store.repositories import live, shelf, whole_visit
from nudge.store.tables import Observation, Reading, Visit
from nudge.store.visit_tables import Check as CheckRow
from nudge.store.visit_tables import Note, Tick

LONGEST_NOTE = 4_000


class OpenAtTheEnd(Impossible):
    """A visit that may not be closed without saying why: what is dangerous is still open."""


@dataclass(frozen=True, slots=True)
class Checked:
    """A check with what was entered on this visit and what it means, or what to begin from."""

    check: Check
    entries: Entries
    finding: Finding | None
    remembered: Entries
    """What was entered the last time on this system, where nothing is entered now."""


@dataclass(frozen=True, slots=True)
class WorkOrder:
    """A visit's order with its checks and notes."""

    order: Order
    checks: tuple[Checked, ...]
    notes: tuple[Note, ...]


class Work:
    """The use cases of working through a visit."""

    def __init__(self, database: Database, clock: Clock, visits: Visits) -> None:
        self._database, self._clock, self._visits = database, clock, visits

    def order(self, visit_id: str) -> WorkOrder:
        """Where the visit stands. Raises: NotFound."""
        snapshot = self._visits.snapshot(visit_id)
        visit, plate = snapshot.visit, plate_of(snapshot.visit.system)
        with self._database.reading() as session:
            facts = _facts(session, snapshot)
            entered = whole_visit.checks(session, visit_id)
            before = whole_visit.last_checks(session, visit.system_id)
            kept = tuple(whole_visit.notes(session, visit_id))
        checks = []
        for key, check in CHECKS.items():
            now = dict(entered[key].entries) if key in entered else {}
            finding = None
            if now:
                try:
                    finding = judge_check(key, plate, now)
                except CoreError:
                    finding = None  # the plate was changed since; the entries are still there
            remembered = dict(before[key].entries) if key in before and not now else {}
            checks.append(Checked(check, now, finding, _lasting(remembered)))
        return WorkOrder(order_of(call_named(visit.kind), facts), tuple(checks), kept)

    def set_kind(self, visit_id: str, kind: str) -> None:
        """Choose the kind of call. Raises: UnknownName."""
        call_named(kind)

        def write(_: Session, visit: Visit) -> None:
            visit.kind = kind

        self._visits.amend(visit_id, write)

    def tick(self, visit_id: str, entry_id: str, step: str, state: str, reason: str) -> None:
        """Say that a step is done, skipped (with a reason where it blocks), or open again.

        Raises: UnknownName, CoreError, NotFound, Closed.
        """
        self.tick_all(visit_id, {entry_id: step}, state, reason)

    def tick_all(
        self, visit_id: str, steps: Mapping[str, str], state: str, reason: str = ""
    ) -> None:
        """The same for several steps at once, by the id of each entry. Raises: as `tick`."""
        for step in steps.values():
            check_tick(step, state, reason)

        def write(session: Session, visit: Visit) -> None:
            for entry_id, step in steps.items():
                if not _written(session, Tick, entry_id):
                    session.add(
                        Tick(id=entry_id, visit_id=visit.id, step=step, state=state,
                             reason=reason.strip(), ticked_at=self._clock())
                    )  # fmt: skip

        self._visits.amend(visit_id, write)

    def check(self, visit_id: str, entry_id: str, key: str, entries: Entries) -> Finding:
        """Fill in a check (core units): kept, and what it shows goes onto the visit.

        Raises: UnknownName; CoreError, for what is missing or no instrument shows.
        """
        snapshot = self._visits.snapshot(visit_id)
        finding = judge_check(key, plate_of(snapshot.visit.system), entries)
        now = self._clock()

        def write(session: Session, visit: Visit) -> None:
            if _written(session, CheckRow, entry_id):
                return
            session.add(CheckRow(id=entry_id, visit_id=visit.id, key=key, entries=dict(entries),
                                 checked_at=now))  # fmt: skip
            for place, seen in enumerate(finding.observations):
                visit.observations.append(
                    Observation(id=f"{entry_id}:{place}", key=seen, seen=True, noted_at=now)
                )
            for point, value in finding.readings.items():
                visit.readings.append(_reading(f"{entry_id}:{point}", point, value, now))

        self._visits.amend(visit_id, write)
        return finding

    def note(
        self, visit_id: str, entry_id: str, subsystem: str, text: str, corrects: str | None = None
    ) -> None:
        """Write a note on a part of the system; one that corrects stands in another's place.

        An empty correction takes it back. Raises: CoreError, NotFound, Closed.
        """
        if subsystem not in SUBSYSTEMS:
            raise CoreError("subsystem", f"Notes belong to one of: {', '.join(SUBSYSTEMS)}.")
        if len(text) > LONGEST_NOTE:
            raise CoreError("note", f"A note has at most {LONGEST_NOTE:,} letters. Make it two.")
        if not text.strip() and corrects is None:
            raise CoreError("note", "There is nothing in that note.")

        def write(session: Session, visit: Visit) -> None:
            if not _written(session, Note, entry_id):
                session.add(
                    Note(id=entry_id, visit_id=visit.id, subsystem=subsystem, text=text.strip(),
                         written_from="here", corrects=corrects, written_at=self._clock())
                )  # fmt: skip

        self._visits.amend(visit_id, write)

    def passed_gates(self, visit_id: str) -> Sequence[Override]:
        """Every gate somebody passed, and took back, in order."""
        with self._database.reading() as session:
            return live.overrides(session, visit_id)

    def cylinder_names(self, ids: Sequence[str]) -> tuple[str, ...]:
        with self._database.reading() as session:
            return tuple(name for _, name in _cylinders(session, tuple(ids)))

    def _say_why(self, visit_id: str, order: Order, reason: str) -> None:
        """Keep with every open step, and in a note, why the visit is closed all the same."""
        stamp = f"{visit_id}:closed:{self._clock().timestamp():.0f}"
        open_steps = [
            step.row.key for stage in order.stages for step in stage.steps
            if step.row.blocks == "closing" and step.state == "open"
        ]  # fmt: skip
        self.tick_all(visit_id, {f"{stamp}:{key}": key for key in open_steps}, "skipped", reason)
        still = " ".join(danger.text("ip") for danger in order.dangers)
        words = f"Closed all the same, because: {reason}. Open: {still}"
        self.note(visit_id, stamp, "site", words[:LONGEST_NOTE])

    def close(self, visit_id: str, reason: str = "") -> Snapshot:
        """Close a visit. With something dangerous open it takes a reason, which is printed.

        Raises: OpenAtTheEnd, naming what is open.
        """
        snapshot = self._visits.snapshot(visit_id)
        if snapshot.visit.closed_at is not None:
            return snapshot
        order = self.order(visit_id).order
        if order.dangers and not reason.strip():
            raise _open_at_the_end(order.dangers)
        if order.dangers:
            self._say_why(visit_id, order, reason.strip())
        return self._visits.set_closed(visit_id, True)


def _open_at_the_end(dangers: tuple[Said, ...]) -> OpenAtTheEnd:
    measures = tuple(
        (f"m{number}{name}", measure)
        for number, said in enumerate(dangers) for name, measure in said.measures
    )  # fmt: skip
    words = []
    for number, said in enumerate(dangers):
        text = said.template
        for name, _ in said.measures:
            text = text.replace(f"{{{name}}}", f"{{m{number}{name}}}")
        words.append(text + said.tail)
    head = "Not closed yet. Still open, and it can hurt somebody: "
    return OpenAtTheEnd("closing", Said(
        head + " ".join(words) + " Do it, or say why it is left.", measures))  # fmt: skip


def _facts(session: Session, snapshot: Snapshot) -> Facts:
    visit, assessed = snapshot.visit, snapshot.assessment
    points = frozenset(snapshot.current)
    shut = {}
    unsettled = snapshot.context.unsettled
    if assessed is not None:
        shut = {b.gate.key: b.message for b in assessed.breaches
                if b.effect == "blocks" and b.gate.key not in CLOCKS}  # fmt: skip
    clocks = assessed is not None and any(
        b.effect == "blocks" and b.gate.key in CLOCKS for b in assessed.breaches
    )
    plate = plate_of(visit.system)
    acted = [e for e in visit.standing_events if e.kind in ACTIONS]
    charged = [e for e in acted if ACTIONS[e.kind].moves_charge]
    last_act = max((e.happened_at for e in acted), default=None)
    latest = max((row.taken_at for row in snapshot.current.values()), default=None)
    unweighed = tuple(
        name for cylinder_id, name in _cylinders(session, snapshot.cylinders)
        if not _weighed_since(session, cylinder_id, charged[-1].happened_at if charged else None)
    )  # fmt: skip
    kept = whole_visit.baseline(session, visit.system_id)
    return Facts(
        observations=snapshot.observations,
        points=points,
        checks=frozenset(whole_visit.checks(session, visit.id)),
        ticks={key: Ticked(row.state, row.reason)
               for key, row in whole_visit.ticks(session, visit.id).items()},
        has_complaint=bool(visit.complaint.strip()),
        plate_is_known=plate.nominal_capacity_w is not None,
        is_first_visit=whole_visit.visits_before(session, visit) == 0,
        connection=visit.connection,
        has_gauges=not points.isdisjoint(PRESSURES),
        is_running=snapshot.running_since is not None,
        shut=shut,
        unsettled=unsettled,
        minutes_unsettled=clocks,
        is_judged=assessed is not None and not snapshot.look,
        advice=assessed.decision.advice if assessed else "",
        decision=assessed.decision.key if assessed else "",
        reason=assessed.decision.reason if assessed else None,
        stage=assessed.decision.stage if assessed else "",
        leader=assessed.suspects[0].suspect.key if assessed and assessed.suspects else "",
        has_acted=bool(acted),
        has_moved_charge=bool(charged),
        cylinders=snapshot.cylinders,
        unweighed=unweighed,
        read_after_last_change=bool(last_act and latest and latest > last_act and not clocks),
        has_baseline=kept is not None and kept.visit_id == visit.id,
        look=snapshot.look.decision if snapshot.look else "",
        is_cold_call=visit.kind == "cold_charge_check",
        hazards=tuple(said for _, said in assessed.hazards) if assessed else (),
    )  # fmt: skip


def _cylinders(session: Session, ids: tuple[str, ...]) -> list[tuple[str, str]]:
    found = [(one, shelf.cylinder(session, one)) for one in ids]
    return [(one, row.name) for one, row in found if row is not None]


def _weighed_since(session: Session, cylinder_id: str, since: datetime | None) -> bool:
    rows = shelf.weighings(session, cylinder_id)
    return since is None or any(row.weighed_at > since for row in rows)


def _lasting(entries: Mapping[str, float | str]) -> Entries:
    """What stays true from visit to visit: labels and plates, not what was measured."""
    stays = {"rated", "tolerance", "motor", "strip_kw", "strips"}
    return {key: value for key, value in entries.items() if key in stays}


def _reading(reading_id: str, point: str, value: float, now: datetime) -> Reading:
    return Reading(
        id=reading_id, point=point, given_value=value,
        given_unit=unit_label(POINTS[point].quantity, "si"), source="typed", quality="as_given",
        taken_at=now, recorded_at=now,
    )  # fmt: skip


def _written(session: Session, table: type[Tick] | type[CheckRow] | type[Note], key: str) -> bool:
    return session.query(table).filter(table.id == key).first() is not None
