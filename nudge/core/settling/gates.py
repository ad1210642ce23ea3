"""When a reading may be judged: one row a gate.

A gate that *blocks* keeps charge from being judged; one that *warns* is said beside the
verdict. `breached` answers the sentence to show, or None when the gate is open.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from nudge.core.air.airflow import CLIMATES, TOLERANCE
from nudge.core.circuit.case import Case
from nudge.core.refrigerant.table import load_table
from nudge.core.said import (
    Measure,
    Said,
    difference,
    fahrenheit,
    minutes,
    pressure_difference,
    say,
    temperature,
)
from nudge.core.targets import formula_superheat
from nudge.core.targets.choose import Targets
from nudge.core.units import KPA_PER_PSI, Quantity
from nudge.core.vocabulary.equipment import Application, MeteringDevice, Plate

Effect = Literal["blocks", "warns"]

WARM_ENOUGH_C = fahrenheit(70)
WARM_ENOUGH_APPROACH_C = fahrenheit(65)
STANDING_RATIO = 1.2
RUN_MINUTES = {MeteringDevice.FIXED_ORIFICE: 15, MeteringDevice.TXV: 15, MeteringDevice.EEV: 30}
CHANGE_MINUTES = {MeteringDevice.FIXED_ORIFICE: 6, MeteringDevice.TXV: 10, MeteringDevice.EEV: 10}
VALVE_NEED_KPA = {
    "R-22": 100 * KPA_PER_PSI,
    "R-410A": 160 * KPA_PER_PSI,
    "R-454B": 160 * KPA_PER_PSI,
    "R-32": 160 * KPA_PER_PSI,
}
_SCALE_AT_C = 40.0
_FOR_ANY_PLANT = {"application_not_judged", "not_running"}


def valve_need_kpa(name: str) -> float:
    """Liquid-to-suction difference an expansion valve needs to control [kPa].

    Trade figures for four refrigerants; others scale R-22's by bubble pressure at 40 °C (or
    4 K below their highest tabulated temperature, R-744 only).
    """
    if name in VALVE_NEED_KPA:
        return VALVE_NEED_KPA[name]
    table, r22 = load_table(name), load_table("R-22")
    at_c = min(_SCALE_AT_C, table.bubble.high_c)
    return VALVE_NEED_KPA["R-22"] * table.bubble.pressure(at_c) / r22.bubble.pressure(at_c)


@dataclass(frozen=True, slots=True)
class Gate:
    """One condition on judging, with its reason and the kind of source it rests on."""

    key: str
    effect: Effect
    reason: str
    source: Literal["maker", "standard", "trade rule"]
    breached: Callable[[Case, Targets], Said | None]
    headline: str = ""
    """What to do first, in a few words, where the gate blocks."""


@dataclass(frozen=True, slots=True)
class Breach:
    """A gate that is shut on this case."""

    gate: Gate
    message: Said


def open_gates(case: Case, targets: Targets) -> list[Breach]:
    """The gates shut on this case, those that block first.

    Plant that is not judged at all is told so, and nothing about charge besides.
    """
    judged = case.plate.application is Application.COMFORT_COOLING
    gates = [gate for gate in GATES if judged or gate.key in _FOR_ANY_PLANT]
    found = ((gate, gate.breached(case, targets)) for gate in gates)
    shut = [Breach(gate, message) for gate, message in found if message is not None]
    return sorted(shut, key=lambda breach: breach.gate.effect != "blocks")


def is_standing(case: Case) -> bool:
    """Whether the two pressures are so close that the compressor cannot be running."""
    ratio = case.derived.pressure_ratio
    return ratio is not None and 1 / STANDING_RATIO < ratio < STANDING_RATIO


def _application(case: Case, targets: Targets) -> Said | None:
    return _NOT_JUDGED.get(case.plate.application)


_NOT_JUDGED = {
    Application.HEAT_PUMP_HEATING: say(
        "A heat pump is charged in cooling. In heating it is only checked."
    ),
    Application.REFRIGERATION: say(
        "Nudge shows a cold room's numbers but does not judge its charge yet. Judge it near set "
        "point, by the plate."
    ),
    Application.VEHICLE: say("Nudge shows a vehicle's numbers but does not judge its charge yet."),
    Application.MULTI_ZONE: say(
        "Nudge shows a multi-zone plant's numbers but does not judge its charge yet. It needs an "
        "hour of log."
    ),
}


def _standing(case: Case, targets: Targets) -> Said | None:
    if is_standing(case):
        return say(
            "The two pressures are nearly equal: the system is standing, or the compressor is not "
            "pumping. Read it running."
        )
    return None


def _indoor_cold(case: Case, targets: Targets) -> Said | None:
    value = case.readings.get("return_air_temp")
    if value is not None and value < WARM_ENOUGH_C:
        return say(
            "Return air {value} is under {limit}: too little load to judge charge. Warm the house "
            "first, or come back when it is warm.",
            value=temperature(value),
            limit=temperature(WARM_ENOUGH_C),
        )
    return None


def _outdoor_cold(case: Case, targets: Targets) -> Said | None:
    value = case.readings.get("outdoor_air_temp")
    limit = WARM_ENOUGH_C if case.plate.approach_k is None else WARM_ENOUGH_APPROACH_C
    if value is not None and value < limit:
        return say(
            "Outdoor air {value} is under {limit}: too cold to judge charge as it stands. Raise "
            "the head with a collar on the discharge air, weigh in, or come back in season.",
            value=temperature(value),
            limit=temperature(limit),
        )
    return None


def _valve_starved(case: Case, targets: Targets) -> Said | None:
    have, need = case.derived.valve_pressure_difference, valve_need_kpa(case.plate.refrigerant)
    if have is not None and case.plate.metering_device.is_valve and have < need:
        return say(
            "The valve has {have} across it and needs about {need}: liquid stacks in the condenser "
            "and subcooling reads high. Raise the head first.",
            have=pressure_difference(have),
            need=pressure_difference(need),
        )
    return None


def _by_superheat(targets: Targets) -> bool:
    return targets.deciding is not None and targets.deciding.key == formula_superheat.KEY


def _wet_bulb_range(case: Case, targets: Targets) -> Said | None:
    value = case.readings.get("return_air_wet_bulb")
    low, high = formula_superheat.WET_BULB_RANGE_C
    if _by_superheat(targets) and value is not None and not low <= value <= high:
        return say(
            "Return wet bulb {value} is outside {low} to {high}, where the superheat formula "
            "holds. Bring the house into range.",
            value=temperature(value),
            low=temperature(low),
            high=temperature(high),
        )
    return None


def _outdoor_range(case: Case, targets: Targets) -> Said | None:
    value = case.readings.get("outdoor_air_temp")
    low, high = formula_superheat.OUTDOOR_RANGE_C
    if _by_superheat(targets) and value is not None and not low <= value <= high:
        return say(
            "Outdoor air {value} is outside {low} to {high}, where the superheat formula holds.",
            value=temperature(value),
            low=temperature(low),
            high=temperature(high),
        )
    return None


def _target_too_low(case: Case, targets: Targets) -> Said | None:
    target = targets.windows.get("superheat")
    if target and _by_superheat(targets) and target.value < formula_superheat.LEAST_TARGET_K:
        return say(
            "Target superheat comes to {target}, under {least}: do not charge by superheat now.",
            target=difference(target.value),
            least=difference(formula_superheat.LEAST_TARGET_K),
        )
    return None


def _chart_silent(case: Case, targets: Targets) -> Said | None:
    return targets.silent[0][1] if targets.silent else None


def _airflow_out(case: Case, targets: Targets) -> Said | None:
    flow = case.derived.airflow_per_capacity
    if flow is None:
        return None
    least, most = airflow_range(case.plate)
    if least <= flow <= most:
        return None
    return say(
        "Airflow {flow} is outside {least} to {most}. Put the air right first, then read again.",
        flow=Measure(flow, Quantity.AIRFLOW_PER_CAPACITY),
        least=Measure(least, Quantity.AIRFLOW_PER_CAPACITY),
        most=Measure(most, Quantity.AIRFLOW_PER_CAPACITY),
    )


def airflow_range(plate: Plate) -> tuple[float, float]:
    """Standard airflow per capacity at which charge may be judged [L/s per kW].

    The maker's own figure ±12 %; without one, whatever some climate asks for, ±12 %.
    """
    if plate.rated_airflow_lps is not None and plate.nominal_capacity_w is not None:
        own = plate.rated_flow_per_capacity()
        return own * (1 - TOLERANCE), own * (1 + TOLERANCE)
    asked = [climate.lps_per_kw for climate in CLIMATES.values()]
    return min(asked) * (1 - TOLERANCE), max(asked) * (1 + TOLERANCE)


def _run_short(case: Case, targets: Targets) -> Said | None:
    ran, need = case.context.minutes_running, RUN_MINUTES[case.plate.metering_device]
    if ran is not None and ran < need:
        return say(
            "Running {ran}, and this system wants {need}. Let it run.",
            ran=minutes(ran),
            need=minutes(need),
        )
    return None


def _just_changed(case: Case, targets: Targets) -> Said | None:
    since, need = case.context.minutes_since_change, CHANGE_MINUTES[case.plate.metering_device]
    if since is not None and since < need:
        return say(
            "Changed {since} ago, and this system wants {need} to settle. Wait.",
            since=minutes(since),
            need=minutes(need),
        )
    return None


def _seen(observation_key: str, template: str) -> Callable[[Case, Targets], Said | None]:
    def breached(case: Case, targets: Targets) -> Said | None:
        return say(template) if case.saw(observation_key) else None

    return breached


def _unread(point: str, template: str) -> Callable[[Case, Targets], Said | None]:
    def breached(case: Case, targets: Targets) -> Said | None:
        return say(template) if point not in case.readings else None

    return breached


def _time_unknown(case: Case, targets: Targets) -> Said | None:
    if case.context.minutes_running is None:
        return say("Nobody has said how long it has been running. Mark the start.")
    return None


def _air_unseen(case: Case, targets: Targets) -> Said | None:
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


def _condenser_unseen(case: Case, targets: Targets) -> Said | None:
    if case.saw("condenser_coil_clean") or case.saw("condenser_coil_dirty"):
        return None
    return say("Outdoor coil not seen yet.")


GATES: tuple[Gate, ...] = (
    Gate(
        "application_not_judged",
        "blocks",
        "Charge rules here are for comfort cooling in cooling; other plant has its own.",
        "trade rule",
        _application,
        "Charge is not judged here.",
    ),
    Gate(
        "not_running",
        "blocks",
        "A pressure ratio under 1.2 is standing pressure, not refrigeration.",
        "trade rule",
        _standing,
        "Start the system and let it run.",
    ),
    Gate(
        "run_short",
        "blocks",
        "Line temperatures and the house need 15 minutes from a fresh start; an inverter in its "
        "charge mode 30.",
        "trade rule",
        _run_short,
        "Wait.",
    ),
    Gate(
        "just_changed",
        "blocks",
        "Pressures settle in seconds, the liquid line in minutes: 6 after a change, 10 with a "
        "valve.",
        "trade rule",
        _just_changed,
        "Wait.",
    ),
    Gate(
        "indoor_below_70",
        "blocks",
        "Under 70 °F indoors the coil lacks load and every low-side number drifts down.",
        "trade rule",
        _indoor_cold,
        "Too cool indoors to judge charge.",
    ),
    Gate(
        "outdoor_below_70",
        "blocks",
        "Under 70 °F outdoors (65 with an approach plate) the head is too low for the device.",
        "trade rule",
        _outdoor_cold,
        "Too cold outdoors to judge charge.",
    ),
    Gate(
        "valve_starved",
        "blocks",
        "A valve needs its pressure difference to control: about 100 psi R-22, 160 psi R-410A, "
        "R-454B and R-32, others in proportion to saturation pressure.",
        "trade rule",
        _valve_starved,
        "Raise the head first.",
    ),
    Gate(
        "wet_bulb_out_of_range",
        "blocks",
        "The superheat formula is a fit between 50 and 76 °F return wet bulb.",
        "trade rule",
        _wet_bulb_range,
        "Bring the house into range first.",
    ),
    Gate(
        "outdoor_out_of_range",
        "blocks",
        "The superheat formula is a fit between 55 and 115 °F outdoors.",
        "trade rule",
        _outdoor_range,
        "Do not charge by superheat now.",
    ),
    Gate(
        "superheat_target_too_low",
        "blocks",
        "A target under 5 °F leaves no room above liquid return.",
        "trade rule",
        _target_too_low,
        "Do not charge by superheat now.",
    ),
    Gate(
        "airflow_out_of_range",
        "blocks",
        "Measured airflow must be the plate's ±12 %, or what some climate asks for: 310 CFM per "
        "ton drying out to 450 in dry air, ±12 %.",
        "trade rule",
        _airflow_out,
        "Put the airflow right first.",
    ),
    Gate(
        "filter_dirty",
        "blocks",
        "Nobody judges charge before air is right.",
        "trade rule",
        _seen("filter_dirty", "The filter is dirty. Change it, let it settle, read again."),
        "Change the filter first.",
    ),
    Gate(
        "evaporator_coil_dirty",
        "blocks",
        "Nobody judges charge before air is right.",
        "trade rule",
        _seen("evaporator_coil_dirty", "The indoor coil is dirty. Clean it, then read again."),
        "Clean the indoor coil first.",
    ),
    Gate(
        "condenser_coil_dirty",
        "blocks",
        "A dirty outdoor coil looks like overcharge.",
        "trade rule",
        _seen("condenser_coil_dirty", "The outdoor coil is dirty. Clean it, then read again."),
        "Clean the outdoor coil first.",
    ),
    Gate(
        "blower_capacitor_weak",
        "blocks",
        "A weak capacitor leaves the blower at half speed.",
        "trade rule",
        _seen("blower_capacitor_weak", "The blower capacitor is weak. Renew it, then read again."),
        "Renew the blower capacitor first.",
    ),
    Gate(
        "ice_on_coil",
        "blocks",
        "Ice blocks air and insulates the coil: nothing read through it is the system's own.",
        "trade rule",
        _seen("ice_on_coil", "There is ice on the coil or line. Thaw it fully, then read again."),
        "Thaw the ice first.",
    ),
    Gate(
        "chart_silent",
        "warns",
        "A maker's chart is never read beyond its edges or in its blanks.",
        "maker",
        _chart_silent,
    ),
    Gate(
        "return_air_unknown",
        "warns",
        "Without return air a cold house cannot be ruled out.",
        "trade rule",
        _unread("return_air_temp", "Return air not measured: a cold house is not ruled out."),
    ),
    Gate(
        "outdoor_air_unknown",
        "warns",
        "Without outdoor air a cold day cannot be ruled out.",
        "trade rule",
        _unread("outdoor_air_temp", "Outdoor air not measured: a cold day is not ruled out."),
    ),
    Gate(
        "running_unknown",
        "warns",
        "A reading of unknown age may not be settled.",
        "trade rule",
        _time_unknown,
    ),
    Gate(
        "air_unseen",
        "warns",
        "Air first: filter and coil seen, or airflow known.",
        "trade rule",
        _air_unseen,
    ),
    Gate(
        "condenser_unseen",
        "warns",
        "Look at the outdoor coil before touching charge.",
        "trade rule",
        _condenser_unseen,
    ),
)
