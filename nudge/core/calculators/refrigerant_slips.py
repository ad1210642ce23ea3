"""Saturation both ways; superheat and subcooling against a target."""

from collections.abc import Mapping

from nudge.core.behaviours.case import Case, Context, open_case
from nudge.core.behaviours.workings import derived_workings
from nudge.core.calculators.blanks import given
from nudge.core.calculators.slip import Entered, Slip, SlipLine, SlipOutcome
from nudge.core.language.said import Said, say
from nudge.core.language.units import Quantity
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.language.working import Formula, Values, work
from nudge.core.physics.circuit.equipment import Plate, device_named
from nudge.core.physics.refrigerant.catalogue import refrigerant
from nudge.core.physics.refrigerant.saturation import pressures_at, saturation_at
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.settling.trust import distrust
from nudge.core.targets.choose import choose_targets
from nudge.core.targets.school import Target

_T, _P, _D = Quantity.TEMPERATURE, Quantity.PRESSURE, Quantity.TEMPERATURE_DIFFERENCE
_SOURCE = "Packaged saturation tables, from CoolProp 8.0.0 (doi:10.1021/ie4033999)."


def _formula(key: str, label: str, what: str, of: str, meaning: str) -> Formula:
    quantity = {"pressure": _T, "temperature": _P}[of] if key != "glide" else _D
    words, today = f"{what} at the {of}", f"{what} at {{{of}}} = {{result}}"
    return Formula(key, label, quantity, meaning, words, today, (of, "elevation"), _SOURCE)


DEW = _formula(
    "dew", "Dew", "dew", "pressure", "The last liquid boils off here: superheat counts from it."
)
BUBBLE = _formula(
    "bubble",
    "Bubble",
    "bubble",
    "pressure",
    "The last vapour condenses here: subcooling counts from it.",
)
GLIDE = _formula(
    "glide",
    "Glide",
    "dew − bubble",
    "pressure",
    "How far a blend's temperature moves while it boils. Mixing up its ends is an error this big.",
)
DEW_PRESSURE = _formula(
    "dew_pressure",
    "Pressure at dew",
    "dew pressure",
    "temperature",
    "What a gauge shows over vapour that is just about to condense.",
)
BUBBLE_PRESSURE = _formula(
    "bubble_pressure",
    "Pressure at bubble",
    "bubble pressure",
    "temperature",
    "What a gauge shows over liquid: in a cylinder, in a standing system.",
)


def saturation(entered: Entered) -> SlipOutcome:
    """Dew, bubble and glide at a pressure; both pressures at a temperature."""
    table = load_table(entered.pick("refrigerant"))
    elevation = entered.get("elevation", 0.0)
    lines: list[SlipLine] = []
    if "pressure" in entered:
        for formula, end in ((DEW, "dew_c"), (BUBBLE, "bubble_c"), (GLIDE, "glide_k")):

            def temperature(values: Values, end: str = end) -> float:
                found: float = getattr(saturation_at(table, values["pressure"], elevation), end)
                return found

            lines.append(
                SlipLine(work(formula, temperature, given(entered, "pressure", "elevation")))
            )
    if "temperature" in entered:
        for formula, side in ((BUBBLE_PRESSURE, 0), (DEW_PRESSURE, 1)):

            def pressure(values: Values, side: int = side) -> float:
                return pressures_at(table, values["temperature"], elevation)[side]

            lines.append(
                SlipLine(work(formula, pressure, given(entered, "temperature", "elevation")))
            )
    asks = () if lines else ("a pressure or a temperature",)
    return SlipOutcome(tuple(lines), _fluid_words(entered), asks)


def _fluid_words(entered: Entered) -> tuple[Said, ...]:
    fluid = refrigerant(entered.pick("refrigerant"))
    words = []
    if fluid.safety_class != "A1":
        words.append(say(f"Flammable ({fluid.safety_class}): ventilate, no ignition source."))
    if fluid.is_blend:
        words.append(say("A blend: it leaves the cylinder as liquid."))
    return tuple(words)


_CIRCUIT_READINGS = (
    "suction_pressure",
    "liquid_pressure",
    "suction_line_temp",
    "liquid_line_temp",
    "outdoor_air_temp",
    "return_air_wet_bulb",
    "return_air_temp",
)
_SHOWN = (
    "superheat",
    "subcooling",
    "evaporator_saturation",
    "condenser_saturation",
    "condensing_over_ambient",
    "approach",
    "pressure_ratio",
)


def plate_of(entered: Entered) -> Plate:
    """The system as far as the Pocket was told about it."""
    numbers = {
        "elevation": "elevation_m",
        "target_subcooling": "target_subcooling_k",
        "nominal_capacity": "nominal_capacity_w",
        "factory_charge": "factory_charge_kg",
        "line_set_length": "line_set_length_m",
        "line_length_included": "line_length_included_m",
        "charge_per_length": "charge_g_per_m",
        "coil_adder": "coil_adder_g",
        "drier_adder": "drier_adder_g",
    }
    given = {field: entered[key] for key, field in numbers.items() if key in entered}
    tubes = {
        field: float(size) * 25.4
        for key, field in (("liquid_tube", "liquid_line_mm"), ("vapour_tube", "vapour_line_mm"))
        if (size := entered.pick(key))
    }
    return Plate(
        entered.pick("refrigerant"),
        device_named(entered.pick("metering_device")),
        **given,  # type: ignore[arg-type]
        **tubes,  # type: ignore[arg-type]
    )


def case_of(entered: Entered, points: tuple[str, ...]) -> Case:
    """A case from the readings among these blanks."""
    readings = {key: entered[key] for key in points if key in entered and key in POINTS}
    return open_case(plate_of(entered), readings, Context())


def circuit(entered: Entered) -> SlipOutcome:
    """Superheat and subcooling, against the target of the school that applies."""
    case = case_of(entered, _CIRCUIT_READINGS)
    targets = choose_targets(case)
    workings = derived_workings(case)
    windows: Mapping[str, Target] = dict(targets.windows.items())
    lines = []
    for key in _SHOWN:
        if key in workings:
            window = windows.get(key)
            low, high = (window.low, window.high) if window else (None, None)
            source = f"{window.source}" if window else ""
            lines.append(SlipLine(workings[key], low, high, source))
    words = [said for _, said in distrust(case)]
    words += [said for _, said in targets.silent]
    missing = []
    if "superheat" not in workings:
        missing.append("suction pressure and line")
    if "subcooling" not in workings:
        missing.append("liquid pressure and line")
    if not case.plate.metering_device.is_valve and "superheat" not in targets.windows:
        missing.append("return wet bulb and outdoor air for the target")
    return SlipOutcome(tuple(lines), tuple(words), tuple(missing))


SLIPS = (
    Slip("saturation", "Saturation", ("refrigerant", "pressure", "temperature"), saturation,
         seldom=("elevation",)),
    Slip("circuit", "Superheat and subcooling",
         ("refrigerant", "metering_device", "suction_pressure", "suction_line_temp",
          "liquid_pressure", "liquid_line_temp"), circuit,
         seldom=("target_subcooling", "outdoor_air_temp", "return_air_wet_bulb",
                 "discharge_line_temp", "elevation")),
)  # fmt: skip
