"""What a plant's kept log is read as, and what moved since the plant was well."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session

from nudge.core.multizone.against import ZonesAgainst, against
from nudge.core.multizone.reading import ZoneReading, read_zones
from nudge.core.multizone.signs import ZoneSigns
from nudge.core.multizone.weigh import zone_table
from nudge.core.physics.zones.log import HOUR_S
from nudge.services.baselines import in_both
from nudge.services.snapshot import Snapshot
from nudge.services.zone_packing import parts_from, signs_from
from nudge.store.database import Database
from nudge.store.repositories import zones as zone_repository
from nudge.store.tables import Visit
from nudge.store.zone_tables import ZoneLogRow


@dataclass(frozen=True, slots=True)
class ZonesEarlier:
    """An earlier log of the plant: at which visit, when, and what moved since."""

    visit_id: str
    at: datetime
    found: ZonesAgainst


def zones_of(session: Session, visit: Visit) -> ZoneReading | None:
    """What a visit's log was read as, for its judgement; None without one."""
    row = zone_repository.log_of(session, visit.id)
    return None if row is None else reading_of(row)


def reading_of(row: ZoneLogRow) -> ZoneReading:
    """A kept log, read by its signs and the drawing of its day."""
    signs, kept_s = signs_from(row.signs)
    return read_zones(signs, kept_s >= HOUR_S, zone_table(), kept_s, parts_from(row.parts))


def drift_of_log(database: Database, snapshot: Snapshot) -> str:
    """What had moved of a plant's log since it was well, in both units, as a closed visit keeps it;
    "" where nothing had, or there is no log.
    """
    if snapshot.around.zones is None:
        return ""
    with database.reading() as session:
        found = moved_since(session, snapshot.visit, snapshot.around.zones.signs)
    said = None if found is None else found.found.said
    return "" if said is None else in_both(said)


def moved_since(session: Session, visit: Visit, now: ZoneSigns) -> ZonesEarlier | None:
    """What moved since the last visit at which nothing stood out."""
    for row in zone_repository.earlier_logs(session, visit):
        reading = reading_of(row)
        if reading.decision.state == "well":
            found = against(now, reading.signs, zone_table())
            return ZonesEarlier(row.visit_id, row.taken_at, found)
    return None
