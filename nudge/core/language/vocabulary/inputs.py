"""A reading as what went into a number."""

from nudge.core.language.said import Measure
from nudge.core.language.vocabulary.accuracy import USUAL, Own, accuracy_of
from nudge.core.language.vocabulary.points import POINTS, Readings
from nudge.core.language.working import Input


def read_input(key: str, point: str, readings: Readings, own: Own = USUAL) -> Input:
    """The reading at a point, under a name of the formula, with its instrument's ±.

    Raises: KeyError, where nobody read it.
    """
    row, value = POINTS[point], readings[point]
    limit = accuracy_of(point, own).limit(value)
    return Input(key, row.label, Measure(value, row.quantity), "typed", limit)
