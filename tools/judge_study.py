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
from dataclasses import dataclass, field
from itertools import pairwise
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.checks.looks import Look
from nudge.core.checks.table import CHECKS, CLEANED, LOOK_OF, LOOKS, SECOND_LOAD
from nudge.core.judgement.assess import Assessment, assess
from nudge.core.judgement.pairs import PAIRS
from nudge.core.judgement.signatures import SEVERITIES
from nudge.core.judgement.suspect_table import SEVERITY_SHARES, SUSPECTS
from nudge.core.language.errors import CoreError
from nudge.plant.faults import FAULTS, Present
from tools.cousins import FAMILIES
from tools.gather import BANDS, CHARGE, LEAST_CHARGE_FAULT
from tools.sweep import FIVE, STEADY_FAULTS, Swept, may_have, read, site, swept
from tools.tables import workers
from tools.troubles_at_rest import PROBE_TROUBLES

CASES, LEFT = 900, 2200
SITES, LEFT_SITES = range(1000, 1150), range(1000, 1060)
CAPACITOR_WEAK = 0.94
TICKS = ("filter_dirty", "evaporator_coil_dirty", "condenser_coil_dirty", "condenser_fan_weak")
"""Looks somebody has done who stands before five numbers and a return air."""
BEFORE_GAUGES = (
    "filter_clean",
    "evaporator_coil_clean",
    "condenser_coil_clean",
    "condenser_fan_ok",
)
"""What somebody has looked at who is ready to judge charge."""
SETTLED_MINUTES = 40.0
AIR = ("return_air_temp", "return_air_wet_bulb")
FOLLOWED = 3
ONE_CLAMP_K, STEP_K = 0.12, 1.1
"""What one carried clamp still errs between two places, and the step it is told to look for."""


@dataclass(frozen=True)
class Asked:
    """One case to be judged: what is wrong, how badly, with which instruments."""

    seed: str
    kind: str
    faults: tuple[str, ...]
    severity: str
    instruments: str
    trouble: str = ""
    follows: bool = False


@dataclass(frozen=True)
class Judged:
    """How it was judged."""

    asked: Asked
    suspects: tuple[str, ...]
    ranked: tuple[tuple[str, float], ...]
    advice: str
    charge_share: float
    is_ready: bool
    after: tuple[tuple[str, float], ...] = ()
    checks: tuple[str, ...] = field(default_factory=tuple)

    @property
    def first(self) -> bool:
        return self.ranked[0][0] in self.suspects

    @property
    def in_two(self) -> bool:
        return {name for name, _ in self.ranked[:2]}.issuperset(self.suspects)


def judge(asked: Asked) -> Judged | None:
    """Sweep a system, read it, judge it; None where the plant does not run like that."""
    case, rng = met(asked), Random(f"read {asked.seed}")
    if case is None:
        return None
    readings = read(case, rng)
    if asked.trouble:
        PROBE_TROUBLES[asked.trouble](readings, rng.uniform(0.4, 1.0), rng)
    visit = _Visit(case, asked, readings, rng)
    try:
        result = visit.judged()
    except CoreError:
        return None
    suspects = ("sensor_suspect",) if asked.trouble else case.suspects
    ready = not any(breach.effect == "blocks" for breach in result.breaches)
    followed: tuple[tuple[str, float], ...] = ()
    checks: tuple[str, ...] = ()
    if asked.follows:
        followed, checks = visit.followed(result)
    return Judged(
        asked,
        suspects,
        _ranked(result),
        result.decision.advice,
        case.charge_share,
        ready and not result.doubts,
        followed,
        checks,
    )


def met(asked: Asked) -> Swept | None:
    """The system of a case, at rest with its faults."""
    rng = Random(asked.seed)
    low, high = BANDS[asked.severity or "moderate"]
    if asked.severity == "mild" and set(asked.faults) & set(CHARGE):
        low = LEAST_CHARGE_FAULT
    for _ in range(12):
        of = site(rng.choice(LEFT_SITES if "/" in asked.kind else SITES), asked.kind)
        if all(may_have(of, fault) for fault in asked.faults):
            case = swept(of, [Present(f, rng.uniform(low, high)) for f in asked.faults], rng)
            if case is not None:
                return case
    return None


def _ranked(result: Assessment) -> tuple[tuple[str, float], ...]:
    return tuple((b.suspect.key, b.belief) for b in result.suspects)


class _Visit:
    """What a technician has on the record so far, and what the plant would answer next."""

    def __init__(self, case: Swept, asked: Asked, readings: dict[str, float], rng: Random) -> None:
        self._case, self._asked, self._rng = case, asked, rng
        self._all = readings
        self.readings, self.seen = self._at_hand()

    def _at_hand(self) -> tuple[dict[str, float], set[str]]:
        wanted = self._asked.instruments
        if wanted == "five":
            return {p: self._all[p] for p in FIVE}, set()
        if wanted == "ticked":
            seen = {self._answer(LOOK_OF[key]) for key in TICKS}
            return {p: self._all[p] for p in (*FIVE, *AIR)}, seen
        if wanted == "looked":
            seen = {self._answer(LOOK_OF[key]) for key in BEFORE_GAUGES}
            return dict(self._all), seen | self._capacitor()
        if wanted == "some":
            kept = self._rng.uniform(0.4, 1.0)
            read = {p: v for p, v in self._all.items() if self._rng.random() < kept}
            seen = {
                s for look in LOOKS if self._rng.random() < 0.3 for s in [self._answer(look)] if s
            }
            return read or dict(self._all), seen
        return dict(self._all), self._capacitor()

    def _capacitor(self) -> set[str]:
        """What a meter says of the blower's capacitor."""
        share = self._case.site.machine.blower.capacitor_share
        for present in self._case.faults:
            if present.key == "weak_capacitor":
                share *= 1 - 0.4 * present.severity
        weak = share * self._rng.gauss(1, 0.01) < CAPACITOR_WEAK
        return {"blower_capacitor_weak" if weak else "blower_capacitor_ok"}

    def judged(self) -> Assessment:
        context = Context(SETTLED_MINUTES, SETTLED_MINUTES, frozenset(self.seen))
        return assess(self._case.site.plate, self.readings, context)

    def _answer(self, look: Look) -> str:
        if look.yes == "liquid_step_found":
            points = (
                "liquid_line_temp",
                "drier_inlet_temp",
                "drier_outlet_temp",
                "liquid_line_temp_indoor",
            )
            steps = [self._case.truth[a] - self._case.truth[b] for a, b in pairwise(points)]
            seen = max(steps) + self._rng.gauss(0, ONE_CLAMP_K) >= STEP_K
            return look.yes if seen else look.no
        names = tuple(p.key for p in self._case.faults) or ("none",)
        if self._asked.trouble:
            names = (self._asked.trouble,)
        return look.yes if self._rng.random() < look.share(names) else look.no

    def followed(self, result: Assessment) -> tuple[tuple[tuple[str, float], ...], tuple[str, ...]]:
        """Do up to three of its own next checks, as the plant and a fallible eye answer them."""
        done: list[str] = []
        for _ in range(FOLLOWED):
            wanted = [
                p.check
                for p in result.checks
                if p.check.key not in done and p.check.look not in (SECOND_LOAD, CLEANED)
            ]
            if not wanted:
                break
            check = CHECKS[wanted[0].key]
            done.append(check.key)
            for point in check.points:
                if point in self._all:
                    self.readings[point] = self._all[point]
            if check.key == "read_return_air":
                self.readings["return_air_wet_bulb"] = self._all["return_air_wet_bulb"]
            if check.look is not None and (answer := self._answer(check.look)):
                self.seen.add(answer)
            result = self.judged()
        return _ranked(result), tuple(done)


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
