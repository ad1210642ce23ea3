"""Between a stored system and the core's plate."""

from nudge.core.vocabulary.equipment import PLATE_NUMBERS, Application, MeteringDevice, Plate
from nudge.store.tables import System


def plate_of(row: System) -> Plate:
    """The core's view of a stored system."""
    return Plate(
        refrigerant=row.refrigerant,
        metering_device=MeteringDevice(row.metering_device),
        application=Application(row.application),
        **{number.field: getattr(row, number.field) for number in PLATE_NUMBERS},
    )
