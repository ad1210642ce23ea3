"""The nitrogen test: what it lost beyond temperature, and which leaks that excludes."""

from nudge.core.language.errors import CoreError, Impossible
from nudge.core.language.said import Measure, Said, minutes, say
from nudge.core.language.units import KPA_PER_PSI, Quantity, atmospheric_kpa
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.tightness.leak import lost_a_year
from nudge.core.physics.tightness.standing_pressure import (
    GAUGE_REPEATS_KPA,
    LEAST_MIN,
    StandingPressure,
    minutes_to_exclude,
    read_stand,
)
from nudge.core.settling.trace import Trace
from nudge.core.tests.joints import all_dry, is_leaking
from nudge.core.tests.run import (
    OUTDOORS,
    Advice,
    Number,
    Run,
    Settings,
    State,
    TestOutcome,
    at,
    between,
    silences,
    silent_said,
)
from nudge.core.tests.volume import litres_of

MOST_UNKNOWN_KPA = 200 * KPA_PER_PSI
"""Without a plate's design pressure: the usual most on small systems."""
RAISED = 0.985
"""It stands from where it first shows this share of its most: before that it was being raised."""
LEAST_KPA = 50 * KPA_PER_PSI
"""Under this nothing is tested: it is not raised yet, or let down again."""
USUAL_WANTED_KG = 0.1
"""A leak a year that is worth excluding where nobody names one: a few ounces."""
FLAT_READINGS, FLAT_MOVED_K = 10, 1.5
A_DAY_MIN = 20 * 60.0
_NOT_NITROGEN = {
    "oxygen": "Never oxygen: with oil under pressure it explodes. Dry nitrogen only.",
    "air": "Never compressed air: its oxygen explodes with oil, its water stays in the system. "
    "Dry nitrogen only.",
    "other": "Dry nitrogen only, through a regulator: any other gas is not judged here.",
}


def guard(plate: Plate, settings: Settings) -> None:
    """Raises: CoreError, for a gas that is not nitrogen; Impossible, over the plate's pressure."""
    gas = settings.get("gas", "nitrogen")
    if isinstance(gas, str) and gas in _NOT_NITROGEN:
        raise CoreError("gas", _NOT_NITROGEN[gas])
    wanted = settings.get("pressure")
    most = limit_kpa(plate)
    if isinstance(wanted, int | float) and wanted > most:
        raise Impossible("pressure", _over(float(wanted), most, plate))


def limit_kpa(plate: Plate) -> float:
    """The most this system may be tested at [kPa gauge]."""
    given = [p for p in (plate.design_pressure_low_kpa, plate.design_pressure_high_kpa) if p]
    return min(given) if given else MOST_UNKNOWN_KPA


def _over(kpa: float, most: float, plate: Plate) -> Said:
    knows = plate.design_pressure_low_kpa or plate.design_pressure_high_kpa
    words = (
        "{pressure} is over the lower design pressure on the plate, {most}. Stay under it."
        if knows
        else "{pressure} is over {most}, the most without the design pressure on the plate. Read "
        "the plate, or stay under it."
    )
    return say(
        words,
        pressure=Measure(kpa, Quantity.TEST_PRESSURE),
        most=Measure(most, Quantity.TEST_PRESSURE),
    )


def judge(run: Run) -> TestOutcome:
    """What the stand shows so far. Judged since the last hole, joint mended or new pressure."""
    trace = _since_last_hole(run)
    hazards = _hazards(run, trace)
    if len(trace.values) < 2 or trace.values[-1] < LEAST_KPA:
        return TestOutcome(
            "running",
            "waiting",
            say("Raise it with dry nitrogen, close the valve, let it stand."),
            hazards=hazards,
            warnings=_warnings(run, trace),
        )
    atmosphere = atmospheric_kpa(run.plate.elevation_m)
    litres, is_given = litres_of(run)
    pipes = [run.traces[p] for p in OUTDOORS if p in run.traces]
    pipe = pipes[0] if pipes else Trace((trace.seconds[0],), (21.0,))
    stand = read_stand(
        [(s - trace.seconds[0]) / 60 for s in trace.seconds],
        [p + atmosphere for p in trace.values],
        [at(pipe, s) or 0.0 for s in trace.seconds],
        litres,
        run.number("repeats") or GAUGE_REPEATS_KPA,
    )
    return _outcome(run, trace, stand, litres, is_given, bool(pipes), hazards)


def _outcome(
    run: Run,
    trace: Trace,
    stand: StandingPressure,
    litres: float,
    is_given: bool,
    has_pipe: bool,
    hazards: tuple[Said, ...],
) -> TestOutcome:
    high = trace.values[0] + atmospheric_kpa(run.plate.elevation_m)
    wanted = run.number("wanted") or USUAL_WANTED_KG
    per_leak = lost_a_year(run.plate.refrigerant, 1.0, high)
    needs = minutes_to_exclude(wanted / per_leak, litres, stand.off)
    numbers = [
        Number(
            "lost",
            "Lost beyond temperature",
            Measure(stand.lost, Quantity.TEST_PRESSURE_DIFFERENCE),
            stand.off,
            "real nitrogen at the pipe’s temperature, less what the gauge shows",
        ),
        Number(
            "volume",
            "Room inside",
            Measure(litres, Quantity.VOLUME),
            litres / 3,
            "as given" if is_given else "from the capacity on the plate, within a third",
        ),
    ]
    hidden = None
    if stand.excludes is not None and stand.held == "holds":
        hidden = Number(
            "excludes",
            "Excludes leaks over, a year",
            Measure(stand.excludes * per_leak, Quantity.YEARLY_LOSS),
            None,
            "what the loss and its ± could be, as refrigerant at the low side’s running pressure",
        )
    key, state, headline = _said(run, stand, has_pipe)
    says = _words(run, stand, hidden, wanted, needs, has_pipe)
    passed = state == "passed" and stand.excludes is not None and has_pipe and not hazards
    return TestOutcome(
        state if not hazards else "running",
        key,
        headline,
        says,
        (*numbers, *((hidden,) if hidden else ())),
        ("tight",) if passed and all_dry(run) else (),
        then=_then(stand),
        ready_in=max(LEAST_MIN - stand.minutes, 0.0) if stand.held == "too_short" else None,
        hazards=hazards,
        warnings=_warnings(run, trace),
        hidden=hidden,
    )


def _said(run: Run, stand: StandingPressure, has_pipe: bool) -> tuple[str, State, Said]:
    lost = Measure(abs(stand.lost), Quantity.TEST_PRESSURE_DIFFERENCE)
    off = Measure(stand.off, Quantity.TEST_PRESSURE_DIFFERENCE)
    if is_leaking(run):
        return (
            "leaks",
            "failed",
            say("Bubbles at a joint: it leaks there. Let it down and mend it."),
        )
    if not has_pipe:
        return (
            "no_temperature",
            "running",
            say("Clamp a pipe, or type its temperature: else nobody can tell a leak from a cloud."),
        )
    match stand.held:
        case "leaks":
            return (
                "leaks",
                "failed",
                say("It leaks: {lost} lost beyond temperature, ± {off}.", lost=lost, off=off),
            )
        case "rises":
            return (
                "rises",
                "cannot_tell",
                say(
                    "It rose {lost} beyond temperature: sun on a pipe, or a clamp that moved.",
                    lost=lost,
                ),
            )
        case "unsteady":
            return (
                "unsteady",
                "cannot_tell",
                say(
                    "Too unsteady to tell: temperature moves it more than a leak would, ± {off}.",
                    off=off,
                ),
            )
        case "too_short":
            return (
                "too_short",
                "running",
                say(
                    "Nothing lost so far. Let it stand {more} more.",
                    more=minutes(max(LEAST_MIN - stand.minutes, 1.0)),
                ),
            )
    if not all_dry(run):
        return (
            "holds",
            "running",
            say("It holds, ± {off}. Bubbles on every joint before it is called tight.", off=off),
        )
    return "holds", "passed", say("It holds, ± {off}, and no joint bubbles.", off=off)


def _words(
    run: Run,
    stand: StandingPressure,
    hidden: Number | None,
    wanted: float,
    needs: float,
    has_pipe: bool,
) -> tuple[Said, ...]:
    says = []
    if hidden is not None:
        says.append(
            say(
                "After {stood} it excludes only leaks over {leak} of "
                f"{run.plate.refrigerant} a year.",
                stood=minutes(stand.minutes),
                leak=hidden.measure,
            )
        )
        if hidden.measure.value > wanted:
            says.append(
                say(
                    f"To exclude {{wanted}} a year it would stand {needs / 60:,.0f} h. So bubbles, "
                    "and time.",
                    wanted=Measure(wanted, Quantity.MASS),
                )
            )
    if stand.minutes > A_DAY_MIN:
        says.append(say("It stood a day: the same hour of the next morning compares best."))
    if has_pipe:
        says.append(
            say(
                "At today’s temperature it should show {expected}.",
                expected=Measure(
                    stand.expected_kpa - atmospheric_kpa(run.plate.elevation_m),
                    Quantity.TEST_PRESSURE,
                ),
            )
        )
    return tuple(says)


def _then(stand: StandingPressure) -> tuple[Advice, ...]:
    match stand.held:
        case "leaks":
            return (Advice("bubbles", "Bubbles joint by joint, largest first: it shows where."),)
        case "unsteady" | "rises":
            return (
                Advice("nitrogen", "Stand it in the shade, or overnight: same hour, same pipe."),
                Advice("bubbles", "Bubbles tell whatever the temperature does."),
            )
    return ()


def _since_last_hole(run: Run) -> Trace:
    """The pressure since it last began to stand: after a hole, a mended joint, or a top-up."""
    trace = run.trace("test_pressure")
    begins = [run.began_s]
    begins += [b for _, b in silences(run, "test_pressure")]
    begins += [mark.at_s for mark in run.marked("joint_mended", "topped_up")]
    begin = max(s for s in begins if s <= run.until_s)
    part = between(trace, begin, run.until_s)
    if max(part.values, default=0.0) <= 0:
        return part  # a vacuum, or nothing read: it is not raised yet
    full = RAISED * max(part.values)
    raised = next(s for s, v in zip(part.seconds, part.values, strict=True) if v >= full)
    return part.since(raised)


def _hazards(run: Run, trace: Trace) -> tuple[Said, ...]:
    most = limit_kpa(run.plate)
    found = []
    if trace.values and max(trace.values) > most + GAUGE_REPEATS_KPA:
        found.append(_over(max(trace.values), most, run.plate))
    if run.started_s:
        found.append(
            say("The system was started under nitrogen. Stop it and lock it out: it may burst.")
        )
    return tuple(found)


def _warnings(run: Run, trace: Trace) -> tuple[Said, ...]:
    found = []
    gaps = silences(run, "test_pressure")
    if gaps:
        found.append(silent_said(gaps, "The gauge"))
    pipes = [run.traces[p].since(run.began_s) for p in OUTDOORS if p in run.traces]
    moved = max((max(t.values) - min(t.values) for t in pipes if t.values), default=0.0)
    flat = len(trace.values) >= FLAT_READINGS and max(trace.values) - min(trace.values) < 1e-6
    if flat and moved > FLAT_MOVED_K:
        found.append(say("The gauge does not move though the pipe did: is its valve shut off?"))
    return tuple(found)
