"""The schools of targets: what each is, and which one this workshop starts from."""

from fastapi import APIRouter

from nudge.api.access import MethodsIn, UnitsIn
from nudge.core.language.said import worded
from nudge.core.language.units import UnitSystem
from nudge.core.targets.school import School
from nudge.presenters.methods import MethodChoiceOut, MethodChosen, MethodOut
from nudge.services.methods import METHOD_CHOICES, Methods

router = APIRouter(prefix="/api")


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
