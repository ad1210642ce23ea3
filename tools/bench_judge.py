"""The judge's speed in process: an assessment, a decision with its robustness, advice after doses.

CPU time, median of repeated runs, each against opening the same case (arithmetic of the readings
alone), its two sides interleaved. What is remembered from one call to the next is forgotten or
moved past before every run, as a new reading does.
"""

import statistics
import time
from collections.abc import Callable
from itertools import count
from typing import Any

from nudge.contract.assessing import assess_request
from nudge.contract.request import AssessIn
from nudge.core.behaviours.case import Context, open_case
from nudge.core.charging.advise import advise
from nudge.core.charging.sizing import Dosed
from nudge.core.judgement.assess import assess
from nudge.core.language.units import KPA_PER_PSI, degrees_f, fahrenheit
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate

RUNS = 60
PLATE = Plate(
    "R-410A",
    MeteringDevice.TXV,
    nominal_capacity_w=36_000 * 0.29307,
    rated_seer=14,
    target_subcooling_k=degrees_f(10),
)
LOW = {
    "suction_pressure": 106.0,
    "liquid_pressure": 300.0,
    "suction_line_temp": 60.0,
    "liquid_line_temp": 94.0,
    "outdoor_air_temp": 86.0,
    "return_air_temp": 76.0,
    "return_air_wet_bulb": 63.0,
    "supply_air_temp": 62.0,
    "discharge_line_temp": 170.0,
}
SEEN = frozenset(
    {
        "filter_clean",
        "evaporator_coil_clean",
        "condenser_coil_clean",
        "condenser_fan_ok",
        "readings_confirmed",
    }
)


def _readings(step: int, over_f: float = 0.0) -> dict[str, float]:
    """The low system, a hair from the last time, so that nothing is answered from memory."""
    found = {
        p: v * KPA_PER_PSI if p.endswith("pressure") else fahrenheit(v) for p, v in LOW.items()
    }
    found["suction_pressure"] += 1e-4 * step
    found["liquid_line_temp"] -= degrees_f(over_f)
    return found


def _median_ms(call: Callable[[], object]) -> float:
    """Median CPU time of a call, and of opening the case beside it [ms]."""
    times = []
    for _ in range(RUNS):
        began = time.process_time()
        call()
        times.append((time.process_time() - began) * 1000)
    return statistics.median(times)


def judge(request: dict[str, Any]) -> None:
    """Print the three figures."""
    step, context = count(), Context(40, 40, SEEN)
    base = _median_ms(lambda: open_case(PLATE, _readings(next(step)), context))

    def asked() -> object:
        moved = {"suction_line_temp": 53 + 1e-4 * next(step)}
        body = request | {"readings": request["readings"] | moved}
        return assess_request(AssessIn.model_validate(body)).to_json()

    def after_three() -> object:
        history = [
            Dosed(40 + 15 * n, 0.17 if n else 0.0, _readings(next(step), n)) for n in range(4)
        ]
        return advise(PLATE, history, Context(85, 15, SEEN))

    for title, call in (
        ("/api/assess in process, from its JSON to its JSON", asked),
        ("a decision with its robustness", lambda: assess(PLATE, _readings(next(step)), context)),
        ("advice after three doses", after_three),
    ):
        ours = _median_ms(call)
        print(
            f"{title}: {ours:.1f} ms of CPU; {ours / base:.0f} × opening its case ({base:.3f} ms)"
        )
