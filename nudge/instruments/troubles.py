"""What can be wrong with a probe or where it sits, one row each.

A trouble changes what an instrument gives, from what it should give and the truth around it.
Severity 0 to 1; 1 is as bad as one finds it.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from random import Random
from types import MappingProxyType

Truth = Mapping[str, float]
"""Point key → true value, core units."""


@dataclass(frozen=True, slots=True)
class TroubleMoment:
    """What a trouble may know: the point, what is true there and around, the last value given."""

    point: str
    truth: Truth
    last: float | None
    seconds: float


Bend = Callable[[float, TroubleMoment, float, Random], float | None]


@dataclass(frozen=True, slots=True)
class Trouble:
    """One row: which kinds of instrument can have it, what it means, what it does."""

    key: str
    kinds: tuple[str, ...]
    means: str
    bend: Bend


_OUTSIDE = {
    "suction_line_temp",
    "liquid_line_temp",
    "discharge_line_temp",
    "true_suction_temp",
    "drier_inlet_temp",
    "drier_outlet_temp",
}
_OTHER_PIPE = {
    "suction_line_temp": "liquid_line_temp",
    "liquid_line_temp": "suction_line_temp",
    "evaporator_outlet_temp": "liquid_line_temp_indoor",
    "liquid_line_temp_indoor": "evaporator_outlet_temp",
}
_SPIKE = {"pressure_probe": 550.0}


def _air_round(moment: TroubleMoment) -> float:
    around = "outdoor_air_temp" if moment.point in _OUTSIDE else "return_air_temp"
    return moment.truth.get(around, 20.0)


def _wrong_zero(value: float, moment: TroubleMoment, s: float, rng: Random) -> float:
    return value + 55.0 * s


def _dirt(value: float, moment: TroubleMoment, s: float, rng: Random) -> float:
    return value + 0.6 * s * (_air_round(moment) - value)


def _sun(value: float, moment: TroubleMoment, s: float, rng: Random) -> float:
    return value + 7.0 * s


def _touching_coil(value: float, moment: TroubleMoment, s: float, rng: Random) -> float:
    return value + 0.8 * s * (moment.truth.get("condenser_leaving_air_temp", value) - value)


def _wrong_pipe(value: float, moment: TroubleMoment, s: float, rng: Random) -> float:
    return moment.truth.get(_OTHER_PIPE.get(moment.point, moment.point), value)


def _mixed_air(value: float, moment: TroubleMoment, s: float, rng: Random) -> float:
    wet = moment.point.endswith("wet_bulb")
    back = moment.truth.get("return_air_wet_bulb" if wet else "return_air_temp", value)
    return value + 0.5 * s * (back - value)


def _stuck(value: float, moment: TroubleMoment, s: float, rng: Random) -> float:
    return value if moment.last is None else moment.last


def _spiking(value: float, moment: TroubleMoment, s: float, rng: Random) -> float:
    if rng.random() > 0.06 * s:
        return value
    size = _SPIKE["pressure_probe"] if moment.point.endswith("pressure") else 22.0
    return value + size * rng.choice((-1, 1)) * (0.5 + rng.random())


def _dropping_out(value: float, moment: TroubleMoment, s: float, rng: Random) -> float | None:
    return None if rng.random() < 0.7 * s else value


def _dead(value: float, moment: TroubleMoment, s: float, rng: Random) -> float | None:
    return None


def _dry_wick(value: float, moment: TroubleMoment, s: float, rng: Random) -> float:
    where = "return" if moment.point.startswith("return") else "supply"
    return value + 0.9 * s * (moment.truth.get(f"{where}_air_temp", value) - value)


_ROWS = (
    Trouble("wrong_zero", ("pressure_probe",), "zeroed with pressure on it: up to 8 psi over",
            _wrong_zero),
    Trouble("dirt", ("clamp",), "paint or dirt under the clamp: up to 60 % of the way to the air",
            _dirt),
    Trouble("wrong_pipe", ("clamp",), "on the other pipe", _wrong_pipe),
    Trouble("sun", ("air_probe",), "in the sun: up to 7 K over the air", _sun),
    Trouble("touching_coil", ("air_probe",), "touching the outdoor coil or in its discharge",
            _touching_coil),
    Trouble("mixed_air", ("air_probe",), "at the face of the grille, half room air", _mixed_air),
    Trouble("dry_wick", ("air_probe",), "the wick has dried: wet bulb climbs to dry", _dry_wick),
    Trouble("stuck", ("pressure_probe", "clamp", "air_probe"), "gives its last value over and over",
            _stuck),
    Trouble("spiking", ("pressure_probe", "clamp", "air_probe"), "throws values far off now and "
            "then", _spiking),
    Trouble("dropping_out", ("pressure_probe", "clamp", "air_probe", "clamp_meter", "manometer"),
            "most of its values do not arrive", _dropping_out),
    Trouble("dead", ("pressure_probe", "clamp", "air_probe", "clamp_meter", "manometer"),
            "battery empty: nothing arrives", _dead),
)  # fmt: skip

TROUBLES: Mapping[str, Trouble] = MappingProxyType({row.key: row for row in _ROWS})
