"""How often a drift between two yearly visits is flagged, and how often for nothing.

`python -m tools.drift_study [SYSTEMS] [heating] [FAMILY … or left]`, run by `make drift`. Systems
from 3000 on, ordinary and strange, each met twice in different weather by instruments with new
errors; with `heating` heat pumps, both times in their winter.
"""

import sys
from collections import Counter
from random import Random

from nudge.core.behaviours.behaviour import Mode
from nudge.core.behaviours.rows import BEHAVIOURS
from nudge.core.drift import table
from nudge.core.drift.drift import LIKE_OUTDOORS_K, drift
from nudge.core.language.errors import CoreError
from nudge.plant.circuit import NoOperatingPoint
from tools.make_drift import CAUSES, CHARGE, WINTER_DAY, heated_without, met
from tools.tables import families_in, some_site, workers
from tools.winter import pump

SYSTEMS, FROM = 120, 3000
CHARGED = ("", *CAUSES)


def one(job: tuple[int, str, str, Mode]) -> tuple[str, bool, str] | None:
    """What was said of one system that had a cause ("" for none): flagged, and the first named."""
    number, cause, family, mode = job
    behaviour = BEHAVIOURS[mode]
    if family and mode == "heating":
        table.TABLES = heated_without(family)
    rng = Random(f"study {number} {cause}")
    kind = ("valve", "orifice", "strange valve", "strange orifice")[number % 4]
    try:
        of = pump(number, family or "home") if mode == "heating" else some_site(rng, [number], kind)
        kept = rng.uniform(0.97, 1.03)
        around_c = rng.uniform(*WINTER_DAY[0]) if mode in LIKE_OUTDOORS_K else None
        before = met(of, rng, (), kept, kind=behaviour, around_c=around_c)
        left = kept * CHARGE.get(cause, 1.0)
        now = met(of, rng, CAUSES.get(cause, ()), left, kind=behaviour, around_c=around_c)
    except (NoOperatingPoint, CoreError, ValueError, ArithmeticError):
        return None
    found = drift(behaviour, of.plate.metering_device.feed, before, now)
    named = [named.cause.key for named in found.causes]
    return cause, found.is_flagged, named[0] if named else ""


def main(family: str, systems: int = SYSTEMS, mode: Mode = "cooling") -> None:
    if family and mode == "heating":
        heated_without(family)
    with workers(family, mode) as pool:
        for cause in CHARGED:
            jobs = [(FROM + n, cause, family, mode) for n in range(systems * (1 if cause else 3))]
            found = [row for row in pool.map(one, jobs, chunksize=8) if row]
            flagged = sum(row[1] for row in found)
            first = Counter(row[2] for row in found).most_common(3)
            print(
                f"{cause or 'nothing':20} flagged {flagged} of {len(found)} "
                f"({100 * flagged / len(found):.1f} %)  named first: {first}"
            )


if __name__ == "__main__":
    for name in families_in(sys.argv[1:]):
        print(f"{name}, judged by tables made without it" if name else "the plant as it ships")
        many = next((int(a) for a in sys.argv[1:] if a.isdigit()), SYSTEMS)
        main(name, many, "heating" if "heating" in sys.argv else "cooling")
