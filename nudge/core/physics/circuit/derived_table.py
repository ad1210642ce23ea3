"""Every quantity worked out from readings, as a technician would look it up: one row each."""

from collections.abc import Mapping
from types import MappingProxyType

from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula
from nudge.core.physics.circuit.derived import Derived

_T, _D = Quantity.TEMPERATURE, Quantity.TEMPERATURE_DIFFERENCE
_SATURATION = "Packaged saturation tables, from CoolProp 8.0.0 (doi:10.1021/ie4033999)."
_TRADE = "Trade definition."
_ASHRAE = "ASHRAE Fundamentals 2017, chapter 1, through PsychroLib."

_ROWS = (
    Formula(
        "evaporator_saturation", "Evaporator saturation", _T,
        "Where the last of the refrigerant in the evaporator boils: superheat counts from here.",
        "dew at suction pressure",
        "dew at {suction_pressure} = {result}", ("suction_pressure", "elevation"), _SATURATION,
    ),
    Formula(
        "condenser_saturation", "Condenser saturation", _T,
        "Where the last vapour in the condenser turns liquid: subcooling counts from here.",
        "bubble at liquid pressure",
        "bubble at {liquid_pressure} = {result}", ("liquid_pressure", "elevation"), _SATURATION,
    ),
    Formula(
        "superheat", "Superheat", _D,
        "How far the suction line at the outdoor unit is above the last of the boiling (total "
        "superheat: the line's own warming is in it).",
        "suction line − dew at suction pressure",
        "{suction_line_temp} − {evaporator_saturation} = {result}",
        ("suction_line_temp", "evaporator_saturation", "suction_pressure"), _TRADE,
    ),
    Formula(
        "evaporator_superheat", "Evaporator superheat", _D,
        "Superheat at the coil outlet, beside the bulb: what the metering device itself holds.",
        "evaporator outlet − dew at suction pressure",
        "{evaporator_outlet_temp} − {evaporator_saturation} = {result}",
        ("evaporator_outlet_temp", "evaporator_saturation", "suction_pressure"), _TRADE,
    ),
    Formula(
        "subcooling", "Subcooling", _D,
        "How far the liquid leaving the outdoor unit is below the last of the condensing.",
        "bubble at liquid pressure − liquid line",
        "{condenser_saturation} − {liquid_line_temp} = {result}",
        ("condenser_saturation", "liquid_line_temp", "liquid_pressure"), _TRADE,
    ),
    Formula(
        "condensing_over_ambient", "Condensing over ambient", _D,
        "What the outdoor coil needs to throw its heat away.",
        "mean of bubble and dew at liquid pressure − outdoor air",
        "mean of {condenser_saturation} and dew, less {outdoor_air_temp} = {result}",
        ("condenser_saturation", "condenser_glide", "outdoor_air_temp", "liquid_pressure"), _TRADE,
    ),
    Formula(
        "evaporator_difference", "Evaporator difference", _D,
        "How much colder than its return air the coil boils.",
        "return air − mean of valve-outlet (quality 0.2) and dew temperature at suction pressure",
        "{return_air_temp} − mean of fed and dew ({evaporator_saturation}) = {result}",
        ("return_air_temp", "evaporator_saturation", "evaporator_glide", "suction_pressure"),
        _TRADE,
    ),
    Formula(
        "approach", "Approach", _D, "How near the leaving liquid comes to the outdoor air.",
        "liquid line − outdoor air", "{liquid_line_temp} − {outdoor_air_temp} = {result}",
        ("liquid_line_temp", "outdoor_air_temp"), _TRADE,
    ),
    Formula(
        "temperature_split", "Temperature split", _D,
        "How much the air is cooled. The right one moves with humidity and airflow.",
        "return air − supply air", "{return_air_temp} − {supply_air_temp} = {result}",
        ("return_air_temp", "supply_air_temp"), _TRADE,
    ),
    Formula(
        "pressure_ratio", "Pressure ratio", Quantity.RATIO,
        "How hard the compressor squeezes, in absolute pressures.",
        "absolute discharge (or liquid) pressure ÷ absolute suction pressure",
        "({liquid_pressure} ÷ {suction_pressure}), both made absolute = {result}",
        ("liquid_pressure", "suction_pressure", "discharge_pressure", "elevation"), _TRADE,
    ),
    Formula(
        "valve_pressure_difference", "Valve pressure difference", Quantity.PRESSURE_DIFFERENCE,
        "What the metering device has to push liquid through it.",
        "liquid pressure − suction pressure",
        "{liquid_pressure} − {suction_pressure} = {result}",
        ("liquid_pressure", "suction_pressure"), _TRADE,
    ),
    Formula(
        "liquid_line_drop", "Liquid line drop", _D,
        "{d1} to {d3} between its ends is normal; {d5} or more is a restriction or a kink.",
        "liquid line outdoors − liquid line indoors",
        "{liquid_line_temp} − {liquid_line_temp_indoor} = {result}",
        ("liquid_line_temp", "liquid_line_temp_indoor"), _TRADE,
    ),
    Formula(
        "drier_drop", "Drier drop", _D,
        "{d1} to {d2} is normal, {d3} to {d4} to be watched, {d5} or more plugged.",
        "drier inlet − drier outlet", "{drier_inlet_temp} − {drier_outlet_temp} = {result}",
        ("drier_inlet_temp", "drier_outlet_temp"), _TRADE,
    ),
    Formula(
        "evaporator_glide", "Evaporator glide", _D,
        "How much a blend's boiling temperature climbs at this pressure.",
        "dew − bubble at suction pressure", "dew − bubble at {suction_pressure} = {result}",
        ("suction_pressure",), _SATURATION,
    ),
    Formula(
        "condenser_glide", "Condenser glide", _D,
        "How much a blend's condensing temperature falls at this pressure.",
        "dew − bubble at liquid pressure", "dew − bubble at {liquid_pressure} = {result}",
        ("liquid_pressure",), _SATURATION,
    ),
    Formula(
        "external_static", "External static", Quantity.STATIC_PRESSURE,
        "What the ducts, coil and filter outside the blower's own box cost.",
        "supply static − return static", "{supply_static} − ({return_static}) = {result}",
        ("supply_static", "return_static"), _TRADE,
    ),
    Formula(
        "airflow_by_table", "Airflow by blower table", Quantity.AIRFLOW,
        "The maker's table at this tap and static, straight between its rows; for a clean wheel "
        "and a good capacitor. Counts while nobody measured airflow.",
        "the chart's value at total external static, in the tap's column",
        "the table at {total_external_static} = {result}",
        ("total_external_static", "supply_static", "return_static"),
        "The maker's blower table, kept with the system; its own ±10 % is in the uncertainty.",
    ),
    Formula(
        "airflow_standard", "Standard airflow", Quantity.AIRFLOW,
        "The same air as if it had standard density: what capacity and targets are stated in.",
        "actual supply airflow × its dry-air density ÷ standard density (0.075 lb/ft³, 1.2 kg/m³)",
        "{airflow} at the density of {supply_air_temp} supply air = {result}",
        ("airflow", "supply_air_temp", "elevation"), _ASHRAE,
    ),
    Formula(
        "airflow_per_capacity", "Airflow per ton", Quantity.AIRFLOW_PER_CAPACITY,
        "Standard airflow against the outdoor unit's capacity: {a400} is ordinary.",
        "standard airflow ÷ nominal capacity",
        "{airflow_standard} ÷ {nominal_capacity} = {result}",
        ("airflow_standard", "airflow", "nominal_capacity"), _TRADE,
    ),
    Formula(
        "capacity_total", "Total capacity", Quantity.CAPACITY,
        "All the heat taken from the air, water included; at standard air the field's 4.5 × CFM × "
        "Δh.",
        "dry-air mass flow × (return − supply) enthalpy",
        "{airflow} from {return_air_temp} to {supply_air_temp}, with their moisture = {result}",
        ("airflow", "return_air_temp", "return_air_wet_bulb", "return_air_rh", "supply_air_temp",
         "supply_air_wet_bulb", "supply_air_rh", "elevation"), _ASHRAE,
    ),
    Formula(
        "capacity_sensible", "Sensible capacity", Quantity.CAPACITY,
        "The part that makes the air colder; at standard air the field's 1.08 × CFM × ΔT.",
        "dry-air mass flow × specific heat × (return − supply)",
        "{airflow} × {temperature_split}, at its density = {result}",
        ("airflow", "temperature_split", "elevation"), _ASHRAE,
    ),
    Formula(
        "capacity_latent", "Latent capacity", Quantity.CAPACITY,
        "The part that makes the air drier.", "total − sensible",
        "{capacity_total} − {capacity_sensible} = {result}",
        ("capacity_total", "capacity_sensible"), _ASHRAE,
    ),
    Formula(
        "sensible_heat_ratio", "Sensible heat ratio", Quantity.RATIO,
        "Which share of the work cools rather than dries.", "sensible ÷ total",
        "{capacity_sensible} ÷ {capacity_total} = {result}",
        ("capacity_sensible", "capacity_total"), _ASHRAE,
    ),
    Formula(
        "capacity_normalised", "Capacity at rating", Quantity.CAPACITY,
        "Today's capacity carried to {t80} dry and {t67} wet bulb indoors, {t95} outdoors and "
        "{a400}, to lay beside the plate.",
        "total capacity ÷ (capacity expected at today's conditions ÷ rated)",
        "{capacity_total} at {return_air_wet_bulb} wet bulb and {outdoor_air_temp} = {result}",
        ("capacity_total", "return_air_wet_bulb", "outdoor_air_temp", "airflow_per_capacity",
         "nominal_capacity"), "Coil model, docs/method.md; its own ±8 % is in the uncertainty.",
    ),
    Formula(
        "eer", "EER", Quantity.ENERGY_EFFICIENCY,
        "Cooling got for power paid, at today's conditions.",
        "total capacity ÷ (outdoor + indoor watts)",
        "{capacity_total} ÷ ({outdoor_unit_watts} + {indoor_unit_watts}) = {result}",
        ("capacity_total", "outdoor_unit_watts", "indoor_unit_watts"), _TRADE,
    ),
)  # fmt: skip

DERIVED: Mapping[str, Formula] = MappingProxyType({row.key: row for row in _ROWS})

SUBCOOLING_AT_DEVICE = Formula(
    "subcooling",
    "Subcooling at the device",
    _D,
    "How far the liquid before the metering device is below the last of the condensing: where the "
    "unit has no liquid line outdoors to clamp.",
    "bubble at liquid pressure − liquid line before the device",
    "{condenser_saturation} − {liquid_line_temp_indoor} = {result}",
    ("condenser_saturation", "liquid_line_temp_indoor", "liquid_pressure"),
    _TRADE,
)
SUPERHEAT_AT_COIL = Formula(
    "superheat",
    "Superheat at the coil",
    _D,
    "How far the coil's outlet is above the last of the boiling: where the unit has no suction "
    "line outdoors to clamp.",
    "evaporator outlet − dew at suction pressure",
    "{evaporator_outlet_temp} − {evaporator_saturation} = {result}",
    ("evaporator_outlet_temp", "evaporator_saturation", "suction_pressure"),
    _TRADE,
)


IN_HEATING = {row.key: row for row in (
    Formula(
        "superheat", "Superheat", _D,
        "How far the gas between reversing valve and compressor is above the last of the boiling. "
        "The vapour service line carries hot gas in heating and says nothing of it.",
        "true suction − dew at suction pressure",
        "{true_suction_temp} − {evaporator_saturation} = {result}",
        ("true_suction_temp", "evaporator_saturation", "suction_pressure"), _TRADE,
    ),
    Formula(
        "condensing_over_ambient", "Condensing over return", _D,
        "What the indoor coil needs to give its heat to the house.",
        "mean of bubble and dew at liquid pressure − return air",
        "mean of {condenser_saturation} and dew, less {return_air_temp} = {result}",
        ("condenser_saturation", "condenser_glide", "return_air_temp", "liquid_pressure"), _TRADE,
    ),
    Formula(
        "evaporator_difference", "Outdoor coil difference", _D,
        "How much colder than the outdoor air the coil boils.",
        "outdoor air − mean of valve-outlet (quality 0.2) and dew temperature at suction pressure",
        "{outdoor_air_temp} − mean of fed and dew ({evaporator_saturation}) = {result}",
        ("outdoor_air_temp", "evaporator_saturation", "evaporator_glide", "suction_pressure"),
        _TRADE,
    ),
    Formula(
        "approach", "Approach", _D, "How near the leaving liquid comes to the return air.",
        "liquid line − return air", "{liquid_line_temp} − {return_air_temp} = {result}",
        ("liquid_line_temp", "return_air_temp"), _TRADE,
    ),
    Formula(
        "liquid_line_drop", "Liquid line drop", _D,
        "The liquid comes from the house: {d1} to {d3} is normal; {d5} or more is a restriction.",
        "liquid line indoors − liquid line outdoors",
        "{liquid_line_temp_indoor} − {liquid_line_temp} = {result}",
        ("liquid_line_temp", "liquid_line_temp_indoor"), _TRADE,
    ),
)}  # fmt: skip


def formula_of(key: str, derived: Derived) -> Formula:
    """The formula a derived number came by: by where it was read, and which way heat goes."""
    if key == "superheat" and derived.superheat_at_coil:
        return SUPERHEAT_AT_COIL
    if key == "subcooling" and derived.subcooling_at_device:
        return SUBCOOLING_AT_DEVICE
    return (IN_HEATING if derived.roles.heats else {}).get(key, DERIVED[key])
