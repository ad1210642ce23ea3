"""Visits under way on plant other than a house's: the fish auction's rooms, the launch's van.

The freezer pulls down after a delivery, the cooler's coil is half iced, the van runs 45 % short;
and the ferry's chiller, commissioned in kPa and °C.
"""

from nudge.demo.skerrow_story import PlannedVisit, StoryStep

STARTED = StoryStep(2, event="system_started")
OTHER_PLANT_NOW: tuple[PlannedVisit, ...] = (
    PlannedVisit(
        "fish-freezer-now",
        "fish-freezer",
        "Warm since the delivery",
        minutes_ago=66,
        closed=False,
        steps=(
            STARTED,
            StoryStep(14, said="box 21.4"),
            StoryStep(24, said="box 18.1"),
            StoryStep(36, said="box 14.8"),
            StoryStep(48, said="box 12.1"),
            StoryStep(62, said="box 9.6 suct 31.4 eo 9 sl 26 liq 231 ll 90 oa 72"),
        ),
    ),
    PlannedVisit(
        "fish-cooler-now",
        "fish-cold-room",
        "Never quite cold; fans loud",
        minutes_ago=52,
        closed=False,
        steps=(
            STARTED,
            StoryStep(9, seen=("door_shut", "room_fans_run")),
            StoryStep(45, said="box 38.5 suct 42.9 eo 26.5 sl 37 liq 228 ll 88 oa 72"),
        ),
    ),
    PlannedVisit(
        "ferry-chiller-now",
        "ferry-chiller",
        "Commissioned after its refit",
        minutes_ago=46,
        closed=False,
        steps=(
            STARTED,
            StoryStep(10, seen=("condenser_coil_clean", "condenser_fan_ok", "filter_clean")),
            StoryStep(38, said="suct 226 sl 9.1 liq 915 ll 34.9 oa 29.5 dlt 61", units="si"),
        ),
    ),
    PlannedVisit(
        "launch-van-now",
        "launch-van",
        "Compressor renewed; still warm",
        minutes_ago=24,
        closed=False,
        kind="vehicle_after_repair",
        steps=(
            STARTED,
            StoryStep(9, seen=("vehicle_ready", "clutch_holds", "vehicle_fan_right")),
            StoryStep(20, said="cil 195 col 126 cea 90 vent 58 eo 75.5 wb 68 cool 195 es 1800"),
        ),
    ),
)
