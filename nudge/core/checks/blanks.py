"""What is asked for in a form, of a check or of a test, and whether an answer can be believed."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from nudge.core.language.errors import CoreError, Impossible, OutOfRange, UnknownName
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity


@dataclass(frozen=True, slots=True)
class Blank:
    """One thing to enter: a number (low and high in core units), one of some choices, or, without
    either, words.
    """

    key: str
    label: str
    quantity: Quantity | None = None
    choices: tuple[tuple[str, str], ...] = ()
    low: float = 0.0
    high: float = 0.0
    is_needed: bool = True

    @property
    def is_words(self) -> bool:
        return self.quantity is None and not self.choices


LONGEST_WORDS = 120


def check_filled(what: str, blanks: Iterable[Blank], filled: Mapping[str, float | str]) -> None:
    """Whether every answer belongs to a blank and fits it, in core units. `what` names an answer.

    Raises: UnknownName, for a blank or a choice; Impossible, for what is no number; OutOfRange;
    CoreError, for words that are too many.
    """
    known = {blank.key: blank for blank in blanks}
    for name, value in filled.items():
        if name not in known:
            raise UnknownName(what, name, known)
        _believable(known[name], value)


def _believable(blank: Blank, value: float | str) -> None:
    if blank.is_words:
        if not isinstance(value, str) or len(value) > LONGEST_WORDS or not value.isprintable():
            raise CoreError(
                blank.key, f"{blank.label}: in a line of at most {LONGEST_WORDS} letters."
            )
        return
    if blank.quantity is None:
        choices = {key: None for key, _ in blank.choices}
        if value not in choices:
            raise UnknownName(blank.label.lower(), str(value), choices)
        return
    if isinstance(value, str):
        raise Impossible(
            blank.key,
            say(
                f"{blank.label}: “{value}” is no number. Give one from {{low}} to {{high}}.",
                low=Measure(blank.low, blank.quantity),
                high=Measure(blank.high, blank.quantity),
            ),
        )
    if not blank.low <= value <= blank.high:
        raise OutOfRange(blank.label, float(value), blank.low, blank.high, blank.quantity)
