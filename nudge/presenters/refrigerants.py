"""Refrigerants over the wire."""

from typing import Literal

from pydantic import BaseModel


class RefrigerantOut(BaseModel):
    """One fluid of the catalogue. Glide is at a dew point of 41 °F, where evaporators work."""

    name: str
    components: dict[str, float]
    safety_class: Literal["A1", "A2L", "A3"]
    is_blend: bool
    leaves_cylinder_as: Literal["liquid", "either"]
    lubricants: list[str]
    glide: float
    critical_temperature: float
    critical_pressure: float
    gwp_ar4: float
    gwp_ar5: float
    source: str


class SaturationOut(BaseModel):
    """Temperatures at a pressure, or gauge pressures at a temperature."""

    bubble: float | None = None
    dew: float | None = None
    glide: float | None = None
    bubble_pressure: float | None = None
    dew_pressure: float | None = None
