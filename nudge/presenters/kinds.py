"""What a visit shows besides the four numbers, by the kind of plant it is on."""

from dataclasses import dataclass
from typing import Any

from pydantic import BaseModel

from nudge.core.behaviours.rows import behaviour_of
from nudge.core.language.units import UnitSystem
from nudge.core.multizone.reading import State
from nudge.presenters.heat import HeatOut, heat_out
from nudge.presenters.room import RoomOut, room_out
from nudge.presenters.vehicle import VehicleOut, vehicle_out
from nudge.services.snapshot import Snapshot


@dataclass(frozen=True, slots=True)
class ZonesBrief:
    """What is known of a plant's log; `state` is None without one."""

    state: State | None


def zones_brief(snapshot: Snapshot) -> ZonesBrief | None:
    """None on other plant."""
    if not behaviour_of(snapshot.plate).reads_logs:
        return None
    zones = snapshot.around.zones
    return ZonesBrief(zones.decision.state if zones else None)


class ByKind(BaseModel):
    """One of these is there on plant of its kind, and none in cooling a house."""

    heat: HeatOut | None
    """What a visit in heating comes to."""
    room: RoomOut | None
    """A cold room beside its design."""
    vehicle: VehicleOut | None
    """A vehicle's three tests."""
    zones: ZonesBrief | None
    """A multi-zone plant's log: whether there is one, and how far it goes."""


def by_kind(snapshot: Snapshot, units: UnitSystem) -> dict[str, Any]:
    """The fields of `ByKind`."""
    return {
        "heat": heat_out(snapshot, units),
        "room": room_out(snapshot, units),
        "vehicle": vehicle_out(snapshot, units),
        "zones": zones_brief(snapshot),
    }
