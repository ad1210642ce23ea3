"""A standing nitrogen test, corrected for temperature."""

from dataclasses import dataclass
from typing import Literal

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import KPA_PER_PSI, Quantity, atmospheric_kpa, degrees_f
from nudge.core.language.working import Formula, Input, Values, Working, work
from nudge.core.physics.tightness.nitrogen import amount, pressure_of

USUAL_LOW_KPA, USUAL_HIGH_KPA = 150 * KPA_PER_PSI, 200 * KPA_PER_PSI
LEAST_MINUTES = 10.0
GAUGE_REPEATS_KPA = 0.5 * KPA_PER_PSI
TEMPERATURE_REPEATS_K = degrees_f(1)
Outcome = Literal["holds", "leaks", "rises"]

EXPECTED = Formula(
    "test_pressure_expected",
    "Pressure it should show",
    Quantity.TEST_PRESSURE,
    "A closed gas follows its temperature: {d10} cooler is about 2 % less, with no leak.",
    "absolute start pressure × (Z T) now ÷ (Z T) at the start, back to gauge",
    "{test_pressure_start}, made absolute, from {test_temp_start} to {test_temp_now}, as real "
    "nitrogen = {result}",
    ("test_pressure_start", "test_temp_start", "test_temp_now"),
    "Virial equation of nitrogen, fitted to CoolProp 8.0.0.",
)
LOST = Formula(
    "test_pressure_lost",
    "Really lost",
    Quantity.TEST_PRESSURE_DIFFERENCE,
    "What temperature does not explain.",
    "pressure it should show − pressure it shows",
    "{test_pressure_expected} − {test_pressure_now} = {result}",
    ("test_pressure_expected", "test_pressure_now"),
    "Gay-Lussac's law.",
)


@dataclass(frozen=True, slots=True)
class PressureTest:
    """The test worked out; `outcome` only once there is a second pressure."""

    expected: Working
    lost: Working | None
    outcome: Outcome | None
    said: tuple[Said, ...]


def pressure_test(
    start_kpa: float,
    start_c: float,
    now_c: float,
    now_kpa: float | None,
    minutes: float | None = None,
    elevation_m: float = 0,
) -> PressureTest:
    """Judge a nitrogen test from gauge pressures [kPa] and gas (pipe) temperatures [°C].

    Lost beyond the ± of both readings is a leak. The gauge is the same one twice, so its ±
    is how well it repeats, not how true it is.
    """
    atmosphere = atmospheric_kpa(elevation_m)

    def should_show(values: Values) -> float:
        held = amount(values["test_pressure_start"] + atmosphere, values["test_temp_start"])
        return pressure_of(held, values["test_temp_now"]) - atmosphere

    inputs = {
        "test_pressure_start": _typed(
            "test_pressure_start",
            "At the start",
            start_kpa,
            Quantity.TEST_PRESSURE,
            GAUGE_REPEATS_KPA,
        ),
        "test_temp_start": _typed(
            "test_temp_start",
            "Temperature at the start",
            start_c,
            Quantity.TEMPERATURE,
            TEMPERATURE_REPEATS_K,
        ),
        "test_temp_now": _typed(
            "test_temp_now", "Temperature now", now_c, Quantity.TEMPERATURE, TEMPERATURE_REPEATS_K
        ),
    }
    expected = work(EXPECTED, should_show, inputs)
    if now_kpa is None:
        return PressureTest(expected, None, None, tuple(_height(start_kpa)))
    lost = work(
        LOST,
        lambda v: v["test_pressure_expected"] - v["test_pressure_now"],
        {
            "test_pressure_expected": Input(
                "test_pressure_expected",
                "Should show",
                expected.measure,
                "computed",
                expected.uncertainty,
            ),
            "test_pressure_now": _typed(
                "test_pressure_now", "Now", now_kpa, Quantity.TEST_PRESSURE, GAUGE_REPEATS_KPA
            ),
        },
    )
    outcome, said = _outcome(lost, minutes)
    return PressureTest(expected, lost, outcome, (said, *_height(start_kpa)))


def _outcome(lost: Working, minutes: float | None) -> tuple[Outcome, Said]:
    off = lost.uncertainty or 0.0
    measure = Measure(abs(lost.value), Quantity.TEST_PRESSURE_DIFFERENCE)
    if lost.value > off:
        return "leaks", say(
            "It leaks: {lost} beyond what temperature explains. Bubbles on every joint.",
            lost=measure,
        )
    if lost.value < -off:
        return "rises", say(
            "It rose {lost} beyond temperature: the sun on a pipe, or a probe that moved. Read "
            "temperature again.",
            lost=measure,
        )
    if minutes is not None and minutes < LEAST_MINUTES:
        return "holds", say(
            "Nothing lost so far. Let it stand {least} or more before calling it tight.",
            least=Measure(LEAST_MINUTES, Quantity.MINUTES),
        )
    return "holds", say(
        "It holds, within what these instruments can tell. Bubbles on every joint all the same."
    )


def _height(start_kpa: float) -> list[Said]:
    if start_kpa <= USUAL_HIGH_KPA:
        return []
    return [
        say(
            "Over the usual {low} to {high}: never above the lower design pressure on the plates.",
            low=Measure(USUAL_LOW_KPA, Quantity.PRESSURE, bare=True),
            high=Measure(USUAL_HIGH_KPA, Quantity.PRESSURE),
        )
    ]


def _typed(key: str, label: str, value: float, quantity: Quantity, off: float) -> Input:
    return Input(key, label, Measure(value, quantity), "typed", off)


CAUTION: Said = say(
    "Dry nitrogen through a regulator only, never oxygen or compressed air. Not above the lower "
    "design pressure on the plates. Stand clear while it rises."
)
