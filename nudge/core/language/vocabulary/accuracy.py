"""How far a field instrument may be off: the ± that holds 19 times in 20, one row a kind.

For instruments in good order, zeroed, rightly placed; an instrument's own sheet wins. These
feed the uncertainty of every computed number.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.language.units import G_PER_OZ, KPA_PER_PSI, PA_PER_IN_WC, Quantity, degrees_f
from nudge.core.language.vocabulary.points import POINTS


@dataclass(frozen=True, slots=True)
class Accuracy:
    """± of a kind of reading: the larger of a fixed amount [core units] and a share."""

    key: str
    fixed: float
    share: float
    reason: str

    def limit(self, value: float) -> float:
        return max(self.fixed, self.share * abs(value))


_ROWS = (
    Accuracy("pressure", 1.0 * KPA_PER_PSI, 0.01, "digital gauge or probe, zeroed: 1 psi or 1 %"),
    Accuracy("line_temp", degrees_f(1), 0, "pipe clamp on clean bare pipe, shaded: 1 °F"),
    Accuracy("air_temp", degrees_f(1), 0, "air probe, shaded, in the stream: 1 °F"),
    Accuracy("wet_bulb", degrees_f(1), 0, "wet wick or computed from humidity: 1 °F"),
    Accuracy("humidity", 3.0, 0, "humidity probe: 3 %"),
    Accuracy("airflow", 0, 0.07, "flow grid or powered hood: 7 %"),
    Accuracy("static_pressure", 0.01 * PA_PER_IN_WC, 0.02, "manometer: 0.01 in. w.c. or 2 %"),
    Accuracy("current", 0.1, 0.02, "clamp meter: 2 %"),
    Accuracy("voltage", 1.0, 0.01, "meter: 1 %"),
    Accuracy("power", 5.0, 0.03, "clamp wattmeter: 3 %"),
    Accuracy("power_factor", 0.03, 0, "meter: 0.03"),
    Accuracy("speed", 10.0, 0.01, "tachometer: 1 %"),
    Accuracy("capacitance", 0.1, 0.02, "meter: 2 %"),
    Accuracy("mass", G_PER_OZ / 1000 / 4, 0.001, "charging scale: a quarter ounce"),
    Accuracy("vacuum", 1.0, 0.10, "vacuum gauge: 10 %"),
)
GAP_LIMIT_K = degrees_f(1.3)
"""The ± of a superheat or a subcooling: a clamp and a gauge together."""
ACCURACY: Mapping[str, Accuracy] = MappingProxyType({row.key: row for row in _ROWS})

_OF_QUANTITY = {
    Quantity.PRESSURE: "pressure",
    Quantity.HUMIDITY: "humidity",
    Quantity.AIRFLOW: "airflow",
    Quantity.STATIC_PRESSURE: "static_pressure",
    Quantity.CURRENT: "current",
    Quantity.VOLTAGE: "voltage",
    Quantity.POWER: "power",
    Quantity.POWER_FACTOR: "power_factor",
    Quantity.SPEED: "speed",
    Quantity.CAPACITANCE: "capacitance",
    Quantity.MASS: "mass",
    Quantity.VACUUM: "vacuum",
}


Own = Mapping[str, Accuracy]
"""What the instruments in use err, by the key of a row, where somebody registered them."""
USUAL: Own = MappingProxyType({})


def accuracy_of(point_key: str, own: Own = USUAL) -> Accuracy:
    """The row for a point of the vocabulary; of the instrument that is used where it is known."""
    key = accuracy_key(point_key)
    return own.get(key, ACCURACY[key])


def accuracy_key(point_key: str) -> str:
    """The row of `ACCURACY` that a point of the vocabulary is read within."""
    row = POINTS[point_key]
    if row.quantity is Quantity.TEMPERATURE:
        if point_key.endswith("wet_bulb"):
            return "wet_bulb"
        return "air_temp" if row.side == "air" else "line_temp"
    return _OF_QUANTITY[row.quantity]
