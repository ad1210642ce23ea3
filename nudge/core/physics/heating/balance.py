"""The balance of a heating visit: heat against what the plate expects, and what it costs.

Whatever spoils a number is said in its place: strips on, air that leaves cooler than it came,
watts that are kilowatts. Nothing is guessed without saying so.
"""

from collections.abc import Set as AbstractSet
from dataclasses import dataclass, replace
from math import hypot, log
from typing import Literal

from nudge.core.language.said import Measure, Said, difference, say
from nudge.core.language.units import Quantity, fahrenheit
from nudge.core.language.vocabulary.accuracy import ACCURACY, USUAL, Own, accuracy_of
from nudge.core.language.vocabulary.inputs import read_input
from nudge.core.language.vocabulary.points import Readings
from nudge.core.language.working import Formula, Input, Working, work
from nudge.core.physics.air.moist_air import MoistAir, moist_air
from nudge.core.physics.circuit.derived import air_of
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.heating.delivered import RISE_ERROR_K, expected_rise, heat_delivered
from nudge.core.physics.heating.expected import (
    COLDEST_C,
    WARMEST_C,
    HeatingPlate,
    clear_heat,
    clear_power,
    cop,
    expected_heat,
    expected_power,
)

Place = Literal["short", "right", "over", "unknown"]
HOUSE_RH = 40.0
"""A heated house where nobody read its humidity: a percent of the air's heat hangs on it."""
FAN_W_PER_LPS, FAN_OFF = 0.77, 0.40
"""An indoor fan nobody measured [W per L/s of air] (365 W for 1,000 CFM) and its ± as a share;
rating standard."""
LEAST_RUNNING_W = 150.0
"""No outdoor unit that runs draws less: such a number is kilowatts, or a fan alone."""
STRIP_AMPS = 1.0
"""A strip that is on draws more than this."""
CLEAR_OF_FROST_C = fahrenheit(47)
FROST_SHARE = 0.08
"""Between two defrosts a coil delivers up to this more than the mean the plate's line gives, just
before one less (±, share); trade."""

POWER = Formula(
    "heating_power",
    "Power drawn",
    Quantity.POWER,
    "Outdoor and indoor unit together, by a meter; without one volts × amps × power factor.",
    "outdoor unit + indoor unit",
    "{outdoor_unit} + {indoor_unit} = {result}",
    ("outdoor_unit", "indoor_unit"),
    "Energy balance; the indoor fan's usual draw is the rating standard's.",
)
COP = Formula(
    "heating_cop",
    "COP",
    Quantity.RATIO,
    "Heat for every watt paid, both as power.",
    "heat delivered ÷ power drawn",
    "{heat} ÷ {power} = {result}",
    ("heat", "power"),
    "Definition.",
)


OVER_LIMITS = 1.25
"""Heat is over the plate's line when it is so many of its ± over: strips add a third and more."""


@dataclass(frozen=True, slots=True)
class HeatBalance:
    """What a heating visit comes to; None for what its readings do not allow."""

    rise_k: float | None = None
    delivered: Working | None = None
    expected: Working | None = None
    expected_rise: Working | None = None
    power: Working | None = None
    expected_power: Working | None = None
    cop: Working | None = None
    clear_w: float | None = None
    """Heat expected with a coil clear of frost [W]: nothing under it is too much."""
    clear_power_w: float | None = None
    """Power expected of it then [W]."""
    asides: tuple[Said, ...] = ()
    """What spoils a number, in words."""
    is_guessed: bool = False
    """A rating point is the class's, not the plate's."""

    @property
    def off_percent(self) -> float | None:
        """Heat delivered over what is expected [%], as 100 ln."""
        if self.delivered is None or self.expected is None or self.delivered.value <= 0:
            return None
        return 100 * log(self.delivered.value / self.expected.value)

    @property
    def limit_percent(self) -> float:
        """The ± of that, 19 times in 20 [%]."""
        shares = [
            (one.uncertainty or 0.0) / one.value
            for one in (self.delivered, self.expected)
            if one is not None and one.value > 0
        ]
        return 100 * hypot(*shares) if shares else 0.0

    @property
    def place(self) -> Place:
        """Where the heat stands: within its ± of what is expected, short of it, over it.

        Between two defrosts a clear coil delivers more than their mean: over is over that, by more
        than readings make up: what warms besides the pump is never small.
        """
        off, limit = self.off_percent, self.limit_percent
        if off is None or self.delivered is None or self.clear_w is None:
            return "unknown"
        if off < -limit:
            return "short"
        over = 100 * log(self.delivered.value / self.clear_w)
        return "over" if over > OVER_LIMITS * limit else "right"

    def workings(self) -> dict[str, Working]:
        """Every number of it that can be opened, by its formula's key."""
        found = (
            self.delivered,
            self.expected,
            self.expected_rise,
            self.power,
            self.expected_power,
            self.cop,
        )
        return {one.formula.key: one for one in found if one is not None}


def heating_plate(plate: Plate) -> HeatingPlate | None:
    """The rating points of a plate; by its cooling size where it is silent, None without either."""
    mild = plate.heat_47_w or plate.nominal_capacity_w
    if mild is None:
        return None
    return HeatingPlate(
        mild,
        plate.heat_17_w,
        plate.power_47_w,
        plate.power_17_w,
        mild_is_guessed=plate.heat_47_w is None,
    )


def balance(
    plate: Plate,
    readings: Readings,
    seen: AbstractSet[str] = frozenset(),
    instruments: Own = USUAL,
) -> HeatBalance:
    """The balance of readings (core units) taken while it heats; `seen` are observations."""
    spoilt = [*_strips(readings, seen), *_rise_turned(readings)]
    entering, rise = _entering(plate, readings), _rise(readings)
    outdoor, flow = readings.get("outdoor_air_temp"), readings.get("airflow")
    rated = heating_plate(plate)
    delivered = expected = rise_wanted = power_wanted = clear_w = clear_power_w = None
    if entering is not None and rise is not None and rise > 0 and flow and not spoilt:
        usual = ACCURACY["air_temp"]
        error_k = RISE_ERROR_K * instruments.get("air_temp", usual).fixed / usual.fixed
        delivered = heat_delivered(entering, entering.dry_bulb_c + rise, flow, error_k)
    if rated is not None and outdoor is not None and COLDEST_C <= outdoor <= WARMEST_C:
        frosted = FROST_SHARE if outdoor < CLEAR_OF_FROST_C else 0.0
        expected = expected_heat(rated, outdoor, frosted)
        clear_w = clear_heat(rated, outdoor)
        power_wanted = expected_power(rated, outdoor)
        clear_power_w = clear_power(rated, outdoor)
        if entering is not None and flow:
            leaving_c = readings.get("supply_air_temp", entering.dry_bulb_c)
            rise_wanted = expected_rise(expected, replace(entering, dry_bulb_c=leaving_c), flow)
    power = _power(readings, instruments)
    return HeatBalance(
        rise,
        delivered,
        expected,
        rise_wanted,
        power,
        power_wanted,
        _cop(delivered, power),
        clear_w,
        clear_power_w,
        (*spoilt, *_kilowatts(readings)),
        rated is not None and rated.is_guessed,
    )


def _rise(readings: Readings) -> float | None:
    entering, leaving = readings.get("return_air_temp"), readings.get("supply_air_temp")
    return None if entering is None or leaving is None else leaving - entering


def _entering(plate: Plate, readings: Readings) -> MoistAir | None:
    dry = readings.get("return_air_temp")
    if dry is None:
        return None
    read = air_of(plate, readings, "return")
    return read or moist_air(dry, plate.elevation_m, relative_humidity=HOUSE_RH)


def _strips(readings: Readings, seen: AbstractSet[str]) -> list[Said]:
    amps = readings.get("strip_amps", 0.0)
    if "strips_on" not in seen and amps < STRIP_AMPS:
        return []
    return [
        say(
            "The strips are on: the rise is theirs as well. Switch them off, let it run, and read "
            "the rise again."
        )
    ]


def _rise_turned(readings: Readings) -> list[Said]:
    rise = _rise(readings)
    if rise is None or rise > 0:
        return []
    return [
        say(
            "Supply is {off} cooler than return: in a defrost, cooling, or the two probes swapped.",
            off=difference(-rise),
        )
    ]


def _kilowatts(readings: Readings) -> list[Said]:
    watts = readings.get("outdoor_unit_watts")
    if watts is None or watts >= LEAST_RUNNING_W:
        return []
    return [
        say(
            "No outdoor unit that runs draws {now}. Kilowatts? Say it with its unit: 2.8 kw.",
            now=Measure(watts, Quantity.POWER),
        )
    ]


def _power(readings: Readings, instruments: Own) -> Working | None:
    outdoor = _drawn(readings, "outdoor", instruments)
    if outdoor is None or outdoor.measure.value < LEAST_RUNNING_W:
        return None
    indoor = _drawn(readings, "indoor", instruments)
    if indoor is None:
        flow = readings.get("airflow")
        if flow is None:
            return None
        usual = FAN_W_PER_LPS * flow
        indoor = Input(
            "indoor_unit",
            "Indoor unit, usual for its air",
            Measure(usual, Quantity.POWER),
            "assumed",
            FAN_OFF * usual,
        )
    inputs = {"outdoor_unit": outdoor, "indoor_unit": indoor}
    return work(POWER, lambda v: v["outdoor_unit"] + v["indoor_unit"], inputs)


def _drawn(
    readings: Readings, unit: Literal["outdoor", "indoor"], instruments: Own
) -> Input | None:
    """A unit's power by meter, else by volts, amps and power factor."""
    label, key = f"{unit.capitalize()} unit", f"{unit}_unit"
    metered = f"{key}_watts"
    if metered in readings:
        return read_input(key, metered, readings, instruments)
    points = [f"{key}_{what}" for what in ("volts", "amps", "power_factor")]
    if not all(point in readings for point in points):
        return None
    volts, amps, factor = (readings[point] for point in points)
    watts = volts * amps * factor
    if watts == 0:
        return None  # it stands
    shares = [
        accuracy_of(point, instruments).limit(readings[point]) / readings[point] for point in points
    ]
    return Input(
        key,
        f"{label}, volts × amps × power factor",
        Measure(watts, Quantity.POWER),
        "computed",
        watts * hypot(*shares),
    )


def _cop(heat: Working | None, power: Working | None) -> Working | None:
    if heat is None or power is None:
        return None
    inputs = {
        "heat": Input("heat", heat.formula.label, heat.measure, "computed", heat.uncertainty),
        "power": Input("power", power.formula.label, power.measure, "computed", power.uncertainty),
    }
    return work(COP, lambda v: cop(v["heat"], v["power"]), inputs)
