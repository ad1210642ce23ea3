"""A visit as it stands: what counts now, and what it means."""

from collections.abc import Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta

from nudge.contract.answer import answer
from nudge.contract.answer_shapes import AssessOut
from nudge.core.behaviours.case import Context
from nudge.core.behaviours.loop import Loop, draw_loop
from nudge.core.behaviours.workings import derived_workings
from nudge.core.charging.advise import decided
from nudge.core.charging.sizing import Sized
from nudge.core.checks.form_findings import FormFinding
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.gaugeless.decide import Gaugeless
from nudge.core.gaugeless.estimate import OwnHistory
from nudge.core.judgement.assess import PRESSURES, Assessment
from nudge.core.judgement.change_of_mind import Change, changes_of_mind
from nudge.core.judgement.workings import belief_workings
from nudge.core.language.errors import CoreError
from nudge.core.language.said import Said, say
from nudge.core.language.units import UnitSystem, unit_label
from nudge.core.language.vocabulary.accuracy import Own
from nudge.core.language.vocabulary.actions import ACTIONS, PLATE_CORRECTED
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.language.working import Working
from nudge.core.multizone.reading import ZoneReading
from nudge.core.opening.states import STATES
from nudge.core.physics.circuit.derived import derive
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.settling.gate import CLOCKS
from nudge.core.targets.workings import target_workings
from nudge.core.visit.calls import call_named
from nudge.core.visit.facts import Facts
from nudge.core.visit.order import first_said, standing_before
from nudge.core.visit.record.standing import current
from nudge.core.visit.steps import check_of
from nudge.core.visit.steps_opening import is_opened_next
from nudge.services.charge_mode import charge_mode_of
from nudge.services.circuit_way import left_to_weigh, said_of, since_opened
from nudge.services.facts import findings_of, first_facts
from nudge.services.folder import Folder
from nudge.services.live_state import LiveState, box_over, seen_of_box
from nudge.services.past import Known, past_of, stale_points
from nudge.services.plates import plate_of
from nudge.services.rows import si_value
from nudge.store.live_tables import Override
from nudge.store.tables import Reading, Visit

LIVE_ID = "live:"
__all__ = ["LIVE_ID", "PRESSURES", "Snapshot", "Surroundings", "take_snapshot"]


@dataclass(frozen=True, slots=True)
class Footprint:
    """Where one moment stood on the target map [K], and what was done since the one before."""

    superheat_k: float
    subcooling_k: float
    minutes_ago: float
    done: str
    added_kg: float


@dataclass(frozen=True, slots=True)
class Surroundings:
    """What a visit is judged by besides itself: preferred methods, the system's own past."""

    preferred: tuple[str, ...] = ()
    own: OwnHistory = field(default_factory=OwnHistory)
    live: LiveState | None = None
    is_simulated: bool = False
    passed: Sequence[Override] = ()
    """Gates somebody chose to pass on this visit, in order."""
    own_signs: Mapping[str, float] = field(default_factory=dict)
    """How far over its class the system was when last found right [K]."""
    known: Known = field(default_factory=Known)
    """What else is known of the visit and its system's past."""
    folder: Folder = field(default_factory=Folder)
    heated: tuple[Mapping[str, float], ...] = ()
    """Readings of earlier visits of this system in heating, latest first."""
    zones: ZoneReading | None = None
    instruments: Own = field(default_factory=dict)
    """What the instruments that are carried err, where they are registered."""
    broken: tuple[str, ...] = ()
    """What of the visit nobody can read, in words; it is left out."""


@dataclass(frozen=True, slots=True)
class Snapshot:
    """A visit with its standing readings and their assessment, or why there is none."""

    visit: Visit
    plate: Plate
    current: dict[str, Reading]
    readings: Mapping[str, float]
    """The readings that count, in core units."""
    findings: Mapping[str, FormFinding | None]
    """What every form filled in means; None where the plate was changed since."""
    first: Facts
    """The facts that no judgement is needed for."""
    observations: frozenset[str]
    running_since: datetime | None
    changed_at: datetime | None
    context: Context
    assessment: Assessment | None
    problem: CoreError | None
    sized: Sized | None = None
    """What the decision's dose was worked out from."""
    around: Surroundings = field(default_factory=Surroundings)
    _answers: dict[UnitSystem, AssessOut | None] = field(default_factory=dict, init=False)
    """The answer in each system of units it was asked for in."""

    @property
    def live(self) -> LiveState | None:
        """What the instruments say now, while any of them sends."""
        return self.around.live

    @property
    def folder(self) -> Folder:
        return self.around.folder

    @property
    def look(self) -> Gaugeless | None:
        """The look without gauges, while no pressure has been read."""
        return self.assessment.look if self.assessment else None

    @property
    def ready_at(self) -> datetime | None:
        """From when it may be read again, by the decision: one moment, the same everywhere."""
        if self.assessment is None or self.assessment.decision.ready_in is None:
            return None
        moments = [row.taken_at for row in self.current.values()]
        moments += [at for at in (self.changed_at, self.running_since) if at is not None]
        ready = max(moments) + timedelta(minutes=self.assessment.decision.ready_in)
        if self.assessment.decision.key == "wait":
            kept = [e.ready_at for e in self.visit.standing_events if e.ready_at is not None]
            ready = max([ready, *kept[-1:]])
        return ready

    def answer(self, units: UnitSystem) -> AssessOut | None:
        """The assessment in the contract's shape."""
        if units not in self._answers:
            found = self.assessment
            self._answers[units] = answer(found, units, self.ready_at) if found else None
        return self._answers[units]

    def workings(self) -> dict[str, Working]:
        """Every number of the visit, opened."""
        if self.assessment is None:
            return {}
        case, targets = self.assessment.case, self.assessment.targets
        sources = {key: row.source for key, row in self.current.items()}
        return (
            derived_workings(case, sources)
            | target_workings(case, targets, sources)
            | belief_workings(self.assessment)
            | case.own_workings()
        )

    def footprints(self) -> list[Footprint]:
        """Every moment of the visit that has superheat and subcooling, now last."""
        if self.assessment is None:
            return []
        case, past = self.assessment.case, self.context.past
        found = []
        for moment in past.moments:
            with suppress(CoreError):
                at = derive(case.plate, moment.readings, case.behaviour.roles)
                found.append((at, moment.minutes_ago, moment.done, moment.added_kg))
        found.append((case.derived, 0.0, past.done_since, past.added_since_kg))
        return [
            Footprint(at.superheat, at.subcooling, minutes, done, added)
            for at, minutes, done, added in found
            if at.superheat is not None and at.subcooling is not None
        ]

    def changes_of_mind(self) -> list[Change]:
        """What would change the verdict."""
        return changes_of_mind(self.assessment) if self.assessment else []

    @property
    def loop(self) -> Loop | None:
        return draw_loop(self.assessment.case) if self.assessment else None


def take_snapshot(visit: Visit, around: Surroundings) -> Snapshot:
    """Work out what counts on a visit and assess it.

    A plate changed after the fact can make stored readings impossible for it; then there is
    a `problem` in place of an assessment, and every reading is still there.
    """
    rows = since_opened(current(visit.readings) | live_rows(around.live), around.known.way)
    readings = {key: si_value(row) for key, row in rows.items()}
    observations = standing_observations(visit)
    running_since, changed_at = _last_events(visit)
    latest = max((row.taken_at for row in rows.values()), default=None)
    call, way, plate = call_named(visit.kind), around.known.way, plate_of(visit.system)
    findings = findings_of(plate, around.folder)
    facts = first_facts(visit, plate, around.folder, observations, frozenset(rows), findings, way)
    before = standing_before(call, facts)
    mode = charge_mode_of(visit)
    context = Context(
        _minutes(running_since, latest),
        _minutes(changed_at, latest),
        observations,
        around.live.unsettled if around.live else None,
        around.live.settles_in if around.live else None,
        passed=_passed(around, running_since, changed_at),
        lies=tuple(lie.said for lie in around.live.lies) if around.live else (),
        lying=frozenset(lie.point for lie in around.live.lies) if around.live else frozenset(),
        read_before_change=bool(changed_at and latest and changed_at >= latest),
        taken_back=frozenset(row.point for row in visit.readings if row.withdraws) - rows.keys(),
        rejudged=_rejudged(visit),
        estimated=frozenset(point for point, row in rows.items() if row.source == "estimated"),
        stale=stale_points(rows, visit, running_since),
        mode=call.mode,
        open_circuit=said_of(way),
        box=box_over(visit, around.live),
        is_opened_next=is_opened_next(facts),
        charge_mode=mode[0],
        minutes_in_mode=_minutes(mode[1], latest),
        open_stage=STATES[way.state].stage,
        to_weigh_kg=left_to_weigh(way, around.known.fill),
        before=first_said(before) if before else None,
        before_check=next((check_of(one.row.key, facts) for one in before), ""),
        instruments=around.instruments,
        zones=around.zones,
        **seen_of_box(around.live),
        own=around.own_signs,
        past=past_of(visit, around.live is not None, around.known, _hunting(around.live)),
    )
    return Snapshot(
        visit,
        plate,
        rows,
        readings,
        findings,
        facts,
        observations,
        running_since,
        changed_at,
        context,
        *_judged(plate, readings, context, around),
        around,
    )


def _judged(
    plate: Plate, readings: Mapping[str, float], context: Context, around: Surroundings
) -> tuple[Assessment | None, CoreError | None, Sized | None]:
    """What is decided on these readings, or why nothing can be; neither where there are none."""
    if not readings and context.zones is None:
        return None, None, None
    try:
        found = decided(plate, readings, context, preferred=around.preferred, own=around.own)
    except CoreError as error:
        return None, error, None
    return found.assessment, None, found.sized


def _rejudged(visit: Visit) -> Said | None:
    """What the plate was changed to in mid-visit, in words."""
    kinds = (PLATE_CORRECTED, "plate_changed")
    notes = [e.note for e in visit.standing_events if e.kind in kinds and e.note]
    return say(notes[-1].replace("{", "(").replace("}", ")")) if notes else None


def live_rows(live: LiveState | None) -> dict[str, Reading]:
    """Live values as readings of the record's shape, not (yet) part of it."""
    if live is None:
        return {}
    return {
        point: Reading(
            id=f"{LIVE_ID}{value.channel}",
            point=point,
            given_value=value.value,
            given_unit=unit_label(POINTS[point].quantity, "si"),
            source=value.source,
            quality="live",
            taken_at=_moment(value.at_ms),
            recorded_at=_moment(value.at_ms),
        )
        for point, value in live.values.items()
    }


def _hunting(live: LiveState | None) -> float | None:
    return None if live is None else live.hunting_minutes


def _moment(at_ms: int) -> datetime:
    return datetime.fromtimestamp(at_ms / 1000, UTC)


def _passed(
    around: Surroundings, running_since: datetime | None, changed_at: datetime | None
) -> dict[str, str]:
    """Gates passed and why, the last word on each: "" takes it back.

    A reason to pass a clock ends when the system is started or touched again.
    """
    since = max((t for t in (running_since, changed_at) if t is not None), default=None)
    stands: dict[str, str] = {}
    for row in around.passed:
        is_over = row.gate in CLOCKS and since is not None and row.given_at < since
        stands[row.gate] = "" if is_over else row.reason
    return {gate: reason for gate, reason in stands.items() if reason}


def standing_observations(visit: Visit) -> frozenset[str]:
    """What is ticked now, or made true by what was done. The later of two opposites wins."""
    ticks = [(row.noted_at, row.key, row.seen) for row in visit.observations]
    for event in visit.standing_events:
        done = ACTIONS.get(event.kind)
        ticks += [(event.happened_at, key, True) for key in (done.settles if done else ())]
    seen: dict[str, bool] = {}
    for _, key, ticked in sorted(ticks, key=lambda tick: tick[0]):
        seen[key] = ticked
        opposite = OBSERVATIONS[key].opposite
        if ticked and opposite:
            seen[opposite] = False
    return frozenset(key for key, ticked in seen.items() if ticked)


def _last_events(visit: Visit) -> tuple[datetime | None, datetime | None]:
    """When the system was last started (None if stopped or unknown), and last changed."""
    running_since, changed_at = None, None
    for event in visit.standing_events:
        if event.kind in ACTIONS:
            changed_at = event.happened_at
        elif event.kind in ("system_started", "system_stopped"):
            running_since = event.happened_at if event.kind == "system_started" else None
            changed_at = None
    return running_since, changed_at


def _minutes(since: datetime | None, until: datetime | None) -> float | None:
    if since is None or until is None:
        return None
    return max((until - since).total_seconds() / 60, 0.0)
