"""Makes the book of charge responses from the simulated plant: `python -m tools.make_responses`.

Sweeps the charge of many commissioned systems, each in a weather of its own, and writes what
subcooling and superheat do. Its systems (numbers 0 to 23, ordinary and strange) are not those
of `tools.charge_study` (from 1000 on).
"""

import csv
import sys
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from random import Random

from nudge.core.behaviours.case import Context, open_case
from nudge.core.language.errors import CoreError
from nudge.core.language.units import atmospheric_kpa
from nudge.plant.machine import Conditions
from nudge.plant.steady import steady
from nudge.plant.truth import running_truth
from nudge.plant.wet_air import air_of
from tools.drive import ROOT
from tools.gather import SPREAD
from tools.sweep import Site, site

TABLE = ROOT / "nudge/core/charging/tables/responses.csv"
SYSTEMS = 24
SHARES = (-45, -40, -35, -30, -26, -22, -19, -16, -14, -12, -10, -8, -6, -4, -2, 0,
          2, 4, 6, 8, 10, 13, 16, 20, 25, 30, 36)  # fmt: skip
"""Charge over what is right [%]."""
KINDS = {"valve": ("valve", "strange valve"), "orifice": ("orifice", "strange orifice")}


def curve(of: Site, seed: str) -> dict[int, tuple[float, float]]:
    """Subcooling and superheat [°F] by charge over right [%], in one weather."""
    rng = Random(seed)
    kpa = atmospheric_kpa(of.plate.elevation_m)
    indoor = air_of(rng.uniform(22.3, 27.2), rng.uniform(42, 58), kpa)
    outdoor = air_of(rng.uniform(24, 38), rng.uniform(30, 60), kpa)
    found = {}
    for share in SHARES:
        held = Conditions(indoor, outdoor, of.right_kg * (1 + share / 100))
        try:
            truth = running_truth(steady(of.machine, held))
            derived = open_case(of.plate, truth, Context()).derived
        except (CoreError, ValueError, ArithmeticError):
            continue
        if derived.subcooling is not None and derived.superheat is not None:
            found[share] = derived.subcooling * 1.8, derived.superheat * 1.8
    return found


def rows(job: tuple[str, str, int]) -> list[list[object]]:
    """The rows of one system: none unless it runs at its right charge and well about it."""
    device, kind, number = job
    of = site(number, kind, SPREAD)
    found = curve(of, f"{kind}{number}")
    if not {-20 <= s <= 20 for s in found} or 0 not in found:
        return []
    right = found[0]
    name = f"{kind.split()[0][0]}{number}"
    return [
        [
            device,
            name,
            share,
            f"{sc - right[0]:.1f}",
            f"{sh - right[1]:.1f}",
            f"{right[0]:.1f}",
            f"{right[1]:.1f}",
        ]
        for share, (sc, sh) in found.items()
    ]


def jobs() -> Iterator[tuple[str, str, int]]:
    for device, kinds in KINDS.items():
        for kind in kinds:
            yield from ((device, kind, number) for number in range(SYSTEMS))


if __name__ == "__main__":
    with ProcessPoolExecutor() as pool, TABLE.open("w", encoding="utf-8", newline="") as file:
        file.write(
            "# Made by tools/make_responses.py from the simulated plant. Charge in % over "
            "right, temperatures °F.\n"
        )
        out = csv.writer(file, lineterminator="\n")
        out.writerow(
            [
                "device",
                "system",
                "charge",
                "subcooling",
                "superheat",
                "right subcooling",
                "right superheat",
            ]
        )
        for found in pool.map(rows, list(jobs())):
            out.writerows(found)
    print(f"written to {TABLE}", file=sys.stderr)
