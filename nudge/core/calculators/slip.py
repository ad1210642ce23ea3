"""What a slip of the Pocket is: named blanks, a sum, and what it says."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from nudge.core.language.said import Said
from nudge.core.language.units import Quantity
from nudge.core.language.working import Working

Place = Literal["low", "in", "high"]


@dataclass(frozen=True, slots=True)
class SlipBlank:
    """A blank of the Pocket. The same blank on two slips is one value.

    `low` and `high` in field units; `point` names the vocabulary's point it is a reading of;
    `choices` are (key, label) where it is a pick and not a number; `like` names a point read by
    the same kind of instrument, for its ±.
    """

    key: str
    label: str
    quantity: Quantity | None
    low: float = 0.0
    high: float = 0.0
    hint: str = ""
    point: str | None = None
    choices: tuple[tuple[str, str], ...] = ()
    like: str = ""
    usual: str = ""
    """What is taken when it is left empty, as a key or a number in field units."""


class Entered(Mapping[str, float]):
    """What was filled in: numbers in core units, picks by `pick`."""

    def __init__(self, numbers: Mapping[str, float], picks: Mapping[str, str]) -> None:
        self._numbers, self._picks = numbers, picks

    def __getitem__(self, key: str) -> float:
        return self._numbers[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._numbers)

    def __len__(self) -> int:
        return len(self._numbers)

    def pick(self, key: str) -> str:
        """The key picked, or "" where nothing was."""
        return self._picks.get(key, "")

    def has(self, *keys: str) -> bool:
        return all(key in self._numbers for key in keys)


@dataclass(frozen=True, slots=True)
class SlipLine:
    """A number a slip comes to, its window where it has one, and where it falls in it.

    `reading` names the point it can be sent into a visit as.
    """

    working: Working
    low: float | None = None
    high: float | None = None
    source: str = ""
    reading: str | None = None

    @property
    def place(self) -> Place | None:
        if self.low is None or self.high is None:
            return None
        if self.working.value < self.low - 0.001:
            return "low"
        return "high" if self.working.value > self.high + 0.001 else "in"


@dataclass(frozen=True, slots=True)
class SlipOutcome:
    """What a slip comes to: its numbers, its sentences, and what to fill in next."""

    lines: tuple[SlipLine, ...] = ()
    words: tuple[Said, ...] = ()
    needs: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Slip:
    """One slip: a row of the Pocket. `seldom` are the blanks most people leave empty."""

    key: str
    title: str
    usual: tuple[str, ...]
    fill: Callable[[Entered], SlipOutcome]
    caution: Said | None = None
    seldom: tuple[str, ...] = ()

    @property
    def blanks(self) -> tuple[str, ...]:
        return self.usual + self.seldom


def needs(entered: Entered, labels: Mapping[str, str]) -> tuple[str, ...]:
    """The labels of the blanks still empty, in the order asked for."""
    return tuple(label for key, label in labels.items() if key not in entered)
