"""Targets, gates, trust and settling."""

from nudge.core.behaviours.rows import BEHAVIOURS
from nudge.core.judgement.hazards import HAZARDS
from nudge.core.language.said import worded
from nudge.core.language.units import KPA_PER_PSI, UNITS, Quantity, from_si
from nudge.core.physics.chart.chart import KINDS
from nudge.core.settling.gates import GATES
from nudge.core.settling.probes import PROBE_CHECKS
from nudge.core.settling.stability import FROSTING, LOAD, SLOW, LoadRow
from nudge.core.settling.trust import PROBE_LIES, TRUST_CHECKS
from nudge.core.targets.choose import SCHOOLS
from tools.books.page import key, page, table


@page("behaviours")
def _behaviours_page() -> str:
    return table(
        (
            "kind",
            "plate",
            "mode",
            "charge",
            "superheat on",
            "cold air",
            "warm air",
            "judged by",
            "why",
        ),
        (
            (
                key(b.key),
                key(b.application),
                b.mode,
                b.charge.replace("_", " "),
                " else ".join(map(key, b.roles.superheat_line)),
                " else ".join(map(key, b.roles.cold_air)),
                " else ".join(map(key, b.roles.warm_air)),
                "tables"
                if b.is_judged
                else f"windows: {b.not_judged.text('ip')}"
                if b.not_judged
                else "windows",
                b.reason,
            )
            for b in BEHAVIOURS.values()
        ),
    )


@page("schools")
def _schools_page() -> str:
    return table(
        ("school", "judges", "decides charge", "why"),
        (
            (key(s.key), s.judges, "yes" if s.decides_charge else "no", worded(s.reason, "ip"))
            for s in SCHOOLS
        ),
    )


@page("charts")
def _charts_page() -> str:
    return table(
        ("chart", "rows", "columns", "cells"),
        (
            (
                key(k.key),
                k.row.label,
                k.column.label if k.column else f"by {k.column_name}",
                k.cell.label,
            )
            for k in KINDS.values()
        ),
    )


@page("gates")
def _gates_page() -> str:
    return table(
        ("gate", "effect", "why", "source"),
        ((key(g.key), g.effect, g.reason, g.source) for g in GATES),
    )


@page("trust")
def _trust_page() -> str:
    return table(
        ("check", "points", "why"),
        (
            (key(c.key), ", ".join(map(key, c.points)) or "the probe's own", c.reason)
            for c in (*TRUST_CHECKS, PROBE_LIES)
        ),
    )


@page("slow")
def _slow_page() -> str:
    return table(
        ("quantity", "within", "why"),
        (
            (
                key(s.key),
                f"{from_si(s.within, _moved(s.quantity), 'ip'):g} {UNITS[_moved(s.quantity)].ip}",
                s.reason,
            )
            for s in SLOW
        ),
    )


@page("load")
def _load_page() -> str:
    return table(
        ("quantity", "°F a minute", "why"),
        ((key(r.key), f"{r.per_minute * 1.8:g}", r.reason) for r in LOAD),
    )


@page("frosting")
def _frosting_page() -> str:
    def a_minute(row: LoadRow) -> str:
        is_pressure = row.key.endswith("pressure")
        value = row.per_minute / KPA_PER_PSI if is_pressure else row.per_minute * 1.8
        return f"{value:.1f} {'psi' if is_pressure else '°F'}"

    return table(
        ("quantity", "a minute, at most", "why"),
        ((key(r.key), a_minute(r), r.reason) for r in FROSTING),
    )


@page("probes")
def _probes_page() -> str:
    return table(
        ("check", "asks in heating", "why"),
        ((key(c.key), "no" if c.only_cooling else "yes", c.reason) for c in PROBE_CHECKS),
    )


@page("hazards")
def _hazards_page() -> str:
    return table(("hazard", "effect", "why"), ((key(h.key), h.effect, h.reason) for h in HAZARDS))


def _moved(quantity: Quantity) -> Quantity:
    """The quantity a change of this one is."""
    if quantity is Quantity.PRESSURE:
        return Quantity.PRESSURE_DIFFERENCE
    return Quantity.TEMPERATURE_DIFFERENCE
