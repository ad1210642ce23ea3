"""What is kept but doubted aloud: plates that cannot be, air no house has, a humid house."""

from nudge.core.behaviours.case import Case
from nudge.core.language.said import Measure, Said, difference, say, temperature
from nudge.core.language.units import Quantity, fahrenheit
from nudge.core.physics.air.load import HIGH_LOAD_WET_BULB_C
from nudge.core.physics.circuit.equipment import MeteringDevice
from nudge.core.targets.choose import Targets
from nudge.core.targets.condensing import condensing_over_ambient_near

MOST_SEER: dict[MeteringDevice, float] = {
    MeteringDevice.FIXED_ORIFICE: 17.0,
    MeteringDevice.TXV: 26.0,
    MeteringDevice.EEV: 42.0,
}
"""The most efficient machines that have been built with each device, rounded up."""
CLASS_APART_K = 11.0
"""A plate's condensing over ambient this far from its class's [K] was misread, or is another's."""
HOUSE_C = fahrenheit(55), fahrenheit(98)
HOUSE_WET_BULB_C = fahrenheit(44), fahrenheit(82)
"""Return air of any house that people live in: outside it a probe is elsewhere, or the work is."""


def humid_house(case: Case, targets: Targets) -> Said | None:  # noqa: ARG001
    """Wet air overloads the coil until it has been dried."""
    wet = case.readings.get("return_air_wet_bulb")
    if wet is None or wet <= HIGH_LOAD_WET_BULB_C:
        return None
    return say(
        "Humid house, wet bulb {wet}: run it an hour, then read again.", wet=temperature(wet)
    )


def plate_efficiency(case: Case, targets: Targets) -> Said | None:  # noqa: ARG001
    """An efficiency nobody has built with this device."""
    seer, most = case.plate.rated_seer, MOST_SEER[case.plate.metering_device]
    if seer is None or seer <= most:
        return None
    return say(
        "SEER {seer} on the plate is more than any machine with this metering device reaches "
        "({most}). It is kept; read the plate again.",
        seer=Measure(seer, Quantity.EFFICIENCY),
        most=Measure(most, Quantity.EFFICIENCY),
    )


def plate_figures(case: Case, targets: Targets) -> Said | None:  # noqa: ARG001
    """Figures of one plate that cannot all be true."""
    plate = case.plate
    over, liquid = plate.condensing_over_ambient_k, plate.target_subcooling_k
    if over is not None and liquid is not None and liquid >= over:
        return say(
            "The plate's subcooling {liquid} is not under its condensing over ambient {over}: "
            "liquid would leave colder than the air. Both are kept; read the plate again.",
            liquid=difference(liquid),
            over=difference(over),
        )
    if over is not None and plate.approach_k is not None and plate.approach_k >= over:
        return say(
            "The plate's approach {near} is not under its condensing over ambient {over}: the "
            "liquid would not be subcooled. Both are kept; read the plate again.",
            near=difference(plate.approach_k),
            over=difference(over),
        )
    if over is None or plate.rated_seer is None:
        return None
    usual = condensing_over_ambient_near(plate.rated_seer)
    if abs(over - usual) <= CLASS_APART_K:
        return None
    return say(
        "The plate's condensing over ambient {over} is far from the {usual} of its efficiency. It "
        "is kept and used; read the plate again.",
        over=difference(over),
        usual=difference(usual),
    )


def house_weather(case: Case, targets: Targets) -> Said | None:  # noqa: ARG001
    """Return air outside what any house has."""
    for point, (low, high), name in (
        ("return_air_temp", HOUSE_C, "Return air"),
        ("return_air_wet_bulb", HOUSE_WET_BULB_C, "Return wet bulb"),
    ):
        value = case.readings.get(point)
        if value is not None and not low <= value <= high:
            return say(
                f"{name} {{value}} is outside {{low}} to {{high}}, where houses are. Look where "
                "the probe is; what is expected of the system is held at the edge.",
                value=temperature(value),
                low=temperature(low),
                high=temperature(high),
            )
    return None
