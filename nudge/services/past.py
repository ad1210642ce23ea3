"""What a visit and its system's past hold for the judgement of now."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from statistics import median

from nudge.core.language.vocabulary.actions import ACTIONS, OPENS
from nudge.core.opening.first_fill import FirstFill
from nudge.core.opening.followed import Way
from nudge.core.physics.circuit.equipment import device_named
from nudge.core.physics.circuit.past import Moment, Past
from nudge.core.physics.circuit.recovered import Booked, Recovered, recovered
from nudge.core.settling.breaches import CHANGE_MINUTES
from nudge.core.visit.record.kept import Kept
from nudge.core.visit.record.standing import void_ids
from nudge.services.plates import plate_of
from nudge.services.rows import si_value
from nudge.store.tables import Event, Reading, Visit

APART = timedelta(minutes=10)
"""Readings further apart than this are of different moments."""
OLD_CIRCUIT, OLD_AIR = timedelta(minutes=30), timedelta(minutes=120)
LASTING = frozenset({"airflow", "capacitor_microfarads"})
"""Readings that stand until the air is worked on, not minutes."""
AIR_ACTIONS = frozenset({"filter_changed", "evaporator_cleaned", "blower_mended"})
ADDITIONS_WITHIN = timedelta(days=730)
OWN_SIGNS = ("condensing_over_ambient", "evaporator_difference")
MOST_OWN_K = 5.0


@dataclass(frozen=True, slots=True)
class Known:
    """What is known of a visit besides its readings and events."""

    additions: int = 0
    """On how many earlier visits refrigerant was added."""
    recovered: Recovered | None = None
    """What the recovery brought of what should have been in it."""
    weighed_in: bool = False
    proven_tight: bool = False
    way: Way = field(default_factory=lambda: Way("charged"))
    """Where its circuit stands, opened here or on a visit before."""
    fill: FirstFill | None = None
    """What is weighed into it before it runs, while it is open."""
    renewed: frozenset[str] = frozenset()
    """Parts fitted new on this visit."""
    tight_by_test: bool = False
    """Its nitrogen test proved it tight; a tick by hand does not."""

    @property
    def recovered_share(self) -> float | None:
        """The share of it, where plate and line set are sure enough to say what it means."""
        if self.recovered is None or self.recovered.verdict == "cannot_tell":
            return None
        return self.recovered.share.value / 100


def past_of(visit: Visit, has_live: bool, known: Known, hunting_minutes: float | None) -> Past:
    """The visit so far as moments, oldest first, and what was done since the last of them."""
    device = device_named(visit.system.metering_device)
    told = _Telling(timedelta(minutes=CHANGE_MINUTES[device]))
    since = filled_at(known.way)
    for item in _in_order(visit):
        moment = item.taken_at if isinstance(item, Reading) else item.happened_at
        if moment.timestamp() <= since:
            continue  # of a circuit that was emptied since; or weighed in, which is no dose
        if isinstance(item, Reading):
            told.read(item)
        elif item.kind in ACTIONS:
            told.act(item)
    if has_live:
        told.close()
    return Past(
        told.moments(visit),
        told.added_kg,
        told.done,
        hunting_minutes,
        known.additions,
        known.recovered_share,
        known.weighed_in,
        known.proven_tight,
        sheet_left(known),
        _corrected_since(visit),
        renewed=known.renewed,
        by_scale=known.tight_by_test and known.fill is not None and known.way.state == "weighed",
    )


def sheet_left(known: Known) -> float:
    """What of its sheet a filled circuit still lacks [kg]; minus: so much is over it."""
    if known.fill is None or known.way.state != "weighed":
        return 0.0
    return known.fill.sheet_kg - known.way.in_kg


def filled_at(way: Way) -> float:
    """When a circuit that was opened was filled again [s]: what was before it is another story."""
    moments = [way.since(state) for state in ("weighed", "broken")]
    return max((at for at in moments if at is not None), default=0.0)


def _corrected_since(visit: Visit) -> bool:
    """Whether a reading was corrected or taken back since the first dose."""
    doses = [
        e.happened_at
        for e in visit.standing_events
        if e.kind in ACTIONS and ACTIONS[e.kind].moves_charge
    ]
    if not doses:
        return False
    first = min(doses)
    return any((r.corrects or r.withdraws) and r.recorded_at > first for r in visit.readings)


def recovered_of(
    visit: Visit, tested_at: datetime | None, booked: Booked | None = None
) -> Recovered | None:
    """What was recovered of the whole charge, where the circuit was opened after it.

    `tested_at` is when its last test of an empty circuit was begun. None where nothing was
    recovered, it was not opened, or nothing says what belongs in it.
    """
    events = sorted(visit.standing_events, key=lambda event: event.happened_at)
    out = [event for event in events if event.kind == "refrigerant_removed"]
    if not out:
        return None
    largest = max(out, key=lambda event: event.amount_kg or 0.0)
    after = [event for event in events if event.happened_at > largest.happened_at]
    closed = next((e.happened_at for e in after if e.kind in {"refrigerant_added", *OPENS}), None)
    opened = (
        any(event.kind in OPENS for event in after)
        or any(o.key == "circuit_opened_recently" and o.seen for o in visit.observations)
        or (tested_at is not None and tested_at > largest.happened_at)
    )
    before = [event for event in events if closed is None or event.happened_at < closed]
    return recovered(plate_of(visit.system), *_moved(before), booked) if opened else None


def _moved(events: Sequence[Event]) -> tuple[float, float]:
    """What came out and what went in [kg]."""
    moved = {"refrigerant_removed": 0.0, "refrigerant_added": 0.0}
    for event in events:
        if event.kind in moved:
            moved[event.kind] += event.amount_kg or 0.0
    return moved["refrigerant_removed"], moved["refrigerant_added"]


def _in_order(visit: Visit) -> list[Reading | Event]:
    void = void_ids(visit.readings)
    withdrawn = {row.withdraws for row in visit.readings if row.withdraws}
    items: list[tuple[datetime, int, Reading | Event]] = []
    for row in visit.readings:
        was_replaced = row.id in void and row.corrects is not None
        if row.withdraws is None and row.id not in withdrawn and not was_replaced:
            items.append((row.taken_at, 0, row))
    items += [(event.happened_at, 1, event) for event in visit.standing_events]
    ordered = sorted(items, key=lambda entry: entry[:2])
    return [item for _, _, item in ordered]


class _Telling:
    """Walks readings and actions in time, closing a moment whenever one is complete.

    A moment stays open until a reading old enough to answer what was done before it: one taken
    sooner tells what it will be, not what it is.
    """

    def __init__(self, settles: timedelta) -> None:
        self._settles = settles
        self._now: dict[str, float] = {}
        self._fresh_at: datetime | None = None
        self._acted_at: datetime | None = None
        self._closed: list[tuple[datetime, dict[str, float], float, str]] = []
        self.added_kg = 0.0
        self.done = ""

    def read(self, row: Reading) -> None:
        if self._fresh_at is not None and row.taken_at - self._fresh_at > APART:
            self.close()
        self._now[row.point] = si_value(row)
        self._fresh_at = row.taken_at

    def act(self, event: Event) -> None:
        self.close()
        moves = ACTIONS[event.kind].moves_charge
        self.added_kg += moves * (event.amount_kg or 0.0)
        if not moves or not self.done:
            self.done = event.kind  # work on the system outweighs a dose given with it
        self._acted_at = event.happened_at
        if event.kind == "plate_changed":
            self._closed.clear()  # what was read before is of another system

    def close(self) -> None:
        if self._fresh_at is None:
            return
        at, self._fresh_at = self._fresh_at, None
        if self._acted_at is not None and at - self._acted_at < self._settles:
            return
        self._closed.append((at, dict(self._now), self.added_kg, self.done))
        self._acted_at, self.added_kg, self.done = None, 0.0, ""

    def moments(self, visit: Visit) -> tuple[Moment, ...]:
        latest = max((row.taken_at for row in visit.readings), default=None)
        return tuple(
            Moment((latest - at).total_seconds() / 60 if latest else 0.0, readings, added, done)
            for at, readings, added, done in self._closed
        )


def stale_points(
    rows: dict[str, Reading], visit: Visit, running_since: datetime | None
) -> frozenset[str]:
    """Points whose reading is from before the last start or change, or long before the newest."""
    if not rows:
        return frozenset()
    newest = max(row.taken_at for row in rows.values())
    acts = [event for event in visit.standing_events if event.kind in ACTIONS]
    changed = max((event.happened_at for event in acts), default=None)
    air_changed = max((e.happened_at for e in acts if e.kind in AIR_ACTIONS), default=None)
    since = max((at for at in (changed, running_since) if at is not None), default=None)

    def is_old(row: Reading) -> bool:
        if row.point in LASTING:
            return air_changed is not None and row.taken_at < air_changed
        is_air = row.point in ("outdoor_air_temp", "return_air_temp", "return_air_wet_bulb")
        if newest - row.taken_at > (OLD_AIR if is_air else OLD_CIRCUIT):
            return True
        return since is not None and row.taken_at < since and newest >= since and not is_air

    return frozenset(point for point, row in rows.items() if is_old(row))


def own_departures(earlier: Sequence[Kept]) -> dict[str, float]:
    """How far over its class this system was when last found right [K], by sign.

    The middle of the last right verdicts, drawn towards nothing while there are few. Only
    verdicts that kept their expectations count: departures compare at like conditions.
    """
    found = {}
    for sign in OWN_SIGNS:
        offs = [one.off[sign] for one in earlier[:5] if one.was_right and sign in one.off]
        if offs:
            kelvin = median(offs) * len(offs) / (len(offs) + 1)
            found[sign] = max(-MOST_OWN_K, min(MOST_OWN_K, kelvin))
    return found
