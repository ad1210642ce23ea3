"""The vocabulary over the wire: every name the screens need."""

from typing import Literal

from pydantic import BaseModel

from nudge.core.physics.circuit.plate_fields import Sheet
from nudge.presenters.blanks import FormOut
from nudge.presenters.choices import ChoiceOut


class PointOut(BaseModel):
    key: str
    label: str
    short: list[str]
    unit: str
    decimals: int
    side: str


class DerivedOut(BaseModel):
    key: str
    label: str
    unit: str
    decimals: int
    formula: str


class ObservationOut(BaseModel):
    key: str
    label: str
    where: str
    part: str
    """The part of the drawn machine it is seen at."""
    opposite: str | None


class PlateNumberOut(BaseModel):
    key: str
    label: str
    unit: str
    low: float
    high: float
    hint: str
    about: Sheet


class PlateChoiceOut(BaseModel):
    """What a plate says by a word, with the words there are."""

    key: str
    label: str
    options: list[ChoiceOut]
    about: Sheet


class ActionOut(BaseModel):
    key: str
    label: str
    takes_amount: bool


DrawnIn = Literal["length", "size", "per_length"]


class DrawingUnitOut(BaseModel):
    """A unit, and what one of it is in the drawing's own: m, W, g/m."""

    unit: str
    in_core: float


class VocabularyOut(BaseModel):
    points: list[PointOut]
    derived: list[DerivedOut]
    observations: list[ObservationOut]
    actions: list[ActionOut]
    mass_unit: str
    parts: list[ChoiceOut]
    applications: list[ChoiceOut]
    metering_devices: list[ChoiceOut]
    reversing_valves: list[ChoiceOut]
    stop_reasons: list[ChoiceOut]
    cylinder_kinds: list[ChoiceOut]
    plate_numbers: list[PlateNumberOut]
    plate_choices: list[PlateChoiceOut]
    forms: list[FormOut]
    drawing_units: dict[DrawnIn, DrawingUnitOut]
    """What lengths, sizes and charges per length of a plant's drawing are typed in."""
