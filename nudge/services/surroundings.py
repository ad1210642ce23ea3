"""What a visit is judged by besides itself, read from the record in one session."""

from dataclasses import replace
from datetime import datetime

from sqlalchemy.orm import Session

from nudge.services.circuit_way import fill_of, proven_before, way_of
from nudge.services.cylinders import booked_of
from nudge.services.facts import fitted_in
from nudge.services.folder import folder_of
from nudge.services.history import own_history
from nudge.services.live_state import live_state
from nudge.services.methods import preferred_methods
from nudge.services.modes import mode_of, mode_read
from nudge.services.past import ADDITIONS_WITHIN, Known, own_departures, recovered_of
from nudge.services.register import own_of
from nudge.services.snapshot import Snapshot, Surroundings, take_snapshot
from nudge.services.sound import readable, show_sound
from nudge.services.zone_reading import zones_of
from nudge.store.live_tables import Channel, Override, Plant
from nudge.store.repositories import live, settings
from nudge.store.repositories import visits as repository
from nudge.store.repositories.hung import hung_on
from nudge.store.tables import Visit
from nudge.store.zone_tables import ZoneLogRow


def snapshot_of(session: Session, row: Visit, now: datetime) -> Snapshot:
    """A visit as it stands, assessed once."""
    broken = show_sound(row)
    return take_snapshot(row, replace(surroundings(session, row, now), broken=tuple(broken)))


def surroundings(session: Session, row: Visit, now: datetime) -> Surroundings:
    """Everything around a visit that its judgement or its screens need."""
    has = hung_on(session, row)
    state = live_state(session, row, now) if Channel in has else None
    folder = folder_of(session, row, now, has)
    verdicts = {str(one.sequence): one for one in repository.earlier_verdicts(session, row)}
    earlier = list(readable(verdicts).values())
    mode = mode_of(row)
    alike = [one for one in earlier if mode_read(one.readings) == mode]
    ticks = {key: tick.state for key, tick in folder.ticks.items()}
    way = way_of(session, row, folder.tests)
    proven = proven_before(session, row, way)
    if proven:
        tests = replace(folder.tests, proven=folder.tests.proven | proven)
        folder = replace(folder, tests=tests)
    known = Known(
        repository.additions_before(session, row, now - ADDITIONS_WITHIN),
        recovered_of(row, folder.tests.circuit_at, booked_of(session, row)),
        ticks.get("weighed_in") == "done" or way.was("weighed"),
        "tight" in folder.tests.proven or ticks.get("pressure_test") == "done",
        way,
        fill_of(row, way) if way.is_open else None,
        fitted_in(folder),
        "tight" in folder.tests.proven,
    )
    return Surroundings(
        preferred=preferred_methods(row.system, settings.all_settings(session)),
        own=own_history(alike),
        live=state,
        is_simulated=Plant in has,
        passed=live.overrides(session, row.id) if Override in has else (),
        own_signs=own_departures(alike),
        known=known,
        folder=folder,
        zones=zones_of(session, row) if ZoneLogRow in has else None,
        instruments=own_of(session, row.closed_at or now),
        heated=tuple(one.readings for one in earlier if mode_read(one.readings) == "heating"),
    )
