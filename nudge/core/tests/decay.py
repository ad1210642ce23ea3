"""The decay: what the rise of an isolated vacuum proves, and which test would tell more."""

from nudge.core.language.said import Measure, Said, minutes, say
from nudge.core.language.units import SEA_LEVEL_KPA, Quantity
from nudge.core.physics.tightness.decay import Risen
from nudge.core.physics.tightness.dryness import (
    LATE_MIN,
    LEAST_MIN,
    NEW_PA,
    QUIET_PA_MIN,
    USED_PA,
    Found,
    Stand,
    read_standing,
)
from nudge.core.physics.tightness.leak import lost_a_year, throughput
from nudge.core.settling.trace import Trace
from nudge.core.tests.run import Advice, Number, Run, State, TestOutcome, at, between, silences
from nudge.core.tests.schools import schools_say
from nudge.core.tests.vacuum_gauge import (
    GAUGE_NOISE_PA,
    GAUGE_SCALE,
    USUAL_PIPE_C,
    about_gauge,
    power_on,
)
from nudge.core.tests.volume import litres_of

FALLING = 0.97
"""A decay that falls below this share of its beginning was begun before the pump was shut."""
LEFT_MIN = 6 * 60.0
FEW, SHORTEST_S = 3, LEAST_MIN * 60 * 0.3
"""A stretch of fewer readings, or of less, tells nothing beside the others."""


def judge_decay(run: Run) -> TestOutcome:
    """What an isolated vacuum shows so far, over all its stretches."""
    stretches, starts = _told_before_the_hole(run, *_stretches(run))
    hazards, warnings = power_on(run), list(about_gauge(run, run.trace("vacuum_level")))
    if stretches and _still_fell(stretches[-1]):
        stretches[-1], starts[-1], warned = _from_its_least(stretches[-1], starts[-1])
        warnings.append(warned)
    if not stretches or len(stretches[-1].minutes) < 3:
        return TestOutcome(
            "running",
            "waiting",
            say("Shut the valve to the pump, then stop the pump. The gauge stays on the system."),
            hazards=hazards,
            warnings=tuple(warnings),
        )
    litres, _ = litres_of(run)
    limit = NEW_PA if run.choice("oil", "used") == "new" else USED_PA
    stand = read_standing(stretches, GAUGE_NOISE_PA, GAUGE_SCALE, limit)
    if run.minutes > LEFT_MIN:
        warnings.append(
            say("Left for hours: pipes warmed and cooled meanwhile. Its first hour is the test.")
        )
    site = run.choice("gauge", "system")
    if site == "pump":
        warnings.append(
            say("The gauge sits at the pump: isolated there, it shows the hose. Nothing is proven.")
        )
    if site == "cold_pipe":
        warnings.append(say("The gauge sits on a cold pipe: water falls out before it and hides."))
    return _decayed(run, stand, stretches, starts, litres, hazards, tuple(warnings), site)


def _hidden(run: Run, stand: Stand, litres: float) -> Number:
    """The smallest leak that this stand does not exclude."""
    most = stand.leak_high if stand.fit is not None else 0.0
    if stand.found == "dry":
        most = min(most, stand.rise + stand.rise_off)
    yearly = lost_a_year(
        run.plate.refrigerant, throughput(litres, most / 60_000), SEA_LEVEL_KPA, air=True
    )
    return Number(
        "hidden",
        "A leak that could still hide, a year",
        Measure(yearly, Quantity.YEARLY_LOSS),
        None,
        "the most that may come from outside, as refrigerant at the low side’s running pressure",
    )


def _numbers(stand: Stand, last: Risen) -> tuple[Number, ...]:
    return (
        Number(
            "vacuum",
            "Vacuum now",
            Measure(last.pascals[-1], Quantity.VACUUM),
            last.pascals[-1] * GAUGE_SCALE,
        ),
        Number(
            "rise",
            f"Rises now, over {LATE_MIN:.0f} min",
            Measure(stand.rise, Quantity.VACUUM_RATE),
            stand.rise_off,
            "a straight line through its last minutes, the gauge’s scale error in its ±",
        ),
        Number(
            "outside",
            "From outside, at most",
            Measure(stand.leak_high, Quantity.VACUUM_RATE),
            None,
            "least squares of leak, boiling water, damp walls and old oil",
        ),
    )


def _decayed(
    run: Run,
    stand: Stand,
    stretches: list[Risen],
    starts: list[float],
    litres: float,
    hazards: tuple[Said, ...],
    warnings: tuple[Said, ...],
    site: str,
) -> TestOutcome:
    last = stretches[-1]
    numbers, hidden = _numbers(stand, last), _hidden(run, stand, litres)
    state, headline, says, then = _decay_said(stand, last, hidden.measure)
    proven = stand.found == "dry" and not hazards and site == "system"
    if stand.found == "dry" and not proven:
        state = "cannot_tell"
    fit = stand.fit
    return TestOutcome(
        state,
        stand.found if stand.fit is not None else "too_short",
        headline,
        says,
        numbers if fit is not None else numbers[:1],
        ("dry",) if proven else (),
        then=then,
        ready_in=max(LEAST_MIN - last.span, 0.0) if last.span < LEAST_MIN else None,
        hazards=hazards,
        warnings=warnings,
        schools=schools_say(last, litres, run.plate),
        curves=fit.curves if fit is not None else (),
        starts_s=tuple(starts),
        hidden=hidden if fit is not None else None,
    )


_TIGHTNESS = "Tightness is proven by nitrogen alone."


def _decay_said(
    stand: Stand, last: Risen, yearly: Measure
) -> tuple[State, Said, tuple[Said, ...], tuple[Advice, ...]]:
    if stand.fit is None:
        more = minutes(max(LEAST_MIN - last.span, 1.0))
        return "running", say("Too short to tell. Let it stand {more} more.", more=more), (), ()
    low = Measure(stand.leak_low, Quantity.VACUUM_RATE)
    high = Measure(stand.leak_high, Quantity.VACUUM_RATE)
    quiet = Measure(QUIET_PA_MIN, Quantity.VACUUM_RATE)
    said: dict[Found, tuple[State, Said, tuple[Said, ...]]] = {
        "dry": (
            "passed",
            say("Dry. It rises by less than {quiet}, whatever lifts it.", quiet=quiet),
            (say(f"A leak over {{yearly}} a year is excluded. {_TIGHTNESS}", yearly=yearly),),
        ),
        "wet": (
            "failed",
            say("Wet: most of the rise is water. At most {high} comes from outside.", high=high),
            (say("It is not tight or leaking by this: dry it first, then ask again."),),
        ),
        "gives_off": (
            "cannot_tell",
            say("It gives off still: old oil or damp. At most {high} from outside.", high=high),
            (say("Pump on, then let it stand again."),),
        ),
        "leaking": (
            "failed",
            say("Leaking: from {low} to {high} comes from outside.", low=low, high=high),
            (_why_leaking(stand),),
        ),
        "cannot_tell": (
            "cannot_tell",
            say("Cannot tell water from a leak yet: both could rise like this."),
            (say("From outside between {low} and {high}.", low=low, high=high),),
        ),
    }
    state, headline, says = said[stand.found]
    return state, headline, says, _then(stand, last)


def _why_leaking(stand: Stand) -> Said:
    if stand.passes_water:
        return say(
            "It passed {held}: at the coldest pipe water cannot hold more.",
            held=Measure(stand.held, Quantity.VACUUM),
        )
    if stand.is_warmed:
        return say("Warmed, it rose at the same rate: water would have answered.")
    return say("So long and so straight: water would have slowed as it warmed to its pipe.")


def _then(stand: Stand, last: Risen) -> tuple[Advice, ...]:
    """The next test, each with what it would show."""
    warm = Advice(
        "warm", "Warm the pipes by {d20} and stand again: water answers, a leak does not."
    )
    stay = Advice("stand", "Let it stand: what is within slows, a leak keeps its rate.")
    sweep = Advice(
        "sweep", "Sweep with dry nitrogen, pump, stand: carries damp out, proves no leak."
    )
    back = Advice("nitrogen", "Back to nitrogen and bubbles: it finds the joint.")
    match stand.found:
        case "dry":
            return ()
        case "wet":
            return (sweep, warm)
        case "gives_off":
            return (Advice("pump", "Pump on: each stand should give off less."), sweep)
        case "leaking":
            return (back,)
    if stand.is_warmed:
        return (back, stay)
    early = next(
        (
            p - last.pascals[0]
            for t, p in zip(last.minutes, last.pascals, strict=True)
            if t - last.minutes[0] >= last.span / 3
        ),
        0.0,
    )
    slows = early / max(last.span / 3, 1e-9) > 1.6 * max(stand.rise, 1e-9)
    return (stay, warm, back) if slows else (warm, stay, back)


def _stretches(run: Run) -> tuple[list[Risen], list[float]]:
    """Each span in which it stood isolated, and when it began: between holes, sweeps, pumping."""
    trace = between(run.trace("vacuum_level"), run.began_s, run.until_s)
    gaps = silences(run, "vacuum_level")
    begins = {run.began_s, *(mark.at_s for mark in run.marked("isolated", "warmed"))}
    begins |= {b for _, b in gaps}
    ends = {mark.at_s for mark in run.marked("pump_on", "swept")} | {a for a, _ in gaps}
    found, starts = list[Risen](), list[float]()
    for begin in sorted(begins):
        later = [s for s in begins | ends if s > begin]
        part = between(trace, begin, min(later, default=run.until_s))
        if len(part.values) >= FEW and (part.span >= SHORTEST_S or not later):
            found.append(_risen(run, part))
            starts.append(part.seconds[0])
    return found, starts


def _told_before_the_hole(
    run: Run, stretches: list[Risen], starts: list[float]
) -> tuple[list[Risen], list[float]]:
    """The stretches without a last one too short to tell, where a hole alone parts it from one that
    told: nothing was done in between, and it stands no higher than a quiet rise would have it."""
    told = [one for one in stretches[:-1] if one.span >= LEAST_MIN]
    hole = next((h for h in silences(run, "vacuum_level") if h[1] in starts[-1:]), None)
    resumed = hole and not any(hole[0] <= mark.at_s <= hole[1] for mark in run.marks)
    if not told or not resumed or stretches[-1].span >= LEAST_MIN:
        return stretches, starts
    before, after = stretches[-2], stretches[-1]
    quiet = QUIET_PA_MIN * (after.minutes[-1] - before.minutes[-1])
    if max(after.pascals) > before.pascals[-1] + quiet + 3 * GAUGE_NOISE_PA:
        return stretches, starts
    return stretches[:-1], starts[:-1]


def _risen(run: Run, part: Trace) -> Risen:
    pipes = list(run.pipes().values())
    coldest = [
        min((v for v in (at(pipe, s) for pipe in pipes) if v is not None), default=USUAL_PIPE_C)
        for s in part.seconds
    ]
    return Risen(
        tuple((s - run.began_s) / 60 for s in part.seconds),
        tuple(max(v, 0.01) for v in part.values),
        tuple(coldest),
    )


def _still_fell(one: Risen) -> bool:
    """Whether it went on falling after its beginning, by more than a gauge’s noise."""
    first, least = one.pascals[0], min(one.pascals)
    return least < FALLING * first and first - least > 3 * GAUGE_NOISE_PA


def _from_its_least(one: Risen, start: float) -> tuple[Risen, float, Said]:
    """A stretch from where it stopped falling: the pump was still on it before."""
    first = min(range(len(one.pascals)), key=lambda n: one.pascals[n])
    cut = Risen(one.minutes[first:], one.pascals[first:], one.pipe_c[first:])
    words = say("It still fell when it was begun: the pump was on it. Counted from its least.")
    return cut, start + (one.minutes[first] - one.minutes[0]) * 60, words
