"""How well suspects are judged beside cooling a house: by tables made without the family they are
met in.

`python -m tools.suspects_study heating|freezer|cooler [FAMILY …] [CASES]`: each family of cousins
in turn, judged by tables made from all the others; moderate and severe faults read by a full set of
instruments, with and without what nobody walks past there; healthy visits; calls as common as the
priors say.
"""

import re
import sys
from collections import Counter, defaultdict
from collections.abc import Callable, Sequence
from random import Random

from nudge.core.judgement.heating_suspects import HEATING_SUSPECTS
from nudge.core.judgement.room_suspects import ROOM_SUSPECTS
from nudge.core.judgement.suspect_table import SEVERITY_SHARES
from nudge.plant.faults import FAULTS
from tools.cousins import FAMILIES
from tools.judge_study import calibration_error
from tools.judged_case import FOLLOWED, Asked, Judged, judge
from tools.sweep import WINTER
from tools.tables import workers
from tools.ways import WAYS

CASES = 420
NO_FINDING = ("none", "something_else")


NAMED = {"heating": WINTER.strip()}
SUSPECTS_OF = {"heating": HEATING_SUSPECTS, "freezer": ROOM_SUSPECTS, "cooler": ROOM_SUSPECTS}


def faulty(
    way: str, family: str, instruments: str, count: int, follows: bool = False
) -> list[Asked]:
    """Every fault in turn, moderate and severe."""
    name, faults = NAMED.get(way, way), WAYS[way].faults
    return [
        Asked(
            f"{name}{family}{instruments}{follows}{n}",
            f"{family}/{name}",
            (faults[n % len(faults)],),
            ("moderate", "severe")[(n // len(faults)) % 2],
            instruments,
            follows=follows,
        )
        for n in range(count)
    ]


def as_they_come(way: str, family: str, count: int) -> list[Asked]:
    """Calls as common as the priors say: what calibration is measured on."""
    name, faults = NAMED.get(way, way), WAYS[way].faults
    rng, kind = Random(f"{name} calls {family}"), f"{family}/{name}"
    rows = [row for key, row in SUSPECTS_OF[way].items() if key != "something_else"]
    found = []
    for n in range(count):
        suspect = rng.choices(rows, [row.prior for row in rows])[0].key
        seed, instruments = f"call{family}{n}", rng.choice(("full", "some", "seen"))
        if suspect == "none":
            found.append(Asked(seed, kind, (), "", instruments))
        elif suspect == "sensor_suspect":
            trouble = rng.choice(list(WAYS[way].troubles))
            found.append(Asked(seed, kind, (), "", instruments, trouble))
        else:
            fault = rng.choice([k for k in faults if FAULTS[k].suspect == suspect])
            severity = rng.choices(list(SEVERITY_SHARES), list(SEVERITY_SHARES.values()))[0]
            found.append(Asked(seed, kind, (fault,), severity, instruments))
    return found


def healthy(way: str, family: str, count: int, instruments: str) -> list[Asked]:
    kind = f"{family}/{NAMED.get(way, way)}"
    return [Asked(f"well{family}{n}", kind, (), "", instruments) for n in range(count)]


def share(found: Sequence[Judged], right: Callable[[Judged], bool]) -> float:
    return 100 * sum(map(right, found)) / max(len(found), 1)


def main(*arguments: str) -> None:
    families = [name for name in arguments if name in FAMILIES] or list(FAMILIES)
    cases = next((int(a) for a in arguments if a.isdigit()), CASES)
    way = next((name for name in arguments if name in SUSPECTS_OF), "heating")
    whole: dict[str, list[Judged]] = defaultdict(list)
    for family in families:
        with workers(family, way) as pool:
            for name, asked in {
                "full": faulty(way, family, "full", cases),
                "seen": faulty(way, family, "seen", cases),
                "followed": faulty(way, family, "seen", cases // 3, follows=True),
                "calls": as_they_come(way, family, cases),
                "healthy": healthy(way, family, cases // 2, "seen"),
                "alone": healthy(way, family, cases // 2, "full"),
            }.items():
                found = [j for j in pool.map(judge, asked, chunksize=16) if j is not None]
                whole[name] += found
                whole[f"{family} {name}"] = found
        tell(family, {name: whole[f"{family} {name}"] for name in PARTS})
    tell("all families", whole)
    confused(WAYS[way].faults, [j for j in whole["seen"] if j.shows])


PARTS = ("full", "seen", "followed", "calls", "healthy", "alone")
ILL = re.compile("room_(suspect|floods|starves|boils|head)")
"""The rules of a room that call it ill."""


def tell(title: str, found: dict[str, list[Judged]]) -> None:
    """The figures of a family, of what a steady reading can show; in brackets of everything."""
    every = {name: [j for j in some if j.shows] for name, some in found.items()}
    calls, well = found["calls"], found["healthy"]
    error = calibration_error([(j.ranked[0][1], j.first) for j in calls])
    false = share(well, lambda j: j.ranked[0][0] not in NO_FINDING and j.ranked[0][1] >= 0.6)
    moved = sum(j.advice not in STILL for some in found.values() for j in some)
    parts = [
        f"{name}: first {share(every[name], right_first):.1f} % "
        f"({share(found[name], right_first):.1f}), in two "
        f"{share(every[name], lambda j: j.in_two):.1f} % of {len(every[name])}"
        for name in ("full", "seen")
    ]
    after = [share(some, right_after) for some in (every["followed"], found["followed"])]
    parts += [
        f"after up to {FOLLOWED} checks first {after[0]:.1f} % ({after[1]:.1f}) of "
        f"{len(every['followed'])}",
        f"calibration {error:.3f} of {len(calls)}",
        f"healthy named {false:.1f} % of {len(well)}, told to be ill "
        f"{share(well, said_ill):.1f} % (instruments alone {share(found['alone'], said_ill):.1f})",
        f"told to move refrigerant {moved}",
    ]
    print(f"{title}: " + "; ".join(parts), flush=True)


STILL = ("do_not_charge", "leave")


def said_ill(one: Judged) -> bool:
    return ILL.match(one.rule) is not None


def right_first(one: Judged) -> bool:
    return one.first


def right_after(one: Judged) -> bool:
    return one.after[0][0] in one.suspects


def confused(faults: Sequence[str], found: Sequence[Judged]) -> None:
    """What each fault is taken for."""
    for fault in faults:
        some = [j for j in found if j.asked.faults == (fault,)]
        taken = Counter(j.ranked[0][0] for j in some if not j.first)
        if some:
            print(f"  {fault:22s} first {share(some, lambda j: j.first):.0f} %  {dict(taken)}")


if __name__ == "__main__":
    main(*sys.argv[1:])
