"""The schools of targets: what each is, and which one this workshop starts from."""

from dataclasses import dataclass

from fastapi import APIRouter

from nudge.api.access import MethodsIn, UnitsIn
from nudge.contract.request import Name
from nudge.contract.strict import Strict
from nudge.core.language.said import worded
from nudge.core.language.units import UnitSystem
from nudge.core.targets.school import School
from nudge.services.methods import METHOD_CHOICES, Methods

router = APIRouter(prefix="/api")


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


@router.get("/methods")
def methods(methods: MethodsIn, units: UnitsIn) -> list[MethodChoiceOut]:
    """Each choice with its schools, and what is chosen."""
    return _choices(methods, units)


@router.post("/methods")
def choose(methods: MethodsIn, units: UnitsIn, body: MethodChosen) -> list[MethodChoiceOut]:
    """Choose a default school. A system's own choice still wins."""
    methods.choose(body.key, body.method)
    return _choices(methods, units)


def _choices(methods: Methods, units: UnitSystem) -> list[MethodChoiceOut]:
    chosen = methods.chosen()
    return [
        MethodChoiceOut(
            choice.key,
            choice.label,
            chosen[choice.key],
            [_method(school, units) for school in choice.schools()],
        )
        for choice in METHOD_CHOICES.values()
    ]


def _method(school: School, units: UnitSystem) -> MethodOut:
    return MethodOut(school.key, school.label, worded(school.reason, units))
