"""What a heating visit comes to: does it heat as it should, and may its superheat be believed.

Charge is never moved here: it is weighed, or judged when the weather allows cooling.
"""

from collections.abc import Callable
from dataclasses import replace
from math import ceil

from nudge.core.judgement.decision.convicted import convicted
from nudge.core.judgement.decision.decision import HangsOn, Order
from nudge.core.judgement.decision.ground import Ground
from nudge.core.judgement.decision.rule import Finding, Rule
from nudge.core.judgement.decision.words import joined
from nudge.core.judgement.zero_superheat import HEADLINES, NOT_TOLD_K, SAID, follow, reads_none
from nudge.core.language.said import Measure, Said, difference, say
from nudge.core.language.units import Quantity, fahrenheit
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.heating.balance import HeatBalance
from nudge.core.settling.breaches import CLEAR_MINUTES
from nudge.core.settling.gate import CLOCKS, NEVER_PASSED, Breach

NO_CHARGE = say(
    "Charge is not judged in heating: weigh it, or come back when it is over {warm} outdoors.",
    warm=Measure(fahrenheit(70), Quantity.TEMPERATURE),
)
HOT_LINE_RATIO, HOT_LINE_RISE_K = 1.5, 5.0
"""Both gauges nearly alike while the air leaves warm: the low one is on hot gas."""
NEEDED = ("return_air_temp", "supply_air_temp", "outdoor_air_temp", "airflow")
TIMED = CLOCKS | {"in_defrost"}
"""Gates that open by waiting."""
CHARGE = frozenset({"undercharge", "overcharge"})
FIRST_LOOKS = (
    ("look_at_filter", "filter_clean"),
    ("look_at_condenser", "condenser_coil_clean"),
    ("watch_condenser_fan", "condenser_fan_ok"),
    ("feel_reversing_valve", "reversing_valve_tight"),
    ("read_compressor_amps", "compressor_amps"),
)
"""What is looked at where heat is short, the cheapest first, each with what settles it well."""


def _heats(
    finds: Callable[[Ground], Finding | None],
) -> Callable[[Ground], Finding | None]:
    """A rule for visits in heating alone."""

    def found(ground: Ground) -> Finding | None:
        return None if ground.case.heat is None else finds(ground)

    return found


def _heat(ground: Ground) -> HeatBalance:
    assert ground.case.heat is not None
    return ground.case.heat


def _hot_line(ground: Ground) -> Finding | None:
    """Asked, not taken: with the low gauge on hot gas nothing of the low side is known."""
    heat = _heat(ground)
    ratio, suction = (
        ground.case.derived.pressure_ratio,
        ground.case.readings.get("suction_pressure"),
    )
    warms = heat.rise_k is not None and heat.rise_k > HOT_LINE_RISE_K
    if ratio is None or suction is None or ratio > HOT_LINE_RATIO or not warms:
        return None
    said = say(
        "The low gauge reads {low}, nearly the high side, while the house is warmed: it is on the "
        "hot vapour line. Is it? Move it to the true suction port, and read again.",
        low=Measure(suction, Quantity.PRESSURE),
    )
    return Finding(said, hangs_on=HangsOn("reading", "suction_pressure", said))


def _no_superheat(ground: Ground) -> Finding | None:
    if not reads_none(ground.case):
        return None
    chain, now = follow(ground.case), ground.case.derived.superheat or 0.0
    if chain.outcome is not None:
        said = SAID[chain.outcome]
        return Finding(said, headline=HEADLINES[chain.outcome], stage="act")
    assert chain.check is not None
    why = say(
        "Superheat at the compressor reads {now}: under {told} gas cannot be told from liquid. "
        "Prove the reading first, then what senses it, the valve last.",
        now=difference(now),
        told=difference(NOT_TOLD_K),
    )
    return Finding(why, hangs_on=HangsOn("test", chain.check.key, say(chain.check.why)))


def _clock(ground: Ground) -> Finding | None:
    shut = [b for b in ground.blocking if b.gate.key not in NEVER_PASSED and not b.passed]
    if not shut:
        return None
    found = Finding(shut[0].message, headline=_headline(shut[0]))
    waits = _minutes_to_wait(ground)
    if shut[0].gate.key not in TIMED or waits <= 0:
        return found
    hangs = HangsOn("minutes", shut[0].gate.key, shut[0].message)
    return replace(found, hangs_on=hangs, stage="settle", ready_in=float(ceil(waits)))


def _minutes_to_wait(ground: Ground) -> float:
    """Minutes until it has run long enough, clear of its last defrost; 0 where nobody knows."""
    context = ground.case.context
    waits = [context.settles_in or 0.0]
    if context.minutes_running is not None:
        waits.append(ground.case.behaviour.run_minutes - context.minutes_running)
    if context.minutes_clear is not None:
        waits.append(CLEAR_MINUTES - context.minutes_clear)
    return max(waits)


def _headline(breach: Breach) -> str:
    return breach.gate.headline or "Not yet."


def _spoilt(ground: Ground) -> Finding | None:
    asides = _heat(ground).asides
    return Finding(asides[0], headline="Read it again.") if asides else None


def _suspect(ground: Ground) -> Finding | None:
    """What the readings convict, with its own test first, and then what to do about it."""
    heat = _heat(ground)
    found = convicted(ground, looks_right=heat.place == "right")
    if found is None:
        return None
    said = [say(found.sentence), *_heat_said(heat)]
    if found.is_proven:
        charge = [NO_CHARGE] if found.suspect.key in CHARGE else []
        return Finding(
            joined([*said, say(found.suspect.act), *charge]), headline=found.sentence, stage="act"
        )
    hangs = HangsOn("test", found.next_test, say(f"{found.suspect.told_apart_by}."))
    return Finding(joined([*said, NO_CHARGE]), headline=found.sentence, hangs_on=hangs)


def _unread(ground: Ground) -> Finding | None:
    if _heat(ground).place != "unknown":
        return None
    missing = [point for point in NEEDED if point not in ground.case.readings]
    if not missing:
        said = say("The plate gives no size: write its capacity or its heat in the plate.")
        return Finding(said, hangs_on=HangsOn("work", "plate", said))
    names = ", ".join(POINTS[point].label.lower() for point in missing)
    said = say(f"Heat is air times its rise, against the plate at today's outdoors. Read: {names}.")
    return Finding(said, hangs_on=HangsOn("reading", missing[0], said))


def _short(ground: Ground) -> Finding | None:
    heat = _heat(ground)
    if heat.place != "short":
        return None
    first = next(iter(ground.checks), None)
    if first is not None:
        key, why = first.check.key, say("It settles most of what it may be.")
        return replace(_measured(heat), hangs_on=HangsOn("test", key, why))
    looks = (
        key
        for key, good in FIRST_LOOKS
        if not ground.case.saw(good) and good not in ground.case.readings
    )
    found, why = next(looks, None), say("The cheapest of what it may be.")
    return replace(_measured(heat), hangs_on=None if found is None else HangsOn("test", found, why))


def _over(ground: Ground) -> Finding | None:
    heat = _heat(ground)
    if heat.place != "over":
        return None
    more = say("More than the plate allows: strips that are on, or airflow that reads high.")
    found = _measured(heat)
    hangs = HangsOn("test", "see_strips_off", say("Strips warm the air as well."))
    seen_off = ground.case.saw("strips_off")
    return replace(
        found,
        reason=joined([more, found.reason]),
        hangs_on=HangsOn("test", "measure_airflow", more) if seen_off else hangs,
    )


def _dear(ground: Ground) -> Finding | None:
    heat = _heat(ground)
    power, wanted = heat.power, heat.expected_power
    if heat.place != "right" or power is None or wanted is None or heat.clear_power_w is None:
        return None
    off = power.value - heat.clear_power_w
    limit = ((power.uncertainty or 0.0) ** 2 + (wanted.uncertainty or 0.0) ** 2) ** 0.5
    if off <= limit:
        return None
    said = say(
        "It draws {now} and should draw {wanted}, {off} less: head, an indoor fan that is held "
        "up, or strips.",
        now=power.measure,
        wanted=Measure(heat.clear_power_w, Quantity.POWER),
        off=Measure(off, Quantity.POWER),
    )
    return Finding(said, hangs_on=HangsOn("test", "measure_static", said))


def _right(ground: Ground) -> Finding | None:
    heat = _heat(ground)
    return _measured(heat) if heat.place == "right" else None


def _measured(heat: HeatBalance) -> Finding:
    guessed = [say("By its class: the plate's rating points would narrow it.")]
    return Finding(joined([*_heat_said(heat), *(guessed if heat.is_guessed else []), NO_CHARGE]))


def _heat_said(heat: HeatBalance) -> list[Said]:
    """What it delivers against what is expected; nothing while one of them is not known."""
    if heat.delivered is None or heat.expected is None:
        return []
    said = say(
        "It delivers {now}; {wanted} is expected at this outdoor temperature, ±{limit}.",
        now=heat.delivered.measure,
        wanted=heat.expected.measure,
        limit=Measure(heat.limit_percent, Quantity.PERCENT),
    )
    return [said]


def _row(
    key: str,
    order: Order,
    headline: str,
    reason: str,
    finds: Callable[[Ground], Finding | None],
) -> Rule:
    return Rule(key, order, headline, "do_not_charge", "judge", reason, _heats(finds))


GAUGE_ON_HOT_GAS = _row(
    "heat_gauge_on_hot_gas",
    "impossible",
    "The low gauge is on hot gas.",
    "In heating the vapour service line carries discharge gas: it is no suction.",
    _hot_line,
)
HEATING: tuple[Rule, ...] = (
    _row(
        "heat_not_yet",
        "clocks",
        "Not yet.",
        "Half an hour at its highest stage, ten minutes clear of a defrost, under 65 °F outdoors.",
        _clock,
    ),
    _row(
        "heat_no_superheat",
        "first",
        "No superheat: prove the reading first.",
        "Under 3 °F the compressor may get liquid, and under 1.1 nobody can tell.",
        _no_superheat,
    ),
    _row(
        "heat_spoilt",
        "impossible",
        "Read it again.",
        "A rise with strips on, in a defrost or turned round is not the heat pump's.",
        _spoilt,
    ),
    _row(
        "heat_suspect",
        "first",
        "Probably found.",
        "One suspect stands out of all: its own test first, then what mends it.",
        _suspect,
    ),
    _row(
        "heat_unread",
        "charge",
        "Read one more number.",
        "Heat wants both airs, their flow, and outdoor air.",
        _unread,
    ),
    _row(
        "heat_short",
        "charge",
        "It delivers less than it should.",
        "Heat under what the plate's line expects by more than both their ±.",
        _short,
    ),
    _row(
        "heat_over",
        "charge",
        "More heat than it can make.",
        "Heat over the plate's line by 1.25 times both their ± is not the heat pump's alone.",
        _over,
    ),
    _row(
        "heat_dear",
        "charge",
        "It heats, and draws more than it should.",
        "Power over the plate's line by more than both their ±.",
        _dear,
    ),
    _row(
        "heat_right",
        "charge",
        "It heats as it should.",
        "Heat and power within their ± of the plate's line.",
        _right,
    ),
)
