"""The words and units the screens show, so that no trade word is written twice."""

from fastapi import APIRouter

from nudge.api.access import UnitsIn
from nudge.core.charging.cylinder import CYLINDER_KINDS
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.language.units import Quantity, UnitSystem, decimals, from_si, to_si, unit_label
from nudge.core.language.vocabulary.actions import ACTIONS, STOP_REASONS
from nudge.core.language.vocabulary.parts import PARTS
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.circuit.derived_table import DERIVED
from nudge.core.physics.circuit.equipment import (
    APPLICATION_LABELS,
    DEVICE_LABELS,
    REVERSING_VALVE_LABELS,
)
from nudge.core.physics.circuit.plate_fields import PLATE_CHOICES, PLATE_NUMBERS, PlateNumber
from nudge.presenters.blanks import forms_out
from nudge.presenters.choices import ChoiceOut
from nudge.presenters.vocabulary import (
    ActionOut,
    DerivedOut,
    DrawingUnitOut,
    DrawnIn,
    ObservationOut,
    PlateChoiceOut,
    PlateNumberOut,
    PointOut,
    VocabularyOut,
)

router = APIRouter(prefix="/api")


@router.get("/vocabulary")
def vocabulary(units: UnitsIn) -> VocabularyOut:
    """Every point, derived quantity, observation and plate field, labelled in `units`."""
    return VocabularyOut(
        points=[
            PointOut(
                key=p.key,
                label=p.label,
                short=list(p.short),
                unit=unit_label(p.quantity, units),
                decimals=decimals(p.quantity, units),
                side=p.side,
            )
            for p in POINTS.values()
        ],
        derived=[
            DerivedOut(
                key=d.key,
                label=d.label,
                unit=unit_label(d.quantity, units),
                decimals=decimals(d.quantity, units),
                formula=d.formula,
            )
            for d in DERIVED.values()
        ],
        observations=[
            ObservationOut(
                key=o.key, label=o.label, opposite=o.opposite, where=o.group, part=o.part
            )
            for o in OBSERVATIONS.values()
        ],
        actions=[
            ActionOut(key=a.key, label=a.label, takes_amount=a.moves_charge != 0)
            for a in ACTIONS.values()
            if a.is_noted
        ],
        mass_unit=unit_label(Quantity.SMALL_MASS, units),
        parts=[ChoiceOut(key=k, label=v) for k, v in PARTS.items()],
        applications=[ChoiceOut(key=k, label=v) for k, v in APPLICATION_LABELS.items()],
        metering_devices=[ChoiceOut(key=k, label=v) for k, v in DEVICE_LABELS.items()],
        reversing_valves=[ChoiceOut(key=k, label=v) for k, v in REVERSING_VALVE_LABELS.items()],
        stop_reasons=[ChoiceOut(key=k, label=v) for k, v in STOP_REASONS.items()],
        cylinder_kinds=[ChoiceOut(key=k, label=v) for k, v in CYLINDER_KINDS.items()],
        plate_numbers=[_plate_number(row, units) for row in PLATE_NUMBERS],
        plate_choices=[
            PlateChoiceOut(
                key=row.key,
                label=row.label,
                options=[ChoiceOut(key=k, label=v) for k, v in row.options.items()],
                about=row.about,
            )
            for row in PLATE_CHOICES
        ],
        forms=list(forms_out(units).values()),
        drawing_units=_drawing_units(units),
    )


def _drawing_units(units: UnitSystem) -> dict[DrawnIn, DrawingUnitOut]:
    """Sizes in thousands: makers call a room's unit a 12 or a 3.6."""
    plain: dict[DrawnIn, Quantity] = {
        "length": Quantity.LENGTH,
        "per_length": Quantity.CHARGE_PER_LENGTH,
    }
    found = {
        key: DrawingUnitOut(unit=unit_label(of, units), in_core=to_si(1.0, of, units))
        for key, of in plain.items()
    }
    size = Quantity.CAPACITY
    found["size"] = DrawingUnitOut(
        unit=f"k{unit_label(size, units)}", in_core=1000 * to_si(1.0, size, units)
    )
    return found


def _plate_number(row: PlateNumber, units: UnitSystem) -> PlateNumberOut:
    low, high = (
        round(from_si(to_si(v, row.quantity, "ip"), row.quantity, units), 2)
        for v in (row.low, row.high)
    )
    return PlateNumberOut(
        key=row.key,
        label=row.label,
        unit=unit_label(row.quantity, units),
        low=low,
        high=high,
        about=row.about,
        hint=row.hint if units == "ip" or row.key != "nominal_capacity" else "3,517 W is one ton",
    )
