"""Standing pressure, the filter out and in, a clamp in an ice bath."""

from nudge.core.language.said import Measure, difference, say
from nudge.core.language.units import KPA_PER_PSI, Quantity, atmospheric_kpa, degrees_f
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.tests.run import Advice, Number, Run, TestOutcome, at, between

STOOD_MIN, EQUAL_KPA = 20.0, 3 * KPA_PER_PSI
STILL_KPA = 1.5 * KPA_PER_PSI
FITS_KPA = 4 * KPA_PER_PSI
"""Clamp, gauge and a coil not quite as warm as its air, together."""
AFTER_FILTER_S = 90.0
DIRTY_PA, DIRTY_SHARE = 50.0, 0.12
ICE_MIN, ICE_STILL_K, ICE_RIGHT_K = 3.0, degrees_f(0.5), degrees_f(1)


def judge_standing(run: Run) -> TestOutcome:
    """Whether a stopped system stands at its refrigerant's own pressure."""
    high, low = run.trace("liquid_pressure"), run.trace("suction_pressure")
    air = run.trace("outdoor_air_temp")
    if run.started_s:
        return TestOutcome("aborted", "started", say("It was started: the stand begins anew."))
    if not high.values or not air.values:
        return TestOutcome(
            "running",
            "waiting",
            say("Compressor off, outdoor fan on. Read the liquid port and the outdoor air."),
        )
    late = between(high, run.until_s - 300, run.until_s)
    moves = max(late.values) - min(late.values) if late.values else 0.0
    apart = abs(high.values[-1] - low.values[-1]) if low.values else 0.0
    if run.minutes < STOOD_MIN * 0.98 or moves > STILL_KPA or apart > EQUAL_KPA:
        return TestOutcome(
            "running",
            "settling",
            say("Not still yet: both sides the same, and the coil as warm as its air."),
            ready_in=max(STOOD_MIN - run.minutes, 1.0),
        )
    table = load_table(run.plate.refrigerant)
    atmosphere = atmospheric_kpa(run.plate.elevation_m)
    should = table.bubble.pressure(air.values[-1]) - atmosphere
    over = high.values[-1] - should
    off = FITS_KPA + abs(table.bubble.pressure(air.values[-1] + 0.6) - atmosphere - should)
    numbers = (
        Number("should", "Should stand at", Measure(should, Quantity.PRESSURE)),
        Number("over", "Over that by", Measure(over, Quantity.PRESSURE_DIFFERENCE), off),
    )
    if over > off:
        return TestOutcome(
            "failed",
            "high",
            say("Standing too high: another gas is in it, likely air."),
            numbers=numbers,
            observations=("standing_pressure_high",),
            then=(Advice("recover", "Recover, evacuate, weigh in."),),
        )
    if over < -off:
        return TestOutcome(
            "failed",
            "low",
            say(
                "Under its saturation: no liquid left, another refrigerant, or a coil colder than "
                "the air."
            ),
            numbers=numbers,
        )
    return TestOutcome(
        "passed",
        "right",
        say("Standing pressure fits its temperature."),
        numbers=numbers,
        observations=("standing_pressure_right",),
        proves=("gauges_true",),
    )


def judge_filter(run: Run) -> TestOutcome:
    """What the filter costs: static pressure with it in and out."""
    out, back = run.marked("filter_out"), run.marked("filter_in")
    trace = run.trace("total_external_static")
    watts = run.trace("indoor_unit_watts")
    if not out:
        return TestOutcome(
            "running",
            "waiting",
            say("Read static with the filter in, stop the blower, take it out, mark it."),
        )
    seen = trace if trace.values else watts
    before, now = at(seen, out[-1].at_s), at(seen, run.until_s)
    if before is None or now is None or run.until_s - out[-1].at_s < AFTER_FILTER_S:
        return TestOutcome(
            "running", "settling", say("Let the blower come up: a minute and a half."), ready_in=1.5
        )
    if back and back[-1].at_s > out[-1].at_s:
        now = at(seen, back[-1].at_s) or now
    fell = before - now
    if trace.values:
        number = Number("filter", "The filter takes", Measure(fell, Quantity.STATIC_PRESSURE), 12.0)
        is_dirty = fell > DIRTY_PA
    else:
        number = Number("filter", "Blower power falls by", Measure(fell, Quantity.POWER), 8.0)
        is_dirty = abs(fell) > DIRTY_SHARE * before
    is_back = bool(back) and back[-1].at_s > out[-1].at_s
    words = "" if is_back else " Put it back in: a bare coil clogs."
    if is_dirty:
        return TestOutcome(
            "failed" if is_back else "running",
            "restricts",
            say(f"The filter holds the air up.{words}"),
            numbers=(number,),
            observations=("filter_dirty",),
        )
    return TestOutcome(
        "passed" if is_back else "running",
        "passes",
        say(f"The filter lets the air through.{words}"),
        numbers=(number,),
        observations=("filter_clean",),
    )


def judge_ice_bath(run: Run) -> TestOutcome:
    """Whether a clamp shows ice water as ice water."""
    point = run.choice("clamp", "suction_line_temp")
    trace = run.trace(point)
    late = between(trace, run.until_s - 60, run.until_s)
    if not late.values or run.minutes < ICE_MIN * 0.98:
        return TestOutcome(
            "running",
            "waiting",
            say("Clamp in crushed ice and water, stirred. Three minutes."),
            ready_in=max(ICE_MIN - run.minutes, 0.0),
        )
    if max(late.values) - min(late.values) > ICE_STILL_K:
        return TestOutcome("running", "moves", say("It still moves: stir, and wait."), ready_in=1.0)
    off = late.mean
    number = Number("off", "Shows over ice water", difference(off), degrees_f(0.4))
    if abs(off) <= ICE_RIGHT_K:
        return TestOutcome(
            "passed",
            "true",
            say("The clamp is true."),
            numbers=(number,),
            proves=(f"true:{point}",),
        )
    return TestOutcome(
        "failed",
        "off",
        say(
            "The clamp is off by {off}. Renew or correct it; what it read before counts for less.",
            off=difference(off),
        ),
        numbers=(number,),
    )
