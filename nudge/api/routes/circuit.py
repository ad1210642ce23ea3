"""The opened circuit of a visit, and the settings its machine was left with."""

from fastapi import APIRouter

from nudge.api.access import UnitsIn, WorkshopIn
from nudge.presenters.circuit import NewCircuitState
from nudge.presenters.machine_settings import (
    NewSetting,
    SettingsCarried,
    SettingsOut,
    settings_out,
)
from nudge.presenters.standing import StandingOut, standing_out

router = APIRouter(prefix="/api")


@router.post("/visits/{visit_id}/circuit")
def move_circuit(
    workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewCircuitState
) -> StandingOut:
    """The circuit is in another state now. What guards it and is open is refused by name."""
    return standing_out(workshop.circuit.move(visit_id, body.id, body.to, body.reason), units)


@router.get("/visits/{visit_id}/settings")
def machine_settings(workshop: WorkshopIn, visit_id: str) -> SettingsOut:
    """The settings of the machine as they are left, beside last time's."""
    return settings_out(workshop.settings.of(visit_id))


@router.post("/visits/{visit_id}/settings")
def put_setting(
    workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: NewSetting
) -> StandingOut:
    """Write a setting down; one that is not its maker's says why."""
    return standing_out(workshop.settings.put(visit_id, body.id, body.to_core()), units)


@router.post("/visits/{visit_id}/carried-settings")
def carry_settings(
    workshop: WorkshopIn, units: UnitsIn, visit_id: str, body: SettingsCarried
) -> StandingOut:
    """Take over the settings a sister machine was last left with."""
    return standing_out(workshop.settings.carry(visit_id, body.id, body.from_system), units)
