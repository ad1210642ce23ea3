"""What a person can see or test that no probe shows. Evidence, like any reading."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.language.errors import UnknownName


@dataclass(frozen=True, slots=True)
class Observation:
    """One tickable fact. `opposite` is unticked when this one is ticked; `where` groups them."""

    key: str
    label: str
    where: str
    opposite: str | None = None


def _both(where: str, right: tuple[str, str], wrong: tuple[str, str]) -> tuple[Observation, ...]:
    """Two facts that exclude each other, the harmless one first."""
    return (Observation(*right, where, wrong[0]), Observation(*wrong, where, right[0]))


_ROWS = (
    *_both("Indoors", ("filter_clean", "Filter clean"), ("filter_dirty", "Filter dirty")),
    *_both("Indoors", ("evaporator_coil_clean", "Evaporator coil clean"),
           ("evaporator_coil_dirty", "Evaporator coil dirty")),
    *_both("Indoors", ("airflow_ok", "Airflow in range"), ("airflow_low", "Airflow low")),
    *_both("Indoors", ("blower_capacitor_ok", "Blower capacitor good"),
           ("blower_capacitor_weak", "Blower capacitor weak")),
    *_both("Indoors", ("house_not_cool", "House not cooled down"),
           ("house_cool", "House cooled down")),
    *_both("Indoors", ("house_not_warm", "House near its setting"),
           ("house_warm", "House far over its setting")),
    Observation("ice_on_coil", "Ice on coil or line", "Indoors"),
    *_both("Outdoors", ("condenser_coil_clean", "Condenser coil clean"),
           ("condenser_coil_dirty", "Condenser coil dirty")),
    *_both("Outdoors", ("condenser_fan_ok", "Condenser fan right"),
           ("condenser_fan_weak", "Condenser fan slow or stopped")),
    *_both("Outdoors", ("discharge_air_clear", "Discharge air gets away"),
           ("discharge_air_returns", "Discharge air comes back in")),
    *_both("Outdoors", ("condenser_dry", "Condenser coil dry"),
           ("condenser_wet", "Condenser coil wet, from rinsing or rain")),
    *_both("Outdoors", ("collar_off", "No collar on the discharge air"),
           ("collar_on", "Collar on the discharge air")),
    *_both("Refrigerant", ("circuit_never_opened", "Circuit not opened, nor in a vacuum, since it "
                           "was right"),
           ("circuit_opened_recently", "Circuit opened, or in a vacuum, since it was right")),
    *_both("Refrigerant", ("no_kink_seen", "Liquid line walked, no kink"),
           ("kink_found", "Kink found")),
    *_both("Refrigerant", ("no_liquid_step", "No step along the liquid line"),
           ("liquid_step_found", "Step along the liquid line")),
    *_both("Refrigerant", ("service_valves_open", "Service valves fully open"),
           ("service_valve_not_open", "Service valve not fully open")),
    *_both("Refrigerant", ("bulb_secure", "Bulb tight and wrapped"),
           ("bulb_loose", "Bulb loose or bare")),
    *_both("Refrigerant", ("bulb_test_reacts", "Bulb test: valve reacts"),
           ("bulb_test_no_reaction", "Bulb test: no reaction")),
    Observation("oil_seen_at_joint", "Oil at a joint", "Refrigerant"),
    *_both("Refrigerant", ("sight_glass_clear", "Sight glass clear"),
           ("sight_glass_bubbles", "Bubbles in sight glass")),
    *_both("Tests", ("standing_pressure_right", "Standing pressure fits its temperature"),
           ("standing_pressure_high", "Standing pressure too high")),
    *_both("Tests", ("reversing_valve_tight", "Reversing valve tight"),
           ("reversing_valve_passes", "Reversing valve passes gas")),
    *_both("Tests", ("compressor_pumps", "Compressor pumps"),
           ("compressor_weak", "Compressor does not pump")),
    *_both("Tests", ("readings_confirmed", "Probes swapped: readings confirmed"),
           ("reading_confirmed_wrong", "Probe found wrong")),
)  # fmt: skip

OBSERVATIONS: Mapping[str, Observation] = MappingProxyType({row.key: row for row in _ROWS})


def observation(name: str) -> Observation:
    """The row of an observation key. Raises: UnknownName, with the nearest."""
    row = OBSERVATIONS.get(name)
    if row is None:
        raise UnknownName("observation", name, OBSERVATIONS)
    return row
