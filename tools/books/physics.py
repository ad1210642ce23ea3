"""What is computed, and what stands behind it."""

from importlib import import_module
from pkgutil import walk_packages

import nudge.core
from nudge.core.calculators import air_slips
from nudge.core.charging.leak_rate import LEAK_THRESHOLDS
from nudge.core.gaugeless.decide import LOOK_RULES
from nudge.core.gaugeless.estimate import CONDENSER_WAYS, EVAPORATOR_WAYS
from nudge.core.judgement.zero_superheat import CHAIN
from nudge.core.language.working import Formula
from nudge.core.physics.air.airflow import AIRFLOW_METHODS, AMPS_SAYS, CLIMATES, per_ton
from nudge.core.physics.air.coil import CONSTANTS
from nudge.core.physics.air.static import STATIC_RULES
from nudge.core.physics.circuit.derived_table import DERIVED, IN_HEATING
from nudge.core.physics.circuit.plate_fields import PLATE_CHOICES
from nudge.core.physics.circuit.tubes import HOSES, TUBES
from nudge.core.physics.cold_room import workings as cold_room
from nudge.core.physics.electrical.capacitor import capacitor_rules
from nudge.core.physics.heating.balance import COP
from nudge.core.physics.heating.balance import POWER as DRAWN
from nudge.core.physics.heating.delivered import DELIVERED, RISE
from nudge.core.physics.heating.expected import HEAT, POWER
from nudge.core.physics.vehicle import workings as vehicle
from nudge.core.settling.box_log import RULES
from tools.books.page import formulas, key, page, table


@page("derived")
def _derived_page() -> str:
    return formulas((*DERIVED.values(), *IN_HEATING.values()))


@page("looks")
def _looks_page() -> str:
    return formulas(way.formula for way in (*EVAPORATOR_WAYS, *CONDENSER_WAYS))


@page("pocket")
def _pocket_page() -> str:
    return formulas(_pocket_formulas())


@page("look_rules")
def _look_rules_page() -> str:
    return table(("rule", "asks for gauges when"), ((key(r.key), r.reason) for r in LOOK_RULES))


@page("coil")
def _coil_page() -> str:
    return table(("part", "value", "why"), ((c.key, c.shown, c.reason) for c in CONSTANTS))


@page("climates")
def _climates_page() -> str:
    return table(
        ("climate", "CFM per ton", "why"),
        ((key(c.key), f"{c.lps_per_kw / per_ton(1):.0f}", c.reason) for c in CLIMATES.values()),
    )


@page("airflow_methods")
def _airflow_methods_page() -> str:
    return table(
        ("way", "its own ±", "what it rests on"),
        (
            (key(m.key), f"{m.own_error:.0%}" if m.own_error else "indicator only", m.reason)
            for m in AIRFLOW_METHODS.values()
        ),
    )


@page("amps")
def _amps_page() -> str:
    return table(
        ("row", "motor", "share of plate amps", "says"),
        ((key(a.key), a.motor, f"{a.low:g} to {a.high:g}", a.sentence) for a in AMPS_SAYS),
    )


@page("static")
def _static_page() -> str:
    return table(("rule", "why"), ((key(r.key), r.reason) for r in STATIC_RULES))


@page("tubes")
def _tubes_page() -> str:
    return table(
        ("tube, in.", "outside, in.", "wall, in."),
        ((t.name, f"{t.outside_in:g}", f"{t.wall_in:.3f}") for t in TUBES),
    )


@page("hoses")
def _hoses_page() -> str:
    return table(("hose, in.", "bore, in."), ((h.name, h.inside_in) for h in HOSES))


@page("capacitor")
def _capacitor_page() -> str:
    return table(
        ("state", "off its label, %", "says", "why"),
        (
            (
                key(r.state),
                f"{max(r.low, -100):.0f} to {min(r.high, 100):.0f}",
                r.sentence,
                r.reason,
            )
            for r in capacitor_rules()
        ),
    )


@page("leaks")
def _leaks_page() -> str:
    return table(
        ("plant", "% a year", "why"),
        ((key(t.key), f"{t.percent:g}", t.reason) for t in LEAK_THRESHOLDS),
    )


def _pocket_formulas() -> list[Formula]:
    """Every formula that stands in a module by its own name, once."""
    found: dict[str, Formula] = {}
    for module in walk_packages(nudge.core.__path__, "nudge.core."):
        for value in vars(import_module(module.name)).values():
            if isinstance(value, Formula):
                found[f"{value.key} {value.formula}"] = value
    found |= {f.key: f for f, _ in air_slips.PROPERTIES}
    return list(found.values())


@page("heating")
def _heating_page() -> str:
    return formulas((DELIVERED, RISE, HEAT, POWER, DRAWN, COP))


@page("plate_choices")
def _plate_choices_page() -> str:
    return table(
        ("word of the plate", "one of", "why"),
        ((key(one.key), ", ".join(one.options.values()), one.reason) for one in PLATE_CHOICES),
    )


@page("box_log")
def _box_log_page() -> str:
    return table(
        ("rule", "value", "why"),
        ((key(r.key), f"{r.value:g} {r.unit}", r.reason) for r in RULES.values()),
    )


@page("cold_room")
def _cold_room_page() -> str:
    return formulas(cold_room.FORMULAS)


@page("vehicle")
def _vehicle_page() -> str:
    return formulas(vehicle.FORMULAS)


@page("zero_superheat")
def _zero_superheat_page() -> str:
    return table(
        ("proof", "found", "outcome", "why"),
        ((key(one.check), key(one.found), one.outcome, one.reason) for one in CHAIN),
    )
