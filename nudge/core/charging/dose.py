"""The next dose: as much as still leaves even an optimistic answer inside the window."""

from dataclasses import dataclass

from nudge.core.charging.shortfall import EDGE, Shortfall
from nudge.core.charging.ways import SUPERHEAT_FLOOR_K, ChargeWay
from nudge.core.language.units import degrees_f

STEP_KG = 0.0141747615625
"""Doses are given in half ounces."""
MOST_OF_WHOLE = 0.16
"""No dose is more than this share of the whole charge, whatever is missing."""
REMOVED_AT_MOST = 0.08
BACK_SHARE = 0.8
"""Of the way back to the target after a dose that went past its window."""
MAY_FLOOD = 0.002
"""The belief that may be left that a dose takes superheat under its floor of 5 °F."""
HAIR_K = 1e-9
STEEPEST_K = degrees_f(450)
"""No orifice system met loses superheat faster than this: 4.5 °F for a percent of its charge."""


@dataclass(frozen=True, slots=True)
class CylinderRoom:
    """How far what is watched may go: bounds off target [K], in the sense of the way.

    `floor_k` is how far superheat may fall below its target before it is under its floor;
    `over_floor_k` how far it stands over its floor now.
    """

    past_k: float
    floor_k: float
    over_floor_k: float = float("inf")


def room_for(
    way: ChargeWay, watched: str, superheat_target_k: float | None, superheat_k: float | None = None
) -> CylinderRoom:
    """The room of a way; near its floor, superheat leaves less than the way would."""
    if watched == "superheat" and superheat_target_k is not None:
        floor = max(superheat_target_k - SUPERHEAT_FLOOR_K, 0.0)
        over = float("inf") if superheat_k is None else max(superheat_k - SUPERHEAT_FLOOR_K, 0.0)
        return CylinderRoom(min(way.room_k, max(floor, 0.3)), floor, over)
    return CylinderRoom(way.room_k, float("inf"))


def next_dose(learned: Shortfall, room: CylinderRoom, removes: bool, of_it: float = 1.0) -> float:
    """The next dose [kg, always positive]: never past the middle of what is believed missing.

    The largest dose whose optimistic edge (97.5 %) stays within `room`; rounded down to half
    an ounce. 0.0 where even the smallest goes too far. `of_it` is the share of that which is
    given, at least half an ounce.
    """
    missing = learned.missing_kg()
    most = -missing.middle if removes else missing.middle
    if most <= 0:
        return 0.0
    whole = learned.whole_kg()
    share = REMOVED_AT_MOST if removes else min(MOST_OF_WHOLE, room.over_floor_k / STEEPEST_K)
    fits, too_many = 0, int(min(most, share * whole) / STEP_KG + 0.02) + 1
    while too_many - fits > 1:
        middle = (fits + too_many) // 2
        if _fits(learned, middle * STEP_KG, room, removes):
            fits = middle
        else:
            too_many = middle
    return max(int(fits * of_it), min(fits, 1)) * STEP_KG


def taken_back(off_before_k: float, off_now_k: float, added_kg: float) -> float:
    """How much of the last dose comes out again [kg], by this system's own answer to it.

    For a system steeper than any in the book: most of the way back along the line through the
    two readings, never more than half the dose; 0.0 where that is less than a step.
    """
    answered = off_now_k - off_before_k
    if added_kg <= 0 or answered * off_now_k <= 0:
        return 0.0
    back = BACK_SHARE * added_kg * off_now_k / answered
    return int(min(back, added_kg / 2) / STEP_KG) * STEP_KG


def _fits(learned: Shortfall, dose_kg: float, room: CylinderRoom, removes: bool) -> bool:
    """Whether the far end of the forecast after a dose stays within the room."""
    dose = -dose_kg if removes else dose_kg
    falls = (learned.watched == "superheat") != removes
    if falls:
        if learned.share_under(dose, -room.past_k) >= EDGE:
            return False
    elif learned.share_under(dose, room.past_k + HAIR_K) < 1 - EDGE:
        return False
    adds_by_superheat = learned.watched == "superheat" and not removes
    return not adds_by_superheat or learned.share_under(dose, -room.floor_k) <= MAY_FLOOD
