"""A cold room over the wire: its rungs as measured beside those of its design."""

from dataclasses import dataclass
from typing import Literal

from nudge.contract.opened import OpenedOut, opened
from nudge.core.language.said import Measure, difference, minutes, say, temperature
from nudge.core.language.units import Quantity, UnitSystem
from nudge.core.physics.cold_room.pull_down import NEAR_K
from nudge.core.physics.cold_room.room import COMPRESSOR_K, ColdRoom
from nudge.core.settling.box import near_said
from nudge.services.snapshot import Snapshot

OPENS = {
    "boils": "design_evaporating",
    "suction": "design_suction",
    "condenses": "design_condensing",
    "head": "design_head",
}
"""The formula that a row's design opens to."""


@dataclass(frozen=True, slots=True, kw_only=True)
class RungOut:
    """One number beside what the design asks; "" where either is not known."""

    key: str
    label: str
    now: str
    expected: str
    opened: OpenedOut | None = None
    """What the design asks for, with its formula and inputs."""


@dataclass(frozen=True, slots=True, kw_only=True)
class RoomOut:
    """What a cold room's visit shows."""

    kind: Literal["", "freezer", "cooler"]
    rows: list[RungOut]
    is_guessed: bool
    """A class is missing on the plate: the usual one stood in for it."""
    falls: str
    """How it falls towards its set point, in words; "" where it does not or nobody watched."""


def room_out(snapshot: Snapshot, units: UnitSystem) -> RoomOut | None:
    """A cold room's rungs; None for other plant, or where nothing is assessed."""
    found = snapshot.assessment
    room = None if found is None else found.case.room
    if found is None or room is None:
        return None
    return RoomOut(
        kind="" if room.freezer is None else "freezer" if room.freezer else "cooler",
        rows=_rows(snapshot, room, units),
        is_guessed=room.at_box is not None and room.at_box.is_guessed,
        falls=_falls(room, units),
    )


def _rows(snapshot: Snapshot, room: ColdRoom, units: UnitSystem) -> list[RungOut]:
    assert snapshot.assessment is not None
    case, rung = snapshot.assessment.case, room.at_box or room.at_set
    read, derived = case.readings.get, case.derived

    def at(value: float | None, quantity: Quantity) -> str:
        return "" if value is None else Measure(value, quantity).text(units)

    workings = case.own_workings()

    def row(key: str, label: str, quantity: Quantity, now: float | None, wanted: str) -> RungOut:
        working = workings.get(OPENS.get(key, ""))
        made = None if working is None else opened(working, units)
        return RungOut(key=key, label=label, now=at(now, quantity), expected=wanted, opened=made)

    temp, psi, k = Quantity.TEMPERATURE, Quantity.PRESSURE, Quantity.TEMPERATURE_DIFFERENCE
    low, high = room.coil_window_k
    window = f"{difference(low).number(units)} to {difference(high).text(units)}"
    comes = None if derived.superheat_at_coil else derived.superheat
    return [
        row("box", "Box", temp, read("box_air_temp"), at(case.plate.box_set_point_c, temp)),
        row(
            "boils",
            "Evaporating",
            temp,
            derived.evaporator_saturation,
            "" if rung is None else at(rung.evaporating_c, temp),
        ),
        row(
            "suction",
            "Suction",
            psi,
            read("suction_pressure"),
            "" if rung is None else at(rung.suction_kpa, psi),
        ),
        row(
            "condenses",
            "Condensing",
            temp,
            derived.condenser_saturation,
            "" if rung is None else at(rung.condensing_c, temp),
        ),
        row(
            "head",
            "Head",
            psi,
            read("liquid_pressure"),
            "" if rung is None else at(rung.head_kpa, psi),
        ),
        row("coil", "Superheat at the coil", k, derived.evaporator_superheat, window),
        row(
            "compressor",
            "At the compressor",
            k,
            comes,
            f"{difference(COMPRESSOR_K).text(units)} or more",
        ),
    ]


def _falls(room: ColdRoom, units: UnitSystem) -> str:
    falls = room.falls
    if falls is None or room.off_k is None or room.off_k <= NEAR_K:
        return ""
    curve = say(
        "It falls towards {end}, time constant {tau}.",
        end=temperature(falls.ends_c),
        tau=minutes(falls.tau_min),
    )
    return f"{curve.text(units)} {near_said(falls).text(units)}"
