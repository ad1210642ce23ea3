"""One case met, judged, and followed through its own checks."""

from dataclasses import dataclass, field
from itertools import pairwise
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.checks.looks import Look
from nudge.core.checks.table import CHECKS, CLEANED, LOOK_OF, LOOKS, SECOND_LOAD
from nudge.core.judgement.assess import Assessment, assess
from nudge.core.judgement.zero_superheat import reads_none
from nudge.core.language.errors import CoreError
from nudge.plant.faults import Present
from tools.gather import BANDS, CHARGE, LEAST_CHARGE_FAULT
from tools.rooms import BOXES, SEEN, shows_in_room
from tools.sweep import FIVE, USUAL_SPREAD, WINTER, Site, Swept, site
from tools.ways import WAYS, Way
from tools.winter import shows

SITES, LEFT_SITES, ROOM_SITES = range(1000, 1150), range(1000, 1060), range(1000, 1030)
ONE_CLAMP_K, STEP_K = 0.12, 1.1
"""What one carried clamp still errs between two places, and the step it is told to look for."""


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


SEEN_IN_WINTER = ("outdoor_coil_ice", "condenser_coil_clean", "condenser_fan_ok", "filter_clean")
"""What nobody walks past in winter: the outdoor coil, its fan, and the filter in hand."""


SETTLED_MINUTES = 40.0


AIR = ("return_air_temp", "return_air_wet_bulb")


FOLLOWED, CHAINED = 3, 5


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

    @property
    def way(self) -> str:
        """What it is met as: `family/winter` in heating, `family/freezer` as one."""
        _, _, rest = self.kind.rpartition("/")
        if rest == WINTER.strip():
            return "heating"
        return rest if rest in BOXES else "cooling"

    @property
    def met_as(self) -> Way:
        return WAYS[self.way]

    def shows(self, case: Swept) -> bool:
        """Whether what somebody has who stands before it can show what is wrong."""
        if self.way == "cooling":
            return True
        return shows(case) if self.way == "heating" else shows_in_room(case)


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
    rule: str = ""
    """The rule the decision came from."""
    shows: bool = True
    """Whether a steady reading can show what is wrong, by the plant itself."""

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
    readings = asked.met_as.read(case, rng)
    if asked.trouble:
        asked.met_as.troubles[asked.trouble](readings, rng.uniform(0.4, 1.0), rng)
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
        result.decision.key,
        asked.shows(case),
    )


def met(asked: Asked) -> Swept | None:
    """The system of a case, at rest with its faults."""
    rng, way = Random(asked.seed), asked.met_as
    low, high = BANDS[asked.severity or "moderate"]
    if asked.severity == "mild" and set(asked.faults) & set(CHARGE):
        low = LEAST_CHARGE_FAULT
    for _ in range(12):
        of = _system(asked, rng)
        if all(way.may_have(of, fault) for fault in asked.faults):
            case = way.swept(of, [Present(f, rng.uniform(low, high)) for f in asked.faults], rng)
            if case is not None:
                return case
    return None


def _system(asked: Asked, rng: Random) -> Site:
    if asked.way == "cooling":
        return site(rng.choice(LEFT_SITES if "/" in asked.kind else SITES), asked.kind)
    number = rng.choice(LEFT_SITES if asked.way == "heating" else ROOM_SITES)
    return asked.met_as.site(number, asked.kind.partition("/")[0], "valve", USUAL_SPREAD)


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
        if wanted == "seen":
            keys = SEEN_IN_WINTER if self._asked.way == "heating" else SEEN
            seen = {self._answer(LOOK_OF[key]) for key in keys}
            return dict(self._all), seen | self._capacitor()
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
        mode = self._asked.met_as.mode
        context = Context(SETTLED_MINUTES, SETTLED_MINUTES, frozenset(self.seen), mode=mode)
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
        """Do up to three of its own next checks, as the plant and a fallible eye answer them; a
        superheat that reads none in heating is followed by its chain, up to five.
        """
        done: list[str] = []
        for _ in range(CHAINED if reads_none(result.case) else FOLLOWED):
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
