"""The workshop’s default method, as it is chosen."""

from dataclasses import dataclass

from nudge.contract.request import Name
from nudge.contract.strict import Strict


class MethodChosen(Strict):
    """A default: `valve_method` or `orifice_method`, and a school's key or "" for none."""

    key: Name
    method: Name


@dataclass(frozen=True, slots=True)
class MethodOut:
    key: str
    label: str
    reason: str


@dataclass(frozen=True, slots=True)
class MethodChoiceOut:
    """A choice with its schools; `chosen` is "" where the most trusted one simply wins."""

    key: str
    label: str
    chosen: str
    methods: list[MethodOut]
