"""One system of the decision's studies: not low, or truly low, and what was said of it."""

from dataclasses import dataclass
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.checks.looks import Look
from nudge.core.checks.table import CHECKS, LOOK_OF
from nudge.core.judgement.assess import Assessment, assess
from nudge.core.judgement.decision import HangsOn
from nudge.core.judgement.pairs import PAIRS
from nudge.core.language.errors import CoreError
from nudge.core.language.units import degrees_f, fahrenheit
from nudge.core.language.vocabulary.accuracy import accuracy_of
from nudge.core.physics.circuit.equipment import Plate
from nudge.plant.faults import Present
from tools.doses_in_vain import TICKS
from tools.sweep import FIVE, STEADY_FAULTS, Swept, may_have, read, swept
from tools.tables import some_site
from tools.troubles_at_rest import PROBE_TROUBLES

NOT_LOW, NOT_HIGH = 0.97, 1.03


SITES = range(1000, 1150)


SETTLED_MINUTES = 40.0


FULL = (
    "suction_pressure",
    "liquid_pressure",
    "suction_line_temp",
    "liquid_line_temp",
    "outdoor_air_temp",
    "return_air_temp",
    "return_air_wet_bulb",
    "supply_air_temp",
    "discharge_line_temp",
    "airflow",
    "compressor_amps",
    "liquid_line_temp_indoor",
)


SETS = {"full": FULL, "five": (*FIVE, "return_air_temp")}


LIES = {
    "sun": ("liquid_clamp_in_sun", "outdoor_probe_in_sun"),
    "dirt": ("liquid_clamp_loose", "suction_clamp_loose"),
    "zero": ("low_probe_zero", "high_probe_zero"),
    "wrong pipe": ("liquid_on_suction", "suction_on_liquid"),
    "air probe": ("supply_probe_mixed", "return_wick_dry"),
}


KINDS = ("valve", "orifice", "strange valve", "strange orifice")


@dataclass(frozen=True)
class Met:
    """One case as it was decided: first, with its reading confirmed, after the one thing asked."""

    instruments: str
    lie: str
    faults: tuple[str, ...]
    charge_share: float
    device: str
    first: str
    key: str
    confirmed: str
    after: str = ""
    asked: str = ""
    barred: bool = False
    """Its own school says not to charge by it now: a target superheat under 5 °F."""


def _lied(readings: dict[str, float], kind: str, rng: Random) -> None:
    """One probe that lies, worse or less bad."""
    name = rng.choice(LIES[kind])
    if name == "liquid_on_suction":
        readings["liquid_line_temp"] = readings["suction_line_temp"] + rng.gauss(0, 0.3)
    elif name == "suction_on_liquid":
        readings["suction_line_temp"] = readings["liquid_line_temp"] + rng.gauss(0, 0.3)
    else:
        PROBE_TROUBLES[name](readings, rng.uniform(0.3, 1.0), rng)


def _eye(case: Swept, look: Look, rng: Random) -> str:
    """What a fallible eye answers."""
    names = tuple(p.key for p in case.faults) or ("none",)
    return look.yes if rng.random() < look.share(names) else look.no


def judged(plate: Plate, readings: dict[str, float], seen: set[str]) -> Assessment:
    return assess(plate, readings, Context(SETTLED_MINUTES, SETTLED_MINUTES, frozenset(seen)))


def not_low(number: int) -> Met | None:
    """A system that is not low on charge, two in five with a probe that lies."""
    rng = Random(f"harm {number}")
    of = some_site(rng, SITES, rng.choice(KINDS))
    draw = rng.random()
    names: tuple[str, ...] = ()
    if 0.12 < draw < 0.75:
        names = (rng.choice([f for f in STEADY_FAULTS if f != "undercharge"]),)
    elif draw >= 0.75:
        names = rng.choice([p.faults for p in PAIRS if "undercharge" not in p.faults])
    if not all(may_have(of, fault) for fault in names):
        return None
    case = swept(of, [Present(fault, rng.uniform(0.2, 1)) for fault in names], rng)
    if case is None or case.charge_share < NOT_LOW:
        return None
    everything = read(case, rng)
    lie = rng.choice(list(LIES)) if rng.random() < 0.4 else ""
    if lie:
        _lied(everything, lie, rng)
    instruments = rng.choices(("full", "five"), (4, 1))[0]
    readings = {p: everything[p] for p in SETS[instruments] if p in everything}
    seen = {_eye(case, LOOK_OF[key], rng) for key in TICKS}
    try:
        first = judged(of.plate, readings, seen)
        sure = judged(of.plate, readings, seen | {"readings_confirmed"})
        then, asked = _after_the_one(case, first, readings, everything, seen, rng)
    except CoreError:
        return None
    return Met(
        instruments,
        lie,
        names,
        case.charge_share,
        of.plate.metering_device.value,
        first.decision.advice,
        first.decision.key,
        sure.decision.advice,
        then.decision.advice,
        asked,
    )


def low(number: int) -> Met | None:
    """A system short of charge and nothing else, at 70 °F or warmer, its ticks right."""
    rng = Random(f"low {number}")
    instruments = ("full", "five")[number % 2]
    kind = rng.choice(KINDS if instruments == "full" else ("valve", "strange valve"))
    of = some_site(rng, SITES, kind)
    case = swept(of, [Present("undercharge", rng.uniform(0.15, 1))], rng)
    if case is None or case.truth["outdoor_air_temp"] < fahrenheit(70):
        return None
    everything = read(case, rng)
    readings = {p: everything[p] for p in SETS[instruments] if p in everything}
    seen = {LOOK_OF[key].no for key in TICKS}
    try:
        first = judged(of.plate, readings, seen)
        if not _is_truly_low(first, case):
            return None
        then, asked = _after_the_one(case, first, readings, everything, seen, rng)
    except CoreError:
        return None
    return Met(
        instruments,
        "",
        ("undercharge",),
        case.charge_share,
        of.plate.metering_device.value,
        first.decision.advice,
        first.decision.key,
        "",
        then.decision.advice,
        asked,
        any(b.gate.key == "superheat_target_too_low" for b in first.breaches),
    )


def _is_truly_low(found: Assessment, case: Swept) -> bool:
    """The deciding quantity outside its window by more than its own ±, charge missing."""
    deciding = found.targets.deciding
    value = None if deciding is None else found.case.derived.get(deciding.judges)
    if deciding is None or value is None or case.charge_share >= NOT_LOW:
        return False
    window, own = found.targets.windows[deciding.judges], degrees_f(1.3)
    if deciding.judges == "subcooling":
        return value < window.low - own
    return value > window.high + own


def _after_the_one(
    case: Swept,
    found: Assessment,
    readings: dict[str, float],
    everything: dict[str, float],
    seen: set[str],
    rng: Random,
) -> tuple[Assessment, str]:
    """The same system once what was asked for is brought: one thing, or two in one breath."""
    hangs = found.decision.hangs_on
    if hangs is None:
        return found, ""
    readings, seen = dict(readings), set(seen)
    for one in (hangs, *hangs.also):
        _bring(one, case, readings, everything, seen, rng)
    return judged(case.site.plate, readings, seen), f"{hangs.kind} {hangs.key}"


def _bring(
    hangs: HangsOn,
    case: Swept,
    readings: dict[str, float],
    everything: dict[str, float],
    seen: set[str],
    rng: Random,
) -> None:
    """Add what is asked for to the readings and to what was seen."""
    if hangs.kind == "reading" and hangs.key in readings:
        truth = case.truth[hangs.key]
        readings[hangs.key] = rng.gauss(truth, accuracy_of(hangs.key).limit(truth) / 2)
        seen.add("readings_confirmed")
    elif hangs.key in CHECKS or hangs.kind == "reading":
        check = CHECKS.get(hangs.key)
        for point in check.points if check else (hangs.key,):
            if point in everything:
                readings[point] = everything[point]
        if check is not None and hangs.kind == "reading":
            readings["return_air_wet_bulb"] = everything["return_air_wet_bulb"]
        if check is not None and check.look is not None and check.look.yes in LOOK_OF:
            seen |= {_eye(case, check.look, rng)} - {""}
    if hangs.kind == "reading" and hangs.key not in readings and hangs.key in everything:
        readings[hangs.key] = everything[hangs.key]
