"""A cold room as its readings show it, beside its design at set point and at the box as it is."""

from collections.abc import Sequence
from dataclasses import dataclass

from nudge.core.language.errors import CoreError
from nudge.core.language.units import degrees_f
from nudge.core.language.vocabulary.points import Readings
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.cold_room.ladder import Rungs, is_freezer, rungs
from nudge.core.physics.cold_room.pull_down import PullDown, pull_down

FREEZER_K = (degrees_f(2), degrees_f(8))
COOLER_K = (degrees_f(6), degrees_f(10))
"""Superheat at the coil that is accepted: a freezer's ideal is 3 to 6, a cooler's 6 to 10 °F."""
OWN_GIVE_K = degrees_f(3)
"""How near the plate's own superheat has to be met."""
COMPRESSOR_K = degrees_f(15)
"""Superheat at the compressor's end is this or more. Trade rule."""


@dataclass(frozen=True, slots=True)
class ColdRoom:
    """The design at set point and at the box as it is; None where the plate or a reading lacks."""

    at_set: Rungs | None
    at_box: Rungs | None
    off_k: float | None
    """The box over its set point [K]."""
    freezer: bool | None
    falls: PullDown | None = None
    """The curve a box on its way down follows."""
    own_k: float | None = None
    """The plate's own superheat at the coil."""

    @property
    def coil_window_k(self) -> tuple[float, float]:
        """Superheat at the coil that is accepted [K]."""
        if self.own_k is not None:
            return self.own_k - OWN_GIVE_K, self.own_k + OWN_GIVE_K
        return COOLER_K if self.freezer is False else FREEZER_K


def cold_room(
    plate: Plate, readings: Readings, box: Sequence[tuple[float, float]] = ()
) -> ColdRoom:
    """A room by its plate and readings (core units); `box` is its air over the last [min, °C]."""
    box_c, outdoor_c, set_c = (
        readings.get("box_air_temp"),
        readings.get("outdoor_air_temp"),
        plate.box_set_point_c,
    )
    falls = None
    if set_c is not None and len(box) > 2:
        falls = pull_down(box, set_c)
    return ColdRoom(
        _rungs(plate, set_c, outdoor_c),
        _rungs(plate, box_c, outdoor_c),
        None if box_c is None or set_c is None else box_c - set_c,
        is_freezer(plate),
        falls,
        plate.target_superheat_k,
    )


def _rungs(plate: Plate, box_c: float | None, outdoor_c: float | None) -> Rungs | None:
    """None off the refrigerant's table as well: no such room is built."""
    if box_c is None:
        return None
    try:
        return rungs(plate, box_c, outdoor_c)
    except CoreError:
        return None
