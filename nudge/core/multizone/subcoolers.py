"""What each of a plant's two subcoolers in series adds, and what their vapour comes back with."""

from collections.abc import Mapping
from functools import partial

from nudge.core.language.said import Measure
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, Input, Values, Working, work
from nudge.core.multizone.lines import kept_samples, mean_at
from nudge.core.physics.zones.log import ZoneLog
from nudge.core.physics.zones.points import OUTDOOR, zone_point

_T, _D = Quantity.TEMPERATURE, Quantity.TEMPERATURE_DIFFERENCE
FIRST = Formula(
    "zone_subcooler_first",
    "Subcooling after the first",
    _D,
    "What the condenser and the first subcooler give: 9 to 27 °F on a plant that is in order. Low "
    "here already, the liquid was short before it came to them.",
    "condensing − liquid between the subcoolers",
    "{condensing_temp} − {liquid_between_temp} = {result}",
    ("condensing_temp", "liquid_between_temp"),
    "Trade figures of such plants; the maker’s hold.",
)
SECOND = Formula(
    "zone_subcooler_second",
    "Subcooling after the second",
    _D,
    "What leaves for the rooms with: 27 to 54 °F. Lift and long pipes take their share of it.",
    "condensing − liquid after the subcoolers",
    "{condensing_temp} − {liquid_temp} = {result}",
    ("condensing_temp", "liquid_temp"),
    "Trade figures of such plants; the maker’s hold.",
)
STEP = Formula(
    "zone_subcooler_step",
    "What the second adds",
    _D,
    "None, while the first is right: the second’s own valve or coil. Its vapour’s superheat tells "
    "which.",
    "liquid between the subcoolers − liquid after them",
    "{liquid_between_temp} − {liquid_temp} = {result}",
    ("liquid_between_temp", "liquid_temp"),
    "Arithmetic.",
)
RETURN = Formula(
    "zone_subcooler_return",
    "Superheat of their vapour",
    _D,
    "About 4 °F. More, and their valve feeds too little or is fed gas; none, and it floods back.",
    "vapour back from the subcoolers − evaporating",
    "{subcooler_return_temp} − {evaporating_temp} = {result}",
    ("subcooler_return_temp", "evaporating_temp"),
    "Trade figures of such plants; the maker’s hold.",
)
SUBCOOLERS = (FIRST, SECOND, STEP, RETURN)


def subcooler_steps(log: ZoneLog) -> Mapping[str, Working]:
    """Each number the log has both points of, over the samples that count: by formula."""
    kept, found = kept_samples(log), {}
    for formula in SUBCOOLERS:
        warm, cold = formula.uses
        means = {key: mean_at(log.column(OUTDOOR, key), kept) for key in formula.uses}
        inputs = {
            key: Input(key, zone_point(key).label, Measure(mean, _T), "imported")
            for key, mean in means.items()
            if mean is not None
        }
        if len(inputs) == len(means):
            found[formula.key] = work(formula, partial(_less, warm, cold), inputs)
    return found


def _less(warm: str, cold: str, values: Values) -> float:
    return values[warm] - values[cold]
