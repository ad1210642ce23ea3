"""A visit beside its system's baseline of the same mode, and whether it may become one itself."""

import json
from dataclasses import dataclass, replace

from nudge.core.behaviours.case import Case, open_case
from nudge.core.drift.drift import UNLIKE, Drift, drift, is_compared, is_like, signs_kept
from nudge.core.language.said import Said, say
from nudge.services.snapshot import Snapshot
from nudge.store.visit_tables import Baseline


@dataclass(frozen=True, slots=True)
class Against:
    """A visit laid beside the baseline that held when it began."""

    baseline: Baseline
    drift: Drift
    intended: tuple[str, ...]


UNREAD = say("Nothing is judged yet: connect, settle and read.")


def unfit(snapshot: Snapshot) -> Said | None:
    """Why a visit is no baseline as it stands; None where it may be kept as one."""
    assessed = snapshot.assessment
    if assessed is None or snapshot.look is not None:
        return UNREAD
    kind, feed = assessed.case.behaviour, snapshot.plate.metering_device.feed
    only_checked = {"application_not_judged"} if is_compared(kind, feed) else set()
    for breach in assessed.breaches:
        if breach.effect == "blocks" and breach.gate.key not in only_checked:
            return breach.message
    if not assessed.decision.is_right or assessed.hazards:
        return say("A baseline is a system that is right. This one is not: act first, then read.")
    return None


def against(snapshot: Snapshot) -> Against | None:
    """A visit against its system's baseline at like conditions; None where there is none."""
    visit, assessed = snapshot.visit, snapshot.assessment
    if assessed is None:
        return None
    kind, feed = assessed.case.behaviour, snapshot.plate.metering_device.feed
    kept = snapshot.folder.baselines.get(kind.mode)
    if kept is None or kept.kept is None or not is_compared(kind, feed):
        return None
    unlike = any(b.gate.key in UNLIKE for b in assessed.breaches)
    unlike = unlike or not is_like(kind, kept.kept["readings"], assessed.case.readings)
    if kept.visit_id == visit.id or unlike:
        return None
    since = tuple(row.key for row in snapshot.folder.intended if row.happened_at >= kept.set_at)
    found = drift(kind, feed, kept.kept["signs"], signs_kept(bare(assessed.case)), since)
    return Against(kept, found, since)


def drift_noted(snapshot: Snapshot) -> str:
    """What had drifted by now, in both units, as a closed visit keeps it; "" where nothing had."""
    found = against(snapshot)
    if found is None or not found.drift.is_flagged:
        return ""
    return in_both(found.drift.said)


def in_both(said: Said) -> str:
    """A sentence in both units, as a row keeps it."""
    return json.dumps({"ip": said.text("ip"), "si": said.text("si")})


def bare(case: Case) -> Case:
    """The case without the system's own past: departures from its class alone."""
    return open_case(case.plate, case.readings, replace(case.context, own={}), case.behaviour)
