"""How well the judge judges, on simulated systems it was not made from. Run by `make judge`.

`python -m tools.judge_study [PART] [CASES]`; parts: home, left (all without one), or one family.
At home it is the packaged tables on the plant as it ships; left out, tables made from all
families of cousins but one, on that one, in turn. Sites are numbered from 1000 on, the tables'
from 0; seeds are fixed. Prints every figure that docs/method.md quotes, with how many cases it
is of.
"""

import sys
from collections import Counter, defaultdict
from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from random import Random

from nudge.core.judgement.pairs import PAIRS
from nudge.core.judgement.signatures import SEVERITIES
from nudge.core.judgement.suspect_table import SEVERITY_SHARES, SUSPECTS
from nudge.plant.faults import FAULTS
from tools.cousins import FAMILIES
from tools.judged_case import FOLLOWED, Asked, Judged, judge
from tools.sweep import STEADY_FAULTS
from tools.tables import workers
from tools.troubles_at_rest import PROBE_TROUBLES

CASES, LEFT = 900, 2200


def single(
    kind: str, severities: Sequence[str], instruments: str, count: int, follows: bool = False
) -> list[Asked]:
    """Single faults in turn, over valve and orifice systems; `kind` is "" or "strange "."""
    found = []
    for number in range(count):
        fault = STEADY_FAULTS[number % len(STEADY_FAULTS)]
        severity = severities[(number // len(STEADY_FAULTS)) % len(severities)]
        of = kind + ("valve", "orifice")[(number // 2) % 2]
        if fault in ("reversing_valve_leak", "bulb_loose"):
            of = kind + "valve"
        found.append(
            Asked(
                f"single{instruments}{follows}{number}",
                of,
                (fault,),
                severity,
                instruments,
                follows=follows,
            )
        )
    return found


def paired(count: int, kind: str = "") -> list[Asked]:
    rows = [pair.faults for pair in PAIRS]
    return [
        Asked(
            f"pair{n}",
            kind + ("valve", "orifice")[(n // 3) % 2],
            rows[n % len(rows)],
            ("moderate", "severe")[(n // len(rows)) % 2],
            "full",
        )
        for n in range(count)
    ]


def as_they_come(count: int, of: str = "") -> list[Asked]:
    """Calls as common as the judge's priors say: what calibration is measured on."""
    rng = Random("calls")
    keys = [k for k in SUSPECTS if k != "something_else"]
    found = []
    for number in range(count):
        kind = of + rng.choice(("valve", "valve", "orifice"))
        suspect = rng.choices(keys, [SUSPECTS[k].prior for k in keys])[0]
        instruments = rng.choice(("full", "some", "five"))
        seed = f"call{number}"
        if suspect == "none":
            found.append(Asked(seed, kind, (), "", instruments))
        elif suspect == "sensor_suspect":
            trouble = rng.choice(list(PROBE_TROUBLES))
            found.append(Asked(seed, kind, (), "", instruments, trouble))
        else:
            faults = [k for k in STEADY_FAULTS if FAULTS[k].suspect == suspect]
            fault = rng.choice(faults)
            if fault in ("reversing_valve_leak", "bulb_loose"):
                kind = of + "valve"
            severity = rng.choices(SEVERITIES, list(SEVERITY_SHARES.values()))[0]
            found.append(Asked(seed, kind, (fault,), severity, instruments))
    return found


def _share(found: Sequence[Judged], right: Callable[[Judged], bool]) -> str:
    hits = sum(map(right, found))
    return f"{hits / max(len(found), 1):6.1%} of {len(found)}"


def _as_common(found: Sequence[Judged]) -> float:
    """The share with the right suspect in the first two, each suspect by its prior."""
    by_suspect: Mapping[str, list[bool]] = defaultdict(list)
    for one in found:
        by_suspect[one.suspects[0]].append(one.in_two)
    whole = sum(SUSPECTS[key].prior for key in by_suspect)
    return sum(SUSPECTS[k].prior * sum(v) / len(v) for k, v in by_suspect.items()) / whole


def calibration_error(found: Sequence[tuple[float, bool]]) -> float:
    """Expected calibration error over ten equal bins of the leader's belief."""
    error = 0.0
    for step in range(10):
        inside = [row for row in found if step / 10 < row[0] <= (step + 1) / 10]
        if inside:
            said = sum(b for b, _ in inside) / len(inside)
            true = sum(r for _, r in inside) / len(inside)
            error += len(inside) / len(found) * abs(said - true)
    return error


def _confusions(found: Sequence[Judged]) -> str:
    wrong: Mapping[str, Counter[str]] = defaultdict(Counter)
    for one in found:
        if not one.first:
            wrong[f"{'+'.join(one.asked.faults)} {one.asked.severity}"][one.ranked[0][0]] += 1
    rows = sorted(wrong.items(), key=lambda kv: -sum(kv[1].values()))[:12]
    return "".join(f"\n      {name}: {dict(to)}" for name, to in rows)


def home(cases: int = CASES) -> None:
    """The packaged tables on systems of the plant as it ships."""
    with ProcessPoolExecutor() as pool:

        def run(asked: list[Asked]) -> list[Judged]:
            return [j for j in pool.map(judge, asked, chunksize=16) if j is not None]

        for title, kind in (
            ("systems as it was made from, ±20 %", ""),
            ("strange systems, ±30 %", "strange "),
        ):
            worst = run(single(kind, ("moderate", "severe"), "full", cases))
            five = run(single(kind, ("moderate", "severe"), "five", cases))
            ticked = run(single(kind, ("moderate", "severe"), "ticked", cases))
            mild = run(single(kind, ("mild",), "full", cases // 2))
            two = run(paired(cases // 2, kind))
            print(title)
            print(
                f"  moderate and severe, full: first {_share(worst, lambda j: j.first)}, "
                f"first two {_share(worst, lambda j: j.in_two)}"
            )
            print(f"    taken for:{_confusions(worst)}")
            print(
                f"  five numbers: first two {_share(five, lambda j: j.in_two)}, "
                f"{_as_common(five):.1%} weighed by how common each is"
            )
            print(
                f"  five, return air, ticks: first two {_share(ticked, lambda j: j.in_two)}, "
                f"{_as_common(ticked):.1%} weighed by how common each is"
            )
            print(f"  mild, full: first two {_share(mild, lambda j: j.in_two)}")
            print(f"  pairs, both named: {_share(two, lambda j: j.in_two)}", flush=True)
        for name in ("full", "five"):
            after = run(single("", ("moderate", "severe"), name, cases // 2, follows=True))
            print(
                f"after up to {FOLLOWED} of its own checks, from {name}: first "
                f"{_share(after, lambda j: j.after[0][0] in j.suspects)} "
                f"(before {_share(after, lambda j: j.first)})"
            )
        calls = run(as_they_come(cases * 2))
        error = calibration_error([(j.ranked[0][1], j.first) for j in calls])
        print(f"calibration error {error:.3f} of {len(calls)} calls as common as the priors")


@dataclass(frozen=True)
class Left:
    """How a family fared by tables that know nothing of it (shares)."""

    family: str
    count: int
    first: float
    in_two: float
    ticked_in_two: float
    calibration: float
    after: float


def left(families: Sequence[str], cases: int = LEFT) -> None:
    """Each family judged by tables made from all the others."""
    rows = [_left(family, cases) for family in families]
    for name in ("first", "in_two", "ticked_in_two", "calibration", "after"):
        values = [getattr(row, name) for row in rows]
        worst = (max if name == "calibration" else min)(rows, key=lambda r: float(getattr(r, name)))
        print(
            f"{name:14} mean {sum(values) / len(values):6.1%}  "
            f"worst {getattr(worst, name):6.1%} ({worst.family})"
        )


def _left(family: str, cases: int) -> Left:
    with workers(family) as pool:

        def run(asked: list[Asked]) -> list[Judged]:
            return [j for j in pool.map(judge, asked, chunksize=16) if j is not None]

        kind = f"{family}/"
        full = run(single(kind, ("moderate", "severe"), "full", cases))
        ticked = run(single(kind, ("moderate", "severe"), "ticked", cases // 3))
        followed = run(single(kind, ("moderate", "severe"), "full", cases // 5, follows=True))
        calls = run(as_they_come(cases // 2, kind))
    found = Left(
        family,
        len(full),
        _part(full, lambda j: j.first),
        _part(full, lambda j: j.in_two),
        _part(ticked, lambda j: j.in_two),
        calibration_error([(j.ranked[0][1], j.first) for j in calls]),
        _part(followed, lambda j: j.after[0][0] in j.suspects),
    )
    print(
        f"{family}: first {found.first:.1%}, in two {found.in_two:.1%} of {len(full)}; five, "
        f"return air, ticks in two {found.ticked_in_two:.1%} of {len(ticked)} "
        f"({_as_common(ticked):.1%} as common); calibration {found.calibration:.3f} of "
        f"{len(calls)}; after its checks first {found.after:.1%} of {len(followed)}"
    )
    print(f"    taken for:{_confusions(full)}", flush=True)
    return found


def _part(found: Sequence[Judged], right: Callable[[Judged], bool]) -> float:
    return sum(map(right, found)) / max(len(found), 1)


def main(part: str = "", cases: int = 0) -> None:
    if part in ("", "home"):
        home(cases or CASES)
    if part != "home":
        left([part] if part in FAMILIES else list(FAMILIES), cases or LEFT)


if __name__ == "__main__":
    asked = (*sys.argv[1:], "", "0")[:2] if sys.argv[1:] else ("", "0")
    main(asked[0], int(asked[1] or 0))
