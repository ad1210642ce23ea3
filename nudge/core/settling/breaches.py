"""What shuts each gate: the sentence a case is answered with, or None while it is open."""

from collections.abc import Callable
from collections.abc import Set as AbstractSet

from nudge.core.behaviours.case import Case
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.language.said import (
    Measure,
    Said,
    difference,
    minutes,
    pressure_difference,
    say,
    temperature,
)
from nudge.core.language.units import Quantity, fahrenheit
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.circuit.equipment import MeteringDevice
from nudge.core.settling.box import heater_on
from nudge.core.settling.collar import (
    COLLAR_HOLDS_MINUTES,
    COLLAR_LEAST_C,
    collar_holds,
    condensing_wanted,
    has_valve_pressure,
    valve_need_kpa,
)
from nudge.core.targets import formula_superheat
from nudge.core.targets.choose import Targets

WARM_ENOUGH_C = fahrenheit(70)
WARM_ENOUGH_APPROACH_C = fahrenheit(65)
STANDING_RATIO = 1.2
RUN_MINUTES = {MeteringDevice.FIXED_ORIFICE: 15, MeteringDevice.TXV: 15, MeteringDevice.EEV: 30}
CHANGE_MINUTES = {MeteringDevice.FIXED_ORIFICE: 6, MeteringDevice.TXV: 10, MeteringDevice.EEV: 10}


def is_standing(case: Case) -> bool:
    """Whether the two pressures are so close that the compressor cannot be running."""
    ratio = case.derived.pressure_ratio
    return ratio is not None and 1 / STANDING_RATIO < ratio < STANDING_RATIO


def application(case: Case, targets: Targets) -> Said | None:
    return None if case.context.zones is not None else case.behaviour.not_judged


NO_AMPS = 0.5
"""A compressor that draws less stands: a clamp meter’s own zero is a tenth."""


def standing(case: Case, targets: Targets) -> Said | None:
    if case.room is not None and case.readings.get("compressor_amps", NO_AMPS) < NO_AMPS:
        return say(
            "The compressor draws nothing: it rests, is pumped down, or defrosts. Read it running."
        )
    if is_standing(case):
        return say(
            "The two pressures are nearly equal: the system is standing, or the compressor is not "
            "pumping. Read it running."
        )
    return None


def indoor_cold(case: Case, targets: Targets) -> Said | None:
    value = case.readings.get("return_air_temp")
    if value is not None and value < WARM_ENOUGH_C:
        return say(
            "Return air {value} is under {limit}: too little load to judge charge. Warm the house "
            "first, or come back when it is warm.",
            value=temperature(value),
            limit=temperature(WARM_ENOUGH_C),
        )
    return None


def outdoor_cold(case: Case, targets: Targets) -> Said | None:
    """Cold outdoors, by the day's own air. A collar that holds its figures makes it warm."""
    value = case.outdoor_c
    limit = WARM_ENOUGH_C if case.plate.approach_k is None else WARM_ENOUGH_APPROACH_C
    if value is None or value >= limit or (value >= COLLAR_LEAST_C and collar_holds(case)):
        return None
    if case.saw("collar_on") and value >= COLLAR_LEAST_C:
        low, high = condensing_wanted(case.plate)
        return say(
            "The collar does not hold yet: condensing wants to stand at {low} to {high} and the "
            "valve to have its pressure, both for {hold}. Move the collar, wait, read again.",
            low=Measure(low, Quantity.TEMPERATURE, bare=True),
            high=temperature(high),
            hold=minutes(COLLAR_HOLDS_MINUTES),
        )
    return say(
        "Outdoor air {value} is under {limit}: too cold to judge charge as it stands. Raise "
        "the head with a collar on the discharge air, weigh in, or come back in season.",
        value=temperature(value),
        limit=temperature(limit),
    )


def valve_starved(case: Case, targets: Targets) -> Said | None:
    """A valve short of pressure where that shows: liquid stacks, or the air outdoors is cold."""
    if has_valve_pressure(case) is not False:
        return None
    superheat, subcooling = (
        targets.windows[key].place(value)
        if key in targets.windows and (value := case.derived.get(key)) is not None
        else ""
        for key in ("superheat", "subcooling")
    )
    if subcooling == "low":
        return None
    air = case.readings.get("outdoor_air_temp")
    hunts = case.context.past.hunting_minutes is not None
    stacks = subcooling == "high" and (superheat == "high" or hunts)
    if not stacks and (air is None or air >= WARM_ENOUGH_APPROACH_C):
        return None
    why = (
        "liquid stacks in the condenser and subcooling reads high. Raise the head first."
        if stacks
        else "cold air outdoors holds the head down. Raise the head first."
    )
    return say(
        f"The valve has {{have}} across it and needs about {{need}}: {why}",
        **_across_the_valve(case),
    )


def valve_pressure_low(case: Case, targets: Targets) -> Said | None:
    if has_valve_pressure(case) is not False or valve_starved(case, targets) is not None:
        return None
    return say(
        "The valve has {have} across it, under the usual {need}: on a mild day many right systems "
        "do. If superheat climbs or hunts, raise the head first.",
        **_across_the_valve(case),
    )


def _across_the_valve(case: Case) -> dict[str, Measure]:
    have = case.derived.valve_pressure_difference or 0.0
    need = valve_need_kpa(case.plate.refrigerant)
    return {"have": pressure_difference(have), "need": pressure_difference(need)}


def collar_air_unread(case: Case, targets: Targets) -> Said | None:
    if case.saw("collar_on") and "condenser_entering_air_temp" not in case.record:
        return say(
            "A collar is on: read the air the condenser draws, between collar and coil. Outdoor "
            "air stays on the record as it is."
        )
    return None


def by_superheat(targets: Targets) -> bool:
    return targets.deciding is not None and targets.deciding.key == formula_superheat.KEY


def wet_bulb_range(case: Case, targets: Targets) -> Said | None:
    value = case.readings.get("return_air_wet_bulb")
    low, high = formula_superheat.WET_BULB_RANGE_C
    if by_superheat(targets) and value is not None and not low <= value <= high:
        return say(
            "Return wet bulb {value} is outside {low} to {high}, where the superheat formula "
            "holds. Bring the house into range.",
            value=temperature(value),
            low=temperature(low),
            high=temperature(high),
        )
    return None


def outdoor_range(case: Case, targets: Targets) -> Said | None:
    value = case.readings.get("outdoor_air_temp")
    low, high = formula_superheat.OUTDOOR_RANGE_C
    if by_superheat(targets) and value is not None and not low <= value <= high:
        return say(
            "Outdoor air {value} is outside {low} to {high}, where the superheat formula holds.",
            value=temperature(value),
            low=temperature(low),
            high=temperature(high),
        )
    return None


def target_too_low(case: Case, targets: Targets) -> Said | None:
    target = targets.windows.get("superheat")
    if target and by_superheat(targets) and target.value < formula_superheat.LEAST_TARGET_K:
        return say(
            "Target superheat comes to {target}, under {least}: do not charge by superheat now.",
            target=difference(target.value),
            least=difference(formula_superheat.LEAST_TARGET_K),
        )
    return None


def chart_silent(case: Case, targets: Targets) -> Said | None:
    return targets.silent[0][1] if targets.silent else None


def run_short(case: Case, targets: Targets) -> Said | None:
    ran, device = case.context.minutes_running, case.plate.metering_device
    need = max(RUN_MINUTES[device], case.behaviour.run_minutes)
    if ran is not None and ran < need:
        return say(
            "Running {ran}, and this system wants {need}. Let it run.",
            ran=minutes(ran),
            need=minutes(need),
        )
    return None


TOO_MILD_C = fahrenheit(65)


def too_mild(case: Case, targets: Targets) -> Said | None:
    outdoor = case.outdoor_c
    if not case.behaviour.roles.heats or outdoor is None or outdoor <= TOO_MILD_C:
        return None
    return say(
        "Outdoors {now}, over {limit}: it heats past what its plate speaks of. Come back when it "
        "is colder.",
        now=temperature(outdoor),
        limit=temperature(TOO_MILD_C),
    )


CLEAR_MINUTES = 10.0
"""After a defrost, until it is steady again. Trade rule."""


def in_defrost(case: Case, targets: Targets) -> Said | None:
    clear = case.context.minutes_clear
    if not case.behaviour.roles.heats and case.room is None:
        return None
    if clear is not None and clear < CLEAR_MINUTES:
        by = "vapour line" if case.room is None else "coil"
        if clear == 0:
            return say(
                f"Its {by} shows a defrost: what is read in it is set aside. {{need}} after "
                "it ended, read again.",
                need=minutes(CLEAR_MINUTES),
            )
        return say(
            f"By its {by} a defrost ended {{since}} ago: what is read now is set aside. {{need}} "
            "after its end, read again.",
            since=minutes(clear),
            need=minutes(CLEAR_MINUTES),
        )
    if (heated := heater_on(case)) is not None:
        return heated
    if not case.saw("in_defrost"):
        return None
    return say(
        "In a defrost, or just out of one: what was read in it is set aside. Ten minutes "
        "after it ended, read again."
    )


def just_changed(case: Case, targets: Targets) -> Said | None:
    since, need = case.context.minutes_since_change, CHANGE_MINUTES[case.plate.metering_device]
    if case.context.read_before_change:
        return say(
            "The readings are from before the last change. It wants {need} to settle; then read "
            "again.",
            need=minutes(need),
        )
    if since is not None and since < need:
        return say(
            "Changed {since} ago, and this system wants {need} to settle. Wait.",
            since=minutes(since),
            need=minutes(need),
        )
    return None


def not_settled(case: Case, targets: Targets) -> Said | None:
    return case.context.unsettled


def contradicted(case: Case, targets: Targets) -> Said | None:
    both = case.context.contradicted
    if not both:
        return None
    labels = sorted(OBSERVATIONS[key].label.lower() for key in both)
    return say(f"Ticked both ways, so neither counts: {', '.join(labels)}. Look again.")


def estimated(case: Case, targets: Targets) -> Said | None:
    guessed = case.context.estimated & case.readings.keys()
    if not guessed:
        return None
    if guessed == case.readings.keys():
        return say("Every reading is an estimate: nothing here is proven. Measure.")
    return say(f"Estimated, so it proves nothing: {_labels(guessed)}. Measure it.")


def stale(case: Case, targets: Targets) -> Said | None:
    old = case.context.stale & case.readings.keys()
    if not old:
        return None
    return say(f"Older than the rest, or from before the last change: {_labels(old)}. Read again.")


def _labels(points: AbstractSet[str]) -> str:
    return ", ".join(sorted(POINTS[point].label.lower() for point in points))


def seen(observation_key: str, template: str) -> Callable[[Case, Targets], Said | None]:
    def breached(case: Case, targets: Targets) -> Said | None:
        return say(template) if case.saw(observation_key) else None

    return breached


def unread(point: str, template: str) -> Callable[[Case, Targets], Said | None]:
    def breached(case: Case, targets: Targets) -> Said | None:
        return say(template) if point not in case.readings else None

    return breached


def time_unknown(case: Case, targets: Targets) -> Said | None:
    if case.context.minutes_running is None:
        return say("Nobody has said how long it has been running. Mark the start.")
    return None


def air_unseen(case: Case, targets: Targets) -> Said | None:
    filter_seen = case.saw("filter_clean") or case.saw("filter_dirty")
    coil_seen = case.saw("evaporator_coil_clean") or case.saw("evaporator_coil_dirty")
    measured = case.derived.airflow_per_capacity is not None
    if measured or case.saw("airflow_ok") or (filter_seen and coil_seen):
        return None
    unseen = (
        "Filter and indoor coil"
        if not (filter_seen or coil_seen)
        else ("Indoor coil" if filter_seen else "Filter")
    )
    return say(f"{unseen} not seen yet. Air comes before charge.")


def condenser_unseen(case: Case, targets: Targets) -> Said | None:
    if case.saw("condenser_coil_clean") or case.saw("condenser_coil_dirty"):
        return None
    return say("Outdoor coil not seen yet.")
