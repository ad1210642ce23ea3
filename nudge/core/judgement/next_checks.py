"""The cheapest next look: what it costs in minutes and which suspects it tells apart."""

from collections.abc import Sequence
from dataclasses import dataclass

from nudge.core.circuit.case import Case
from nudge.core.judgement.beliefs import Belief

LIMIT = 4
WORTH_ASKING = 0.004
"""Least separated belief per minute for a check to be listed."""


@dataclass(frozen=True, slots=True)
class Check:
    """One look, reading or test. Done when any of `done_by` (points, observations) is there."""

    key: str
    label: str
    why: str
    minutes: float
    separates: tuple[str, ...]
    done_by: tuple[str, ...]
    caution: str = ""


CHECKS: tuple[Check, ...] = (
    Check("read_return_air", "Read return air at the grille",
          "A cold house looks like low charge.", 1,
          ("low_indoor_load", "high_indoor_load", "low_indoor_airflow"), ("return_air_temp",)),
    Check("read_liquid_side", "Read liquid pressure and liquid line",
          "Subcooling tells low charge from a restriction.", 3,
          ("undercharge", "overcharge", "liquid_line_restriction", "metering_underfeed"),
          ("liquid_line_temp",),
          "High side: hand clear of the fitting's end, butyl gloves, eye protection."),
    Check("read_suction_side", "Read suction pressure and suction line",
          "Superheat tells whether liquid reaches the evaporator.", 3,
          ("metering_underfeed", "metering_overfeed", "liquid_line_restriction"),
          ("suction_line_temp",),
          "Butyl gloves and eye protection: escaping liquid freezes skin."),
    Check("read_outdoor_air", "Read outdoor air, in shade at coil height",
          "Condensing over ambient shows the outdoor coil and air in the system.", 1,
          ("condenser_airflow", "non_condensables", "low_ambient_stacking"),
          ("outdoor_air_temp",)),
    Check("look_at_filter", "Take the filter in your hand",
          "A choked filter pulls suction down like low charge.", 2,
          ("low_indoor_airflow",), ("filter_clean", "filter_dirty", "airflow_ok")),
    Check("look_at_condenser", "Look through the outdoor coil, watch the fan",
          "A dirty coil looks exactly like overcharge.", 3,
          ("condenser_airflow", "overcharge", "non_condensables"),
          ("condenser_coil_clean", "condenser_coil_dirty"),
          "Disconnect off and proven dead before any guard is lifted."),
    Check("read_supply_air", "Read supply air inside the boot",
          "The split shows whether air or capacity is short.", 2,
          ("low_indoor_airflow", "electrical_blower", "inefficient_compressor"),
          ("supply_air_temp",)),
    Check("look_at_evaporator", "Look at the indoor coil's face",
          "A matted coil starves the air behind a clean filter.", 10,
          ("low_indoor_airflow",), ("evaporator_coil_clean", "evaporator_coil_dirty")),
    Check("test_blower_capacitor", "Measure the blower capacitor",
          "A weak capacitor halves the air and looks like a dirty filter.", 6,
          ("electrical_blower",), ("blower_capacitor_ok", "blower_capacitor_weak"),
          "Power locked out and proven dead; discharge the capacitor before touching it."),
    Check("walk_liquid_line", "Walk the liquid line with a thermometer",
          "A temperature step shows a restriction, and where it is.", 5,
          ("liquid_line_restriction", "metering_underfeed"),
          ("liquid_line_temp_indoor", "drier_outlet_temp")),
    Check("test_bulb", "Warm the bulb in your hand, then cool it",
          "A live valve answers; a dead one does not.", 8,
          ("metering_underfeed", "metering_overfeed"),
          ("bulb_test_reacts", "bulb_test_no_reaction"),
          "Moving fans and hot surfaces near the coil: keep hair and sleeves clear."),
    Check("read_compressor_amps", "Clamp the compressor's amps",
          "A compressor that is not pumping draws little.", 3,
          ("inefficient_compressor", "reversing_valve_leak"), ("compressor_amps",),
          "Live terminals: rated gloves, one hand, licensed persons only."),
    Check("standing_pressure", "Stop it, run the outdoor fan, compare standing pressure",
          "Standing pressure over its temperature's saturation is air in the system.", 20,
          ("non_condensables",), ("test_pressure",)),
)  # fmt: skip


def next_checks(case: Case, ranked: Sequence[Belief]) -> list[Check]:
    """Checks not done yet, best value first: belief separated per minute of work.

    Belief separated is P(inside group) x P(outside group) over the suspects a check speaks
    about: most when it would split the likely ones evenly.
    """
    belief = {b.suspect.key: b.belief for b in ranked}
    have = set(case.readings) | case.context.observations
    scored = []
    for check in CHECKS:
        if have.isdisjoint(check.done_by):
            inside = sum(belief[key] for key in check.separates)
            scored.append((inside * (1 - inside) / check.minutes, check))
    scored.sort(key=lambda pair: -pair[0])
    return [check for value, check in scored if value >= WORTH_ASKING][:LIMIT]
