"""What a vacuum gauge is worth: power put on under it, silence, a shut valve, a second gauge."""

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import PA_PER_MICRON, Quantity
from nudge.core.settling.trace import Trace
from nudge.core.tests.run import EVERY_PIPE, Run, at, between, silences, silent_said

GAUGE_NOISE_PA = 3 * PA_PER_MICRON
GAUGE_SCALE = 0.08
"""How far a thermal vacuum gauge may be off by its scale."""
TWO_GAUGES = 0.25
"""Two gauges further apart than this share disagree by more than their scales."""
FLAT_READINGS, FLAT_MIN = 10, 3.0
USUAL_PIPE_C = 20.0
COMPRESSOR_A = 0.5


def coldest(run: Run) -> float | None:
    last = [run.last_of(point) for point in EVERY_PIPE]
    return min((v for v in last if v is not None), default=None)


def power_on(run: Run) -> tuple[Said, ...]:
    amps = run.last_of("compressor_amps")
    if not run.started_s and not (amps is not None and amps > COMPRESSOR_A):
        return ()
    return (
        say(
            "Power on in a vacuum: a compressor arcs inside and is lost. Off, locked out, control "
            "voltage too. Nothing is proven by this stand."
        ),
    )


def about_gauge(run: Run, trace: Trace) -> tuple[Said, ...]:
    found = []
    gaps = silences(run, "vacuum_level")
    if gaps:
        found.append(silent_said(gaps, "The vacuum gauge"))
    part = between(trace, run.began_s, run.until_s)
    if (
        len(part.values) >= FLAT_READINGS
        and part.span >= FLAT_MIN * 60
        and max(part.values) - min(part.values) < 1e-6
    ):
        found.append(say("The gauge does not move at all: is its own valve shut?"))
    second = run.typed.get("vacuum_level")
    live = run.traces.get("vacuum_level")
    if second is not None and live is not None:
        for s, typed in zip(second.seconds, second.values, strict=True):
            other = at(_without(live, s), s)
            if other and abs(typed - other) > TWO_GAUGES * max(typed, other):
                found.append(
                    say(
                        "Two gauges disagree: {one} and {other}. Clean a sensor, or trust neither.",
                        one=Measure(typed, Quantity.VACUUM),
                        other=Measure(other, Quantity.VACUUM),
                    )
                )
                break
    return tuple(found)


def _without(trace: Trace, second: float) -> Trace:
    rows = [(s, v) for s, v in zip(trace.seconds, trace.values, strict=True) if s != second]
    return Trace(tuple(s for s, _ in rows), tuple(v for _, v in rows))
