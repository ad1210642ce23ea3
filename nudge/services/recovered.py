"""What may become of what a visit recovered, by what was found on it."""

from nudge.core.opening.recovery import Came, FateRow, fate_of
from nudge.core.physics.circuit.whole import whole_charge
from nudge.core.physics.refrigerant.catalogue import refrigerant
from nudge.core.visit.steps_opening import OPENED
from nudge.services.plates import plate_of
from nudge.services.snapshot import Snapshot


def fate_now(snapshot: Snapshot) -> FateRow | None:
    """The fate of what came out; None where nothing did."""
    known, acid = snapshot.around.known, acid_found(snapshot)
    if not any(e.kind == "refrigerant_removed" for e in snapshot.visit.standing_events):
        return None
    if known.way.out_kg <= 0 and not known.way.is_open:
        return None
    short = known.recovered is not None and known.recovered.verdict == "short"
    return fate_of(
        Came(
            condition_now(snapshot),
            acid,
            "standing_pressure_high" in snapshot.observations,
            refrigerant(snapshot.visit.system.refrigerant).is_blend,
            short,
        )
    )


def acid_found(snapshot: Snapshot) -> str:
    """What the acid test of this visit showed; "" where there was none."""
    row = snapshot.folder.checks.get("acid_test")
    return "" if row is None else str(row.entries.get("acid", ""))


def condition_now(snapshot: Snapshot) -> str:
    """What would come out of the system: clean, or burnt where the oil is acid."""
    return "burnt" if acid_found(snapshot) == "strong" else "clean"


def expected_kg(snapshot: Snapshot, removes: bool) -> float:
    """The amount nobody need ask about [kg]: all of it on a repair, the fill of an empty one."""
    known, visit = snapshot.around.known, snapshot.visit
    if removes:
        whole = whole_charge(plate_of(visit.system)).kg
        return whole if visit.kind in OPENED else 0.0
    if known.fill is None:
        return 0.0
    return max(known.fill.kg - known.way.in_kg, 0.0)
