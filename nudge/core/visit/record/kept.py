"""What a verdict keeps for later judgements: numbers in core units, in a shape of its own.

The printed answer beside it is what was said, rounded and in somebody's units; nobody reads it
back. A renamed key here is a new `VERSION` with its way of reading the old one.
"""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field
from types import MappingProxyType
from typing import Any

from nudge.core.expectations.by_kind import ALL_SIGNS
from nudge.core.language.callout.spoken_units import value_si
from nudge.core.language.errors import CoreError
from nudge.core.language.units import difference_of, to_si
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.circuit.derived_table import DERIVED

VERSION = 1


@dataclass(frozen=True, slots=True)
class Kept:
    """One verdict, for whoever judges or lists later."""

    advice: str
    decision: str
    headline: str
    hazards: tuple[str, ...]
    readings: Mapping[str, float]
    """By point [core unit]."""
    derived: Mapping[str, float]
    """What was computed from them [core unit]."""
    off: Mapping[str, float] = field(default_factory=lambda: MappingProxyType({}))
    """How far each sign was from what was expected [core unit]."""

    @property
    def was_right(self) -> bool:
        """Nothing to do about the charge, and nothing dangerous."""
        return self.advice == "leave" and not self.hazards

    def to_json(self) -> dict[str, Any]:
        """Plain values, with the version of their shape."""
        return asdict(self) | {"version": VERSION, "hazards": list(self.hazards)}


def read_kept(body: Mapping[str, Any]) -> Kept:
    """Read what `to_json` wrote. Raises: CoreError, for a shape this Nudge does not know."""
    if body.get("version") != VERSION:
        raise CoreError(
            "verdict",
            f"A verdict was kept in shape {body.get('version')!r}; this "
            f"Nudge reads shape {VERSION}. Run the newer Nudge.",
        )
    fields = {key: value for key, value in body.items() if key != "version"}
    return Kept(**fields | {"hazards": tuple(body["hazards"])})


def read_answer(answer: Mapping[str, Any], request: Mapping[str, Any]) -> Kept:
    """A verdict from before `VERSION` 1, of which only the printed answer (°F, psi) was kept."""
    charge = answer["charge"]
    given: Mapping[str, Sequence[Any]] = request.get("readings") or {}
    return Kept(
        charge["advice"],
        (answer.get("decision") or {}).get("key", ""),
        answer.get("look") or charge["headline"],
        tuple(one["key"] for one in answer["hazards"]),
        {
            point: value_si(value, unit, POINTS[point].quantity)
            for point, (value, unit) in given.items()
            if point in POINTS
        },
        {
            key: to_si(value, DERIVED[key].quantity, "ip")
            for key, value in answer["derived"].items()
            if key in DERIVED and isinstance(value, int | float)
        },
        {
            one["key"]: to_si(one["off"], difference_of(ALL_SIGNS[one["key"]].quantity), "ip")
            for one in answer.get("signs", [])
            if one["key"] in ALL_SIGNS and one["off"] is not None
        },
    )
