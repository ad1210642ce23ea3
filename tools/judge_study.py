"""How well the judge judges, on simulated systems it was not made from. Run by `make judge`.

`python -m tools.judge_study [CASES] [HARM]`. Sites are numbered from 1000 on, the table's from 0;
seeds are fixed. Prints every figure that docs/method.md quotes, with how many cases it is of.
"""

import sys
from collections import Counter, defaultdict
from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from itertools import pairwise
from random import Random

from nudge.core.circuit.case import Context
from nudge.core.errors import CoreError
from nudge.core.judgement.assess import Assessment, assess
from nudge.core.judgement.check_table import CHECKS, CLEANED, SECOND_LOAD
from nudge.core.judgement.looks import LOOK_OF, LOOKS, Look
from nudge.core.judgement.pairs import PAIRS
from nudge.core.judgement.signatures import SEVERITIES
from nudge.core.judgement.suspect_table import SEVERITY_SHARES, SUSPECTS
from nudge.core.plant.faults import FAULTS, Present
from tools.make_signatures import BANDS, CHARGE, LEAST_CHARGE_FAULT
from tools.sweep import FIVE, STEADY_FAULTS, Swept, may_have, read, site, swept
from tools.troubles_at_rest import PROBE_TROUBLES

CASES, HARM = 900, 10_000
SITES = range(1000, 1150)
NOT_LOW = 0.97
"""Charge from this share of what the plate's target takes is not low."""
CAPACITOR_WEAK = 0.94
BEFORE_GAUGES = ("filter_clean", "evaporator_coil_clean", "condenser_coil_clean",
                 "condenser_fan_ok")  # fmt: skip
"""What somebody has looked at who is ready to judge charge."""
SETTLED_MINUTES = 40.0
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
    return Judged(asked, suspects, _ranked(result), result.decision.advice, case.charge_share,
                  ready and not result.doubts, followed, checks)  # fmt: skip


def met(asked: Asked) -> Swept | None:
    """The system of a case, at rest with its faults."""
    rng = Random(asked.seed)
    low, high = BANDS[asked.severity or "moderate"]
    if asked.severity == "mild" and set(asked.faults) & set(CHARGE):
        low = LEAST_CHARGE_FAULT
    for _ in range(12):
        of = site(rng.choice(SITES), asked.kind)
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
        if wanted == "looked":
            seen = {self._answer(LOOK_OF[key]) for key in BEFORE_GAUGES}
            return dict(self._all), seen | self._capacitor()
        if wanted == "some":
            kept = self._rng.uniform(0.4, 1.0)
            read = {p: v for p, v in self._all.items() if self._rng.random() < kept}
            seen = {s for look in LOOKS if self._rng.random() < 0.3
                    for s in [self._answer(look)] if s}  # fmt: skip
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
            points = ("liquid_line_temp", "drier_inlet_temp", "drier_outlet_temp",
                      "liquid_line_temp_indoor")  # fmt: skip
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
            wanted = [p.check for p in result.checks if p.check.key not in done
                      and p.check.look not in (SECOND_LOAD, CLEANED)]  # fmt: skip
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


def single(kind: str, severities: Sequence[str], instruments: str, count: int, follows: bool = False
           ) -> list[Asked]:  # fmt: skip
    """Single faults in turn, over valve and orifice systems; `kind` is "" or "strange "."""
    found = []
    for number in range(count):
        fault = STEADY_FAULTS[number % len(STEADY_FAULTS)]
        severity = severities[(number // len(STEADY_FAULTS)) % len(severities)]
        of = kind + ("valve", "orifice")[(number // 2) % 2]
        if fault in ("reversing_valve_leak", "bulb_loose"):
            of = kind + "valve"
        found.append(Asked(f"single{instruments}{follows}{number}", of, (fault,), severity,
                           instruments, follows=follows))  # fmt: skip
    return found


def paired(count: int, kind: str = "") -> list[Asked]:
    rows = [pair.faults for pair in PAIRS]
    return [
        Asked(f"pair{n}", kind + ("valve", "orifice")[(n // 3) % 2], rows[n % len(rows)],
              ("moderate", "severe")[(n // len(rows)) % 2], "full")
        for n in range(count)
    ]  # fmt: skip


def as_they_come(count: int) -> list[Asked]:
    """Calls as common as the judge's priors say: what calibration is measured on."""
    rng = Random("calls")
    keys = [k for k in SUSPECTS if k != "something_else"]
    found = []
    for number in range(count):
        kind = rng.choice(("valve", "valve", "orifice"))
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
                kind = "valve"
            severity = rng.choices(SEVERITIES, list(SEVERITY_SHARES.values()))[0]
            found.append(Asked(seed, kind, (fault,), severity, instruments))
    return found


def anything(count: int) -> list[Asked]:
    """What harm is looked for in: all faults and pairs, probe faults, missing readings."""
    rng = Random("harm")
    found = []
    for number in range(count):
        kind = rng.choice(("valve", "orifice", "strange valve", "strange orifice"))
        draw = rng.random()
        faults: tuple[str, ...] = ()
        if 0.1 < draw < 0.75:
            faults = (rng.choice(STEADY_FAULTS),)
        elif draw >= 0.75:
            faults = rng.choice(PAIRS).faults
        trouble = rng.choice(list(PROBE_TROUBLES)) if rng.random() < 0.3 else ""
        found.append(
            Asked(f"harm{number}", kind, faults, rng.choice(SEVERITIES),
                           rng.choice(("full", "looked", "looked", "some", "some", "five")),
                           trouble)
        )  # fmt: skip
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


def main(cases: int = CASES, harm: int = HARM) -> None:
    with ProcessPoolExecutor() as pool:

        def run(asked: list[Asked]) -> list[Judged]:
            return [j for j in pool.map(judge, asked, chunksize=16) if j is not None]

        for title, kind in (
            ("systems as it was made from, ±20 %", ""),
            ("strange systems, ±30 %", "strange "),
        ):
            worst = run(single(kind, ("moderate", "severe"), "full", cases))
            five = run(single(kind, ("moderate", "severe"), "five", cases))
            mild = run(single(kind, ("mild",), "full", cases // 2))
            two = run(paired(cases // 2, kind))
            print(title)
            print(f"  moderate and severe, full: first {_share(worst, lambda j: j.first)}, "
                  f"first two {_share(worst, lambda j: j.in_two)}")  # fmt: skip
            print(f"    taken for:{_confusions(worst)}")
            print(f"  five numbers: first two {_share(five, lambda j: j.in_two)}, "
                  f"{_as_common(five):.1%} weighed by how common each is")  # fmt: skip
            print(f"  mild, full: first two {_share(mild, lambda j: j.in_two)}")
            print(f"  pairs, both named: {_share(two, lambda j: j.in_two)}")
        for name in ("full", "five"):
            after = run(single("", ("moderate", "severe"), name, cases // 2, follows=True))
            print(f"after up to {FOLLOWED} of its own checks, from {name}: first "
                  f"{_share(after, lambda j: j.after[0][0] in j.suspects)} "
                  f"(before {_share(after, lambda j: j.first)})")  # fmt: skip
        calls = run(as_they_come(cases * 2))
        error = calibration_error([(j.ranked[0][1], j.first) for j in calls])
        print(f"calibration error {error:.3f} of {len(calls)} calls as common as the priors")
        met = run(anything(harm))
        added = [j for j in met if j.advice == "add"]
        harmed = [j for j in added if j.charge_share >= NOT_LOW]
        print(f"harm: {len(harmed)} of {len(met)} (adds {len(added)})")
        for one in harmed[:10]:
            print(f"    {one.asked} {one.charge_share:.3f} {one.ranked[:2]}")
        low = run([Asked(f"low{n}", ("valve", "orifice")[n % 2], ("undercharge",),
                         SEVERITIES[n % 3], "looked") for n in range(cases // 2)])  # fmt: skip
        ready = [j for j in low if j.is_ready and j.charge_share < 0.95]
        print(f"truly low and ready: add or find_leak "
              f"{_share(ready, lambda j: j.advice in ('add', 'find_leak'))}")  # fmt: skip


if __name__ == "__main__":
    main(*(int(argument) for argument in sys.argv[1:]))
