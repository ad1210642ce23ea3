"""What a plate may carry besides its names: one row a number, one a word."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

from nudge.core.language.errors import Impossible, OutOfRange, UnknownName
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity, to_si

Sheet = Literal["plate", "charge", "line_set", "heating", "cold_room", "vehicle"]
"""Which sheet asks for it: the plate, the sum of the charge, a heat pump's winter, a cold room, a
vehicle.
"""


@dataclass(frozen=True, slots=True)
class PlateChoice:
    """One thing a plate may say by a word: its key is the stored field; "" is not said."""

    key: str
    label: str
    options: Mapping[str, str]
    about: Sheet
    reason: str


PLATE_CHOICES: tuple[PlateChoice, ...] = (
    PlateChoice(
        "has_receiver",
        "Receiver",
        {"yes": "yes", "no": "no"},
        "plate",
        "With a receiver subcooling does not tell the charge: its level or the sight glass does.",
    ),
    PlateChoice(
        "head_pressure_control",
        "Head-pressure control",
        {"none": "none", "cycling": "fan cycling or speed", "flooded": "flooding valve"},
        "plate",
        "A held head hides the weather; a flooding valve needs more charge in winter.",
    ),
    PlateChoice(
        "defrost_kind",
        "Defrost",
        {"off_cycle": "off cycle", "electric": "electric", "hot_gas": "hot gas"},
        "cold_room",
        "It says how long after one nothing is steady, and what may stick.",
    ),
    PlateChoice(
        "second_evaporator",
        "Second evaporator, in the rear",
        {"yes": "yes", "no": "no"},
        "vehicle",
        "Each has a valve of its own: both are tested, or there is no verdict.",
    ),
)


@dataclass(frozen=True, slots=True)
class PlateNumber:
    """One number a plate may carry: the key the API uses, its quantity, its believable range.

    `low`/`high` in field units: outside them the number was misread, so it is refused.
    """

    key: str
    field: str
    label: str
    quantity: Quantity
    low: float
    high: float
    hint: str = ""
    about: Sheet = "plate"
    among: tuple[float, ...] = ()
    """The only values there are, in field units; any between low and high where empty."""


_D = Quantity.TEMPERATURE_DIFFERENCE
PLATE_NUMBERS: tuple[PlateNumber, ...] = (
    PlateNumber(
        "nominal_capacity", "nominal_capacity_w", "Capacity", Quantity.CAPACITY, 1_000, 600_000,
        "12,000 Btu/h is one ton",
    ),
    PlateNumber("rated_seer", "rated_seer", "SEER", Quantity.EFFICIENCY, 5, 45),
    PlateNumber(
        "target_subcooling", "target_subcooling_k", "Target subcooling", _D, 1, 30,
        "on the plate or in the door; leave empty if it is not given",
    ),
    PlateNumber("target_superheat", "target_superheat_k", "Target superheat", _D, 1, 45),
    PlateNumber(
        "condensing_over_ambient", "condensing_over_ambient_k", "Condensing over ambient", _D, 3, 50
    ),
    PlateNumber("approach", "approach_k", "Approach", _D, 1, 25),
    PlateNumber("elevation", "elevation_m", "Site elevation", Quantity.LENGTH, -1_500, 16_000),
    PlateNumber("rated_airflow", "rated_airflow_lps", "Rated airflow", Quantity.AIRFLOW, 50, 20_000,
                "standard air, if the plate or manual gives one"),
    PlateNumber("line_set_length", "line_set_length_m", "Line set length", Quantity.LENGTH, 0, 500,
                about="line_set"),
    PlateNumber("factory_charge", "factory_charge_kg", "Factory charge", Quantity.CHARGE, 0.1, 660,
                "on the plate", about="charge"),
    PlateNumber("line_length_included", "line_length_included_m", "Line length included",
                Quantity.LENGTH, 0, 200, "that the factory charge covers, often 15 ft",
                about="line_set"),
    PlateNumber("charge_per_length", "charge_g_per_m", "Charge per length",
                Quantity.CHARGE_PER_LENGTH, 0.01, 5, "worked out from the tube where it is empty",
                about="line_set"),
    PlateNumber("liquid_line_size", "liquid_line_mm", "Liquid line, outside", Quantity.TUBE_SIZE,
                0.18, 3.2, about="line_set"),
    PlateNumber("vapour_line_size", "vapour_line_mm", "Vapour line, outside", Quantity.TUBE_SIZE,
                0.18, 4.2, about="line_set"),
    PlateNumber("coil_adder", "coil_adder_g", "Coil adder", Quantity.SMALL_MASS, -160, 320,
                "ounces the plate adds for this indoor coil", about="charge"),
    PlateNumber("drier_adder", "drier_adder_g", "Drier adder", Quantity.SMALL_MASS, 0, 64,
                about="charge"),
    PlateNumber("design_pressure_low", "design_pressure_low_kpa", "Design pressure, low side",
                Quantity.PRESSURE, 20, 1_500, "the lower of the two on the plate"),
    PlateNumber("design_pressure_high", "design_pressure_high_kpa", "Design pressure, high side",
                Quantity.PRESSURE, 50, 2_500),
    PlateNumber("heat_at_47", "heat_47_w", "Heat at the mild point", Quantity.CAPACITY,
                1_000, 600_000, "the rating at 47 °F (8.3 °C)", about="heating"),
    PlateNumber("heat_at_17", "heat_17_w", "Heat at the cold point", Quantity.CAPACITY,
                500, 600_000, "the rating at 17 °F (−8.3 °C)", about="heating"),
    PlateNumber("power_at_47", "power_47_w", "Power at the mild point", Quantity.POWER, 100, 60_000,
                "fans counted in", about="heating"),
    PlateNumber("power_at_17", "power_17_w", "Power at the cold point", Quantity.POWER, 100, 60_000,
                about="heating"),
    PlateNumber("lowest_outdoor", "lowest_outdoor_c", "Coldest it may run", Quantity.TEMPERATURE,
                -40, 50, "the rated minimum outdoors", about="heating"),
    PlateNumber("strips", "strips_kw", "Strips, all together", Quantity.HEATER_POWER, 0.5, 80,
                "as written on the heater", about="heating"),
    PlateNumber("strips_off_over", "strips_off_over_c", "Strips locked out over",
                Quantity.TEMPERATURE, 0, 75, "as the thermostat is set", about="heating"),
    PlateNumber("compressor_off_under", "compressor_off_under_c", "Compressor locked out under",
                Quantity.TEMPERATURE, -40, 65, "as the thermostat is set", about="heating"),
    PlateNumber("house_loss", "house_loss_w_k", "House loses, a degree", Quantity.HEAT_LOSS,
                20, 20_000, "worked out from a cold hour, or entered", about="heating"),
    PlateNumber("box_set_point", "box_set_point_c", "Box set point", Quantity.TEMPERATURE, -40, 60,
                "what its thermostat holds", about="cold_room"),
    PlateNumber("coil_class", "coil_class_k", "Coil class", _D, 8, 15,
                "box − evaporating by design: 8, 10, 12 or 15 °F", about="cold_room",
                among=(8, 10, 12, 15)),
    PlateNumber("condenser_class", "condenser_class_k", "Condenser class", _D, 20, 30,
                "condensing − outdoor by design: 20, 25 or 30 °F", about="cold_room",
                among=(20, 25, 30)),
)  # fmt: skip


def check_plate_number(row: PlateNumber, value_si: float) -> None:
    """Refuse a plate number outside its believable range, or NaN. Raises: OutOfRange."""
    low, high = (to_si(v, row.quantity, "ip") for v in (row.low, row.high))
    if row.among:
        nearest = min((to_si(v, row.quantity, "ip") for v in row.among), key=_from(value_si))
        if not abs(nearest - value_si) <= CLASS_SLACK_K:
            named = {
                f"n{n}": Measure(to_si(v, row.quantity, "ip"), row.quantity)
                for n, v in enumerate(row.among)
            }
            classes = ", ".join("{" + key + "}" for key in named)
            raise Impossible(
                row.key,
                say(
                    f"{row.label} {{given}} is none of its classes: {classes}. Take the one its "
                    "maker gives.",
                    given=Measure(value_si, row.quantity),
                    **named,
                ),
            )
    elif not low <= value_si <= high:
        raise OutOfRange(row.label, value_si, low, high, row.quantity)


CLASS_SLACK_K = 0.3
"""What rounding to whole kelvins does to a class given in °F."""


def _from(value: float) -> Callable[[float], float]:
    return lambda other: abs(other - value)


def plate_choice_named(row: PlateChoice, name: str) -> str:
    """A word of a choice; "" is not said. Raises: UnknownName, with the nearest."""
    if name and name not in row.options:
        raise UnknownName(row.label.lower(), name, row.options)
    return name
