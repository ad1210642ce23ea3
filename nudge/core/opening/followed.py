"""Following an opened circuit through what was written down, on one visit or on several."""

from collections.abc import Iterable
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.opening.moves import passed_over
from nudge.core.opening.states import STATES, WHOLE

ADDED, REMOVED = "refrigerant_added", "refrigerant_removed"
MOST_LEFT = 0.30
"""Of its whole charge: with less left in it than this it counts as empty."""
FILLED = 0.97
"""Of the first fill: a scale, hoses and a purge keep the rest."""
SHOWN_BY = MappingProxyType(
    {"nitrogen": "pressurised", "evacuation": "evacuating", "decay": "isolated"}
)
"""A test of an empty circuit shows the state it is in."""


@dataclass(frozen=True, slots=True)
class Happening:
    """One thing that bears on the state: a state by its key, or refrigerant by its weight [kg].

    `at` is when [s, on one clock for all].
    `reason`: why something was passed over. `visit`: on which visit it was written. `by_hand`:
    said by a person, not shown by a test, a scale or a part renewed.
    """

    key: str
    at: float
    kg: float = 0.0
    reason: str = ""
    visit: str = ""
    by_hand: bool = False


@dataclass(frozen=True, slots=True)
class StateEntered:
    """A state entered: when, on which visit, and which states were passed over and why."""

    state: str
    at: float
    visit: str
    skipped: tuple[str, ...] = ()
    reason: str = ""


@dataclass(frozen=True, slots=True)
class Way:
    """An opened circuit as it stands."""

    state: str
    entered: tuple[StateEntered, ...] = ()
    """Since it was last whole, in order."""
    in_kg: float = 0.0
    """Weighed in since it was empty."""
    out_kg: float = 0.0
    """Recovered from it, since it was last whole."""

    @property
    def is_open(self) -> bool:
        return self.state not in WHOLE

    @property
    def is_empty(self) -> bool:
        return STATES[self.state].is_empty

    def was(self, state: str) -> bool:
        return any(one.state == state for one in self.entered)

    def since(self, state: str) -> float | None:
        """When it last entered a state [s]."""
        return next((one.at for one in reversed(self.entered) if one.state == state), None)

    def begun_on_another(self, visit: str) -> bool:
        """Whether it was opened on another visit and taken up on this one."""
        return bool(self.entered) and self.entered[0].visit != visit


def follow(
    happenings: Iterable[Happening], whole_kg: float, first_fill_kg: float, begins: str = "charged"
) -> Way:
    """Where a circuit stands after everything that was written, in the order it happened.

    `whole_kg` is what belongs in it, `first_fill_kg` what is weighed in before it is run.
    """
    walk = _Walk(whole_kg, first_fill_kg, begins)
    for one in sorted(happenings, key=lambda h: h.at):
        walk.take(one)
    return Way(walk.state, tuple(walk.entered), walk.in_kg, walk.out_kg)


class _Walk:
    def __init__(self, whole_kg: float, first_fill_kg: float, begins: str) -> None:
        self._whole_kg, self._first_kg = whole_kg, first_fill_kg
        self.state = begins
        self.entered: list[StateEntered] = []
        self.in_kg = self.out_kg = 0.0

    def take(self, one: Happening) -> None:
        if one.key == REMOVED:
            self._remove(one)
        elif one.key == ADDED:
            self._add(one)
        else:
            self._enter(one.key, one)

    def _remove(self, one: Happening) -> None:
        self.out_kg += one.kg
        if self.state in ("broken", "weighed"):
            self.in_kg = max(self.in_kg - one.kg, 0.0)
        if self.state in WHOLE and self.out_kg >= (1 - MOST_LEFT) * self._whole_kg:
            self._enter("recovered", one)

    def _add(self, one: Happening) -> None:
        if self.state in WHOLE:
            self.out_kg = max(self.out_kg - one.kg, 0.0)  # a trim, or a test dose
            return
        self.in_kg += one.kg
        if self.state == "recovered":
            if self.in_kg >= MOST_LEFT * self._whole_kg:
                self._enter("charged", one)  # put back, never opened
            return
        if STATES[self.state].is_empty:
            self._enter("broken", one)
        if self.state == "broken" and self.in_kg >= FILLED * self._first_kg:
            self._enter("weighed", one)

    def _enter(self, state: str, one: Happening) -> None:
        if state == self.state:
            return
        if state == "charged":
            self.state, self.entered, self.in_kg, self.out_kg = state, [], 0.0, 0.0
            return
        if self.state in WHOLE:
            self.entered, self.in_kg = [], 0.0
        if STATES[state].is_empty:
            self.in_kg = 0.0
        skipped = passed_over(self.state, state)
        self.entered.append(StateEntered(state, one.at, one.visit, skipped, one.reason))
        self.state = state
        if state == "trimmed":
            self.out_kg = 0.0
