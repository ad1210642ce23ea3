"""The opened circuit: states, moves, what never is, recovery, fitting, first fill."""

from nudge.core.checks.fitting import FIT_PARTS
from nudge.core.opening.first_fill import BLEND, FILL_SCHOOLS, PURE
from nudge.core.opening.moves import MOVES, NEVER
from nudge.core.opening.recovery import FATES, VESSEL_RULES
from nudge.core.opening.states import STATES
from tools.books.page import key, page, table


@page("circuit_states")
def _states_page() -> str:
    return table(
        ("state", "what it is", "care", "empty"),
        ((key(s.key), s.said, s.caution, "yes" if s.is_empty else "") for s in STATES.values()),
    )


@page("circuit_moves")
def _moves_page() -> str:
    return table(
        ("to", "from", "guarded by", "why", "care"),
        (
            (key(m.to), ", ".join(m.sources), ", ".join(map(key, m.guards)), m.reason, m.caution)
            for m in MOVES.values()
        ),
    )


@page("circuit_never")
def _never_page() -> str:
    return table(("from", "to", "why never"), ((key(n.source), key(n.to), n.said) for n in NEVER))


@page("vessels")
def _vessels_page() -> str:
    return table(
        ("rule", "says", "stops", "why"),
        ((key(v.key), v.said, "yes" if v.stops else "", v.reason) for v in VESSEL_RULES),
    )


@page("fates")
def _fates_page() -> str:
    return table(("what becomes of it", "", "why"), ((key(f.key), f.label, f.said) for f in FATES))


@page("fitting")
def _fitting_page() -> str:
    return table(
        ("part", "point", "answer", "stands", "what is said"),
        (
            (part.label, point.label, answer.label, answer.state, answer.said)
            for part in FIT_PARTS
            for point in part.points
            for answer in point.answers
            if answer.said
        ),
    )


@page("first_fill")
def _first_fill_page() -> str:
    return table(
        ("school", "when", "why"),
        (
            *((key(s.key), s.when, s.reason) for s in FILL_SCHOOLS.values()),
            *((key(p.key), p.how, p.reason) for p in (BLEND, PURE)),
        ),
    )
