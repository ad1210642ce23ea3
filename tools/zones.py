"""Multi-zone plants with known faults: run, logged, read. What tables and studies are made from."""

from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from random import Random

from nudge.core.multizone.measuring import signs_of
from nudge.core.multizone.patterns import OF_CHARGE, OF_VALVES
from nudge.core.multizone.signs import ZoneSigns
from nudge.core.multizone.weigh import AT_REST
from nudge.core.physics.zones.log import ZoneLog
from nudge.core.physics.zones.parts import Parts
from nudge.plant.zones.built import FAMILIES, Serves, built, oversubscribed
from nudge.plant.zones.faults import ZONE_FAULTS, Wrong
from nudge.plant.zones.running import RunningZones
from nudge.plant.zones.watched import drawn, present, watched

STEP_S, HOURS, MOST_HOURS = 20.0, (1.6, 3.2), 9.0
SERVES: tuple[Serves, ...] = ("cooling", "mixed", "heating", "cooling")


@dataclass(frozen=True)
class ZoneCase:
    """One plant to be met: its family, what it serves, what is wrong, how badly (0 to 1)."""

    family: str
    serves: Serves
    faults: tuple[str, ...]
    bad: float
    seed: str


@dataclass(frozen=True)
class ZoneMet:
    """What its log shows, and what it carries."""

    case: ZoneCase
    signs: ZoneSigns
    carried: tuple[tuple[str, str], ...]
    is_an_hour: bool

    @property
    def shows(self) -> bool:
        """Whether its log passed through what shows it: some things show at rest alone."""
        return all(
            key not in AT_REST or "shut" in self.signs.rooms.get(part, {})
            for key, part in self.carried
        )


def wanted(case: ZoneCase) -> tuple[RunningZones, Parts] | None:
    """The plant of a case; None where it has no room for the fault."""
    rng = Random(case.seed)
    plant = built(rng, case.serves, FAMILIES[case.family])
    wrong = []
    for key in case.faults:
        row = ZONE_FAULTS[key]
        amount = row.low + (row.high - row.low) * case.bad
        if key == "capacity_short":
            plant = oversubscribed(plant, amount)
        if row.of == "plant":
            wrong.append(Wrong(key, amount))
            continue
        able = [
            n
            for n, unit in enumerate(plant.units)
            if key != "valve_leaking" or (case.serves != "heating" and not unit.heats)
        ]
        if not able or (key == "wrong_port" and len(plant.units) < 3):
            return None
        wrong.append(Wrong(key, amount, rng.choice(able)))
    if "changeover_confusion" in case.faults and len(plant.units) < 3:
        return None
    running = RunningZones(plant, wrong, rng, rng.uniform(8.0, 18.0) * 3600)
    return running, drawn(plant)


def logged(case: ZoneCase) -> tuple[RunningZones, Parts, ZoneLog] | None:
    """Its log, until an hour of it counts."""
    found = wanted(case)
    if found is None:
        return None
    running, parts = found
    rng = Random(f"log {case.seed}")
    log = watched(running, rng.uniform(*HOURS), STEP_S, rng)
    hours = HOURS[1]
    while not log.is_an_hour and hours < MOST_HOURS:
        log = watched(running, 2.5, STEP_S, rng)
        hours += 2.5
    return running, parts, log


def met(case: ZoneCase) -> ZoneMet | None:
    """A case, run and read; None where there is no such plant, or no hour of it."""
    found = logged(case)
    if found is None:
        return None
    running, parts, log = found
    if not log.is_an_hour:
        return None
    return ZoneMet(case, signs_of(log, parts), present(running), True)


def cases(family: str, each: int, seed: str) -> list[ZoneCase]:
    """Every fault in every way of serving it plays in, evenly bad, and as many healthy plants.

    Plants that serve both come half as often again: their rooms are of two kinds.
    """
    found = []
    for key, row in ZONE_FAULTS.items():
        for n in range(each):
            serves = [
                s for s in SERVES if s in row.serves or (key == "valve_leaking" and s == "mixed")
            ]
            bad = (n + 0.5) / each
            found.append(
                ZoneCase(family, serves[n % len(serves)], (key,), bad, f"{seed}{family}{key}{n}")
            )
        if "mixed" in row.serves:
            found += [
                ZoneCase(
                    family, "mixed", (key,), (n + 0.5) / (each // 2), f"{seed}{family}{key}m{n}"
                )
                for n in range(each // 2)
            ]
    found += [
        ZoneCase(family, SERVES[n % len(SERVES)], (), 0.0, f"{seed}{family}well{n}")
        for n in range(4 * each)
    ]
    return found


def couples(family: str, each: int, seed: str) -> list[ZoneCase]:
    """Every charge that is wrong with every valve that is, evenly bad."""
    return [
        ZoneCase(
            family,
            ("cooling", "mixed")[n % 2],
            (charge, valve),
            (n + 0.5) / each,
            f"{seed}{family}{charge}{valve}{n}",
        )
        for charge in OF_CHARGE
        for valve in OF_VALVES
        for n in range(each)
    ]


def pairs(family: str, count: int, seed: str) -> list[ZoneCase]:
    """A charge that is wrong and a valve that is, together."""
    rng = Random(f"pairs {seed}{family}")
    return [
        ZoneCase(
            family,
            rng.choice(("cooling", "mixed")),
            (rng.choice(OF_CHARGE), rng.choice(OF_VALVES)),
            rng.random(),
            f"{seed}{family}pair{n}",
        )
        for n in range(count)
    ]


def met_all(wanted_cases: list[ZoneCase]) -> list[ZoneMet]:
    """All of them, over the processors."""
    with ProcessPoolExecutor() as pool:
        return [one for one in pool.map(met, wanted_cases, chunksize=4) if one is not None]
