"""How much is weighed in before it is run, by school; and with which phase the vacuum is broken."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from types import MappingProxyType

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.physics.circuit.weigh_in import weigh_in
from nudge.core.physics.circuit.whole import whole_charge
from nudge.core.physics.refrigerant.catalogue import refrigerant

SHORT_SHARE = 0.95


@dataclass(frozen=True, slots=True)
class FillSchool:
    """One way to choose the first fill, and when it is the usual one."""

    key: str
    label: str
    when: str
    reason: str


_ROWS = (
    FillSchool(
        "full_sheet",
        "The full sheet",
        "A maker’s table says what the line set adds, an electronic valve is trimmed in its own "
        "mode, or a plant with many rooms is summed up by its pipes.",
        "The maker’s figures count the whole line set; an inverter’s valve hides what is missing.",
    ),
    FillSchool(
        "sheet_less_5",
        "The sheet less 5 %",
        "The line set is worked out from its tube, not from the maker’s table.",
        "What is too little is added in bursts; what is too much has to be recovered.",
    ),
    FillSchool(
        "recovered",
        "What was recovered, then trimmed",
        "The plate is silent, and it ran right before it was opened.",
        "What came out is the only sheet there is.",
    ),
    FillSchool(
        "plate_alone",
        "The plate alone",
        "A packaged system: its line set is inside it.",
        "A packaged system’s plate counts everything.",
    ),
    FillSchool(
        "pipes_unwritten",
        "The outdoor plate alone, until the pipes are written",
        "A plant with many rooms, the lengths of its liquid pipes not on record.",
        "It is less than the plant holds, and such a plant is never trimmed: write its liquid "
        "pipes on its drawing, size by size, then weigh in the rest.",
    ),
)
FILL_SCHOOLS: Mapping[str, FillSchool] = MappingProxyType({row.key: row for row in _ROWS})


@dataclass(frozen=True, slots=True)
class FirstFill:
    """What is weighed in before it is run [kg], by which school, and in words."""

    kg: float
    school: FillSchool
    sheet_kg: float
    said: Said


def first_fill(
    plate: Plate, recovered_kg: float = 0.0, ran_right: bool = False, brought_kg: float = 0.0
) -> FirstFill:
    """The first fill of an evacuated system by the school that suits what is known of it.

    `brought_kg` is what a new outdoor unit holds behind its service valves.
    """
    fill = _by_school(plate, recovered_kg, ran_right)
    if brought_kg <= 0:
        return fill
    said = say(
        f"Open the service valves: the factory charge, {{brought}}, comes in. Then weigh in "
        f"{{rest}} for the {plate.lines_called}: "
        f"{fill.school.label[0].lower()}{fill.school.label[1:]}.",
        brought=Measure(brought_kg, Quantity.CHARGE),
        rest=Measure(max(fill.kg - brought_kg, 0.0), Quantity.CHARGE),
    )
    return replace(fill, said=said)


def _by_school(plate: Plate, recovered_kg: float, ran_right: bool) -> FirstFill:
    whole, sheet = whole_charge(plate), weigh_in(plate).total
    if plate.liquid_pipes is not None:
        if sheet is not None:
            return _filled("full_sheet", sheet.value, sheet.value)
        known = plate.factory_charge_kg or recovered_kg or SHORT_SHARE * whole.kg
        return _filled("pipes_unwritten", known, known)
    if plate.line_set_length_m == 0 and plate.factory_charge_kg:
        return _filled("plate_alone", plate.factory_charge_kg, plate.factory_charge_kg)
    if sheet is not None and sheet.value > 0:
        by_maker = plate.chart("charge_by_line") is not None or plate.charge_g_per_m is not None
        if by_maker or plate.metering_device is MeteringDevice.EEV:
            return _filled("full_sheet", sheet.value, sheet.value)
        return _filled("sheet_less_5", SHORT_SHARE * sheet.value, sheet.value)
    if recovered_kg > 0 and ran_right:
        return _filled("recovered", recovered_kg, recovered_kg)
    return _filled("sheet_less_5", SHORT_SHARE * whole.kg, whole.kg)


def _filled(school: str, kg: float, sheet_kg: float) -> FirstFill:
    row = FILL_SCHOOLS[school]
    return FirstFill(
        kg,
        row,
        sheet_kg,
        say(
            f"Weigh in {{kg}} before it runs: {row.label[0].lower()}{row.label[1:]}. {row.reason}",
            kg=Measure(kg, Quantity.CHARGE),
        ),
    )


@dataclass(frozen=True, slots=True)
class Phase:
    """How the vacuum is broken: the phase that leaves the cylinder, where it goes, and why."""

    key: str
    label: str
    how: str
    reason: str


BLEND = Phase(
    "blend_liquid",
    "Liquid from the cylinder, into the liquid side",
    "Cylinder on its head, valve opened slowly, into the liquid port while the compressor stands.",
    "A blend leaves as liquid or it is no longer the blend. In a vacuum it boils at once, and "
    "cold: slowly, and never into a water-filled exchanger that could freeze.",
)
PURE = Phase(
    "pure_vapour",
    "Vapour first, then liquid into the liquid side",
    "Cylinder upright until the gauge is over freezing, then on its head into the liquid port.",
    "One substance: vapour and liquid are the same. Vapour first keeps oil, glass and water-filled "
    "exchangers from the cold of boiling liquid.",
)


def phase_for(fluid: str) -> Phase:
    """With which phase this refrigerant breaks a vacuum. Raises: UnknownName."""
    return BLEND if refrigerant(fluid).is_blend else PURE
