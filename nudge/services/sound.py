"""Rows that are bad all the same: left out where they would take a page down, and named.

Nothing refuses them twice: whatever damaged them, what is sound around them is still shown.
"""

import logging
from collections.abc import Callable, Iterable, Mapping
from typing import TypeVar

from nudge.core.charging.ledger import MOVEMENT_KINDS
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.language.callout.spoken_units import value_si
from nudge.core.language.errors import CoreError
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.visit.calls import CALLS
from nudge.core.visit.record.kept import Kept
from nudge.services.verdicts import kept_of
from nudge.store.repositories.rows import show_only
from nudge.store.shelf_tables import Movement
from nudge.store.tables import ObservationRow, Reading, Verdict, Visit

_LOG = logging.getLogger("nudge.sound")
BROKEN = (CoreError, KeyError, TypeError, ValueError, AttributeError, IndexError)
"""What working on a damaged row raises."""
Of = TypeVar("Of")
Shown = TypeVar("Shown")


def each(
    rows: Iterable[Of], show: Callable[[Of], Shown], named: Callable[[Of], str], broken: list[str]
) -> list[Shown]:
    """Every row shown; one that cannot be is named in `broken` and left out."""
    found = []
    for row in rows:
        try:
            found.append(show(row))
        except BROKEN as damaged:
            broken.append(_named(named(row), damaged))
    return found


def readable(rows: Mapping[str, Verdict]) -> dict[str, Kept]:
    """What verdicts keep, by their key; those nobody can read are left out and logged."""
    found: dict[str, Kept] = {}
    for key, row in rows.items():
        try:
            found[key] = kept_of(row)
        except BROKEN as damaged:
            _named(f"The verdict {row.sequence} of visit {row.visit_id}", damaged)
    return found


def sound_movements(rows: Iterable[Movement]) -> list[Movement]:
    """The movements of a kind that is known; the others are logged."""
    found = []
    for row in rows:
        if row.kind in MOVEMENT_KINDS:
            found.append(row)
        else:
            _LOG.debug("a movement has a kind nobody knows")
    return found


def show_sound(visit: Visit) -> list[str]:
    """Leave out of a loaded visit what nobody can read; it stays where it is kept. Their names."""
    worn: dict[tuple[str, str], str] = {}  # a visit has many readings, of few points and units
    readings = []
    for row in visit.readings:
        pair = (row.point, row.given_unit)
        if pair not in worn:
            worn[pair] = _reading(row)
        readings.append((row, worn[pair]))
    seen = [(row, _observation(row)) for row in visit.observations]
    names = [why for _, why in (*readings, *seen) if why]
    if names:
        show_only(visit, "readings", [row for row, why in readings if not why])
        show_only(visit, "observations", [row for row, why in seen if not why])
    if visit.kind and visit.kind not in CALLS:
        names.append(f"its kind of call, “{visit.kind[:40]}”, nobody knows")
        show_only(visit, "kind", "")
    return names


def _reading(row: Reading) -> str:
    if row.point not in POINTS:
        return f"a reading at “{row.point[:40]}”, which is no point"
    try:
        value_si(row.given_value, row.given_unit, POINTS[row.point].quantity)
    except BROKEN:
        return f"a reading of {POINTS[row.point].label.lower()} in “{row.given_unit[:20]}”"
    return ""


def _observation(row: ObservationRow) -> str:
    return "" if row.key in OBSERVATIONS else f"“{row.key[:40]}”, which nobody can have seen"


def _named(what: str, damaged: Exception) -> str:
    why = damaged.text("ip") if isinstance(damaged, CoreError) else type(damaged).__name__
    _LOG.warning("a row cannot be shown: %s", type(damaged).__name__)
    return f"{what}: {why}"
