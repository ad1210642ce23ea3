"""Make the table that multi-zone logs are judged by, from simulated plants of every family.

`python -m tools.make_zone_tables [EACH]`: writes `nudge/core/multizone/tables.json`. What was met
is kept under `build/zones`; delete it when the plant or the signs change.
"""

import json
import pickle
import sys
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from math import sqrt
from pathlib import Path
from statistics import fmean, pstdev
from typing import Any

from nudge.core.multizone.patterns import NONE
from nudge.core.multizone.signs import WARM
from nudge.core.multizone.weigh import BESIDE, PAIRED
from nudge.plant.zones.built import FAMILIES
from tools.zones import ZoneMet, cases, couples, met_all

EACH, COUPLES = 8, 2
"""Plants a fault; so many times as many where two are at once: their rows are the thinnest."""
KEPT = Path("build/zones")
TABLE = Path("nudge/core/multizone/tables.json")
LEAST_OF_A_SIGN, LEAST_OF_A_ROW = 4, 5
FLOORS: Mapping[str, float] = {
    "fast": 0.04, "shell_low": 0.05, "bands_even": 0.06, "at_end": 0.04, "at_least": 0.04,
    "wet": 0.06, "calls": 0.10, "oil": 0.012, "combination": 0.06, "bypass_share": 0.04,
    "steps": 0.03, "hz": 4.0, "fan": 5.0, "fill": 0.05, "fed": 0.15, "fed_beside": 0.15,
}  # fmt: skip
"""No spread is believed to be smaller: of shares, of steps, of hertz."""
FLOOR_K = 0.35
WIDER = 1.15
"""Spreads are widened by so much: the next family's laws are not among these."""
TEMPER = (0.8, 0.9)
OFTEN = 0.3
NEAR, ALIKE = 0.7, 2.0
"""A row within this share of the usual spread, and as wide, is the usual one."""
LEANS = 4
"""So many samples’ worth a row leans on the spread where nothing is wrong."""
USUAL_OF = {"plant": "plant", "room": "beside", "beside": "beside"}


def met_of(family: str, each: int) -> list[ZoneMet]:
    """What was met of a family, kept between runs."""
    path = KEPT / f"{family}-{each}.pickle"
    if path.exists():
        return list(pickle.loads(path.read_bytes()))
    found = met_all(cases(family, each, "table"))
    found += met_all(couples(family, COUPLES * each, "table"))
    KEPT.mkdir(parents=True, exist_ok=True)
    path.write_bytes(pickle.dumps(found))
    return found


def table_data(met: Iterable[ZoneMet]) -> dict[str, Any]:
    """The table's JSON from what was met."""
    kept: dict[tuple[str, str, str, int], list[Mapping[str, float]]] = defaultdict(list)
    for one in met:
        pattern = BESIDE.join(one.case.faults) or NONE
        parts = {part for _, part in one.carried}
        half = int(one.case.bad > 0.5)
        way = one.signs.way
        kept[way, "plant", pattern, half].append(one.signs.plant)
        for room, signs in one.signs.rooms.items():
            told = one.signs.of_room(room)
            if room not in parts:
                kept[way, "beside", NONE, 0].append(told)
            elif pattern in PAIRED:  # the one that is not served, and the one that is
                kept[way, "room", pattern, int(signs.get("at_end", 0.0) < OFTEN)].append(told)
            else:
                kept[way, "room", pattern, half].append(told)
    rows: dict[str, Any] = {}
    for of_way, whose, pattern in sorted({key[:3] for key in kept}):
        halves = [kept[of_way, whose, pattern, half] for half in (0, 1)]
        if pattern not in PAIRED and min(map(len, halves)) < LEAST_OF_A_ROW:
            halves = [[one for half in halves for one in half]]
        if min(map(len, halves)) < LEAST_OF_A_ROW:
            continue
        usual = _spreads(kept[of_way, USUAL_OF[whose], NONE, 0])
        group = rows.setdefault(of_way, {}).setdefault(whose, {})
        group[pattern] = [_row(samples, usual) for samples in halves]
    for way in rows.values():
        _complete(way)
        for whose, patterns in way.items():
            _neutral(patterns, way[USUAL_OF[whose]][NONE][0])
    return {"rows": rows, "temper": TEMPER}


def _complete(way: dict[str, Any]) -> None:
    """A room's pattern is weighed only where the plant's signs beside it are known."""
    plant, room = way["plant"], way.setdefault("room", {})
    for pattern in list(room):
        if pattern not in plant:
            del room[pattern]


def _neutral(patterns: dict[str, Any], usual: Mapping[str, tuple[float, float]]) -> None:
    """A sign that a pattern hardly moves says nothing of it: few samples would have it speak.
    And every pattern is weighed by the same signs.
    """
    for halves in patterns.values():
        for half in halves:
            for sign, (mean, spread) in half.items():
                about = usual.get(sign)
                if about is None:
                    continue
                near = abs(mean - about[0]) < NEAR * about[1]
                if near and 1 / ALIKE < spread / about[1] < ALIKE:
                    half[sign] = about
            half |= {sign: _unseen(sign, half, usual) for sign in usual if sign not in half}


def _unseen(
    sign: str, half: Mapping[str, tuple[float, float]], usual: Mapping[str, tuple[float, float]]
) -> tuple[float, float]:
    """A sign that too few samples of a pattern show: moved as it moves in rooms that go the other
    way, or as where nothing is wrong.
    """
    mean, spread = usual[sign]
    other = sign.removeprefix(WARM) if sign.startswith(WARM) else f"{WARM}{sign}"
    if other not in half or other not in usual:
        return mean, spread
    moved = half[other][0] - usual[other][0]
    return round(mean + moved, 4), max(spread, half[other][1])


def _spreads(samples: Sequence[Mapping[str, float]]) -> dict[str, float]:
    """How far each sign spreads where nothing is wrong."""
    found = {}
    for sign in {sign for one in samples for sign in one}:
        values = [one[sign] for one in samples if sign in one]
        found[sign] = pstdev(values) if len(values) >= LEAST_OF_A_SIGN else 0.0
    return found


def _row(
    samples: Sequence[Mapping[str, float]], usual: Mapping[str, float]
) -> dict[str, tuple[float, float]]:
    """Mean and spread of each sign; few samples lean on the spread where nothing is wrong."""
    found = {}
    for sign in sorted({sign for one in samples for sign in one}):
        values = [one[sign] for one in samples if sign in one]
        if len(values) < LEAST_OF_A_SIGN:
            continue
        own, more = len(values) * pstdev(values) ** 2, LEANS * usual.get(sign, 0.0) ** 2
        spread = max(WIDER * sqrt((own + more) / (len(values) + LEANS)), _floor(sign))
        found[sign] = (round(fmean(values), 4), round(spread, 4))
    return found


def _floor(sign: str) -> float:
    return FLOORS.get(sign.removeprefix(WARM), FLOOR_K)


def main(*arguments: str) -> None:
    each = next((int(a) for a in arguments if a.isdigit()), EACH)
    met = [one for family in FAMILIES for one in met_of(family, each)]
    data = table_data(met)
    TABLE.write_text(json.dumps(data, indent=1, ensure_ascii=False) + "\n", "utf-8")
    print(f"{len(met)} plants of {len(FAMILIES)} families -> {TABLE}")


if __name__ == "__main__":
    main(*sys.argv[1:])
