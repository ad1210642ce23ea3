"""Every settled moment of a visit on the target map, and what was done since the one before."""

from pydantic import BaseModel

from nudge.core.language.units import Quantity, UnitSystem, from_si
from nudge.core.language.vocabulary.actions import ACTIONS
from nudge.services.snapshot import Footprint


class FootprintOut(BaseModel):
    """One moment on the target map, and what was done since the one before it."""

    superheat: float
    subcooling: float
    minutes_ago: float
    done: str
    """In words; "" where nothing was done."""
    added: float
    """Ounces or grams; negative when taken out."""


def footprint_out(step: Footprint, units: UnitSystem) -> FootprintOut:
    kelvin = Quantity.TEMPERATURE_DIFFERENCE
    return FootprintOut(
        superheat=round(from_si(step.superheat_k, kelvin, units), 2),
        subcooling=round(from_si(step.subcooling_k, kelvin, units), 2),
        minutes_ago=round(step.minutes_ago, 1),
        done=ACTIONS[step.done].label if step.done else "",
        added=round(from_si(step.added_kg * 1000, Quantity.SMALL_MASS, units), 1),
    )
