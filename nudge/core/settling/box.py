"""What keeps a cold room from being judged: no set point, far from it, a defrost, an open door."""

from nudge.core.behaviours.case import Case
from nudge.core.language.said import Said, difference, minutes, say, temperature
from nudge.core.physics.cold_room.pull_down import NEAR_K, PullDown
from nudge.core.targets.choose import Targets


def no_set_point(case: Case, _: Targets) -> Said | None:
    if case.room is None or case.plate.box_set_point_c is not None:
        return None
    return say(
        "The plate has no box set point: without it nobody knows what this room should boil at. "
        "Read its thermostat and write it down."
    )


def off_set_point(case: Case, _: Targets) -> Said | None:
    room, set_c = case.room, case.plate.box_set_point_c
    if room is None or room.off_k is None or set_c is None or abs(room.off_k) <= NEAR_K:
        return None
    if room.off_k < 0:
        return say(
            "The box is {off} under its set point of {set}: it does not call, or the thermostat "
            "lets it run on. Not judged.",
            off=difference(-room.off_k),
            set=temperature(set_c),
        )
    falls = room.falls
    if falls is None or falls.near_in_min is None:
        return say(
            "Pull-down, not judged: the box is {off} over its set point of {set}. Come back when "
            "it is within {near}.",
            off=difference(room.off_k),
            set=temperature(set_c),
            near=difference(NEAR_K),
        )
    off = say(
        "Pull-down, not judged: the box is {off} over its set point of {set}.",
        off=difference(room.off_k),
        set=temperature(set_c),
    )
    near = near_said(falls)
    return Said(f"{off.template} {near.template}", (*off.measures, *near.measures))


def near_said(falls: PullDown) -> Said:
    """When a box that falls is near its set point, as far as its readings tell."""
    if falls.near_in_min is None:
        return say("As it falls it never comes near.")
    if falls.latest_in_min is None:
        return say(
            "As it falls it comes within {near} in {left} at the earliest, perhaps never.",
            near=difference(NEAR_K),
            left=minutes(falls.near_in_min),
        )
    return say(
        "As it falls it comes within {near} in {left} to {latest}.",
        near=difference(NEAR_K),
        left=minutes(falls.near_in_min),
        latest=minutes(falls.latest_in_min),
    )


def door_open(case: Case, _: Targets) -> Said | None:
    if case.room is None or not case.saw("door_open"):
        return None
    return say("A door stands open: shut it, and read ten minutes later.")
