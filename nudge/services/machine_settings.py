"""The settings record of a machine: written on a visit, compared, carried to a sister machine."""

from dataclasses import dataclass, replace

from sqlalchemy.orm import Session

from nudge.core.language.errors import CoreError
from nudge.core.opening.settings import (
    MOST,
    KeptSetting,
    SettingThen,
    against_last,
    check_setting,
    standing_settings,
)
from nudge.services.clock import Clock
from nudge.services.errors import NotFound
from nudge.services.open_visit import found_visit
from nudge.services.snapshot import Snapshot
from nudge.services.visits import Visits
from nudge.store.database import Database
from nudge.store.repositories import book, machine
from nudge.store.tables import Visit
from nudge.store.visit_tables import MachineSetting


@dataclass(frozen=True, slots=True)
class SettingsRecord:
    """A visit's settings beside last time's; which visit that was, "" for none."""

    settings: tuple[SettingThen, ...]
    before: str
    sisters: tuple[tuple[str, str], ...]
    """Other systems of its site with settings on record: id and name."""

    @property
    def changes(self) -> int:
        return sum(one.became != "same" for one in self.settings) if self.before else 0


class MachineSettings:
    """The use cases of a machine's settings."""

    def __init__(self, database: Database, clock: Clock, visits: Visits) -> None:
        self._database, self._clock, self._visits = database, clock, visits

    def of(self, visit_id: str) -> SettingsRecord:
        """The settings of a visit. Raises: NotFound."""
        with self._database.reading() as session:
            visit = found_visit(session, visit_id)
            before, rows = machine.last_before(session, visit)
            now = [_kept(row) for row in machine.of_visit(session, visit_id)]
            sisters = tuple(
                (one.id, one.name)
                for one in visit.system.site.systems
                if one.id != visit.system_id and machine.last_of_system(session, one.id)
            )
        return SettingsRecord(against_last(now, [_kept(r) for r in rows]), before, sisters)

    def put(self, visit_id: str, entry_id: str, setting: KeptSetting) -> Snapshot:
        """Write a setting down as it is left; without a value it comes off the record.

        Raises: NotFound, Closed, UnknownName; CoreError, for what is no setting, or lacks why.
        """
        row = check_setting(setting)

        def write(session: Session, visit: Visit) -> None:
            self._add(session, visit.id, entry_id, row)

        return self._visits.amend(visit_id, write, entry_id)

    def carry(self, visit_id: str, entry_id: str, from_system: str) -> Snapshot:
        """Take the settings a sister machine was last left with onto this visit.

        Raises: NotFound; CoreError, where it has none.
        """

        def write(session: Session, visit: Visit) -> None:
            sister = book.system(session, from_system)
            if sister is None:
                raise NotFound("system", from_system)
            rows = [_kept(row) for row in machine.last_of_system(session, from_system)]
            standing = standing_settings(rows)
            if not standing:
                raise CoreError("system", f"No settings are on record for “{sister.name}”.")
            for number, row in enumerate(standing.values()):
                why = row.reason or f"as on {sister.name}"
                self._add(session, visit.id, f"{entry_id}:{number}", replace(row, reason=why))

        return self._visits.amend(visit_id, write, entry_id)

    def _add(self, session: Session, visit_id: str, entry_id: str, row: KeptSetting) -> None:
        if machine.is_set(session, entry_id):
            return
        if len(machine.of_visit(session, visit_id)) >= MOST:
            raise CoreError("settings", f"A visit keeps at most {MOST} entries of settings.")
        session.add(
            MachineSetting(
                id=entry_id,
                visit_id=visit_id,
                name=row.name,
                mode=row.mode,
                usual=row.usual,
                value=row.value,
                reason=row.reason,
                set_at=self._clock(),
            )
        )


def _kept(row: MachineSetting) -> KeptSetting:
    return KeptSetting(row.name, row.mode, row.usual, row.value, row.reason)
