"""How much a system holds when it is right: the plate's sheet, else its class."""

from dataclasses import dataclass

from nudge.core.language.errors import Impossible
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.circuit.weigh_in import weigh_in

BY_SHEET, BY_FACTORY, BY_CAPACITY, BY_NOTHING = 0.05, 0.12, 0.28, 0.60
"""How unsure each way of knowing is (1 σ, share)."""
KG_PER_KW = 0.29
"""Splits hold about this for every kW of capacity: 2 to 4 lb a ton."""
USUAL_KG = 2.8


@dataclass(frozen=True, slots=True)
class Whole:
    """The right charge [kg], its spread (1 σ, share), and what it rests on in words."""

    kg: float
    spread: float
    source: str


def whole_charge(plate: Plate) -> Whole:
    """The right charge of a system, by the best of what its plate says."""
    total = weigh_in(plate).total
    if total is not None and total.value > 0:
        return Whole(total.value, BY_SHEET, f"plate and {plate.lines_called}")
    if plate.factory_charge_kg:
        return Whole(plate.factory_charge_kg, BY_FACTORY, f"plate, {plate.lines_called} not known")
    if plate.nominal_capacity_w:
        return Whole(KG_PER_KW * plate.nominal_capacity_w / 1000, BY_CAPACITY, "capacity")
    return Whole(USUAL_KG, BY_NOTHING, "a usual split: the plate would say")


MOST_WHOLE = 2.0
"""An amount over this many whole charges is no dose, whoever is sure: no system holds it."""


def check_holds(plate: Plate, amount_kg: float, where: str) -> None:
    """Raises: Impossible at `where`, for more at once [kg] than this system could hold."""
    whole_kg = whole_charge(plate).kg
    if abs(amount_kg) > MOST_WHOLE * whole_kg:
        raise Impossible(
            where,
            say(
                "{dose} is more than this system could hold: about {whole} belongs in it. Ounces "
                "or grams, not pounds? Correct it.",
                dose=Measure(abs(amount_kg), Quantity.CHARGE),
                whole=Measure(whole_kg, Quantity.CHARGE),
            ),
        )
