"""What a visit shows besides the four numbers, by the kind of plant it is on."""

from typing import Any

from pydantic import BaseModel

from nudge.core.language.units import UnitSystem
from nudge.presenters.heat import HeatOut, heat_out
from nudge.presenters.room import RoomOut, room_out
from nudge.presenters.vehicle import VehicleOut, vehicle_out
from nudge.services.snapshot import Snapshot


class ByKind(BaseModel):
    """One of these is there on plant of its kind, and none in cooling a house."""

    heat: HeatOut | None
    """What a visit in heating comes to."""
    room: RoomOut | None
    """A cold room beside its design."""
    vehicle: VehicleOut | None
    """A vehicle's three tests."""


def by_kind(snapshot: Snapshot, units: UnitSystem) -> dict[str, Any]:
    """The fields of `ByKind`."""
    return {
        "heat": heat_out(snapshot, units),
        "room": room_out(snapshot, units),
        "vehicle": vehicle_out(snapshot, units),
    }
