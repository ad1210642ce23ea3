"""What keeps a cold room from being judged: no set point, far from it, a defrost, an open door."""

from nudge.core.behaviours.case import Case
from nudge.core.language.said import Said, difference, minutes, say, temperature
from nudge.core.language.units import Quantity, fahrenheit, from_si
from nudge.core.physics.cold_room.pull_down import NEAR_K, PullDown
from nudge.core.settling.box_log import RULES
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
    if (asked := _other_unit(case)) is not None:
        return asked
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


MIXED_UP_K, CLOSE_K, HOTTEST_BOX_C = 8.0, 1.2, 25.0
"""Only so far from the set point is a number asked for its unit; how near the other has to fit."""


def _other_unit(case: Case) -> Said | None:
    """Asked, where the box or the set point fits the other once its number is read in the other
    unit: °C on a plate in °F, or the other way round.
    """
    box_c, set_c = case.readings["box_air_temp"], case.plate.box_set_point_c
    assert set_c is not None
    if abs(box_c - set_c) < MIXED_UP_K:
        return None
    box_f, set_f = (from_si(v, Quantity.TEMPERATURE, "ip") for v in (box_c, set_c))
    # What was meant, by the number in the other unit: a box colder than its set point or hotter
    # than any, or a set point whose number is the box in the other unit.
    readings = (
        (box_c < set_c and abs(box_f - set_c) <= NEAR_K, "box reads", box_c, set_c, box_f),
        (
            box_c > HOTTEST_BOX_C and abs(fahrenheit(box_c) - set_c) <= NEAR_K,
            "box reads",
            box_c,
            set_c,
            fahrenheit(box_c),
        ),
        (abs(set_f - box_c) <= CLOSE_K, "set point is", set_c, box_c, set_f),
    )
    for fits, what, one, other, meant in readings:
        if fits:
            return say(
                f"The {what} {{one}}, far from {{other}}; its number in the other unit would be "
                "{meant}. Is the unit right? Put it right, and read again.",
                one=temperature(one),
                other=temperature(other),
                meant=temperature(meant),
            )
    return None


def heater_on(case: Case) -> Said | None:
    """A coil warmer than its box is heated, whatever anybody ticked."""
    box, coil = case.readings.get("box_air_temp"), case.readings.get("evaporator_outlet_temp")
    if case.room is None or box is None or coil is None or coil - box < RULES["heated"].value:
        return None
    if case.room.off_k is not None and _other_unit(case) is not None:
        return None  # the box's own number is asked about first
    return say(
        "The coil's outlet is {off} warmer than the box: a defrost, or its heater is on. {need} "
        "after it ended, read again.",
        off=difference(coil - box),
        need=minutes(DOOR_MINUTES),
    )


def held_by_nothing(case: Case, _: Targets) -> Said | None:
    """A set point over the outdoor air with nothing that holds the head."""
    set_c, outdoor = case.plate.box_set_point_c, case.readings.get("outdoor_air_temp")
    if case.room is None or set_c is None or outdoor is None or outdoor >= set_c:
        return None
    if case.plate.head_pressure_control in ("cycling", "flooded"):
        return None
    return say(
        "The set point of {set} is over the outdoor air of {outdoor}: check it, and its unit. If "
        "both are right, nothing on the plate holds the head: write its control there.",
        set=temperature(set_c),
        outdoor=temperature(outdoor),
    )


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


DOOR_MINUTES = 10.0
"""After a door was shut, until the box is what its plant makes of it. Trade rule."""


def door_open(case: Case, _: Targets) -> Said | None:
    if case.room is None:
        return None
    since = case.context.since_door
    if since is not None and since < DOOR_MINUTES:
        return say(
            "By its air a door stood open {since} ago: {need} after it was shut, read again.",
            since=minutes(since),
            need=minutes(DOOR_MINUTES),
        )
    if not case.saw("door_open"):
        return None
    return say("A door stands open: shut it, and read ten minutes later.")
