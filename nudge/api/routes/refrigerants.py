"""The catalogue, and saturation both ways."""

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import AllowInfNan

from nudge.api.access import UnitsIn
from nudge.core.language.errors import CoreError
from nudge.core.language.units import Quantity, UnitSystem, atmospheric_kpa, from_si, to_si
from nudge.core.physics.circuit.plate_fields import PLATE_NUMBERS, check_plate_number
from nudge.core.physics.refrigerant.catalogue import CATALOGUE, Refrigerant
from nudge.core.physics.refrigerant.saturation import pressures_at, saturation_at
from nudge.core.physics.refrigerant.table import load_table
from nudge.presenters.refrigerants import RefrigerantOut, SaturationOut

router = APIRouter(prefix="/api")


_ELEVATION = next(row for row in PLATE_NUMBERS if row.key == "elevation")


_GLIDE_SHOWN_AT_C = 5.0


Finite = Annotated[float, AllowInfNan(False)]


@router.get("/refrigerants")
def refrigerants(units: UnitsIn) -> list[RefrigerantOut]:
    """Every fluid Nudge knows, with the facts a technician acts on."""
    return [_refrigerant(row, units) for row in CATALOGUE.values()]


def _refrigerant(row: Refrigerant, units: UnitSystem) -> RefrigerantOut:
    table = load_table(row.name)
    dew_kpa = table.dew.pressure(_GLIDE_SHOWN_AT_C) - atmospheric_kpa(0)
    glide = saturation_at(table, dew_kpa).glide_k
    critical_gauge = table.critical_kpa - atmospheric_kpa(0)
    return RefrigerantOut(
        name=row.name,
        components=dict(row.mass_fractions),
        safety_class=row.safety_class,
        is_blend=row.is_blend,
        leaves_cylinder_as=row.leaves_cylinder_as,
        lubricants=list(row.lubricants),
        glide=round(abs(from_si(glide, Quantity.TEMPERATURE_DIFFERENCE, units)), 2),
        critical_temperature=round(from_si(table.critical_c, Quantity.TEMPERATURE, units), 1),
        critical_pressure=round(from_si(critical_gauge, Quantity.PRESSURE, units), 0),
        gwp_ar4=round(row.gwp_ar4),
        gwp_ar5=round(row.gwp_ar5),
        source=table.source,
    )


@router.get("/saturation", response_model_exclude_none=True)
def saturation(
    refrigerant: Annotated[str, Query(max_length=200)],
    units: UnitsIn,
    pressure: Finite | None = None,
    temperature: Finite | None = None,
    elevation: Finite = 0,
) -> SaturationOut:
    """Bubble and dew at a gauge pressure; or both gauge pressures at a temperature."""
    elevation_m = to_si(elevation, Quantity.LENGTH, units)
    check_plate_number(_ELEVATION, elevation_m)
    table = load_table(refrigerant)
    if (pressure is None) == (temperature is None):
        raise CoreError("saturation", "Give either a pressure or a temperature, not both.")
    if pressure is not None:
        state = saturation_at(table, to_si(pressure, Quantity.PRESSURE, units), elevation_m)
        return SaturationOut(
            bubble=_temperature(state.bubble_c, units),
            dew=_temperature(state.dew_c, units),
            glide=round(from_si(state.glide_k, Quantity.TEMPERATURE_DIFFERENCE, units), 4),
        )
    assert temperature is not None
    both = pressures_at(table, to_si(temperature, Quantity.TEMPERATURE, units), elevation_m)
    bubble, dew = (round(from_si(kpa, Quantity.PRESSURE, units), 4) for kpa in both)
    return SaturationOut(bubble_pressure=bubble, dew_pressure=dew)


def _temperature(celsius: float, units: UnitSystem) -> float:
    return round(from_si(celsius, Quantity.TEMPERATURE, units), 4)
