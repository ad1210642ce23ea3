"""What an inverter's charge mode is on a visit: by its events, asked for by the kind of call."""

from datetime import datetime
from typing import Literal

from nudge.core.physics.circuit.equipment import MeteringDevice, device_named
from nudge.core.visit.steps_opening import OPENED
from nudge.store.tables import Visit

Mode = Literal["", "needed", "full", "partial", "ended", "lapsed"]
OF_EVENT: dict[str, Mode] = {
    "charge_mode_full": "full",
    "charge_mode_partial": "partial",
    "charge_mode_ended": "ended",
    "charge_mode_lapsed": "lapsed",
}
STOPS = frozenset({"system_stopped"})


def charge_mode_of(visit: Visit) -> tuple[Mode, datetime | None]:
    """The mode and since when; "" on a system that has none, `needed` where a call asks for it.

    A mode ends with a stop: it has to be started again.
    """
    if device_named(visit.system.metering_device) is not MeteringDevice.EEV:
        return "", None
    mode: Mode = "needed" if visit.kind in OPENED else ""
    since: datetime | None = None
    for event in visit.standing_events:
        if event.kind in OF_EVENT:
            mode, since = OF_EVENT[event.kind], event.happened_at
        elif event.kind in STOPS and mode in ("full", "partial"):
            mode, since = "lapsed", event.happened_at
    return mode, since
