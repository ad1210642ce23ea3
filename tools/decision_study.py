"""How the one decision does: harm, use, doses in vain, the valve's gate. Run by `make decisions`.

`python -m tools.decision_study [PART …] [CASES] [FAMILY … or left]`; parts: harm, use, valve, vain,
voice (all without one). With a family of cousins it is judged by tables made without it; `left`
is all of them in turn. Systems are numbered from 1000 on, which no table was made from; seeds are
fixed.
"""

import sys
import tempfile
from collections import Counter
from collections.abc import Callable, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from pathlib import Path
from random import Random

from starlette.testclient import TestClient

from nudge.core.behaviours.case import Context
from nudge.core.charging.advise import Dosed, advise
from nudge.core.checks.looks import Look
from nudge.core.checks.table import CHECKS, LOOK_OF
from nudge.core.judgement.assess import Assessment, assess
from nudge.core.judgement.pairs import PAIRS
from nudge.core.language.errors import CoreError
from nudge.core.language.units import degrees_f, fahrenheit
from nudge.core.language.vocabulary.accuracy import accuracy_of
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.plant.faults import Present
from nudge.services.workshop import Workshop
from nudge.store.database import Database
from tools.one_voice import ACTS, Voice
from tools.sweep import FIVE, STEADY_FAULTS, Swept, may_have, read, swept
from tools.tables import families_in, some_site, workers
from tools.troubles_at_rest import PROBE_TROUBLES

HARM, USE, VALVE, VAIN, VOICE = 10_000, 600, 400, 500, 300
SITES = range(1000, 1150)
NOT_LOW, NOT_HIGH = 0.97, 1.03
SETTLED_MINUTES = 40.0
TICKS = ("filter_dirty", "evaporator_coil_dirty", "condenser_coil_dirty", "condenser_fan_weak")
"""The looks whose right outcome is meant by *ticks*."""
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


def _judged(plate: Plate, readings: dict[str, float], seen: set[str]) -> Assessment:
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
        first = _judged(of.plate, readings, seen)
        sure = _judged(of.plate, readings, seen | {"readings_confirmed"})
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
        first = _judged(of.plate, readings, seen)
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
    """The same system once the one thing that was asked for is brought."""
    hangs = found.decision.hangs_on
    if hangs is None:
        return found, ""
    readings, seen = dict(readings), set(seen)
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
    return _judged(case.site.plate, readings, seen), f"{hangs.kind} {hangs.key}"


def right_on_a_mild_day(number: int) -> tuple[str, str] | None:
    """A right system at 70 to 80 °F outdoors: its decision, by a full set and ticks."""
    rng = Random(f"mild {number}")
    of = some_site(rng, SITES, rng.choice(("valve", "strange valve")))
    case = swept(of, [], rng)
    if case is None or not fahrenheit(70) <= case.truth["outdoor_air_temp"] <= fahrenheit(80):
        return None
    readings = {p: v for p, v in read(case, rng).items() if p in FULL}
    seen = {LOOK_OF[key].no for key in TICKS}
    try:
        found = _judged(of.plate, readings, seen)
    except CoreError:
        return None
    shut = [b.gate.key for b in found.breaches if b.effect == "blocks"]
    return found.decision.key, "valve_starved" if "valve_starved" in shut else ""


VAIN_PLATES = {
    "valve": ("R-410A", MeteringDevice.TXV, 9 / 1.8, {
        "liquid_pressure": 341, "liquid_line_temp": 102.5, "suction_pressure": 121,
        "suction_line_temp": 58.5, "outdoor_air_temp": 90, "return_air_temp": 77,
        "return_air_wet_bulb": 64}),
    "electronic": ("R-410A", MeteringDevice.EEV, 10 / 1.8, {
        "liquid_pressure": 325, "liquid_line_temp": 98.5, "suction_pressure": 112,
        "suction_line_temp": 58, "outdoor_air_temp": 86, "return_air_temp": 77,
        "return_air_wet_bulb": 64, "supply_air_temp": 61}),
    "orifice": ("R-22", MeteringDevice.FIXED_ORIFICE, None, {
        "suction_pressure": 61.5, "liquid_pressure": 217, "suction_line_temp": 63,
        "liquid_line_temp": 104, "outdoor_air_temp": 90, "return_air_temp": 76,
        "return_air_wet_bulb": 64, "supply_air_temp": 63}),
}  # fmt: skip


def in_vain(number: int) -> tuple[str, str, int, int]:
    """Doses as the card asks, and as a person gives them, on a system nothing moves.

    Answers device, manner, doses given while the card said add, and how often the card's action
    was not its decision's.
    """
    rng = Random(f"vain {number}")
    name, manner = list(VAIN_PLATES)[number % 3], ("still", "worse", "noisy")[number // 3 % 3]
    fluid, device, target, spoken = VAIN_PLATES[name]
    plate = Plate(
        fluid,
        device,
        nominal_capacity_w=rng.uniform(24, 48) * 293.07,
        rated_seer=15,
        target_subcooling_k=target,
    )
    base = {p: _core(p, v) for p, v in spoken.items()}
    seen = frozenset(LOOK_OF[key].no for key in TICKS) | {"readings_confirmed"}
    minutes, doses, apart = 40.0, 0, 0
    history = [Dosed(minutes, 0.0, _as_read(base, manner, 0, rng))]
    since = 40.0
    for _ in range(8):
        said = advise(plate, history, Context(minutes, since, seen))
        apart += (said.action in ("add", "remove")) != said.decision.moves_refrigerant
        if said.action == "wait":
            minutes += said.wait_minutes
            since += said.wait_minutes
            history[-1] = replace(history[-1], minutes=minutes)
            continue
        if said.action != "add":
            break
        doses += 1
        given = said.amount_kg if rng.random() < 0.4 else rng.uniform(0.014, 0.5)
        since = 15.0
        minutes += since
        history.append(Dosed(minutes, given, _as_read(base, manner, doses, rng)))
    return name, manner, doses, apart


def _core(point: str, value: float) -> float:
    return value * 6.894757 if point.endswith("pressure") else fahrenheit(value)


def _as_read(base: dict[str, float], manner: str, step: int, rng: Random) -> dict[str, float]:
    """The same system read again: still, or a little worse, or with the noise of instruments."""
    found = dict(base)
    if manner == "worse":
        found["suction_line_temp"] += 0.4 * step
        found["suction_pressure"] -= 5.0 * step
    if manner == "noisy":
        for point, value in found.items():
            found[point] = value + rng.gauss(0, 0.15 * accuracy_of(point).limit(value))
    return found


def _run(pool: ProcessPoolExecutor, one: Callable[[int], Met | None], count: int) -> list[Met]:
    """As many cases as asked for that the plant has."""
    found: list[Met] = []
    batch = 0
    while len(found) < count and batch < 12:
        numbers = range(batch * count, (batch + 1) * count)
        found += [met for met in pool.map(one, numbers, chunksize=16) if met is not None]
        batch += 1
    return found[:count]


def _harm(pool: ProcessPoolExecutor, count: int) -> None:
    met = _run(pool, not_low, count)
    print(f"not low: {len(met)} cases")
    for instruments in SETS:
        some = [m for m in met if m.instruments == instruments]
        adds = [m for m in some if m.first == "add"]
        lied = [m for m in some if m.lie and m.confirmed == "add"]
        leaks = [m for m in some if m.first == "find_leak"]
        then = [m for m in some if m.after == "add"]
        out = [m for m in some if m.first == "remove" and m.charge_share <= NOT_HIGH]
        print(
            f"  {instruments}, {len(some)}: add {len(adds)}, add where the lie was confirmed "
            f"{len(lied)}, find_leak {len(leaks)}, remove where not high {len(out)}; add after "
            f"the one thing it asked for {len(then)}"
        )
        for title, rows in (
            ("add", adds),
            ("confirmed", lied),
            ("leak", leaks),
            ("out", out),
            ("after", then),
        ):
            by = Counter((m.lie or "no lie", "+".join(m.faults)) for m in rows)
            if by:
                print(f"    {title}: {dict(by)}")
    lies = Counter(m.lie or "no lie" for m in met)
    print(f"  lies: {dict(lies)}")


def _use(pool: ProcessPoolExecutor, count: int) -> None:
    met = _run(pool, low, count)
    good = ("add", "find_leak")
    for instruments in SETS:
        some = [m for m in met if m.instruments == instruments]
        first = [m for m in some if m.first in good]
        after = [m for m in some if m.first in good or m.after in good]
        barred = [m for m in some if m.first not in good and m.after not in good and m.barred]
        print(
            f"truly low, {instruments}, {len(some)}: add or find_leak "
            f"{len(first) / max(len(some), 1):.1%}, after the one thing it asks for "
            f"{len(after) / max(len(some), 1):.1%}; {len(barred)} of them barred by their own "
            "school: a target under 5 °F"
        )
        held = Counter((m.key, m.asked) for m in some if m.first not in good)
        print(f"    held: {dict(held.most_common(12))}")
        lost = Counter((m.key, m.asked) for m in some if m not in after)
        print(f"    still held: {dict(lost.most_common(8))}")


def _valve(pool: ProcessPoolExecutor, count: int) -> None:
    found = [x for x in pool.map(right_on_a_mild_day, range(count * 5), chunksize=16) if x]
    found = found[:count]
    shut = sum(gate != "" for _, gate in found)
    keys = dict(Counter(key for key, _ in found))
    print(
        f"right at 70 to 80 °F: {len(found)}, refused for the valve's pressure {shut} "
        f"({shut / max(len(found), 1):.1%}); {keys}"
    )


def _in_vain(pool: ProcessPoolExecutor, count: int) -> None:
    found = list(pool.map(in_vain, range(count), chunksize=8))
    third = [row for row in found if row[2] > 2]
    print(
        f"doses in vain: {len(found)} sequences; doses given "
        f"{dict(Counter(row[2] for row in found))}; a third in {len(third)}; card apart from "
        f"its decision {sum(row[3] for row in found)}"
    )
    for row in third[:5]:
        print(f"    {row}")


def speak(number: int) -> tuple[int, list[str]]:
    """One visit of twelve acts: how many acts were judged, and every contradiction."""
    from nudge.main import create_app
    from nudge.presenters.visits import visit_out
    from nudge.reports.written import verdict_lines

    rng = Random(f"voice {number}")
    with tempfile.TemporaryDirectory() as folder:
        moment = [datetime(2026, 7, 14, 12, 0, tzinfo=UTC)]
        workshop = Workshop(Database(Path(folder)), lambda: moment[0])
        http = TestClient(create_app(workshop), headers={"Content-Type": "application/json"})
        http.post("/api/sites", json={"id": "here", "name": "Net loft"})

        def later(minutes: float) -> None:
            moment[0] += timedelta(minutes=minutes)

        def paper(name: str) -> list[str]:
            return verdict_lines(visit_out(workshop.visits.snapshot(name), "ip"))

        voice = Voice(http, lambda: moment[0], later, paper)
        voice.begin("v", rng, "here")
        found: list[str] = []
        for act in range(ACTS):
            voice.act("v", act, rng)
            found += voice.contradictions("v")
        workshop.database.close()
    return ACTS, found


def _voice(pool: ProcessPoolExecutor, count: int) -> None:
    found = list(pool.map(speak, range(count), chunksize=2))
    wrong = [said for _, all_said in found for said in all_said]
    print(
        f"one voice: {len(found)} visits, {sum(acts for acts, _ in found)} acts; contradictions "
        f"{len(wrong)}"
    )
    for said in wrong[:8]:
        print(f"    {said[:300]}")


PARTS: dict[str, tuple[Callable[[ProcessPoolExecutor, int], None], int]] = {
    "harm": (_harm, HARM),
    "use": (_use, USE),
    "valve": (_valve, VALVE),
    "vain": (_in_vain, VAIN),
    "voice": (_voice, VOICE),
}


def main(arguments: Sequence[str]) -> None:
    wanted = [name for name in PARTS if name in arguments] or list(PARTS)
    counts = [int(a) for a in arguments if a.isdigit()]
    for family in families_in(arguments):
        if family:
            print(f"{family}, by tables made without it", flush=True)
        with workers(family) as pool:
            for name in wanted:
                run, usual = PARTS[name]
                run(pool, counts[0] if counts else usual)


if __name__ == "__main__":
    main(sys.argv[1:])
