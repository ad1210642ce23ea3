"""The instruments a workshop carries, by what they read: their own ± in place of the usual one.

An instrument's own sheet wins over its kind's ±. Out of calibration nobody knows what it errs: it
counts twice. A hose ages, and says so; it reads nothing.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from types import MappingProxyType

from nudge.core.language.errors import CoreError, Impossible, UnknownName
from nudge.core.language.said import Measure, say
from nudge.core.language.units import Quantity
from nudge.core.language.vocabulary.accuracy import ACCURACY, Accuracy

LAPSED = 2.0
"""Out of calibration an instrument's ± counts so many times."""
LEAST_OF_USUAL, MOST_OF_USUAL = 0.02, 20.0
"""A stated ± is believed between these shares of its kind's usual one."""
HOSE_YEARS = 3
"""A hose older than this is renewed: its seals and its depressor. Trade rule."""


@dataclass(frozen=True, slots=True)
class InstrumentSort:
    """One kind of instrument: the rows of `ACCURACY` it reads, the first of which is its own ±."""

    key: str
    label: str
    reads: tuple[str, ...]
    quantity: Quantity | None
    """What its ± is stated in; None where it reads nothing."""
    zeroes: bool = False
    has_hoses: bool = False


_ROWS = (
    InstrumentSort(
        "gauges", "Gauges or pressure probes", ("pressure",), Quantity.PRESSURE, True, True
    ),
    InstrumentSort("clamps", "Pipe clamps", ("line_temp",), Quantity.TEMPERATURE_DIFFERENCE),
    InstrumentSort(
        "air_probes", "Air probes", ("air_temp", "wet_bulb"), Quantity.TEMPERATURE_DIFFERENCE
    ),
    InstrumentSort("humidity_probe", "Humidity probe", ("humidity",), Quantity.HUMIDITY),
    InstrumentSort("manometer", "Manometer", ("static_pressure",), Quantity.STATIC_PRESSURE, True),
    InstrumentSort("clamp_meter", "Clamp meter", ("current",), Quantity.CURRENT, True),
    InstrumentSort("power_meter", "Power meter", ("power",), Quantity.POWER),
    InstrumentSort("scale", "Charging scale", ("mass",), Quantity.MASS, True),
    InstrumentSort("vacuum_gauge", "Vacuum gauge", ("vacuum",), Quantity.VACUUM),
    InstrumentSort("hoses", "Hoses", (), None, has_hoses=True),
)
INSTRUMENT_SORTS: Mapping[str, InstrumentSort] = MappingProxyType({row.key: row for row in _ROWS})


@dataclass(frozen=True, slots=True)
class Carried:
    """An instrument in use: its own ± [core units], a share of the reading, its calibration."""

    sort: str
    fixed: float | None = None
    share: float | None = None
    is_lapsed: bool = False


def sort_named(key: str) -> InstrumentSort:
    """A kind of instrument. Raises: UnknownName, with the nearest."""
    if key not in INSTRUMENT_SORTS:
        raise UnknownName("kind of instrument", key, INSTRUMENT_SORTS)
    return INSTRUMENT_SORTS[key]


def check_fixed(sort: InstrumentSort, fixed: float) -> None:
    """Raises: Impossible, for a ± that no such instrument has."""
    if sort.quantity is None:
        raise CoreError("fixed", f"{sort.label} read nothing: they have no ±.")
    usual = ACCURACY[sort.reads[0]].fixed
    if not LEAST_OF_USUAL * usual <= fixed <= MOST_OF_USUAL * usual:
        said = say(
            "± {fixed} is no such instrument's accuracy: {low} to {high}. Check the number and its "
            "unit.",
            fixed=Measure(fixed, sort.quantity),
            low=Measure(LEAST_OF_USUAL * usual, sort.quantity),
            high=Measure(MOST_OF_USUAL * usual, sort.quantity),
        )
        raise Impossible("fixed", said)


def own_accuracies(carried: Sequence[Carried]) -> dict[str, Accuracy]:
    """What the carried instruments err, by the key of `ACCURACY`; of several of a kind the worst
    counts, because nobody says which one read.
    """
    found: dict[str, Accuracy] = {}
    for one in carried:
        for key in sort_named(one.sort).reads:
            mine = _of(one, ACCURACY[key])
            if key not in found or mine.fixed > found[key].fixed:
                found[key] = mine
    return found


def _of(one: Carried, usual: Accuracy) -> Accuracy:
    fixed = usual.fixed if one.fixed is None else one.fixed
    share = usual.share if one.share is None else one.share
    times = LAPSED if one.is_lapsed else 1.0
    reason = "its own, by the register"
    if one.is_lapsed:
        reason = "its own, by the register; out of calibration, so it counts twice"
    return replace(usual, fixed=times * fixed, share=times * share, reason=reason)
