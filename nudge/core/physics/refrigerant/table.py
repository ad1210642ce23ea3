"""The packaged saturation tables, one file a fluid, read once when first asked for."""

import json
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

from nudge.core.physics.refrigerant.catalogue import refrigerant
from nudge.core.physics.refrigerant.curve import SaturationCurve


@dataclass(frozen=True, slots=True, eq=False)
class SaturationTable:
    """Saturation of one fluid. `valve_outlet` is at quality 0.2, where a coil is fed."""

    name: str
    bubble: SaturationCurve
    valve_outlet: SaturationCurve
    dew: SaturationCurve
    critical_c: float
    critical_kpa: float
    source: str

    @property
    def low_kpa(self) -> float:
        """Lowest absolute pressure every curve of this fluid covers [kPa]."""
        return max(self.bubble.low_kpa, self.dew.low_kpa)

    @property
    def high_kpa(self) -> float:
        """Highest absolute pressure every curve of this fluid covers [kPa]."""
        return min(self.bubble.high_kpa, self.dew.high_kpa)


def load_table(name: str) -> SaturationTable:
    """The table of a catalogue fluid, under any spelling the catalogue accepts.

    Raises: UnknownName.
    """
    return _load(refrigerant(name).name)


@cache
def _load(name: str) -> SaturationTable:
    text = (
        files("nudge.core.physics.refrigerant")
        .joinpath("tables", f"{name}.json")
        .read_text("utf-8")
    )
    data = json.loads(text)
    curves = {
        key: SaturationCurve(data[key]["temp_c"], data[key]["kpa_abs"])
        for key in ("bubble", "valve_outlet", "dew")
    }
    return SaturationTable(
        name,
        **curves,
        critical_c=data["critical_c"],
        critical_kpa=data["critical_kpa"],
        source=data["source"],
    )
