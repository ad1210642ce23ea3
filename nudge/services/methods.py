"""Which school of targets a workshop starts from: a default by device, overridden by a system."""

from collections.abc import Mapping
from dataclasses import dataclass

from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.physics.circuit.equipment import device_named
from nudge.core.targets.choose import methods_for_charge
from nudge.core.targets.school import School
from nudge.services.clock import Clock
from nudge.store.database import Database
from nudge.store.repositories import settings
from nudge.store.tables import System


@dataclass(frozen=True, slots=True)
class MethodChoice:
    """A setting: the devices it is for, and the schools that make sense for them."""

    key: str
    label: str
    judges: tuple[str, ...]

    def schools(self) -> list[School]:
        return [s for s in methods_for_charge() if s.judges in self.judges]


METHOD_CHOICES: Mapping[str, MethodChoice] = {
    "valve_method": MethodChoice(
        "valve_method", "With an expansion valve", ("subcooling", "approach")
    ),
    "orifice_method": MethodChoice(
        "orifice_method", "With a fixed orifice", ("superheat", "approach")
    ),
}


class Methods:
    """The use cases of default methods."""

    def __init__(self, database: Database, clock: Clock) -> None:
        self._database, self._clock = database, clock

    def chosen(self) -> dict[str, str]:
        """The default of each choice; "" where the most trusted school simply wins."""
        with self._database.reading() as session:
            kept = settings.all_settings(session)
        return {key: kept.get(key, "") for key in METHOD_CHOICES}

    def choose(self, key: str, method: str) -> None:
        """Set a default, or "" for none. Raises: UnknownName, CoreError."""
        if key not in METHOD_CHOICES:
            raise UnknownName("setting", key, METHOD_CHOICES)
        check_method(method, METHOD_CHOICES[key].judges)
        with self._database.writing() as session:
            settings.choose(session, key, method, self._clock())


def check_method(method: str, judges: tuple[str, ...] | None = None) -> str:
    """A method as it will be stored. Raises: UnknownName; CoreError, if it judges otherwise."""
    if not method:
        return ""
    schools = {school.key: school for school in methods_for_charge()}
    if method not in schools:
        raise UnknownName("method", method, schools)
    if judges is not None and schools[method].judges not in judges:
        raise CoreError("method", f"{schools[method].label} does not fit this kind of device.")
    return method


def preferred_methods(row: System, chosen: Mapping[str, str]) -> tuple[str, ...]:
    """Methods to try first for a system: its own, then the workshop's for its device."""
    valve = device_named(row.metering_device).is_valve
    default = chosen.get("valve_method" if valve else "orifice_method", "")
    return tuple(method for method in (row.method, default) if method)
