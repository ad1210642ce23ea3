"""A system or a visit as one file, and back into another Nudge without loss.

The shape of every row follows its table; what only this machine knows (row numbers, links,
what the stream remembers) stays here. `docs/formats/` holds the JSON Schema of it.
"""

import base64
import json
from collections.abc import Callable, Mapping, Sequence
from datetime import UTC, date, datetime
from secrets import token_urlsafe
from typing import Any

from pydantic import BaseModel, ValidationError
from sqlalchemy.orm import Session

from nudge import __version__
from nudge.core.language.callout.spoken_units import value_si
from nudge.core.language.errors import CoreError
from nudge.core.language.vocabulary.points import point
from nudge.services.bundle_rules import misfits
from nudge.services.bundle_shape import (
    FORMAT,
    MODELS,
    OF_SYSTEM,
    OF_VISIT,
    TABLES_ADDED_LATER,
    VERSION,
    Bundle,
    PlacementRow,
)
from nudge.services.bundle_writing import TakenIn, write_bundle
from nudge.services.clock import Clock
from nudge.services.errors import NotFound
from nudge.services.photos import shrunk
from nudge.store.database import Database
from nudge.store.live_tables import Channel
from nudge.store.repositories import book, live, removal, shelf
from nudge.store.repositories import rows as any_rows
from nudge.store.repositories import visits as visits_repository
from nudge.store.shelf_tables import Cylinder
from nudge.store.tables import (
    Base,
    Site,
    System,
    TakenBundle,
    Visit,
)

MOST_REASONS = 20


class NotABundle(CoreError):
    """What was given cannot be taken in, with every reason. Nothing was changed."""

    def __init__(self, reasons: Sequence[str]) -> None:
        shown = list(reasons[:MOST_REASONS])
        if len(reasons) > MOST_REASONS:
            shown.append(f"and {len(reasons) - MOST_REASONS} more.")
        super().__init__("bundle", "Not taken in; nothing was changed. " + " ".join(shown))
        self.reasons = tuple(reasons)


class Bundles:
    """The use cases of carrying data from one Nudge to another."""

    def __init__(self, database: Database, clock: Clock) -> None:
        self._database, self._clock = database, clock

    def of_system(self, system_id: str) -> dict[str, Any]:
        """A system with every visit to it. Raises: NotFound."""
        with self._database.reading() as session:
            row = book.system(session, system_id)
            if row is None:
                raise NotFound("system", system_id)
            ids = [visit.id for visit in visits_repository.of_system(session, system_id)]
            return self._bundle(session, row, ids, whole=True)

    def of_visit(self, visit_id: str) -> dict[str, Any]:
        """One visit, with the system it was on. Raises: NotFound."""
        with self._database.reading() as session:
            visit = visits_repository.head(session, visit_id)
            if visit is None:
                raise NotFound("visit", visit_id)
            row = book.system(session, visit.system_id)
            assert row is not None  # a visit's system cannot be gone: the database holds it
            return self._bundle(session, row, [visit_id], whole=False)

    def _bundle(
        self, session: Session, system: System, visit_ids: Sequence[str], whole: bool
    ) -> dict[str, Any]:
        moved = list(shelf.moved(session, system.id, None if whole else visit_ids))
        weighed = list(shelf.weighed_on(session, visit_ids))
        used = dict.fromkeys([*(m.cylinder_id for m in moved), *(w.cylinder_id for w in weighed)])
        cylinders = [one for key in used if (one := session.get(Cylinder, key)) is not None]
        site = session.get(Site, system.site_id)
        visits = [row for key in visit_ids if (row := session.get(Visit, key)) is not None]
        rows: dict[str, Sequence[Base]] = {
            "sites": [site] if site else [],
            "systems": [system],
            "visits": visits,
            "cylinders": cylinders,
            "movements": moved,
            "weighings": weighed,
        }
        for key, table in OF_SYSTEM.items():
            found = _all(session, table, "system_id", [system.id])
            if not whole and key != "charts":
                found = [row for row in found if getattr(row, "visit_id", "") in visit_ids]
            rows[key] = found
        for key, table in OF_VISIT.items():
            rows[key] = _all(session, table, "visit_id", visit_ids)
        return {
            "format": FORMAT,
            "version": VERSION,
            "made_by": f"Nudge {__version__}",
            "made_at": self._clock().astimezone(UTC).isoformat(),
            **{key: [_plain(row, MODELS[key]) for row in found] for key, found in rows.items()},
            "channels": [
                _channel(session, row) for row in _all(session, Channel, "visit_id", visit_ids)
            ],
        }

    def take_in(self, data: bytes) -> TakenIn:
        """Take a bundle in, whole or not at all.

        A system that is here keeps its own plate and gets the visits it lacks; a visit that is
        here and the same is left alone. Raises: NotABundle, with every reason.
        """
        given = read_bundle(data)
        reasons = _problems(given)
        if reasons:
            raise NotABundle(reasons)
        with self._database.writing() as session:
            clashes = self._clashes(session, given)
            if clashes:
                raise NotABundle(clashes)
            now = self._clock()
            taken = write_bundle(session, given, now)
            if taken.brought:
                session.add(
                    TakenBundle(
                        id=token_urlsafe(9),
                        taken_at=now,
                        said=taken.said,
                        brought=taken.brought,
                        undone_at=None,
                    )
                )
            return taken

    def look(self, data: bytes) -> tuple[TakenIn, list[str]]:
        """What a bundle would bring, and everything in it that does not fit. Nothing is written."""
        try:
            given = read_bundle(data)
        except NotABundle as refused:
            return TakenIn(0, 0, 0), list(refused.reasons)
        reasons = _problems(given)
        with self._database.reading() as session:
            if not reasons:
                reasons = self._clashes(session, given)
            here = {row["id"] for row in given["visits"] if session.get(Visit, row["id"])}
            systems = [row for row in given["systems"] if session.get(System, row["id"]) is None]
        return TakenIn(len(systems), len(given["visits"]) - len(here), len(here)), reasons

    def taken(self) -> list[TakenBundle]:
        """What was taken in from other Nudges, the newest first."""
        with self._database.reading() as session:
            return removal.bundles(session)

    def take_out(self, taken_id: str) -> None:
        """Take an import out again: every row it brought, whole or not at all.

        Raises: NotFound; CoreError, where something was written on it since.
        """
        with self._database.writing() as session:
            row = session.get(TakenBundle, taken_id)
            if row is None or row.undone_at is not None:
                raise NotFound("import", taken_id)
            since = removal.written_since(session, row)
            if since:
                raise CoreError(
                    "import",
                    f"Something was written on it since: {', '.join(since)}. It stays. Nothing "
                    "was changed.",
                )
            removal.take_out(session, row)
            row.undone_at = self._clock()

    def _clashes(self, session: Session, given: Mapping[str, Any]) -> list[str]:
        """Rows that are here under the same name and say something else."""
        found = []
        for visit in given["visits"]:
            here = session.get(Visit, visit["id"])
            if here is None:
                continue
            system = book.system(session, here.system_id)
            if here.system_id != visit["system_id"] or system is None:
                found.append(f"Visit “{visit['id']}” is here already, on another system.")
                continue
            ours = _of_one(self._bundle(session, system, [here.id], whole=False), here.id)
            if ours != _of_one(given, here.id):
                found.append(f"Visit “{visit['id']}” is here already and says something else.")
        for key in ("movements", "cylinders"):
            for row in given[key]:
                here_row = session.get(Cylinder, row["id"]) if key == "cylinders" else None
                if here_row is not None and here_row.refrigerant != row["refrigerant"]:
                    found.append(f"Cylinder “{row['id']}” is here with another refrigerant.")
        return found


def _all(session: Session, table: type[Base], key: str, ids: Sequence[str]) -> list[Base]:
    return any_rows.rows_of(session, table, key, ids)


def _plain(row: Base, model: type[BaseModel]) -> dict[str, Any]:
    """A row as JSON holds it."""
    found: dict[str, Any] = {}
    for key in model.model_fields:
        value = getattr(row, key)
        if isinstance(value, datetime):
            value = value.astimezone(UTC).isoformat()
        elif isinstance(value, date):
            value = value.isoformat()
        elif isinstance(value, bytes):
            value = base64.b64encode(value).decode("ascii")
        found[key] = value
    return found


def _channel(session: Session, row: Base) -> dict[str, Any]:
    assert isinstance(row, Channel)
    placements = live.placements_of(session, row.id)
    samples = live.samples_of(session, row.id)
    return {
        "visit_id": row.visit_id,
        "key": row.key,
        "label": row.label,
        "source": row.source,
        "created_at": row.created_at.astimezone(UTC).isoformat(),
        "placements": [_plain(placed, PlacementRow) for placed in placements],
        "at_ms": [at for at, _ in samples],
        "values": [value for _, value in samples],
    }


def read_bundle(data: bytes) -> dict[str, Any]:
    """Raises: NotABundle, for what is no JSON, or not this format."""
    try:
        found = json.loads(data)
    except (ValueError, RecursionError) as broken:
        raise NotABundle([f"It is not JSON ({str(broken)[:120]})."]) from broken
    if not isinstance(found, dict) or found.get("format") != FORMAT:
        raise NotABundle(["It is no Nudge bundle: “format” must be “nudge-bundle”."])
    if found.get("version") != VERSION:
        version = str(found.get("version"))[:20]
        raise NotABundle([f"It is version {version} of the format; here {VERSION} is read."])
    try:
        Bundle.model_validate(found)
    except ValidationError as invalid:
        raise NotABundle([_said(error) for error in invalid.errors()]) from invalid
    for key in TABLES_ADDED_LATER:
        found.setdefault(key, [])
    return found


def _said(error: Mapping[str, Any]) -> str:
    return f"{'.'.join(str(part)[:60] for part in error['loc'])}: {error['msg']}."


def _problems(given: Mapping[str, Any]) -> list[str]:
    """What is well formed but cannot be: names nobody knows, rows that hang in the air."""
    found: list[str] = []

    def try_it(what: str, check: Callable[[], object]) -> None:
        try:
            check()
        except CoreError as refused:
            found.append(f"{what}: {refused.text('ip')}")
        except KeyError as unknown:
            found.append(f"{what}: nobody knows {str(unknown)[:60]}.")

    sites = {row["id"] for row in given["sites"]}
    found += misfits(given)
    found += [
        f"System “{row['name'][:60]}” is at a site that is not in the bundle."
        for row in given["systems"]
        if row["site_id"] not in sites
    ]
    found += _loose_ends(given)
    for row in given["readings"]:
        try_it(
            f"Reading “{row['id'][:40]}”",
            lambda row=row: value_si(  # type: ignore[misc]
                row["given_value"], row["given_unit"], point(row["point"]).quantity
            ),
        )
    for row in given["photos"]:
        if row["removed_at"] is None:
            try_it(f"Picture “{row['id'][:40]}”", lambda row=row: _picture(row))  # type: ignore[misc]
    for row in given["channels"]:
        if len(row["at_ms"]) != len(row["values"]):
            found.append(f"Channel “{row['key'][:40]}”: as many moments as values are wanted.")
    return found


def _loose_ends(given: Mapping[str, Any]) -> list[str]:
    """Rows that belong to something the bundle does not hold."""
    found: list[str] = []
    systems, visits, cylinders = (
        {row["id"] for row in given[key]} for key in ("systems", "visits", "cylinders")
    )
    for key, row in _hanging(given, "system_id", ("visits", *OF_SYSTEM)):
        if row["system_id"] not in systems:
            found.append(f"{key}: “{row['id']}” belongs to a system that is not in the bundle.")
    for key, row in _hanging(
        given, "visit_id", (*OF_VISIT, "channels", "baselines", "deferred", "intended_changes")
    ):
        if row["visit_id"] not in visits:
            found.append(f"{key}: a row belongs to a visit that is not in the bundle.")
    for row in (*given["movements"], *given["weighings"]):
        if row["cylinder_id"] not in cylinders:
            found.append(f"“{row['id']}” names a cylinder that is not in the bundle.")
    return found


def _picture(row: Mapping[str, Any]) -> None:
    try:
        data = base64.b64decode(row["picture"], validate=True)
    except ValueError as broken:
        raise CoreError("picture", "Its bytes are not base64.") from broken
    shrunk(data)


def _hanging(given: Mapping[str, Any], field: str, keys: Sequence[str]) -> list[tuple[str, Any]]:
    return [(key, row) for key in keys for row in given[key] if field in row]


def _of_one(given: Mapping[str, Any], visit_id: str) -> dict[str, Any]:
    """The part of a bundle that is one visit's own."""
    own = {
        key: [row for row in given[key] if row["visit_id"] == visit_id]
        for key in (*OF_VISIT, "channels")
    }
    own["visits"] = [row for row in given["visits"] if row["id"] == visit_id]
    return own
