"""The test dose: behind a shut valve it only bumps."""

from dataclasses import replace

from nudge.core.language.errors import CoreError, Impossible
from nudge.core.language.said import Measure, Said, difference, minutes, say, temperature
from nudge.core.language.units import (
    G_PER_OZ,
    KPA_PER_PSI,
    Quantity,
    atmospheric_kpa,
    degrees_f,
    fahrenheit,
)
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate
from nudge.core.physics.refrigerant.catalogue import refrigerant
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.settling.trace import Trace
from nudge.core.tests.run import Advice, Number, Run, Settings, TestOutcome, at, between

MOST_DOSE_KG = 6 * G_PER_OZ / 1000
BUMP_KPA = 3.0 * KPA_PER_PSI
"""Suction jumps at least so far when liquid is let into a suction that nothing feeds."""
BUMP_S, EARLY_S, LATE_S = 45.0, 20.0, 3.0
BACK_MIN, BACK_K = 2.0, degrees_f(3)
"""Within so long it is back to within so much of its saturation of before."""
HEAD_BUMP_KPA = 0.6 * KPA_PER_PSI
ANSWERS_K = degrees_f(5)
"""Superheat that falls by more than this, and stays, was answered: liquid gets through."""
SETTLES_MIN = 2.0
MOST_RUN_MIN = 2.0
MOST_DISCHARGE_C = fahrenheit(225)
FLAMMABLE = ("A2L", "A2", "A3")


def guard_dose(plate: Plate, settings: Settings) -> None:
    """Raises: CoreError, where there is no valve; Impossible, for more than a test dose."""
    if plate.metering_device is MeteringDevice.FIXED_ORIFICE:
        raise CoreError("test", "A fixed orifice has no valve to prove shut.")
    dose = settings.get("dose")
    if isinstance(dose, int | float) and dose * 0.001 > MOST_DOSE_KG * 1.001:
        raise Impossible(
            "dose",
            say(
                "{dose} is more than a test: at most {most}. It is meant to bump, not to charge.",
                dose=Measure(float(dose), Quantity.SMALL_MASS),
                most=Measure(MOST_DOSE_KG * 1000, Quantity.SMALL_MASS),
            ),
        )


def judge_dose(run: Run) -> TestOutcome:
    """Whether a test dose only bumped: the mark of a valve that lets nothing through."""
    hazards, warnings = _dangers(run)
    return replace(_dosed(run), hazards=hazards, warnings=warnings)


def _dosed(run: Run) -> TestOutcome:
    given = run.marked("dose_given")
    suction = run.trace("suction_pressure")
    if not given or not suction.values:
        return TestOutcome(
            "running",
            "waiting",
            say(
                "Read suction and head, then let in at most {most} and mark it.",
                most=Measure(MOST_DOSE_KG * 1000, Quantity.SMALL_MASS),
            ),
        )
    dose_s = given[-1].at_s
    after = between(suction, dose_s, run.until_s)
    before = _just_before(suction, dose_s)
    passed_min = (run.until_s - dose_s) / 60
    if before is None or not after.values:
        return TestOutcome("running", "waiting", say("Suction before the dose is needed: read it."))
    bump = max(between(suction, dose_s - LATE_S, dose_s + BUMP_S).values or after.values) - before
    left_k = _saturation(run, _mean(after.since(run.until_s - 20)) or after.values[-1])
    back_k = left_k - _saturation(run, before)
    numbers = (
        Number(
            "bump",
            "Suction bumped by",
            Measure(bump, Quantity.PRESSURE_DIFFERENCE),
            0.5 * KPA_PER_PSI,
        ),
        Number("back", "Saturation now over before", difference(back_k), degrees_f(0.6)),
    )
    answers = _superheat_answers(run, dose_s)
    if answers:
        return TestOutcome(
            "failed",
            "answers",
            say("Superheat answered: the valve lets it through. It is not shut."),
            numbers=numbers,
            observations=("valve_proven_open",),
        )
    return _not_yet(bump, back_k, passed_min, numbers) or _bumped_only(run, dose_s, numbers)


def _not_yet(
    bump: float, back_k: float, passed_min: float, numbers: tuple[Number, ...]
) -> TestOutcome | None:
    """What a dose shows that did not only bump; None where it did."""
    if passed_min < BACK_MIN * 0.98:
        return TestOutcome(
            "running",
            "bumped",
            say("Watch it fall back: {more} more.", more=minutes(max(BACK_MIN - passed_min, 1.0))),
            ready_in=BACK_MIN - passed_min,
            numbers=numbers,
        )
    if bump < BUMP_KPA:
        return TestOutcome(
            "cannot_tell",
            "no_bump",
            say("No bump to be seen: was the dose in the suction, and the compressor running?"),
            numbers=numbers,
        )
    if back_k > BACK_K:
        return TestOutcome(
            "failed",
            "feeds",
            say(
                "Suction stayed up by {back}: the circuit took it. The valve is not shut.",
                back=difference(back_k),
            ),
            numbers=numbers,
        )
    return None


def _bumped_only(
    run: Run,
    dose_s: float,
    numbers: tuple[Number, ...],
) -> TestOutcome:
    head = run.trace("liquid_pressure")
    before = _just_before(head, dose_s)
    after = between(head, dose_s, run.until_s)
    head_bumped = bool(
        before is not None and after.values and max(after.values) - before > HEAD_BUMP_KPA
    )
    missing = [
        words
        for is_there, words in (
            (head_bumped, "head bumped while it was pumped over"),
            (bool(run.marked("bulb_dead")), "the bulb, warmed in the hand, moved nothing"),
            (bool(run.marked("walk_clean")), "line, filter and service valves walked, all open"),
        )
        if not is_there
    ]
    if missing:
        return TestOutcome(
            "running",
            "bumps_only",
            say(f"It only bumped. Still wanted for the proof: {'; '.join(missing)}."),
            then=(Advice("bulb", "Bulb in the hand: a live valve answers, a shut one does not."),),
            numbers=numbers,
        )
    return TestOutcome(
        "passed",
        "valve_shut",
        say("Proven: the valve lets nothing through. Renew it; charge is not the fault."),
        (say("What was given is in the condenser: it comes out with the recovery."),),
        proves=("valve_shut",),
        observations=("valve_proven_shut",),
        numbers=numbers,
    )


def _superheat_answers(run: Run, dose_s: float) -> bool:
    """Whether superheat fell and stayed down once the bump was over."""
    line, suction = run.trace("suction_line_temp"), run.trace("suction_pressure")
    late = between(line, dose_s + SETTLES_MIN * 60, run.until_s)
    early = between(line, dose_s - 90, dose_s)
    if not late.values or not early.values:
        return False
    before = _mean(early) or 0.0
    first = before - _saturation(run, at(suction, dose_s - 5) or 0.0)
    last = (_mean(late.since(run.until_s - 30)) or late.values[-1]) - _saturation(
        run, at(suction, run.until_s) or 0.0
    )
    return first - last > ANSWERS_K


def _dangers(run: Run) -> tuple[tuple[Said, ...], tuple[Said, ...]]:
    """What stops a test dose: heat, a vacuum with what burns, too long a run."""
    hazards, warnings = [], []
    discharge, suction = run.last_of("discharge_line_temp"), run.last_of("suction_pressure")
    if discharge is not None and discharge > MOST_DISCHARGE_C:
        hazards.append(
            say("Discharge line at {temp}: stop it and let it cool.", temp=temperature(discharge))
        )
    if suction is not None and suction < 0:
        burns = refrigerant(run.plate.refrigerant).safety_class in FLAMMABLE
        if burns:
            hazards.append(
                say("Suction in a vacuum with a flammable refrigerant: stop it, air may get in.")
            )
        else:
            warnings.append(say("Suction in a vacuum: keep it short, and watch for air drawn in."))
    starts = [s for s in run.started_s if s <= run.until_s]
    if starts and not run.marked("stopped"):
        ran = (run.until_s - starts[-1]) / 60
        if ran > MOST_RUN_MIN:
            hazards.append(
                say(
                    "Starved it runs {most} at a time: stop it, let it rest.",
                    most=minutes(MOST_RUN_MIN),
                )
            )
    return tuple(hazards), tuple(warnings)


def _saturation(run: Run, kpa: float) -> float:
    """Dew point at a gauge pressure [kPa → °C], held at the table's foot."""
    table = load_table(run.plate.refrigerant)
    absolute = kpa + atmospheric_kpa(run.plate.elevation_m)
    return table.dew.temperature(min(max(absolute, table.low_kpa), table.high_kpa))


def superheat_of(run: Run, second: float) -> float | None:
    """Superheat at a moment [K]; None before both are read."""
    line, suction = run.trace("suction_line_temp"), run.trace("suction_pressure")
    temp, kpa = at(line, second), at(suction, second)
    return None if temp is None or kpa is None else temp - _saturation(run, kpa)


def _just_before(trace: Trace, second: float) -> float | None:
    """What it read shortly before, a late mark allowed for; it may be falling still."""
    part = between(trace, second - EARLY_S, second - LATE_S)
    if part.values:
        last = part.values[-3:]
        return sum(last) / len(last)
    return at(between(trace, second - 90, second), second)


def _mean(trace: Trace) -> float | None:
    return trace.mean if trace.values else None
