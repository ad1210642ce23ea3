"""What is done to a system on a visit: readings settle after it, and are compared across it."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from nudge.core.language.errors import UnknownName


@dataclass(frozen=True, slots=True)
class Action:
    """One kind of work. `moves_charge` is +1, −1 or 0; then an amount belongs to it.

    `is_noted`: a person notes it as done.
    """

    key: str
    label: str
    moves_charge: int = 0
    settles: tuple[str, ...] = ()
    is_noted: bool = True
    """Observations it makes true: a changed filter is clean."""
    opens: bool = False
    """Done on an open circuit: what was proven tight and dry before it no longer is."""


_OPENED = ("circuit_opened_recently",)
_ROWS = (
    Action("filter_changed", "Filter changed", settles=("filter_clean",)),
    Action("evaporator_cleaned", "Indoor coil cleaned", settles=("evaporator_coil_clean",)),
    Action(
        "condenser_cleaned",
        "Outdoor coil cleaned",
        settles=("condenser_coil_clean", "condenser_wet"),
    ),
    Action("blower_mended", "Blower mended", settles=("blower_capacitor_ok",)),
    Action("bulb_fixed", "Bulb fixed and wrapped", settles=("bulb_secure",)),
    Action("drier_renewed", "Drier renewed", settles=_OPENED, opens=True),
    Action("metering_renewed", "Metering device renewed", settles=_OPENED, opens=True),
    Action("compressor_renewed", "Compressor renewed", settles=_OPENED, opens=True),
    Action("coil_renewed", "Coil renewed", settles=_OPENED, opens=True),
    Action("joint_made", "Joint made anew", settles=_OPENED, opens=True),
    Action("collar_on", "Collar set on the discharge air", settles=("collar_on",)),
    Action("collar_off", "Collar taken off", settles=("collar_off",)),
    Action("refrigerant_added", "Refrigerant added", 1),
    Action("refrigerant_removed", "Refrigerant removed", -1),
    Action(
        "plate_changed",
        "Refrigerant or metering device changed",
        settles=("circuit_opened_recently",),
        is_noted=False,
    ),
    Action("charge_mode_full", "Charge mode on, at full speed", is_noted=False),
    Action(
        "charge_mode_partial",
        "Charge mode on, at the partial speed its maker states",
        is_noted=False,
    ),
    Action("charge_mode_ended", "Charge mode ended, settings put back", is_noted=False),
    Action("charge_mode_lapsed", "Charge mode ended by itself", is_noted=False),
    Action("something_changed", "Something else changed"),
)

STOP_REASONS: Mapping[str, str] = MappingProxyType(
    {
        "short_cycle": "Its own timer: it waits before it starts again",
        "load_control": "The utility holds it off",
        "float_switch": "A float switch is open: water in the pan",
        "door": "A door or panel switch is open",
        "other": "Something else keeps it off",
    }
)
"""Why a system does not run where nothing is wrong with its circuit: events, not faults."""

PLATE_CORRECTED = "plate_corrected"
"""The event of a plate that was written wrong until now: nothing was done to the system."""

ACTIONS: Mapping[str, Action] = MappingProxyType({row.key: row for row in _ROWS})
OPENS = frozenset(row.key for row in _ROWS if row.opens)


def action(name: str) -> Action:
    """The row of an action. Raises: UnknownName, with the nearest."""
    row = ACTIONS.get(name)
    if row is None:
        raise UnknownName("action", name, ACTIONS)
    return row
