"""The blanks of a form over the wire: what is asked, and answers into core units and back."""

from collections.abc import Iterable, Mapping
from functools import cache
from typing import Annotated

from pydantic import BaseModel, Field

from nudge.contract.request import Name
from nudge.contract.strict import Number
from nudge.core.checks.blanks import Blank
from nudge.core.checks.forms import FORMS
from nudge.core.language.errors import UnknownName
from nudge.core.language.units import UnitSystem, decimals, from_si, to_si, unit_label

Filled = Annotated[dict[str, Number | Name], Field(max_length=20)]


class CheckBlankOut(BaseModel):
    key: str
    label: str
    unit: str
    decimals: int
    choices: list[tuple[str, str]]
    is_needed: bool
    is_words: bool
    """A line in one's own words, neither a number nor a choice."""


class FormOut(BaseModel):
    """A form as it is empty: the same on every visit."""

    key: str
    label: str
    subsystem: str
    caution: str
    blanks: list[CheckBlankOut]


def blank_out(blank: Blank, units: UnitSystem) -> CheckBlankOut:
    return CheckBlankOut(
        key=blank.key,
        label=blank.label,
        unit=unit_label(blank.quantity, units) if blank.quantity else "",
        decimals=decimals(blank.quantity, units) if blank.quantity else 0,
        choices=list(blank.choices),
        is_needed=blank.is_needed,
        is_words=blank.is_words,
    )


@cache
def forms_out(units: UnitSystem) -> Mapping[str, FormOut]:
    """Every form there is, by its key."""
    return {
        row.key: FormOut(
            key=row.key,
            label=row.label,
            subsystem=row.subsystem,
            caution=row.caution,
            blanks=[blank_out(blank, units) for blank in row.blanks],
        )
        for row in FORMS.values()
    }


def filled_in_si(
    what: str, blanks: Iterable[Blank], filled: Mapping[str, float | str], units: UnitSystem
) -> dict[str, float | str]:
    """Answers in core units. Raises: UnknownName, for an answer (a `what`) to no blank."""
    known = {blank.key: blank for blank in blanks}
    found: dict[str, float | str] = {}
    for name, value in filled.items():
        blank = known.get(name)
        if blank is None:
            raise UnknownName(what, name, known)
        is_text = blank.quantity is None or isinstance(value, str)
        found[name] = value if is_text else to_si(float(value), blank.quantity, units)  # type: ignore[arg-type]
    return found


def filled_shown(
    entries: Mapping[str, float | str], blanks: Mapping[str, Blank], units: UnitSystem
) -> dict[str, float | str]:
    found: dict[str, float | str] = {}
    for key, value in entries.items():
        quantity = blanks[key].quantity if key in blanks else None
        if quantity is None or isinstance(value, str):
            found[key] = value
        else:
            found[key] = round(from_si(value, quantity, units), max(decimals(quantity, units), 2))
    return found
