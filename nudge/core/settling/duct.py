"""Gates of the air over the coils: the duct, its filters, its measured airflow."""

from nudge.core.behaviours.case import Case
from nudge.core.language.errors import CoreError
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity
from nudge.core.physics.air.airflow import CLIMATES, TOLERANCE
from nudge.core.physics.air.static import DuctReading, starves_the_blower, static_trouble
from nudge.core.physics.circuit.derived import blower_static
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.targets.choose import Targets, silent_words


def blower_table_silent(case: Case, targets: Targets) -> Said | None:
    chart, static = case.plate.chart("blower_airflow"), blower_static(case.readings)
    if chart is None or static is None or "airflow" in case.readings:
        return None
    try:
        chart.value(static, case.plate.blower_tap)
    except CoreError as silent:
        return silent_words(silent)
    return None


def duct_trouble(case: Case, targets: Targets) -> Said | None:
    return None if _starved_and_unmeasured(case) else static_trouble(_duct(case))


def duct_unmeasured(case: Case, targets: Targets) -> Said | None:
    return static_trouble(_duct(case)) if _starved_and_unmeasured(case) else None


def _starved_and_unmeasured(case: Case) -> bool:
    return case.derived.airflow_per_capacity is None and starves_the_blower(_duct(case))


def _duct(case: Case) -> DuctReading:
    read = case.readings.get
    return DuctReading(
        read("supply_static"),
        read("return_static"),
        read("total_external_static"),
        read("filter_pressure_drop"),
    )


def airflow_out(case: Case, targets: Targets) -> Said | None:
    flow = case.derived.airflow_per_capacity
    if flow is None:
        return None
    least, most = airflow_range(case.plate)
    if least <= flow <= most:
        return None
    return say(
        "Airflow {flow} is outside {least} to {most}. Put the air right first, then read again.",
        flow=Measure(flow, Quantity.AIRFLOW_PER_CAPACITY),
        least=Measure(least, Quantity.AIRFLOW_PER_CAPACITY),
        most=Measure(most, Quantity.AIRFLOW_PER_CAPACITY),
    )


def airflow_range(plate: Plate) -> tuple[float, float]:
    """Standard airflow per capacity at which charge may be judged [L/s per kW].

    The maker's own figure ±12 %; without one, whatever some climate asks for, ±12 %.
    """
    if plate.rated_airflow_lps is not None and plate.nominal_capacity_w is not None:
        own = plate.rated_flow_per_capacity()
        return own * (1 - TOLERANCE), own * (1 + TOLERANCE)
    asked = [climate.lps_per_kw for climate in CLIMATES.values()]
    return min(asked) * (1 - TOLERANCE), max(asked) * (1 + TOLERANCE)
