"""Decays, evacuations and nitrogen stands simulated, and what is said of them.

`python -m tools.vacuum_study [FIRST_SEED]`: how often each is right, on seeds nothing was set by.
The simulated circuit is the plant's (`nudge/plant/opened.py`); the judge knows none of its laws.
"""

import math
import random
import sys
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace

from nudge.core.language.units import KPA_PER_PSI, PA_PER_MICRON
from nudge.core.physics.tightness.decay import Risen
from nudge.core.physics.tightness.dryness import Stand, read_standing
from nudge.core.physics.tightness.evacuation import read_evacuation
from nudge.core.physics.tightness.hoses import Hookup
from nudge.core.physics.tightness.nitrogen import amount, pressure_of
from nudge.core.physics.tightness.standing_pressure import read_stand
from nudge.plant.opened import Inside, Opened, PlantPump, filled, pressure_pa, step, vented

DECAYS, EVACUATIONS, STANDS = 600, 300, 300
GAUGE_SCALE, NOISE_PA = 0.08, 3 * PA_PER_MICRON
Rows = list[tuple[float, float, float]]


@dataclass(frozen=True, slots=True)
class Decay:
    """A circuit pumped and isolated: its truth, twenty minutes of it, and the next test."""

    leak_micron: float
    water_g: float
    water_later_g: float
    first: Rows
    second: tuple[Rows, ...]
    how: str
    litres: float


def _decay(seed: int) -> Decay:
    rng = random.Random(seed)
    litres = rng.uniform(5, 20)
    leak = 0.0 if rng.random() < 0.4 else 10 ** rng.uniform(-3.5, -1)
    kind = rng.choice(("ice", "walls", "both")) if rng.random() < 0.6 else "none"
    water = 10 ** rng.uniform(-0.7, 1.3) if kind in ("ice", "both") else 0.0
    wall = 10 ** rng.uniform(-2.3, -0.3) if kind in ("walls", "both") else 0.0
    opened = Opened(
        litres,
        leak,
        water_w_k=10 ** rng.uniform(-3.3, -2),
        wall_s=(rng.uniform(200, 900), rng.uniform(900, 2400)),
        oil_s=rng.uniform(200, 1500),
        oil_pa=rng.uniform(10, 90) if rng.random() < 0.5 else 0.0,
        tau_doubles_k=rng.uniform(8, 13),
    )
    around = rng.uniform(8, 35)
    pump = PlantPump(
        rng.uniform(1.5, 4),
        rng.uniform(1, 8),
        rng.choice((0.48, 0.8, 0.95)),
        rng.choice((90, 120, 180)),
        rng.choice((1, 2)),
        rng.random() < 0.3,
    )
    inside = replace(filled(opened, 101_325, around, water), wall_g=(wall / 2, wall / 2))
    stops, pumped = rng.choice((300, 500, 500, 800)) * PA_PER_MICRON, 0.0
    longest = rng.uniform(15, 60) * 60
    while pumped < longest:
        inside = step(opened, inside, around, 20, pump)
        pumped += 20
        if pressure_pa(opened, inside, around) < stops and pumped > 600:
            break
    drift, scale = rng.uniform(-3, 3), rng.uniform(-GAUGE_SCALE, GAUGE_SCALE)
    noise, share, clamp = rng.uniform(0.9, 4.5) * PA_PER_MICRON, rng.uniform(0.001, 0.006), 0.4
    off = rng.gauss(0, clamp)

    def pipe(minute: float, warmed: float = 0.0) -> float:
        return around + drift * math.sin(minute / 60) + warmed

    def watch(now: Inside, minutes: float, begin: float, warmed: float) -> tuple[Rows, Inside]:
        rows: Rows = []
        for n in range(int(minutes * 6) + 1):
            minute = begin + n / 6
            temp = pipe(minute, warmed)
            pa = pressure_pa(opened, now, temp)
            seen = pa * (1 + scale) + rng.gauss(0, math.hypot(noise, share * pa))
            rows.append((minute, max(seen, 0.1), temp + off + rng.gauss(0, 0.08)))
            now = step(opened, now, temp, 10)
        return rows, now

    water_at = inside.water_g + inside.vapour_mol * 18
    first, inside = watch(inside, 20, 0.0, 0.0)
    how = _advised(_judged((first,)), rng)
    if how == "hour":
        more, inside = watch(inside, 40, 20.0, 0.0)
        second: tuple[Rows, ...] = (first + more[1:],)
    elif how == "sweep":
        inside = vented(opened, inside, pipe(20), 110e3)
        for n in range(60):
            inside = step(opened, inside, pipe(20 + n / 3), 20, pump)
        more, inside = watch(inside, 20, 40.0, 0.0)
        second = (first, more)
    else:
        kelvin = rng.uniform(10, 22)
        for n in range(40):
            inside = step(opened, inside, pipe(20) + kelvin * n / 40, 15, pump)
        more, inside = watch(inside, 20, 32.0, kelvin)
        second = (first, more)
    return Decay(
        leak / litres * 6_000 / PA_PER_MICRON,
        water_at,
        inside.water_g + inside.vapour_mol * 18,
        first,
        second,
        how,
        litres,
    )


def _advised(stand: Stand, rng: random.Random) -> str:
    """The next test: what Nudge would ask for first, on two of three; else any."""
    if rng.random() < 1 / 3:
        return rng.choice(("hour", "sweep", "warm"))
    return {"wet": "sweep", "gives_off": "hour", "dry": "hour"}.get(stand.found, "warm")


def _judged(stretches: tuple[Rows, ...]) -> Stand:
    risen = [Risen(*(tuple(row[n] for row in rows) for n in range(3))) for rows in stretches]
    return read_standing(risen, NOISE_PA, GAUGE_SCALE)


def _is_right(one: Decay, stand: Stand, water_g: float) -> bool:
    per = one.litres / 12
    match stand.found:
        case "dry":
            return one.leak_micron <= 10 and water_g < 0.05 * per
        case "wet":
            return water_g > 0.003 * per
        case "leaking":
            return one.leak_micron >= 1
        case "gives_off":
            return one.leak_micron <= stand.leak_high / PA_PER_MICRON * 1.05 + 0.5
    return True


def _both(seed: int) -> tuple[Decay, Stand, Stand]:
    one = _decay(seed)
    return one, _judged((one.first,)), _judged(one.second)


def decays(seed: int) -> None:
    with ProcessPoolExecutor() as pool:
        found = list(pool.map(_both, range(seed, seed + DECAYS), chunksize=8))
    for place, name in ((1, "after 20 min"), (2, "after the next test")):
        said = right = 0
        table: Counter[tuple[str, str]] = Counter()
        wets = called = dry_leaks = 0
        for row in found:
            one, stand = row[0], (row[1], row[2])[place - 1]
            water = one.water_g if place == 1 else one.water_later_g
            is_wet = water > 0.02 * one.litres / 12
            leaks = "leak" if one.leak_micron > 10 else "small" if one.leak_micron else "tight"
            table[(f"{leaks}, {'wet' if is_wet else 'dry'}", stand.found)] += 1
            if stand.found != "cannot_tell":
                said += 1
                right += _is_right(one, stand, water)
            dry_leaks += stand.found == "dry" and one.leak_micron > 10
            if one.leak_micron == 0 and is_wet:
                wets += 1
                called += stand.found == "leaking"
        print(
            f"decay, {name}: said {said / len(found):.1%}, right {right / max(said, 1):.1%}, dry "
            f"with a leak over 10 {dry_leaks}, wet called leaking {called} of {wets}"
        )
        for kind in sorted({k for k, _ in table}):
            print("  ", kind, {f: n for (k, f), n in sorted(table.items()) if k == kind})
    for how in ("hour", "sweep", "warm"):
        own = [row for row in found if row[0].how == how]
        told = sum(row[2].found != "cannot_tell" for row in own)
        print(f"   {how}: told {told} of {len(own)}")


def _evacuated(seed: int, wet: bool) -> tuple[str, bool]:
    """ "dry" or "wet", and whether it was told in time."""
    rng = random.Random(seed)
    bore, length = rng.choice((0.48, 0.79, 0.95, 1.27)), rng.choice((90, 120, 180, 250))
    hoses, cores = rng.choice((1, 1, 2)), rng.random() < 0.3
    named = rng.uniform(1.2, 4)
    pump = PlantPump(named * rng.uniform(0.5, 1.05), rng.uniform(1, 8), bore, length, hoses, cores)
    opened = Opened(
        rng.uniform(3, 25),
        water_w_k=10 ** rng.uniform(-3, -0.5),
        oil_s=rng.uniform(200, 1500),
        oil_pa=rng.uniform(0, 60) if rng.random() < 0.5 else 0.0,
    )
    around = rng.uniform(8, 35)
    inside = filled(opened, 101_325, around, rng.uniform(1, 20) if wet else 0.0)
    scale, rows, second = rng.uniform(-GAUGE_SCALE, GAUGE_SCALE), list[tuple[float, float]](), 0
    target = 500 * PA_PER_MICRON
    while second < 3 * 3600:
        pa = pressure_pa(opened, inside, around)
        rows.append((second / 60, pa * (1 + scale) * math.exp(rng.gauss(0, 0.01))))
        if pa < target:
            break
        inside = step(opened, inside, around, 5, pump)
        second += 5
    whole = rows[-1][0]
    hookup = Hookup(named, 4.0, bore, length, hoses, cores)

    def at(share: float) -> tuple[str, float | None]:
        seen = [row for row in rows if row[0] <= whole * share]
        found = read_evacuation([t for t, _ in seen], [p for _, p in seen], target, hookup, around)
        return found.state, found.left_min

    if wet:
        return "wet", any(at(0.05 * n)[0] == "stalled_on_water" for n in range(1, 11))
    state, left = at(0.5)
    is_close = left is not None and abs((whole / 2 + left) / whole - 1) <= 0.2
    return "dry", is_close and state != "stalled_on_water"


def evacuations(seed: int) -> None:
    for wet in (False, True):
        told = [_evacuated(seed + n, wet)[1] for n in range(EVACUATIONS // 2)]
        what = "wet told before half time" if wet else "dry within 20 % at half time"
        print(f"evacuation, {what}: {sum(told) / len(told):.1%} of {len(told)}")


def _stood(seed: int) -> tuple[float, str, float | None]:
    """A nitrogen stand: its leak, what is held of it, what is excluded [mbar·L/s]."""
    rng = random.Random(seed)
    litres, high = rng.uniform(3, 25), (rng.uniform(100, 500) + 14.7) * KPA_PER_PSI
    leak = 0.0 if rng.random() < 0.5 else 10 ** rng.uniform(-2, 0.7)
    span = rng.choice((15, 15, 30, 60, 240, 1440))
    every = 1 if span <= 60 else 10
    begin, swing, period = rng.uniform(5, 33), rng.uniform(0, 6), rng.choice((60, 240, 1440))
    phase, sunny = rng.uniform(0, 6.28), rng.random() < 0.4
    heat, share, on = rng.uniform(2, 12), rng.uniform(0.1, 0.5), rng.uniform(-20, span)
    until, on_clamp = on + rng.uniform(10, 200), rng.random() < 0.5
    indoors, clamp = rng.uniform(0, 0.5), rng.gauss(0, 0.3)

    def air(minute: float) -> float:
        moved = math.sin(2 * math.pi * minute / period + phase) - math.sin(phase)
        return begin + swing * moved

    sun, gas, held, rows, minute = 0.0, air(0), 0.0, list[tuple[float, float, float]](), 0
    while minute <= span:
        goal = heat if sunny and on <= minute <= until else 0.0
        sun += (goal - sun) * (1 - math.exp(-every / 6))
        wanted = (1 - indoors) * (air(minute) + share * sun) + indoors * begin
        gas = wanted if minute == 0 else gas + (wanted - gas) * (1 - math.exp(-every / 4))
        held = amount(high, gas) if minute == 0 else held
        kpa = pressure_of(held, gas)
        passes = leak * 0.1 * (kpa**2 - 101.3**2) / (high**2 - 101.3**2)
        held -= passes / (8.314 * (gas + 273.15)) / (litres / 1000) * every * 60
        clamped = air(minute) + (sun if on_clamp else 0.0) + clamp + rng.gauss(0, 0.1)
        rows.append((minute, kpa + rng.gauss(0, 0.05) * KPA_PER_PSI, clamped))
        minute += every
    columns = [[row[n] for row in rows] for n in range(3)]
    found = read_stand(columns[0], columns[1], columns[2], litres)
    return leak, found.held, found.excludes


def stands(seed: int) -> None:
    found = [_stood(seed + n) for n in range(STANDS)]
    tight = [held for leak, held, _ in found if leak == 0]
    false = sum(held == "leaks" for held in tight)
    hidden = sum(limit is not None and leak > limit for leak, _, limit in found)
    kinds = Counter(("leak" if leak else "tight", held) for leak, held, _ in found)
    print(f"nitrogen: false leaks {false} of {len(tight)}, excluded and yet there {hidden}")
    print("  ", dict(sorted(kinds.items())))


def main(first: str = "900000") -> int:
    seed = int(first)
    decays(seed)
    evacuations(seed)
    stands(seed)
    return 0


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
