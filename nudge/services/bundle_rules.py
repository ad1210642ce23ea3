"""What the words in a bundle's rows may be: a row a column, with where the words come from."""

from base64 import b64decode
from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from nudge.core.calculators.pocket import SLIPS
from nudge.core.charging.cylinder import CYLINDER_KINDS
from nudge.core.charging.ledger import MOVEMENT_KINDS
from nudge.core.charging.ways import CONNECTIONS
from nudge.core.checks.forms import FORMS, SUBSYSTEMS
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.drift.drift import INTENDED
from nudge.core.language.errors import CoreError
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.opening.recovery import CONDITIONS
from nudge.core.opening.settings import SETTING_MODES
from nudge.core.physics.chart.chart import KINDS
from nudge.core.physics.circuit.equipment import Application, MeteringDevice, ReversingValve
from nudge.core.physics.circuit.plate_fields import PLATE_CHOICES, PLATE_NUMBERS, check_plate_number
from nudge.core.physics.refrigerant.catalogue import refrigerant
from nudge.core.physics.zones.points import zone_point
from nudge.core.settling.gates import GATES
from nudge.core.targets.choose import SCHOOLS
from nudge.core.tests.table import TESTS
from nudge.core.visit.calls import CALLS
from nudge.core.visit.seasons import SEASONS
from nudge.core.visit.steps import STEP_KEYS
from nudge.services.circuit_way import CIRCUIT_EVENTS
from nudge.services.heard import EVENT_KINDS
from nudge.services.zone_packing import parts_from, signs_from, unpacked


@dataclass(frozen=True, slots=True)
class Words:
    """A column that holds one word of a list; `may_be_empty` where nothing was said."""

    table: str
    column: str
    among: Collection[str]
    may_be_empty: bool = False


UNITS = ("ip", "si")
ENTRY_KINDS = ("typed", "mark", "ended", "aborted")
WORDS: tuple[Words, ...] = (
    Words("systems", "metering_device", tuple(one.value for one in MeteringDevice)),
    Words("systems", "application", tuple(one.value for one in Application)),
    Words("systems", "method", tuple(one.key for one in SCHOOLS), True),
    Words("systems", "reversing_valve", tuple(one.value for one in ReversingValve), True),
    *(Words("systems", row.key, tuple(row.options), True) for row in PLATE_CHOICES),
    Words("visits", "kind", tuple(CALLS), True),
    Words("visits", "connection", tuple(CONNECTIONS), True),
    Words("charts", "kind", tuple(KINDS)),
    Words("charts", "units", UNITS),
    Words("slips", "slip", tuple(one.key for one in SLIPS)),
    Words("slips", "units", UNITS),
    Words("readings", "point", tuple(POINTS)),
    Words("observations", "key", tuple(OBSERVATIONS)),
    Words("events", "kind", (*EVENT_KINDS, *CIRCUIT_EVENTS)),
    Words("ticks", "step", tuple(STEP_KEYS)),
    Words("ticks", "state", ("done", "skipped"), True),
    Words("checks", "key", tuple(FORMS)),
    Words("test_runs", "key", tuple(TESTS)),
    Words("test_entries", "kind", ENTRY_KINDS),
    Words("test_entries", "point", tuple(POINTS), True),
    Words("notes", "subsystem", tuple(SUBSYSTEMS)),
    Words("notes", "written_from", ("here", "office")),
    Words("photos", "subsystem", tuple(SUBSYSTEMS)),
    Words("overrides", "gate", tuple(one.key for one in GATES)),
    Words("deferred", "season", tuple(SEASONS)),
    Words("intended_changes", "key", tuple(INTENDED), True),
    Words("cylinders", "kind", tuple(CYLINDER_KINDS)),
    Words("cylinders", "condition", tuple(CONDITIONS)),
    Words("machine_settings", "mode", tuple(SETTING_MODES), True),
    Words("movements", "kind", tuple(MOVEMENT_KINDS)),
    Words("imports", "state", ("waiting", "reading", "done", "cancelled", "failed")),
    Words("channels", "source", ("live", "simulated", "imported")),
)


def misfits(given: Mapping[str, Any]) -> Iterator[str]:
    """Rows of a bundle whose words nobody knows, or whose plate numbers cannot be, in words."""
    for rule in WORDS:
        for row in given.get(rule.table, ()):
            word = row[rule.column]
            if word in rule.among or (word == "" and rule.may_be_empty):
                continue
            said = f"“{_of(row)}” has “{word[:40]}” for {rule.column}"
            yield f"{rule.table}: {said}: nobody knows that word."
    for row in given["systems"]:
        yield from _plate(row)
    for row in given.get("zone_logs", ()):
        yield from _zone_log(row)
    for key in ("systems", "cylinders"):
        for row in given[key]:
            try:
                refrigerant(row["refrigerant"])
            except CoreError as unknown:
                yield f"{key}: “{_of(row)}”: {unknown.text('ip')}"


def _plate(row: Mapping[str, Any]) -> Iterator[str]:
    for number in PLATE_NUMBERS:
        value = row.get(number.field)
        if value is None:
            continue
        try:
            check_plate_number(number, value)
        except CoreError as wrong:
            yield f"systems: “{_of(row)}”: {wrong.text('ip')}"


def _zone_log(row: Mapping[str, Any]) -> Iterator[str]:
    """A packed log that does not open, or does not fit its drawing."""
    try:
        for _, point in unpacked(b64decode(row["data"])).columns:
            zone_point(point)
        parts_from(row["parts"])
        signs_from(row["signs"])
    except CoreError as wrong:
        yield f"zone_logs: “{row['visit_id'][:40]}”: {wrong.text('ip')}"
    except (KeyError, TypeError, ValueError) as broken:
        yield f"zone_logs: “{row['visit_id'][:40]}” is no log: {type(broken).__name__} {broken}."[
            :200
        ]


def _of(row: Mapping[str, Any]) -> str:
    return str(row.get("id") or row.get("key") or "")[:40]
