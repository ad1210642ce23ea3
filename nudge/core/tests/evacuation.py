"""The evacuation: when the vacuum comes, what the hoses cost, and what holds it up."""

from nudge.core.language.said import Measure, Said, minutes, say, temperature
from nudge.core.language.units import LPS_PER_CFM, PA_PER_MICRON, Quantity
from nudge.core.physics.tightness.evacuation import Evacuation, read_evacuation
from nudge.core.physics.tightness.hoses import Hookup, bore_of
from nudge.core.physics.tightness.water import boils_at
from nudge.core.settling.trace import Trace
from nudge.core.tests.run import Advice, Number, Run, State, TestOutcome, between, silences
from nudge.core.tests.vacuum_gauge import (
    GAUGE_SCALE,
    USUAL_PIPE_C,
    about_gauge,
    coldest,
    power_on,
)
from nudge.core.tests.volume import litres_of

TARGET_PA = 500 * PA_PER_MICRON
USUAL_PUMP_L_S = 5 * LPS_PER_CFM
USUAL_HOSE, USUAL_LENGTH_M = "3/8", 1.8
BALLAST_PA = 3_000 * PA_PER_MICRON
WIDE = {"1/4": "3/8", "3/8": "1/2"}


def hookup_of(run: Run) -> Hookup:
    """How the pump is connected, by what was said of it."""
    return Hookup(
        pump_l_s=run.number("pump") or USUAL_PUMP_L_S,
        bore_cm=bore_of(run.choice("hose", USUAL_HOSE)),
        length_cm=(run.number("hose_length") or USUAL_LENGTH_M) * 100,
        hoses=2 if run.choice("hoses") == "two" else 1,
        cores_in=run.choice("cores") == "in",
    )


def judge_evacuation(run: Run) -> TestOutcome:
    """How far the pump has come."""
    trace = _since_silence(run)
    warnings = about_gauge(run, trace)
    hazards = power_on(run)
    if not trace.values:
        return TestOutcome(
            "running",
            "waiting",
            say("Open the pump to the system; the gauge tells the rest."),
            hazards=hazards,
            warnings=(*warnings, *_advice_on_hoses(run, None)),
        )
    target = run.number("target") or TARGET_PA
    litres, is_given = litres_of(run)
    pipe_c = coldest(run)
    found = read_evacuation(
        [(s - trace.seconds[0]) / 60 for s in trace.seconds],
        trace.values,
        target,
        hookup_of(run),
        USUAL_PIPE_C if pipe_c is None else pipe_c,
        litres if is_given else None,
    )
    now = trace.values[-1]
    numbers = [
        Number("vacuum", "Vacuum now", Measure(now, Quantity.VACUUM), now * GAUGE_SCALE),
        Number(
            "boils",
            "Water boils here at",
            temperature(boils_at(now)),
            None,
            "vapour pressure of water and ice, turned round",
        ),
    ]
    if found.left_min is not None and found.state == "coming":
        numbers.append(
            Number(
                "left",
                "To the target",
                minutes(found.left_min),
                found.left_min * (found.off or 0),
                "the curve so far, hoses and pump as named",
            )
        )
    key, state, headline, then = _evacuated(found, target)
    done = state == "passed" and not hazards
    return TestOutcome(
        state,
        key,
        headline,
        (_boiling(now), *_ballast(run, now), *_sweeps(run)),
        tuple(numbers),
        proves=("evacuated",) if done else (),
        then=then,
        ready_in=found.left_min if found.state == "coming" else None,
        hazards=hazards,
        warnings=(*warnings, *_advice_on_hoses(run, found)),
    )


def _evacuated(found: Evacuation, target: float) -> tuple[str, State, Said, tuple[Advice, ...]]:
    aim = Measure(target, Quantity.VACUUM)
    decay = Advice("decay", "Shut the pump’s valve and watch it rise: only that proves it dry.")
    match found.state:
        case "reached":
            return (
                "reached",
                "passed",
                say("Under {aim}. Isolate it and let it stand.", aim=aim),
                (decay,),
            )
        case "coming" if found.left_min is not None:
            return (
                "coming",
                "running",
                say("{aim} in about {left}.", aim=aim, left=minutes(max(found.left_min, 1.0))),
                (),
            )
        case "stalled_on_water":
            return (
                "stalled_on_water",
                "cannot_tell",
                say("Stalled on water: it boils off as fast as it is pumped. No forecast."),
                (
                    Advice("warm", "Warm the pipes, ballast open: more heat, more vapour out."),
                    Advice(
                        "sweep", "Break it with dry nitrogen and begin again: it carries damp out."
                    ),
                    Advice(
                        "decay", "Isolate: a leak that holds it up rises past what water can hold."
                    ),
                ),
            )
        case "at_its_end":
            return (
                "at_its_end",
                "cannot_tell",
                say("It comes no further: hoses too narrow, a worn pump or its oil, or a leak."),
                (
                    Advice(
                        "decay", "Isolate and watch: a pump at its end leaves the vacuum standing."
                    ),
                ),
            )
    return "beginning", "running", say("Falling. Too few readings for a forecast yet."), ()


def _boiling(pa: float) -> Said:
    return say(
        "At {vacuum} water boils at {temp}.",
        vacuum=Measure(pa, Quantity.VACUUM),
        temp=temperature(boils_at(pa)),
    )


def _sweeps(run: Run) -> tuple[Said, ...]:
    """How many times it was broken with nitrogen: a triple evacuation has two."""
    count = len(run.marked("swept"))
    return (say(f"Swept {count} of 2 times for a triple evacuation."),) if count else ()


def _ballast(run: Run, now: float) -> tuple[Said, ...]:
    if now < BALLAST_PA and run.choice("ballast", "shut") == "open":
        return (
            say("Under {limit}: shut the gas ballast.", limit=Measure(BALLAST_PA, Quantity.VACUUM)),
        )
    return ()


def _advice_on_hoses(run: Run, found: Evacuation | None) -> tuple[Said, ...]:
    """What cores and narrow hoses cost, by their conductance at the target."""
    hookup, target = hookup_of(run), run.number("target") or TARGET_PA
    own = hookup.conductance(target / 2)
    says = []
    if run.choice("gauge") == "pump":
        says.append(
            say("The gauge sits at the pump: it shows the pump’s vacuum, the system’s is worse.")
        )
    hose = run.choice("hose", USUAL_HOSE)
    wider = WIDE.get(hose)
    if wider:
        better = Hookup(
            hookup.pump_l_s, hookup.ultimate_pa, bore_of(wider), hookup.length_cm, hookup.hoses
        ).conductance(target / 2)
        if better > 3 * own and own < 0.5 * hookup.pump_l_s:
            says.append(
                say(
                    f"Near the target this hook-up lets through {_times(better / own)} less than "
                    f"{wider} in. hoses with the cores out would. The pump is not what is slow."
                )
            )
    if hookup.cores_in:
        says.append(say("Cores are in: take them out with a core tool, it is most of the way."))
    if found is not None and found.state == "at_its_end" and own < 0.1:
        says.append(say("Shorter and wider hoses first; then the pump’s oil."))
    return tuple(says)


def _times(ratio: float) -> str:
    return f"{ratio:.0f} times"


def _since_silence(run: Run) -> Trace:
    trace = between(run.trace("vacuum_level"), run.began_s, run.until_s)
    begins = [mark.at_s for mark in run.marked("swept")]
    begins += [b for _, b in silences(run, "vacuum_level")]
    return trace.since(max(begins)) if begins else trace
