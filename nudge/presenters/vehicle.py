"""A vehicle's three tests over the wire, and the balance they are drawn as."""

from dataclasses import dataclass

from nudge.contract.opened import OpenedOut, opened
from nudge.core.language.said import difference
from nudge.core.language.units import UnitSystem
from nudge.core.physics.vehicle.three_tests import (
    CONDENSER_K,
    OVER_VENT_K,
    CoilTests,
    Place,
    ThreeTests,
)
from nudge.core.physics.vehicle.workings import (
    AIR_DROP,
    CONDENSER_DROP,
    LEAST_AIR_DROP,
    OVER_VENT,
    working_key,
)
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
    opened: OpenedOut | None
    """The measured difference, with its formula and inputs."""
    least: OpenedOut | None = None
    """What it has to be at least, where that is worked out."""


@dataclass(frozen=True, slots=True, kw_only=True)
class VehicleOut:
    """The three tests; `tilt` is the beam, −1 to 1, down on the side of the larger drop: the
    condenser's at −1, the air's at 1. `tongue` is the outlet over the vent in shares of its window,
    0 to 1 within it. `hung` is what hangs on the balance: the condenser's, and the air's and the
    outlet's of the evaporator that stands farthest off.
    """

    tests: list[VehicleTestOut]
    hung: list[str]
    tilt: float | None
    tongue: float | None


def vehicle_out(snapshot: Snapshot, units: UnitSystem) -> VehicleOut | None:
    """The three tests of a vehicle's visit; None for other plant."""
    found = snapshot.assessment
    tests = None if found is None else found.case.vehicle
    if tests is None:
        return None
    workings = found.case.own_workings() if found else {}

    def made(key: str) -> OpenedOut | None:
        return opened(workings[key], units) if key in workings else None

    condenser = VehicleTestOut(
        key="condenser",
        label="Condenser’s drop",
        now=_said(tests.condenser_k, units),
        passes=_between(CONDENSER_K, units),
        place=tests.condenser,
        opened=made(CONDENSER_DROP.key),
    )
    rows = [condenser]
    for coil in tests.coils:
        name = f", {coil.spot.name}" if tests.has_two else ""
        against = "inlet" if coil.by_inlet else "vent"
        rows += [
            VehicleTestOut(
                key=working_key(AIR_DROP, coil.spot),
                label=f"Air’s drop{name}",
                now=_said(coil.air_k, units),
                passes=f"{least} or more" if (least := _said(coil.least_air_k, units)) else "",
                place=coil.air,
                opened=made(working_key(AIR_DROP, coil.spot)),
                least=made(LEAST_AIR_DROP.key),
            ),
            VehicleTestOut(
                key=working_key(OVER_VENT, coil.spot),
                label=f"Outlet over {against}{name}",
                now=_said(coil.over_vent_k, units),
                passes=_between(OVER_VENT_K, units),
                place=coil.over_vent,
                opened=made(working_key(OVER_VENT, coil.spot)),
            ),
        ]
    worst = max(tests.coils, key=lambda coil: coil.off_by)
    drawn = 1 + 2 * tests.coils.index(worst)
    return VehicleOut(
        tests=rows,
        hung=[condenser.key, rows[drawn].key, rows[drawn + 1].key],
        tilt=_tilt(tests, worst),
        tongue=_tongue(worst),
    )


def _said(value: float | None, units: UnitSystem) -> str:
    return "" if value is None else difference(value).text(units)


def _between(window: tuple[float, float], units: UnitSystem) -> str:
    low, high = (difference(k) for k in window)
    return f"{low.number(units)} to {high.text(units)}"


def _tilt(tests: ThreeTests, coil: CoilTests) -> float | None:
    if coil.air_k is None or tests.condenser_k is None:
        return None
    return max(-MOST_TILT, min(MOST_TILT, (coil.air_k - tests.condenser_k) / EVEN_K))


def _tongue(coil: CoilTests) -> float | None:
    if coil.over_vent_k is None:
        return None
    low, high = OVER_VENT_K
    return max(-1.0, min(2.0, (coil.over_vent_k - low) / (high - low)))
