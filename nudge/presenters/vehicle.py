"""A vehicle's three tests over the wire, and the balance they are drawn as."""

from dataclasses import dataclass

from nudge.core.language.said import difference
from nudge.core.language.units import UnitSystem
from nudge.core.physics.vehicle.three_tests import CONDENSER_K, OVER_VENT_K, Place, ThreeTests
from nudge.services.snapshot import Snapshot

MOST_TILT = 1.0
EVEN_K = 20.0
"""The two drops differ by so much where the beam stands at its stop."""


@dataclass(frozen=True, slots=True, kw_only=True)
class VehicleTestOut:
    """One of the three: as measured, what passes, and where it stands."""

    key: str
    label: str
    now: str
    passes: str
    place: Place


@dataclass(frozen=True, slots=True, kw_only=True)
class VehicleOut:
    """The three tests; `tilt` is the beam, −1 to 1, down on the side of the larger drop: the
    condenser's at −1, the air's at 1. `tongue` is the outlet over the vent in shares of its window,
    0 to 1 within it.
    """

    tests: list[VehicleTestOut]
    tilt: float | None
    tongue: float | None


def vehicle_out(snapshot: Snapshot, units: UnitSystem) -> VehicleOut | None:
    """The three tests of a vehicle's visit; None for other plant."""
    found = snapshot.assessment
    tests = None if found is None else found.case.vehicle
    if tests is None:
        return None
    return VehicleOut(
        tests=[
            _row(
                "condenser",
                "Condenser’s drop",
                tests.condenser_k,
                units,
                _between(CONDENSER_K, units),
                tests.condenser,
            ),
            _row(
                "air",
                "Air’s drop",
                tests.air_k,
                units,
                ""
                if tests.least_air_k is None
                else f"{difference(tests.least_air_k).text(units)} or more",
                tests.air,
            ),
            _row(
                "over_vent",
                "Outlet over inlet" if tests.by_inlet else "Outlet over vent",
                tests.over_vent_k,
                units,
                _between(OVER_VENT_K, units),
                tests.over_vent,
            ),
        ],
        tilt=_tilt(tests),
        tongue=_tongue(tests),
    )


def _row(
    key: str, label: str, value: float | None, units: UnitSystem, passes: str, place: Place
) -> VehicleTestOut:
    now = "" if value is None else difference(value).text(units)
    return VehicleTestOut(key=key, label=label, now=now, passes=passes, place=place)


def _between(window: tuple[float, float], units: UnitSystem) -> str:
    low, high = (difference(k) for k in window)
    return f"{low.number(units)} to {high.text(units)}"


def _tilt(tests: ThreeTests) -> float | None:
    if tests.air_k is None or tests.condenser_k is None:
        return None
    return max(-MOST_TILT, min(MOST_TILT, (tests.air_k - tests.condenser_k) / EVEN_K))


def _tongue(tests: ThreeTests) -> float | None:
    if tests.over_vent_k is None:
        return None
    low, high = OVER_VENT_K
    return max(-1.0, min(2.0, (tests.over_vent_k - low) / (high - low)))
