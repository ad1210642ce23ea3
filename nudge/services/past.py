"""What a visit and its system's past hold for the judgement of now."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from statistics import median
from typing import Any

from nudge.core.circuit.past import Moment, Past
from nudge.core.record.standing import void_ids
from nudge.core.units import Quantity, to_si
from nudge.core.vocabulary.actions import ACTIONS
from nudge.services.rows import si_value
from nudge.store.tables import Event, Reading, Verdict, Visit

APART = timedelta(minutes=10)
"""Readings further apart than this are of different moments."""
OLD_CIRCUIT, OLD_AIR = timedelta(minutes=30), timedelta(minutes=120)
LASTING = frozenset({"airflow", "capacitor_microfarads"})
"""Readings that stand until the air is worked on, not minutes."""
AIR_ACTIONS = frozenset({"filter_changed", "evaporator_cleaned", "blower_mended"})
ADDITIONS_WITHIN = timedelta(days=730)
OWN_SIGNS = ("condensing_over_ambient", "evaporator_difference")
MOST_OWN_K = 5.0


def past_of(visit: Visit, has_live: bool, additions: int, hunting_minutes: float | None) -> Past:
    """The visit so far as moments, oldest first, and what was done since the last of them."""
    told = _Telling()
    for item in _in_order(visit):
        if isinstance(item, Reading):
            told.read(item)
        elif item.kind in ACTIONS:
            told.act(item)
    if has_live:
        told.close()
    return Past(told.moments(visit), told.added_kg, told.done, hunting_minutes, additions)


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
    """Walks readings and actions in time, closing a moment whenever one is complete."""

    def __init__(self) -> None:
        self._now: dict[str, float] = {}
        self._fresh_at: datetime | None = None
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
        self.added_kg += ACTIONS[event.kind].moves_charge * (event.amount_kg or 0.0)
        self.done = event.kind

    def close(self) -> None:
        if self._fresh_at is not None:
            self._closed.append((self._fresh_at, dict(self._now), self.added_kg, self.done))
            self._fresh_at, self.added_kg, self.done = None, 0.0, ""

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


def own_departures(earlier: Sequence[Verdict]) -> dict[str, float]:
    """How far over its class this system was when last found right [K], by sign.

    The middle of the last right verdicts, drawn towards nothing while there are few. Only
    verdicts that kept their expectations count: departures compare at like conditions.
    """
    found = {}
    for sign in OWN_SIGNS:
        offs = [off for v in earlier[:5] if (off := _off(v.answer, sign)) is not None]
        if offs:
            kelvin = to_si(median(offs), Quantity.TEMPERATURE_DIFFERENCE, "ip")
            kelvin *= len(offs) / (len(offs) + 1)
            found[sign] = max(-MOST_OWN_K, min(MOST_OWN_K, kelvin))
    return found


def _off(answer: dict[str, Any], sign: str) -> float | None:
    if answer["charge"]["advice"] != "leave" or answer["hazards"]:
        return None
    return next((one["off"] for one in answer.get("signs", []) if one["key"] == sign), None)
