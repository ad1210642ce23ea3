"""Make the demo's logs of multi-zone plants: run on the simulated plant, written as their makers
might. `python -m tools.make_zone_logs` writes `nudge/demo/logs`.
"""

from array import array
from dataclasses import replace
from random import Random

from nudge.core.physics.zones.log import ZoneLog
from nudge.demo.skerrow_zones import LIBRARY, LOGS, SCHOOL, PlannedPlant
from nudge.plant.zones.built import FAMILIES, Unit, ZonePlant
from nudge.plant.zones.faults import Wrong
from nudge.plant.zones.running import RunningZones
from nudge.plant.zones.watched import watched
from tools.zone_styles import STYLES, written

STEP_S, EVERY, HOURS = 20.0, 3, 5.0
BEGINS_S = 1_782_900_000.0
"""A summer's morning; the demo moves it to today."""
MADE = (
    (LIBRARY, LIBRARY.file, (Wrong("low_charge", 0.38),), 34.0, "coded", 11, EVERY),
    (LIBRARY, "seed-library-in-june.csv", (), 32.0, "coded", 13, 2 * EVERY),
    (SCHOOL, SCHOOL.file, (Wrong("valve_lost_steps", 0.6, 1),), 31.0, "paths", 12, EVERY),
)
"""Of which plant, the file, what is wrong, outdoor air, style, seed, and of how many samples one is
written."""


def plant_of(planned: PlannedPlant, outdoor_c: float, rng: Random) -> ZonePlant:
    """The plant of a drawing, its charge right."""
    units = tuple(
        Unit(
            key,
            kw,
            lift,
            length,
            rng.choice((23.0, 23.5, 24.0)),
            rng.uniform(0.6, 0.8),
            kw * 0.06,
            kw * 120.0,
        )
        for key, _, kw, length, lift in planned.rooms
    )
    pipes = sum(unit.length_m * 0.024 for unit in units) + 0.05 * planned.kw
    plant = ZonePlant(planned.kw, units, "cooling", FAMILIES["home"], outdoor_c, 3.0, 0.0, pipes)
    return replace(plant, charge_kg=plant.needs_kg + plant.left_kg)


def moved_to_summer(log: ZoneLog, every: int = 1) -> ZoneLog:
    """A log in the made-up summer, of every so many samples."""
    first = log.times_s[0]
    return ZoneLog(
        array("d", (BEGINS_S + at - first for at in log.times_s[::every])),
        {address: column[::every] for address, column in log.columns.items()},
    )


def main() -> None:
    LOGS.mkdir(exist_ok=True)
    for planned, file, wrong, outdoor_c, style, seed, every in MADE:
        rng = Random(seed)
        running = RunningZones(plant_of(planned, outdoor_c, rng), list(wrong), rng, 9.0 * 3600)
        log = watched(running, HOURS, STEP_S, rng)
        thin = moved_to_summer(log, every)
        path = LOGS / file
        path.write_text(written(thin, STYLES[style]), "utf-8")
        print(f"{path}: {len(thin.columns)} columns, {len(thin.times_s)} lines")


if __name__ == "__main__":
    main()
