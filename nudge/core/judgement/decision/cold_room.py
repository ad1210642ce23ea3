"""What a cold room's visit comes to, by its windows: its coil's feed, its rungs, never its charge.

Charge is moved by level or by weight, and what runs empty has a leak: nothing here ever asks to
add. With a receiver suspects are weighed and lead; without one its windows answer, and say so.
"""

from collections.abc import Callable
from dataclasses import replace
from math import ceil

from nudge.core.expectations.expected import expected
from nudge.core.judgement.decision.convicted import convicted
from nudge.core.judgement.decision.decision import HangsOn, Order
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.room_words import NO_CHARGE, alone, guessed, rungs_said
from nudge.core.judgement.decision.rule import Finding, Rule
from nudge.core.judgement.decision.words import joined
from nudge.core.language.said import Said, difference, say, temperature
from nudge.core.language.units import degrees_f
from nudge.core.language.vocabulary.accuracy import GAP_LIMIT_K
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.cold_room.room import COMPRESSOR_K, ColdRoom
from nudge.core.settling.gate import NEVER_PASSED

RUNG_K = degrees_f(5)
"""A rung this far from its design is off: a coil's class, its frost and a gauge make up less."""
SURELY = 0.95
"""A suspect is named beside numbers that are right only from here: many looks go into a room, and
each errs. At 0.9 one healthy cooler in twenty was called ill, at 0.95 half of that."""
WELL = 0.65
"""A rung or a feed off its window is the design's own spread where nothing wrong is believed so
much: 11 of 640 healthy coolers are called ill so, 18 without it; no ill one more goes unnamed."""
HELD = frozenset({"cycling", "flooded"})
"""Head-pressure controls: they hold the head over the weather, at a setting of their own."""
NEEDED = ("box_air_temp", "suction_pressure", "evaporator_outlet_temp")
STARVED: tuple[tuple[str, str], ...] = (
    ("read_receiver_level", "receiver_right"),
    ("walk_liquid_line", "drier_inlet_temp"),
    ("test_bulb", "bulb_test_reacts"),
)
"""What parts a coil that is starved: enough liquid, a way for it, a valve that opens."""
CHOKED: tuple[tuple[str, str], ...] = (
    ("see_room_fans", "room_fans_run"),
    ("look_at_room_coil", "room_coil_clear"),
    ("see_door_shut", "door_shut"),
)
"""What parts a coil that boils too low with its feed right: air, ice, load."""


def _in_room(
    finds: Callable[[Ground, ColdRoom], Finding | None],
) -> Callable[[Ground], Finding | None]:
    """A rule for cold rooms alone."""

    def found(ground: Ground) -> Finding | None:
        room = ground.case.room
        return None if room is None else finds(ground, room)

    return found


def _clock(ground: Ground, room: ColdRoom) -> Finding | None:
    shut = [b for b in ground.blocking if b.gate.key not in NEVER_PASSED and not b.passed]
    if not shut:
        return None
    first = shut[0]
    found = Finding(first.message, headline=first.gate.headline or "Not yet.")
    if first.gate.opened_by is not None:
        kind, key = first.gate.opened_by
        key = "see_door_shut" if key == "door_shut" else key
        found = replace(found, hangs_on=HangsOn(kind, key, first.message))
    falls = room.falls
    if first.gate.key == "off_set_point" and falls is not None and falls.near_in_min:
        hangs = HangsOn("minutes", first.gate.key, first.message)
        ready = float(ceil(falls.near_in_min))
        return replace(found, hangs_on=hangs, stage="settle", ready_in=ready)
    return found


def _unread(ground: Ground, _: ColdRoom) -> Finding | None:
    missing = [point for point in NEEDED if point not in ground.case.readings]
    if not missing:
        return None
    names = ", ".join(POINTS[point].label.lower() for point in missing)
    said = say(f"How the coil is fed shows at its outlet, near set point. Read: {names}.")
    return Finding(said, hangs_on=HangsOn("reading", missing[0], said))


def _looks_right(ground: Ground, room: ColdRoom) -> bool:
    """The coil fed right, and both rungs at their height where they are read."""
    if ground.case.derived.evaporator_superheat is None:
        return False
    rules = (_floods, _starves, _boils_low, _boils_high, _head)
    return all(rule(ground, room) is None for rule in rules)


def _suspect(ground: Ground, room: ColdRoom) -> Finding | None:
    """What the readings convict, with its own test first, and then what to do about it."""
    found = convicted(ground, _looks_right(ground, room), SURELY)
    if found is None:
        return None
    said = [say(found.sentence), *rungs_said(ground, room)]
    if found.is_proven:
        act = say(found.suspect.act)
        return Finding(joined([*said, act, NO_CHARGE]), headline=found.sentence, stage="act")
    hangs = HangsOn("test", found.next_test, say(f"{found.suspect.told_apart_by}."))
    return Finding(joined([*said, NO_CHARGE]), headline=found.sentence, hangs_on=hangs)


def _floods(ground: Ground, room: ColdRoom) -> Finding | None:
    coil, comes = ground.case.derived.evaporator_superheat, _at_compressor(ground)
    low, _ = room.coil_window_k
    if coil is None or coil >= low or (comes is not None and comes >= COMPRESSOR_K):
        return None
    if comes is not None and coil >= low - GAP_LIMIT_K and not _returns_liquid(ground):
        return None  # within what gauge and clamp err
    said = [
        say(
            "The coil's superheat is {coil}, under {low}: it gets more than it boils.",
            coil=difference(coil),
            low=difference(low),
        )
    ]
    if comes is None:
        ask = say(
            "Read the suction line at the compressor: {least} or more there is safe.",
            least=difference(COMPRESSOR_K),
        )
        return Finding(
            joined([*said, ask, *alone(ground)]),
            hangs_on=HangsOn("reading", "suction_line_temp", ask),
        )
    said.append(
        say(
            "At the compressor it is {comes}, under {least}. Bulb, valve setting, fans and ice "
            "first.",
            comes=difference(comes),
            least=difference(COMPRESSOR_K),
        )
    )
    return _next(ground, CHOKED, [*said, *alone(ground), NO_CHARGE])


def _returns_liquid(ground: Ground) -> bool:
    return any(hazard.key == "liquid_return" for hazard, _ in ground.hazards)


def _starves(ground: Ground, room: ColdRoom) -> Finding | None:
    coil, (_, high) = ground.case.derived.evaporator_superheat, room.coil_window_k
    if coil is None or coil <= high + GAP_LIMIT_K or _is_usual(ground, "coil_superheat"):
        return None
    said = [
        say(
            "The coil's superheat is {coil}, over {high}: it gets less than it could boil.",
            coil=difference(coil),
            high=difference(high),
        )
    ]
    if ground.case.saw("receiver_low"):
        leak = say("The receiver is short of liquid: it went somewhere. Find the leak first.")
        return Finding(
            joined([*said, leak, *alone(ground), NO_CHARGE]),
            headline="The receiver runs short.",
            hangs_on=HangsOn("test", "look_for_leak", leak),
        )
    return _next(ground, STARVED, [*said, *alone(ground), NO_CHARGE])


def _is_usual(ground: Ground, sign: str) -> bool:
    """Whether rooms of such a design show this in this weather, by the table where there is one,
    or all that was read and seen together says that nothing is wrong.
    """
    found = ground.measured.get(sign)
    if ground.weighing is None or found is None:
        return False
    if ground.belief("none") >= WELL:
        return True
    low, high = expected(ground.case, sign).window()
    return low <= found.value <= high


def _boils_low(ground: Ground, room: ColdRoom) -> Finding | None:
    boils, rung = ground.case.derived.evaporator_saturation, room.at_box
    if boils is None or rung is None or boils > rung.evaporating_c - RUNG_K:
        return None
    if _is_usual(ground, "evaporator_difference"):
        return None
    said = say(
        "It boils at {now}; {wanted} is the design at this box. Fed right, so the air: fans, ice, "
        "a load piled before the coil.",
        now=temperature(boils),
        wanted=temperature(rung.evaporating_c),
    )
    return _next(ground, CHOKED, [said, *guessed(rung), *alone(ground)])


def _boils_high(ground: Ground, room: ColdRoom) -> Finding | None:
    boils, rung = ground.case.derived.evaporator_saturation, room.at_box
    if boils is None or rung is None or boils < rung.evaporating_c + RUNG_K:
        return None
    if _is_usual(ground, "evaporator_difference"):
        return None
    said = say(
        "It boils at {now}; {wanted} is the design at this box: the compressor takes less than the "
        "coil gives. Its amps, its valves, then the class on the plate.",
        now=temperature(boils),
        wanted=temperature(rung.evaporating_c),
    )
    hangs = HangsOn("test", "read_compressor_amps", said)
    return Finding(joined([said, *guessed(rung), *alone(ground)]), hangs_on=hangs)


def _head(ground: Ground, room: ColdRoom) -> Finding | None:
    head, rung = ground.case.derived.condenser_saturation, room.at_box
    if head is None or rung is None or rung.condensing_c is None:
        return None
    off = head - rung.condensing_c
    if abs(off) <= RUNG_K or ground.case.plate.head_pressure_control in HELD:
        return None
    if _is_usual(ground, "condensing_over_ambient"):
        return None
    if off < 0:
        low = say(
            "It condenses at {now}, {off} under its design: a head control that sticks open, or "
            "less charge than it takes. The receiver's level tells.",
            now=temperature(head),
            off=difference(-off),
        )
        return _next(ground, STARVED[:1], [low, *guessed(rung), *alone(ground), NO_CHARGE])
    said = say(
        "It condenses at {now}, {off} over its design: the condenser's face and fan, air that "
        "comes back, air in it.",
        now=temperature(head),
        off=difference(off),
    )
    hangs = HangsOn("test", "look_at_condenser", said)
    return Finding(joined([said, *guessed(rung), *alone(ground)]), hangs_on=hangs)


def _right(ground: Ground, room: ColdRoom) -> Finding | None:
    return Finding(joined([*rungs_said(ground, room), NO_CHARGE]))


def _next(ground: Ground, order: tuple[tuple[str, str], ...], said: list[Said]) -> Finding:
    """What would settle most where suspects are weighed; else the first check of an order that is
    not settled well yet.
    """
    case = ground.case
    if ground.checks:
        why = say("It settles most of what it may be.")
        return Finding(joined(said), hangs_on=HangsOn("test", ground.checks[0].check.key, why))
    no_level = case.plate.has_receiver == "no"
    open_ones = [
        key
        for key, good in order
        if not case.saw(good)
        and good not in case.readings
        and not (no_level and key == "read_receiver_level")
    ]
    reason = joined(said)
    if not open_ones:
        return Finding(reason, stage="act")
    return Finding(reason, hangs_on=HangsOn("test", open_ones[0], say("The cheapest of them.")))


def _at_compressor(ground: Ground) -> float | None:
    """Superheat where the suction line reaches the compressor [K]; None where only the coil's
    outlet was read.
    """
    derived = ground.case.derived
    return None if derived.superheat_at_coil else derived.superheat


def _row(
    key: str,
    order: Order,
    headline: str,
    reason: str,
    finds: Callable[[Ground, ColdRoom], Finding | None],
) -> Rule:
    return Rule(key, order, headline, "do_not_charge", "judge", reason, _in_room(finds))


COLD_ROOM: tuple[Rule, ...] = (
    _row(
        "room_not_yet",
        "clocks",
        "Not yet.",
        "Steady, within 5 °F of set point, ten minutes clear of a defrost, doors shut.",
        _clock,
    ),
    _row(
        "room_unread",
        "charge",
        "Read one more number.",
        "Box, suction and the coil's outlet say how the coil is fed.",
        _unread,
    ),
    _row(
        "room_suspect",
        "charge",
        "One suspect leads.",
        "What its tables weigh clearly, proven by its own test before it is acted on.",
        _suspect,
    ),
    _row(
        "room_floods",
        "charge",
        "The coil gets more than it boils.",
        "Under its window at the coil by more than gauge and clamp err, and under 15 °F at the "
        "compressor.",
        _floods,
    ),
    _row(
        "room_starves",
        "charge",
        "The coil is starved.",
        "Over its window at the coil by more than gauge and clamp err: liquid, its way, or the "
        "valve.",
        _starves,
    ),
    _row(
        "room_boils_low",
        "charge",
        "It boils too low for this box.",
        "Five degrees under its rung with the feed right: air, ice or load.",
        _boils_low,
    ),
    _row(
        "room_boils_high",
        "charge",
        "It boils too high for this box.",
        "Five degrees over its rung with the feed right: the compressor.",
        _boils_high,
    ),
    _row(
        "room_head",
        "charge",
        "The head is off its design.",
        "Condensing five degrees off outdoor air and the condenser's class.",
        _head,
    ),
    _row(
        "room_right",
        "charge",
        "The room runs by its design.",
        "Coil's superheat in its window, both rungs at their height.",
        _right,
    ),
)
