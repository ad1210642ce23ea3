"""What one channel shows by itself: silence, gaps, a frozen value, spikes."""

from collections.abc import Iterator
from statistics import median

from nudge.core.language.said import say
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.settling.seen import Lie, Seen

QUIET_S = 30.0
STUCK_S, STUCK_ROWS = 100.0, 20
ARRIVING_SHARE = 0.6
SPIKE_K, SPIKE_KPA = 5.0, 80.0


def silent(seen: Seen) -> Iterator[Lie]:
    for point in sorted(seen.placed):
        trace = seen.traces.get(point)
        if trace is None or not trace.values or seen.now - trace.seconds[-1] > QUIET_S:
            yield Lie(
                "silent",
                point,
                say(
                    f"{_label(point)}: nothing has come for half a minute. Check its battery and "
                    "whether it is in reach."
                ),
            )


def dropping_out(seen: Seen) -> Iterator[Lie]:
    counts = {
        point: len(seen.traces[point].values) for point in seen.placed if point in seen.traces
    }
    if len(counts) < 3:
        return
    usual = median(counts.values())
    for point, count in sorted(counts.items()):
        if usual >= STUCK_ROWS and count < ARRIVING_SHARE * usual:
            yield Lie(
                "dropping_out",
                point,
                say(
                    f"{_label(point)}: fewer than two values in three arrive. Bring it nearer, or "
                    "change its battery."
                ),
            )


def stuck(seen: Seen) -> Iterator[Lie]:
    for point, trace in sorted(seen.traces.items()):
        if point not in seen.placed or _spike_size(point) is None:
            continue
        late = trace.since(seen.now - STUCK_S)
        if len(late.values) >= STUCK_ROWS and max(late.values) == min(late.values):
            yield Lie(
                "stuck",
                point,
                say(
                    f"{_label(point)} has shown the same value for over a minute and a half, to "
                    f"the "
                    "last digit. Wake the probe or change it."
                ),
            )


def spiking(seen: Seen) -> Iterator[Lie]:
    for point, trace in sorted(seen.traces.items()):
        size = _spike_size(point)
        if size is None or point not in seen.placed or len(trace.values) < STUCK_ROWS:
            continue
        values = trace.values
        jumps = sum(
            abs(values[i] - median(values[i - 2 : i + 3])) > size for i in range(2, len(values) - 2)
        )
        if jumps >= 2:
            yield Lie(
                "spiking",
                point,
                say(
                    f"{_label(point)} throws single values far from their neighbours. Check its "
                    "plug and its contact."
                ),
            )


def _spike_size(point: str) -> float | None:
    if point.endswith("pressure"):
        return SPIKE_KPA
    return SPIKE_K if point.endswith(("_temp", "_wet_bulb")) else None


def _label(point: str) -> str:
    return POINTS[point].label
