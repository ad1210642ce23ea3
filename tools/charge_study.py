"""How well the dose advisor charges, in closed loop on simulated systems. Run by `make charge`.

`python -m tools.charge_study [SYSTEMS] [WRONG] [FIRST] [FAMILY … or left]`. Systems are strange
ones (±30 % in every constant, any size, device and refrigerant) numbered from 1000 on, of a family
of cousins where one is named; the book of responses is from 0 to 23; FIRST is the first seed. The
load drifts while it is charged; every instrument has its own error for the whole visit and noise
at every reading. Up to three of the decision's own checks are done first. The hand rule (1.5 oz,
wait 10 minutes) is run on the same.
"""

import sys
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from random import Random
from statistics import median

from nudge.core.charging.advise import Nudge, advise
from nudge.core.charging.responses import Watched
from nudge.core.charging.sizing import Dosed
from nudge.core.charging.ways import KG_PER_OZ
from nudge.core.checks.table import CHECKS, LOOK_OF
from nudge.core.judgement.decision import HangsOn
from nudge.core.language.errors import CoreError
from nudge.plant.circuit import NoOperatingPoint
from nudge.plant.faults import FAULTS, Present
from tools.rig import Rig, with_charge
from tools.sweep import NOT_READ
from tools.tables import families_in, some_site, workers

SYSTEMS, WRONG = 200, 100
NUMBERS = range(1000, 1150)
HAND_DOSE_KG, HAND_WAIT = 1.5 * KG_PER_OZ, 10.0
MOST_DOSES, MOST_STEPS = 14, 40
MOST_CHECKS, AIR_FIRST, LEAK = 3, "measure_airflow", "look_for_leak"
GUARDED = (
    "drier_restricted",
    "line_kinked",
    "metering_underfeed",
    "filter_dirty",
    "evaporator_dirt",
    "weak_capacitor",
    "condenser_dirt",
    "condenser_fan",
    "low_ambient",
    "low_load",
    "bulb_loose",
    "compressor_worn",
    "non_condensables",
)


@dataclass(frozen=True)
class Charged:
    """How one visit went."""

    start: float
    """Charge over right at the start (share)."""
    doses: int
    waited: float
    ended: str
    off_f: float
    """How far what is charged by ended from its target [°F], as measured; minus is short."""
    near: bool
    beyond: bool
    """Ended past its window on the far side of where it came from."""
    flooded: bool
    hand_waited: float
    in_window: bool
    """Ended inside the target's window."""
    trims: int = 0
    asked: int = 0
    """Checks done before anything was moved."""


@dataclass(frozen=True)
class Refused:
    """A system off its target on which nothing was moved, and the decision that said so."""

    start: float
    key: str
    advice: str
    asks: str
    """What it hangs on, by its key."""
    is_off: bool
    """What decides stood outside its window by more than its own ±."""


def charged(number: int) -> Charged | Refused | None:
    """One system charged from where it is found; None where the plant has no such system."""
    rng = Random(f"charge {number}")
    of = with_charge(some_site(rng, NUMBERS, ("strange valve", "strange orifice")[number % 2]), rng)
    over = rng.uniform(0.05, 0.30) if number % 5 < 2 else -rng.uniform(0.05, 0.40)
    rig = Rig(of, 1 + over, rng)
    try:
        return _closed_loop(rig, over)
    except (NoOperatingPoint, CoreError, ValueError, ArithmeticError):
        return None


OWN_LIMIT_F = 1.3
"""The ± of a superheat or a subcooling."""


def _closed_loop(rig: Rig, over: float) -> Charged | Refused:
    """As the decision says, dose by dose; a trim inside the window is taken where it is offered."""
    history = [Dosed(rig.minutes, 0.0, rig.read())]
    doses, waited, trims, asked = 0, 0.0, 0, 0
    said = advise(rig.of.plate, history, rig.context)
    while said.action not in ("add", "remove") and asked < MOST_CHECKS and _do_it(rig, said):
        asked += 1
        history = [Dosed(rig.minutes, 0.0, rig.read())]
        said = advise(rig.of.plate, history, rig.context)
    watched: Watched = said.sized.watched if said.sized else "subcooling"
    if said.action not in ("add", "remove"):
        judged = said.decision.judged
        is_off = False
        if judged in ("subcooling", "superheat"):
            off, window = _off(said, "superheat" if judged == "superheat" else "subcooling")
            is_off = not window[0] - OWN_LIMIT_F <= off <= window[1] + OWN_LIMIT_F
        hangs = said.decision.hangs_on
        asks = hangs.key if hangs is not None else ""
        return Refused(over, said.decision.key, said.decision.advice, asks, is_off)
    was_flooded, flooded = _floods(rig), False
    for _ in range(MOST_STEPS):
        action, trim = str(said.action), said.decision.trim
        moved, wait = 0.0, said.wait_minutes
        if action in ("add", "remove"):
            moved = said.amount_kg if action == "add" else -said.amount_kg
        elif action == "done" and trim is not None:
            moved, wait, trims = trim.amount_kg, trim.wait_minutes, trims + 1
        elif action != "wait":
            break
        if moved:
            rig.give(moved)
            doses += 1
        if doses > MOST_DOSES:
            break
        rig.wait(wait)
        waited += wait
        flooded = flooded or (moved > 0 and not was_flooded and _floods(rig))
        row = Dosed(rig.minutes, moved, rig.read())
        if moved:
            history.append(row)
        else:
            history[-1] = replace(row, added_kg=history[-1].added_kg)  # read again, after waiting
        said = advise(rig.of.plate, history, rig.context)
    off, window = _off(said, watched)
    beyond = off > window[1] if over < 0 else off < window[0]
    near = abs(off) <= (1.0 if watched == "subcooling" else 2.0) + 1e-6
    hand = _by_hand(rig, over)
    ended = said.decision.key if said.action == "stop" else said.action
    return Charged(
        over,
        doses,
        waited,
        ended,
        off,
        near,
        beyond,
        flooded,
        hand,
        window[0] - 0.01 <= off <= window[1] + 0.01,
        trims,
        asked,
    )


def _do_it(rig: Rig, said: Nudge) -> bool:
    """The one thing it asks for, done where nothing is wrong but charge: a reading taken anew by
    another instrument, a look or a test that finds nothing; for the leak of a short one, what an
    eye finds as often as its look says. False where it asks for none of these.
    """
    hangs = said.decision.hangs_on
    done = [] if hangs is None else [_do(rig, one) for one in (hangs, *hangs.also)]
    return any(done)


def _do(rig: Rig, hangs: HangsOn) -> bool:
    if hangs.kind == "reading":
        return rig.put_on_anew(hangs.key)
    check = CHECKS.get(hangs.key)
    if check is None or check.look is None:
        return False
    if check.key == LEAK and rig.charge_kg < rig.of.right_kg:
        found = rig.rng.random() < check.look.share(("undercharge",))
        rig.seen |= {check.look.yes} if found else set()
        return found
    if check.look.no not in LOOK_OF:
        return False
    if check.look.no in rig.seen:
        return False
    rig.seen |= {check.look.no}
    return True


def _off(said: Nudge, watched: Watched) -> tuple[float, tuple[float, float]]:
    """How far from target, and the window about it [°F], more charge counting up."""
    target = said.assessment.targets.windows[watched]
    value = said.assessment.case.derived.get(watched) or 0.0
    off, low, high = (1.8 * (v - target.value) for v in (value, target.low, target.high))
    return (off, (low, high)) if watched == "subcooling" else (-off, (-high, -low))


def _floods(rig: Rig) -> bool:
    truth = rig.truth()
    table_point = Dosed(0, 0, {p: v for p, v in truth.items() if p not in NOT_READ})
    said = advise(rig.of.plate, [table_point], rig.context)
    superheat = said.assessment.case.derived.superheat
    return superheat is not None and superheat * 1.8 < 3


def _by_hand(rig: Rig, over: float) -> float:
    """Minutes the hand rule waits: 1.5 oz and 10 minutes until as much has moved as was off."""
    return HAND_WAIT * max(round(abs(over) * rig.of.right_kg / HAND_DOSE_KG), 1)


def guarded(number: int) -> tuple[str, int, str]:
    """A system whose charge is right and something else is wrong: doses given before it stops."""
    rng = Random(f"guard {number}")
    fault = GUARDED[number % len(GUARDED)]
    kind = ("strange valve", "strange orifice")[number % 2]
    if fault == "bulb_loose":
        kind = "strange valve"
    of = with_charge(some_site(rng, NUMBERS, kind), rng)
    assert fault in FAULTS
    rig = Rig(of, 1.0, rng, [Present(fault, rng.uniform(0.3, 1.0))])
    doses = 0
    try:
        history = [Dosed(rig.minutes, 0.0, rig.read())]
        for _ in range(MOST_STEPS):
            said = advise(of.plate, history, rig.context)
            if said.action in ("done", "stop"):
                return fault, doses, said.action
            moved = 0.0
            if said.action in ("add", "remove"):
                moved = said.amount_kg if said.action == "add" else -said.amount_kg
                rig.give(moved)
                doses += 1
            rig.wait(said.wait_minutes)
            history.append(Dosed(rig.minutes, moved, rig.read()))
    except (NoOperatingPoint, CoreError, ValueError, ArithmeticError):
        return fault, doses, "no operating point"
    return fault, doses, "never stopped"


def _print_refused(found: Sequence[Charged], off: Sequence[Refused]) -> None:
    """Of all that stood off their target, how many nothing was moved on and why. Airflow out of
    its range is put right first, whatever the charge: those are counted apart.
    """
    air = [one for one in off if one.asks == AIR_FIRST]
    held = [one for one in off if one.advice != "find_leak" and one not in air]
    whole = max(len(found) + len(off) - len(air), 1)
    later = [sum(one.asked > most for one in found) for most in (0, 1)]
    shares = [(len(held) + some) / whole for some in (*later, 0)]
    print(
        f"of {whole} that stood off their target, refused at once {shares[0]:.1%}, after one of "
        f"its checks {shares[1]:.1%}, after {MOST_CHECKS} {shares[2]:.1%}: "
        f"{dict(Counter(one.key for one in held).most_common(9))}; sent to find a leak "
        f"{sum(one.advice == 'find_leak' for one in off)}, air first {len(air)}"
    )


def _ninetieth(values: Sequence[float]) -> float:
    return sorted(values)[int(0.9 * (len(values) - 1))]


def main(family: str, systems: int = SYSTEMS, wrong: int = WRONG, first: int = 0) -> None:
    with workers(family) as pool:
        found: list[Charged] = []
        refused: list[Refused] = []
        for batch in range(20):
            if len(found) >= systems:
                break
            numbers = range(first + batch * systems, first + (batch + 1) * systems)
            for one in pool.map(charged, numbers, chunksize=4):
                if isinstance(one, Charged):
                    found.append(one)
                elif one is not None:
                    refused.append(one)
        kept = found[:systems]
        _print_refused(found, [one for one in refused if one.is_off])
        doses = [one.doses for one in kept]
        print(
            f"  doses: median {median(doses):g}, 90th percentile {_ninetieth(doses):g}, "
            f"most {max(doses)}; trims taken {sum(o.trims for o in kept)}"
        )
        print(f"  ended: {dict(Counter(one.ended for one in kept))}")
        print(
            f"  in its window: {sum(o.in_window for o in kept)}; "
            f"within 1 °F of target (2 for superheat): {sum(o.near for o in kept)}; "
            f"beyond its window on the far side: {sum(o.beyond for o in kept)}; "
            f"liquid return: {sum(o.flooded for o in kept)}"
        )
        waited, hand = sum(o.waited for o in kept), sum(o.hand_waited for o in kept)
        print(
            f"  waiting: {waited / len(kept):.0f} min against {hand / len(kept):.0f} by the hand "
            f"rule: {waited / hand:.2f}"
        )
        for title, over in (("short", False), ("over", True)):
            some = [o for o in kept if (o.start > 0) is over]
            if some:
                print(
                    f"  {title}: {len(some)}, doses median {median(o.doses for o in some):g}, "
                    f"90th {_ninetieth([o.doses for o in some]):g}, near "
                    f"{sum(o.near for o in some)}, in its window "
                    f"{sum(o.in_window for o in some)}"
                )
        for one in sorted(kept, key=lambda o: -abs(o.off_f))[:8]:
            print(f"    {one}")
        guard = list(pool.map(guarded, range(first, first + wrong), chunksize=4))
        print(
            f"wrong causes: at most one dose in {sum(d <= 1 for _, d, _ in guard)} of "
            f"{len(guard)}, none at all in {sum(d == 0 for _, d, _ in guard)}"
        )
        print(f"    {Counter((f, d, e) for f, d, e in guard if d > 0)}")


if __name__ == "__main__":
    for name in families_in(sys.argv[1:]):
        print(f"{name}, by tables made without it" if name else "the plant as it ships", flush=True)
        main(name, *(int(a) for a in sys.argv[1:] if a.isdigit()))
