"""The moves from one state of an opened circuit to the next: guards, cautions, what never is.

A guard is a step of the visit (`visit/steps.py`) by its key: done by what was measured, ticked, or
skipped with a reason, which is printed.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.checks.fitting import FIT_PARTS
from nudge.core.language.errors import CoreError
from nudge.core.opening.states import STATES, state_named


@dataclass(frozen=True, slots=True)
class CircuitMove:
    """One move: from where, what has to be done before, and the caution beside it."""

    to: str
    sources: tuple[str, ...]
    label: str
    guards: tuple[str, ...]
    caution: str
    reason: str


_ROWS = (
    CircuitMove(
        "recovered",
        ("charged", "broken", "weighed", "trimmed"),
        "Recover and weigh it",
        ("fault_proven", "plan", "locked_out", "recovery_cylinder", "recovered_weighed"),
        "Recovery machine rated for the refrigerant, never to air; liquid freezes what it touches.",
        "What comes out against what belongs in it is evidence, and it is had only once.",
    ),
    CircuitMove(
        "opened",
        ("recovered", "released"),
        "Sweep it and open it",
        ("swept", "fire_watch"),
        "No refrigerant left before any flame: its fumes are toxic. A flammable one burns.",
        "Cut, rather than unsweat, where moisture or old refrigerant could be driven through.",
    ),
    CircuitMove(
        "pressurised",
        ("opened", "released", "isolated"),
        "Raise it with nitrogen",
        tuple(part.form_key for part in FIT_PARTS),
        "Dry nitrogen through a regulator. Never over the lower design pressure of the plates.",
        "Tightness is proven by pressure, bubbles and time: no vacuum proves it.",
    ),
    CircuitMove(
        "released",
        ("pressurised",),
        "Let the nitrogen out",
        (),
        "Slowly and out of doors: it displaces air in closed rooms.",
        "A pump is never opened to pressure.",
    ),
    CircuitMove(
        "evacuating",
        ("released", "isolated"),
        "Open the pump to it",
        ("pressure_test",),
        "Pump rated for the refrigerant; no flame and no spark near A2L and A3.",
        "What leaks under nitrogen cannot be evacuated, only pumped at.",
    ),
    CircuitMove(
        "isolated",
        ("evacuating",),
        "Shut the pump off, gauge on the system",
        (),
        "Core tool shut at the system, not at the pump: hoses leak and give off.",
        "Only a circuit that stands by itself tells dry from wet.",
    ),
    CircuitMove(
        "broken",
        ("isolated",),
        "Break the vacuum with refrigerant",
        ("vacuum", "gauge_off"),
        "Virgin or reclaimed, from this system’s cylinder; the vacuum gauge valved off before it "
        "comes.",
        "Water that is shut in makes acid, and ice in the valve.",
    ),
    CircuitMove(
        "weighed",
        ("broken",),
        "All of the sheet is in",
        ("weighed_in",),
        "What is left goes into suction in bursts while it runs, superheat over its floor.",
        "What was weighed in is what the next one stands on.",
    ),
    CircuitMove(
        "trimmed",
        ("weighed",),
        "Run, trimmed, and written down",
        ("done", "final", "written"),
        "",
        "The next one who opens the door reads the sum there.",
    ),
)

MOVES: Mapping[str, CircuitMove] = MappingProxyType({row.to: row for row in _ROWS})


@dataclass(frozen=True, slots=True)
class Never:
    """A move nobody's reason excuses."""

    source: str
    to: str
    said: str


NEVER: tuple[Never, ...] = (
    Never(
        "pressurised",
        "evacuating",
        "A pump is not opened to nitrogen under pressure: let it out first.",
    ),
    Never(
        "pressurised", "opened", "No joint is opened under pressure: let the nitrogen out first."
    ),
    Never(
        "pressurised",
        "broken",
        "Refrigerant does not go in on top of nitrogen: let it out and evacuate first.",
    ),
    Never("charged", "opened", "There is refrigerant in it: recover it first, never to air."),
    Never(
        "charged",
        "pressurised",
        "There is refrigerant in it: recover it first. Nitrogen on top of it proves nothing.",
    ),
    Never(
        "charged",
        "evacuating",
        "There is refrigerant in it: recover it first, never through a vacuum pump.",
    ),
    Never("opened", "broken", "Air is in it: it is evacuated before refrigerant comes."),
    Never("opened", "weighed", "Air is in it: it is evacuated before refrigerant comes."),
)


def check_move(now: str, to: str, reason: str) -> tuple[str, ...]:
    """States passed over on the way, in order: none where the move is the next one.

    Raises: UnknownName; CoreError, for a move that never is, one that goes nowhere, and one that
    passes states over without a reason.
    """
    row = state_named(to)
    if to == now:
        raise CoreError("state", f"It is “{row.label.lower()}” already.")
    never = next((one for one in NEVER if (one.source, one.to) == (now, to)), None)
    if never is not None:
        raise CoreError("state", never.said)
    if to == "charged":
        raise CoreError("state", "It is charged again by what is weighed in, not by a word.")
    skipped = passed_over(now, to)
    if skipped and not reason.strip():
        names = ", ".join(STATES[key].label.lower() for key in skipped)
        raise CoreError(
            "state",
            f"From “{STATES[now].label.lower()}” to “{row.label.lower()}” passes over: {names}. Do "
            "that first, or say why it was left out: the reason is printed.",
        )
    return skipped


def passed_over(now: str, to: str) -> tuple[str, ...]:
    """The states between two, where no move leads from one to the other; none backwards."""
    if now in MOVES[to].sources:
        return ()
    order = list(STATES)
    return tuple(order[order.index(now) + 1 : order.index(to)])


def next_moves(now: str) -> tuple[CircuitMove, ...]:
    """Every move that leads on from a state, the way forward first."""
    order = list(STATES)
    found = [row for row in MOVES.values() if now in row.sources]
    return tuple(sorted(found, key=lambda row: abs(order.index(row.to) - order.index(now) - 1)))
