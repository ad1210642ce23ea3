"""What a healthy cooling coil does to the air it is given: the expected temperature split.

Capacity at today's conditions, then the leaving air by the bypass-factor method: part of the
air passes untouched, the rest leaves saturated at the apparatus dew point. A coil that takes
out no water is followed to where it just turns dry. Capacity is net of blower heat, as rated.
"""

from dataclasses import dataclass
from functools import lru_cache

from nudge.core.language.errors import Impossible, OutOfRange
from nudge.core.language.said import Measure, say
from nudge.core.language.units import LPS_PER_CFM, W_PER_TON, Quantity, degrees_f, fahrenheit
from nudge.core.physics.air.moist_air import MoistAir, air_at, saturated_air

RATED_WET_BULB_C, RATED_OUTDOOR_C = fahrenheit(67), fahrenheit(95)
STANDARD_DRY_KG_PER_S_PER_CFM = LPS_PER_CFM / 1000 * 1.2014
RATED_KG_PER_S_PER_W = 400 * STANDARD_DRY_KG_PER_S_PER_CFM / W_PER_TON
WET_BULB_SLOPE_PER_K = 0.0135 / degrees_f(1)
OUTDOOR_SLOPE_PER_K = -0.0055 / degrees_f(1)
FLOW_EXPONENT = 0.15
RATED_BYPASS = 0.19
CONTACT_EXPONENT = -0.5
BLOWER_W_PER_KG_S = 365 / (1000 * STANDARD_DRY_KG_PER_S_PER_CFM)
REFRIGERANT_SIDE_K = degrees_f(8.9)
SPLIT_OWN_ERROR_K = degrees_f(2)
SATURATION_OWN_ERROR_K = degrees_f(4)
CAPACITY_OWN_ERROR = 0.08
FIRST_GUESS_C = 11.0

RETURN_C = (fahrenheit(60), fahrenheit(100))
WET_BULB_C = (fahrenheit(48), fahrenheit(85))
OUTDOOR_C = (fahrenheit(55), fahrenheit(125))
FLOW_SHARE = (0.45, 1.6)


@dataclass(frozen=True, slots=True)
class CoilConstant:
    """One assumption of the model, as a row a technician can review."""

    key: str
    shown: str
    reason: str


CONSTANTS: tuple[CoilConstant, ...] = (
    CoilConstant("rating point", "80/67 °F, 95 °F out, 400 CFM/ton standard air",
                 "where plates state capacity"),
    CoilConstant("wet_bulb_slope", "+1.35 % per °F of return wet bulb",
                 "typical of published performance tables of single-speed splits"),
    CoilConstant("outdoor_slope", "−0.55 % per °F outdoors", "the same tables"),
    CoilConstant("flow_exponent", "capacity × (flow ÷ rated)^0.15",
                 "the same tables, 300 to 450 CFM/ton"),
    CoilConstant("bypass_factor", "0.19 at rated flow, its logarithm × (flow ÷ rated)^−0.5",
                 "set so that 80/67 °F at 400 CFM/ton splits about 20 °F; air-side transfer goes "
                 "with the root of speed"),
    CoilConstant("blower_heat", "365 W per 1,000 CFM", "the usual allowance; it warms the supply"),
    CoilConstant("refrigerant_side", "8.9 °F between surface and saturation at rated capacity",
                 "set so that 80/67 °F gives a 45 °F coil, the 35 °F rule"),
    CoilConstant("own error", "split ±2 °F, saturation ±4 °F, capacity ±8 %",
                 "coils differ: rows, fins, match"),
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class ExpectedCoil:
    """What a healthy coil should do: split [K], leaving air, heat [W], mean saturation [°C]."""

    split_k: float
    leaving: MoistAir
    total_w: float
    sensible_w: float
    saturation_c: float
    is_dry: bool


@lru_cache(maxsize=512)  # a visit is judged again after every write, mostly on the same air
def expected_coil(
    entering: MoistAir,
    outdoor_c: float,
    kg_per_s_per_w: float = RATED_KG_PER_S_PER_W,
    wet_bulb_c: float | None = None,
) -> ExpectedCoil:
    """Expect a healthy coil for 1 W of nominal capacity.

    `kg_per_s_per_w` is dry air per watt of nominal capacity; heat in the answer is per watt
    too. `wet_bulb_c` saves working it out where it was measured. Split within about ±2 °F.

    Raises: OutOfRange, outside return 60-100 °F, wet bulb 48-85 °F, outdoor 55-125 °F, or flow
    under 45 % or over 160 % of rated; Impossible when no coil could cool that air.
    """
    wet = entering.wet_bulb_c if wet_bulb_c is None else wet_bulb_c
    _within("return air", entering.dry_bulb_c, RETURN_C, Quantity.TEMPERATURE)
    _within("return wet bulb", wet, WET_BULB_C, Quantity.TEMPERATURE)
    _within("outdoor air", outdoor_c, OUTDOOR_C, Quantity.TEMPERATURE)
    share = kg_per_s_per_w / RATED_KG_PER_S_PER_W
    _within(
        "airflow",
        flow_per_capacity(share),
        (flow_per_capacity(FLOW_SHARE[0]), flow_per_capacity(FLOW_SHARE[1])),
        Quantity.AIRFLOW_PER_CAPACITY,
    )
    bypass = RATED_BYPASS ** (share**CONTACT_EXPONENT)
    blower = BLOWER_W_PER_KG_S * kg_per_s_per_w
    surface, total = _wet_surface(entering, wet, outdoor_c, share, bypass, kg_per_s_per_w)
    is_dry = surface.humidity_ratio >= entering.humidity_ratio
    if is_dry:
        surface, total = _dry_surface(entering, wet, outdoor_c, share, bypass, kg_per_s_per_w)
    off_coil = MoistAir(
        surface.dry_bulb_c + bypass * (entering.dry_bulb_c - surface.dry_bulb_c),
        surface.humidity_ratio + bypass * (entering.humidity_ratio - surface.humidity_ratio),
        entering.pressure_pa,
    )
    heat_capacity = 1006 + 1860 * off_coil.humidity_ratio
    rise = blower / (kg_per_s_per_w * heat_capacity)
    leaving = MoistAir(off_coil.dry_bulb_c + rise, off_coil.humidity_ratio, entering.pressure_pa)
    split = entering.dry_bulb_c - leaving.dry_bulb_c
    return ExpectedCoil(
        split,
        leaving,
        total,
        kg_per_s_per_w * heat_capacity * split,
        surface.dry_bulb_c - REFRIGERANT_SIDE_K * (total + blower),
        is_dry,
    )


def flow_per_capacity(share_of_rated: float) -> float:
    """A share of rated airflow as standard flow per capacity [L/s per kW]."""
    return share_of_rated * 400 * LPS_PER_CFM / W_PER_TON * 1000


def share_of_rated(lps_per_kw: float) -> float:
    """Standard flow per capacity [L/s per kW] as a share of rated. Inverse of the above."""
    return lps_per_kw / flow_per_capacity(1.0)


def capacity_share(wet_bulb_c: float, outdoor_c: float, flow_share: float = 1.0) -> float:
    """Net capacity at conditions over rated capacity: see `CONSTANTS`."""
    share: float = (
        (1 + WET_BULB_SLOPE_PER_K * (wet_bulb_c - RATED_WET_BULB_C))
        * (1 + OUTDOOR_SLOPE_PER_K * (outdoor_c - RATED_OUTDOOR_C))
        * flow_share**FLOW_EXPONENT
    )
    return share


def _wet_surface(
    entering: MoistAir, wet_c: float, outdoor_c: float, share: float, bypass: float, flow: float
) -> tuple[MoistAir, float]:
    """The saturated surface a wet coil works at, and its net capacity per watt."""
    total = capacity_share(wet_c, outdoor_c, share)
    drop = (total + BLOWER_W_PER_KG_S * flow) / flow / (1 - bypass)
    return _saturated_at(entering.enthalpy_j_per_kg - drop, entering.pressure_pa), total


def _dry_surface(
    entering: MoistAir, wet_c: float, outdoor_c: float, share: float, bypass: float, flow: float
) -> tuple[MoistAir, float]:
    """A coil that takes out no water works as it would at the wet bulb where it just turns dry."""
    low, high = wet_c, entering.dry_bulb_c
    for _ in range(18):
        middle = (low + high) / 2
        damper = air_at(entering.dry_bulb_c, entering.pressure_pa, middle)
        surface, _ = _wet_surface(damper, middle, outdoor_c, share, bypass, flow)
        if surface.humidity_ratio >= damper.humidity_ratio:
            low = middle
        else:
            high = middle
    total = capacity_share(low, outdoor_c, share)
    drop_k = (total + BLOWER_W_PER_KG_S * flow) / flow / (1 - bypass)
    drop_k /= 1006 + 1860 * entering.humidity_ratio
    return MoistAir(
        entering.dry_bulb_c - drop_k, entering.humidity_ratio, entering.pressure_pa
    ), total


def _saturated_at(enthalpy: float, pressure_pa: float) -> MoistAir:
    """Saturated air with an enthalpy [J/kg dry air], by Newton steps with a fitted slope.

    Raises: Impossible, when it would lie outside -20…45 °C: no coil cools that air so far.
    """
    temp_c = FIRST_GUESS_C
    for _ in range(25):
        if not -20 <= temp_c <= 45:
            break
        air = saturated_air(temp_c, pressure_pa)
        miss = air.enthalpy_j_per_kg - enthalpy
        if abs(miss) < 2:
            return air
        temp_c -= miss / (1900 + 65 * temp_c + 2.9 * temp_c * temp_c)
    raise Impossible(
        "airflow",
        say(
            "No coil could take its rated capacity out of so little or so cold air (the surface "
            "would be at {surface}). Check airflow, capacity and return air.",
            surface=Measure(temp_c, Quantity.TEMPERATURE),
        ),
    )


def _within(what: str, value: float, reach: tuple[float, float], quantity: Quantity) -> None:
    if not reach[0] <= value <= reach[1]:
        raise OutOfRange(what, value, reach[0], reach[1], quantity)
