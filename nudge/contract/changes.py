"""What would change the judge's mind, in the contract's shape."""

from collections.abc import Sequence

from pydantic import BaseModel

from nudge.core.judgement.by_kind import ALL_SUSPECTS
from nudge.core.judgement.change_of_mind import Change
from nudge.core.language.units import UnitSystem


class ChangeOut(BaseModel):
    """One thing that would put another suspect in front; `sign` where it is a reading."""

    what: str
    leads: str
    leads_label: str
    belief: float
    sign: str


class ChangesOut(BaseModel):
    changes: list[ChangeOut]


def changes_out(changes: Sequence[Change], units: UnitSystem) -> ChangesOut:
    return ChangesOut(
        changes=[
            ChangeOut(
                what=change.said.text(units),
                leads=change.leads,
                leads_label=ALL_SUSPECTS[change.leads].label,
                belief=round(change.belief, 3),
                sign=change.sign,
            )
            for change in changes
        ]
    )
