"""How well a multi-zone plant's log is read, by tables made without the family it comes from.

`python -m tools.zone_study [CASES] [FAMILY …]`: each family in turn, judged by tables made of all
the others: one fault each in turn, healthy plants, a charge and a valve at once. First and in two
of what its log passed through; in brackets of everything. Every log is read once more as under an
hour.
"""

import sys
from collections import Counter
from collections.abc import Sequence
from random import Random

from nudge.core.multizone.reading import ZoneReading, read_zones
from nudge.core.multizone.weigh import ZoneTable, table_from
from nudge.plant.zones.built import FAMILIES
from nudge.plant.zones.faults import ZONE_FAULTS
from tools.judge_study import calibration_error
from tools.make_zone_tables import EACH, met_of, table_data
from tools.zones import SERVES, ZoneCase, ZoneMet, met_all, pairs

CASES = 60


def asked(family: str, count: int) -> list[ZoneCase]:
    """Faults in turn, evenly bad, on plants that no table was made from."""
    rng, found = Random(f"study {family}"), []
    keys = list(ZONE_FAULTS)
    for n in range(count):
        row = ZONE_FAULTS[keys[n % len(keys)]]
        able = [s for s in SERVES if s in row.serves]
        seed = f"study{family}{n}"
        found.append(ZoneCase(family, rng.choice(able), (row.key,), rng.random(), seed))
    return found


def healthy(family: str, count: int) -> list[ZoneCase]:
    return [
        ZoneCase(family, SERVES[n % len(SERVES)], (), 0.0, f"study{family}well{n}")
        for n in range(count)
    ]


def judged(met: Sequence[ZoneMet], table: ZoneTable) -> list[tuple[ZoneMet, ZoneReading]]:
    return [(one, read_zones(one.signs, one.is_an_hour, table)) for one in met]


def main(*arguments: str) -> None:
    count = next((int(a) for a in arguments if a.isdigit()), CASES)
    families = [a for a in arguments if a in FAMILIES] or list(FAMILIES)
    whole: dict[str, list[tuple[ZoneMet, ZoneReading]]] = {"faults": [], "healthy": [], "pairs": []}
    for family in families:
        others = [one for name in FAMILIES if name != family for one in met_of(name, EACH)]
        table = table_from(table_data(others))
        mine = {
            "faults": judged(met_all(asked(family, count)), table),
            "healthy": judged(met_all(healthy(family, count // 2)), table),
            "pairs": judged(met_all(pairs(family, count // 3, "study")), table),
        }
        for name, some in mine.items():
            whole[name] += some
        tell(family, mine)
    tell("all families", whole)
    confused(whole["faults"])


def tell(title: str, found: dict[str, list[tuple[ZoneMet, ZoneReading]]]) -> None:
    faults, well, both = found["faults"], found["healthy"], found["pairs"]
    seen = [(one, reading) for one, reading in faults if one.shows]
    first, in_two = (
        f"{_share(sum(_names(one, reading, most) for one, reading in seen), seen)} "
        f"({_share(sum(_names(one, reading, most) for one, reading in faults), faults)})"
        for most in (1, 2)
    )
    error = calibration_error(
        [(reading.beliefs[0].belief, _is_right(one, reading)) for one, reading in (*faults, *well)]
    )
    named = sum(reading.decision.state == "named" for _, reading in well)
    pairs_seen = [(one, reading) for one, reading in both if one.shows]
    two = " ".join(
        _share(sum(set(one.carried) <= set(reading.named) for one, reading in some), some)
        for some in (pairs_seen, both)
    )
    moved = sum(
        reading.decision.moves_refrigerant for some in found.values() for _, reading in some
    )
    short = sum(
        read_zones(one.signs, False, None).is_judged for some in found.values() for one, _ in some
    )
    print(
        f"{title}: first {first}, in two {in_two}; calibration {error:.3f}; "
        f"healthy called ill {_share(named, well)}; both of two named {two}; "
        f"under an hour judged {short}; told to move refrigerant {moved}",
        flush=True,
    )


def _is_right(one: ZoneMet, reading: ZoneReading) -> bool:
    return _names(one, reading, 1) if one.carried else not reading.beliefs[0].carried


def _names(one: ZoneMet, reading: ZoneReading, most: int) -> bool:
    told = {pair for belief in reading.beliefs[:most] for pair in belief.carried}
    return bool(told & set(one.carried))


def _share(right: int, of: Sequence[object]) -> str:
    return f"{100 * right / max(len(of), 1):.1f} % of {len(of)}"


def confused(found: Sequence[tuple[ZoneMet, ZoneReading]]) -> None:
    for key in ZONE_FAULTS:
        mine = [(one, reading) for one, reading in found if one.carried[0][0] == key]
        wrong = Counter(
            reading.beliefs[0].carried[0][0] if reading.beliefs[0].carried else "none"
            for one, reading in mine
            if not _names(one, reading, 1)
        )
        print(f"  {key:26} {_share(len(mine) - sum(wrong.values()), mine)}  {dict(wrong)}")


if __name__ == "__main__":
    main(*sys.argv[1:])
