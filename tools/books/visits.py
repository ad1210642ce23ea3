"""The visit: calls, steps, forms, seasons, drift."""

from nudge.core.checks.forms import FORMS
from nudge.core.drift.drift import CAUSES, INTENDED
from nudge.core.drift.table import wander
from nudge.core.language.said import worded
from nudge.core.physics.circuit.equipment import FEEDS
from nudge.core.visit.calls import CALLS
from nudge.core.visit.seasons import SEASONS
from nudge.core.visit.steps import STEPS
from tools.books.page import key, page, table


@page("calls")
def _calls_page() -> str:
    return table(
        ("kind of call", "what it is", "why this route"),
        ((key(c.key), c.label, c.reason) for c in CALLS.values()),
    )


@page("steps")
def _steps_page() -> str:
    return table(
        ("step", "stage", "what", "stands before", "caution"),
        (
            (
                key(s.key),
                s.stage,
                worded(s.label, "ip"),
                s.blocks or "nothing",
                worded(s.caution, "ip"),
            )
            for s in STEPS
        ),
    )


@page("visit_checks")
def _visit_checks_page() -> str:
    return table(
        ("check", "part", "what is filled in", "caution"),
        (
            (key(c.key), c.subsystem, "; ".join(b.label for b in c.blanks), c.caution)
            for c in FORMS.values()
        ),
    )


@page("seasons")
def _seasons_page() -> str:
    return table(
        ("season", "in words", "months"),
        (
            (key(s.key), worded(s.label, "ip"), ", ".join(map(str, s.months)) or "any")
            for s in SEASONS.values()
        ),
    )


def _moves(kind: str, cause: str, *signs: str) -> str:
    moved = wander(kind, FEEDS[0]).moves(cause)
    return ", ".join(f"{moved.get(sign, 0):.1f}" for sign in signs)


@page("drift_causes")
def _drift_causes_page() -> str:
    return table(
        (
            "cause",
            "in words",
            "what to look at",
            "moves on a valve system (K of subcooling, of condensing over ambient)",
            "in heating (K of subcooling, of condensing over return, % of heat)",
        ),
        (
            (
                key(c.key),
                c.label,
                c.look,
                _moves("cooling", c.key, "subcooling", "condensing_over_ambient"),
                _moves("heating", c.key, "subcooling", "condensing_over_ambient", "heat_delivered"),
            )
            for c in CAUSES.values()
        ),
    )


@page("intended")
def _intended_page() -> str:
    return table(
        ("change", "in words", "signs taken out of the count", "in heating, where others"),
        (
            (key(i.key), i.label, ", ".join(i.moves), ", ".join(i.moves_heated or ()) or "the same")
            for i in INTENDED.values()
        ),
    )
