"""Between a stored system and the core's plate."""

from contextlib import suppress
from dataclasses import replace

from nudge.core.behaviours.rows import behaviour_of
from nudge.core.language.errors import CoreError
from nudge.core.language.units import UnitSystem
from nudge.core.physics.chart.chart import Chart
from nudge.core.physics.chart.chart_text import read_chart
from nudge.core.physics.circuit.equipment import (
    Plate,
    ReversingValve,
    application_named,
    device_named,
)
from nudge.core.physics.circuit.plate_fields import PLATE_CHOICES, PLATE_NUMBERS
from nudge.services.zone_packing import parts_from
from nudge.store.tables import ChartRow, System


def plate_of(row: System) -> Plate:
    """The core's view of a stored system; a plant with many rooms has its drawing's pipes."""
    plate = Plate(
        refrigerant=row.refrigerant,
        metering_device=device_named(row.metering_device),
        application=application_named(row.application),
        indoor_unit=row.indoor_unit,
        blower_tap=row.blower_tap,
        reversing_valve=ReversingValve(row.reversing_valve),
        charts=tuple(chart for _, chart, _ in readable_charts(row)),
        **{number.field: getattr(row, number.field) for number in PLATE_NUMBERS},
        **{choice.key: getattr(row, choice.key) for choice in PLATE_CHOICES},
    )
    if not behaviour_of(plate).reads_logs:
        return plate
    drawn = () if row.drawing is None else parts_from(row.drawing.parts).pipes
    return replace(plate, liquid_pipes=drawn)


def kind_plate_of(row: System) -> Plate:
    """What of a plate says which kind of plant it is: no charts, no numbers."""
    return Plate(
        refrigerant=row.refrigerant,
        metering_device=device_named(row.metering_device),
        application=application_named(row.application),
        reversing_valve=ReversingValve(row.reversing_valve),
    )


def readable_charts(row: System) -> list[tuple[ChartRow, Chart, UnitSystem]]:
    """The charts that count, each with its row and the units it was written in.

    The latest of each kind, unless it was taken away; one that a stricter Nudge refuses is left
    out, and stays in the record.
    """
    latest = {chart.kind: chart for chart in row.charts}
    found = []
    for kept in latest.values():
        units: UnitSystem = kept.units  # type: ignore[assignment]
        if kept.text:
            with suppress(CoreError):
                found.append((kept, read_chart(kept.kind, kept.text, units), units))
    return found
