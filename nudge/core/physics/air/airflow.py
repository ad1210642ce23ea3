"""How much air a coil should have, and the ways to find out how much it has."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.language.errors import Impossible
from nudge.core.language.said import Said, difference, say
from nudge.core.language.units import LPS_PER_CFM, W_PER_TON
from nudge.core.physics.air.coil import FLOW_SHARE, RATED_KG_PER_S_PER_W, capacity_share
from nudge.core.physics.air.heat import actual_flow
from nudge.core.physics.air.moist_air import MoistAir

TOLERANCE = 0.12
LEAST_RISE_K = 2.0


def per_ton(cfm: float) -> float:
    """CFM per ton as the core keeps it [L/s per kW]."""
    return cfm * LPS_PER_CFM / W_PER_TON * 1000


@dataclass(frozen=True, slots=True)
class Climate:
    """What the trade asks for in one kind of weather, as standard air per capacity."""

    key: str
    label: str
    lps_per_kw: float
    reason: str


_CLIMATES = (
    Climate("normal", "Ordinary", per_ton(400), "Where plates state capacity."),
    Climate("humid", "Humid", per_ton(350), "Less air, a colder coil, more water out."),
    Climate("drying", "Drying out", per_ton(310), "For a wet house only; watch for ice."),
    Climate("dry", "Dry", per_ton(450), "Little water to take out: more air, more sensible."),
)
CLIMATES: Mapping[str, Climate] = MappingProxyType({row.key: row for row in _CLIMATES})


@dataclass(frozen=True, slots=True)
class AirflowMethod:
    """A way to get airflow: its own ± as a share beside its inputs', and what it rests on."""

    key: str
    label: str
    own_error: float | None
    reason: str


_METHODS = (
    AirflowMethod("flow_measured", "Measured", 0.07, "Flow grid or powered hood, by its maker."),
    AirflowMethod(
        "blower_table",
        "Blower table",
        0.10,
        "Maker's table by tap and external static; clean wheel, right capacitor.",
    ),
    AirflowMethod(
        "strip_heat",
        "Strip heat",
        0.05,
        "Measured watts over measured rise; out of sight of the glowing strips.",
    ),
    AirflowMethod(
        "capacity_balance",
        "Capacity balance",
        0.15,
        "Expected capacity over the measured enthalpy drop; only if charge is right.",
    ),
    AirflowMethod(
        "blower_amps", "Blower amps", None, "An indicator only: says which way, never how much."
    ),
)
AIRFLOW_METHODS: Mapping[str, AirflowMethod] = MappingProxyType({row.key: row for row in _METHODS})
"""Best first."""


def strip_airflow(watts: float, rise_k: float, entering: MoistAir) -> float:
    """Actual flow [L/s] of the entering air from strip heat [W] and its rise [K].

    Dry mass = W / (cp ΔT): the field's CFM = watts x 3.412 / (1.08 x rise), with density as it
    is. Raises: Impossible, for a rise too small to divide by.
    """
    if rise_k < LEAST_RISE_K:
        raise Impossible(
            "rise",
            say(
                "A rise of {rise} is too small to measure airflow by. Wait for the strips, and "
                "check that they draw their amps.",
                rise=difference(rise_k),
            ),
        )
    heat_capacity = 1006 + 1860 * entering.humidity_ratio
    return actual_flow(entering, watts / (heat_capacity * rise_k))


def balance_airflow(
    nominal_w: float, entering: MoistAir, leaving: MoistAir, outdoor_c: float
) -> float:
    """Actual supply flow [L/s] that would carry today's expected capacity at this Δh.

    Expected capacity moves a little with flow, so it is followed to where both agree. Raises:
    Impossible, when the air gains heat, or the answer is no airflow a coil works at.
    """
    drop = entering.enthalpy_j_per_kg - leaving.enthalpy_j_per_kg
    share, wet_bulb = 0.0, entering.wet_bulb_c
    if drop > 0:
        share = 1.0
        for _ in range(12):  # each round leaves 15 % of the error
            expected = capacity_share(wet_bulb, outdoor_c, share)
            share = expected / drop / RATED_KG_PER_S_PER_W
    if not FLOW_SHARE[0] <= share <= FLOW_SHARE[1] * 1.5:
        raise Impossible(
            "airflow",
            Said(
                "The supply air holds too much or too little heat for a balance. Check that "
                "cooling is on, and both wet bulbs."
            ),
        )
    return actual_flow(leaving, share * RATED_KG_PER_S_PER_W * nominal_w)


@dataclass(frozen=True, slots=True)
class AmpsSays:
    """What blower amps against the plate hint at, by kind of motor."""

    key: str
    motor: str
    low: float
    high: float
    sentence: str


AMPS_SAYS: tuple[AmpsSays, ...] = (
    AmpsSays("psc_low", "psc", 0, 0.75, "A PSC motor's amps fall when the duct chokes: look at "
             "filter, coil and closed grilles. A weak run capacitor looks the same: measure it."),
    AmpsSays("psc_ordinary", "psc", 0.75, 1.05, "Ordinary for a PSC motor. It does not prove "
             "the airflow."),
    AmpsSays("psc_high", "psc", 1.05, 9, "A PSC motor over its plate: bearings, volts, or a "
             "blower door left off that lets it run free."),
    AmpsSays("ecm_ordinary", "ecm", 0, 0.85, "Ordinary for a constant-airflow motor. It does not "
             "prove the airflow."),
    AmpsSays("ecm_high", "ecm", 0.85, 9, "A constant-airflow motor's amps rise when the duct "
             "chokes: it works harder for the same air. Look at filter, coil and statics."),
)  # fmt: skip


def blower_amps_say(motor: str, amps: float, plate_amps: float) -> AmpsSays:
    """The row for a motor (`psc`, `ecm`) at a share of its plate amps."""
    share = amps / plate_amps
    rows = [row for row in AMPS_SAYS if row.motor == motor]
    return next((row for row in rows if row.low <= share < row.high), rows[-1])
