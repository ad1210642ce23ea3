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
from datetime import UTC, datetime, timedelta
from pathlib import Path
from random import Random

from starlette.testclient import TestClient

from nudge.core.checks.table import LOOK_OF
from nudge.core.language.errors import CoreError
from nudge.core.language.units import fahrenheit
from nudge.services.workshop import Workshop
from nudge.store.database import Database
from tools.decision_cases import FULL, NOT_HIGH, SETS, SITES, Met, judged, low, not_low
from tools.doses_in_vain import TICKS, in_vain
from tools.one_voice import ACTS, Voice
from tools.sweep import read, swept
from tools.tables import families_in, some_site, workers

HARM, USE, VALVE, VAIN, VOICE = 10_000, 600, 400, 500, 300


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
        found = judged(of.plate, readings, seen)
    except CoreError:
        return None
    shut = [b.gate.key for b in found.breaches if b.effect == "blocks"]
    return found.decision.key, "valve_starved" if "valve_starved" in shut else ""


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
