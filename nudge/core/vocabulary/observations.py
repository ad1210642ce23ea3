"""What a person can see or test that no probe shows. Evidence, like any reading."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.errors import UnknownName


@dataclass(frozen=True, slots=True)
class Observation:
    """One tickable fact. `opposite` is unticked when this one is ticked."""

    key: str
    label: str
    opposite: str | None = None


_ROWS = (
    Observation("filter_clean", "Filter clean", "filter_dirty"),
    Observation("filter_dirty", "Filter dirty", "filter_clean"),
    Observation("evaporator_coil_clean", "Evaporator coil clean", "evaporator_coil_dirty"),
    Observation("evaporator_coil_dirty", "Evaporator coil dirty", "evaporator_coil_clean"),
    Observation("condenser_coil_clean", "Condenser coil clean", "condenser_coil_dirty"),
    Observation("condenser_coil_dirty", "Condenser coil dirty", "condenser_coil_clean"),
    Observation("condenser_fan_ok", "Condenser fan right"),
    Observation("airflow_ok", "Airflow in range"),
    Observation("blower_capacitor_ok", "Blower capacitor good", "blower_capacitor_weak"),
    Observation("blower_capacitor_weak", "Blower capacitor weak", "blower_capacitor_ok"),
    Observation("no_kink_seen", "Liquid line walked, no kink"),
    Observation("bulb_secure", "Bulb tight and wrapped", "bulb_loose"),
    Observation("bulb_loose", "Bulb loose or bare", "bulb_secure"),
    Observation("bulb_test_reacts", "Bulb test: valve reacts", "bulb_test_no_reaction"),
    Observation("bulb_test_no_reaction", "Bulb test: no reaction", "bulb_test_reacts"),
    Observation("oil_seen_at_joint", "Oil at a joint"),
    Observation("ice_on_coil", "Ice on coil or line"),
    Observation("sight_glass_bubbles", "Bubbles in sight glass"),
)

OBSERVATIONS: Mapping[str, Observation] = MappingProxyType({row.key: row for row in _ROWS})


def observation(name: str) -> Observation:
    """The row of an observation key. Raises: UnknownName, with the nearest."""
    row = OBSERVATIONS.get(name)
    if row is None:
        raise UnknownName("observation", name, OBSERVATIONS)
    return row
