"""Compressors swapped from the open circuit to the trimmed charge, on simulated systems.

`python -m tools.repair_study [FIRST_SEED] [SWAPS] [harm]`: water 0 to 12 g, a leaking joint in one
of five (overlooked by the bubbles in one of four), line set 3 to 30 m, a wrong plate in one of ten.
What Nudge asks for is done: nitrogen, pump, decay, sweep, first fill by its school, the sheet read
again where it is doubted (a wrong figure is then found), trim by decision; once more on another day
where this one cannot be judged. With `harm` something else is wrong with each renewed system (ticks
that say it was seen right lie): what is moved then, and where it ends.
The circuit's laws are the plant's; the judge knows none of them.
"""

import random
import sys
from collections import Counter
from collections.abc import Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from math import inf

from nudge.core.charging.advise import Nudge, advise
from nudge.core.charging.sizing import Dosed
from nudge.core.checks.table import CHECKS
from nudge.core.language.errors import CoreError
from nudge.core.language.vocabulary.accuracy import GAP_LIMIT_K
from nudge.core.opening.first_fill import first_fill
from nudge.core.physics.circuit.past import Past
from nudge.core.physics.circuit.weigh_in import line_allowance
from nudge.core.physics.tightness.decay import Risen
from nudge.core.physics.tightness.dryness import Stand, read_standing
from nudge.core.physics.tightness.standing_pressure import read_stand
from nudge.plant.circuit import NoOperatingPoint
from nudge.plant.faults import Present
from nudge.plant.opened import Inside, Opened, PlantPump, filled, pressure_pa, step, vented
from tools.charge_study import NUMBERS
from tools.rig import Rig
from tools.sweep import NOT_READ, Site
from tools.tables import some_site
from tools.vacuum_study import GAUGE_SCALE, NOISE_PA

SWAPS, MOST_ROUNDS, MOST_STEPS, MOST_DOSES = 100, 10, 40, 12
NITROGEN_PA, AIR_PA, SWEPT_PA = 1_135e3, 101_325.0, 116e3
WET_G_PER_L = 0.05 / 12
EXACT_K, LEAST_PLATE_KG, OVER_SHEET = 0.01, 0.15, 1.02
INCLUDED_M, LIQUID_MM, VAPOUR_MM = 4.572, 9.525, 19.05


BESIDE = (
    "condenser_dirt", "condenser_fan", "filter_dirty", "evaporator_dirt", "drier_restricted",
    "line_kinked", "service_valve", "metering_underfeed", "metering_overfeed", "bulb_loose",
    "compressor_worn", "low_load", "high_load", "weak_capacitor",
)  # fmt: skip


@dataclass(frozen=True)
class Swap:
    """How one swap went."""

    closed: bool
    leaks: bool
    water_g: float
    is_wet: bool
    rounds: int
    wrong_plate: bool
    doses: int
    in_window: bool
    as_read: bool
    """Inside its window to what two instruments can tell."""
    ended: str
    share: float
    """Charge at the end, of what is right."""


class _Open:
    """A circuit under test: its truth, and the gauge and clamp on it."""

    def __init__(self, rng: random.Random, litres: float) -> None:
        self.rng, self.litres = rng, litres
        leak = 10 ** rng.uniform(-2.5, -0.3) if rng.random() < 0.2 else 0.0
        self.opened = Opened(
            litres,
            leak,
            water_w_k=10 ** rng.uniform(-1.8, -1.0),
            oil_pa=rng.uniform(5, 40),
            oil_s=rng.uniform(200, 1500),
        )
        self.around = rng.uniform(12, 33)
        self.inside = filled(self.opened, AIR_PA, self.around, rng.uniform(0, 12))
        self.pump = PlantPump(rng.uniform(1.5, 4), rng.uniform(1, 8), rng.choice((0.48, 0.8)))
        self.scale, self.warmed, self.last = rng.uniform(-GAUGE_SCALE, GAUGE_SCALE), 0.0, ""

    @property
    def pipe(self) -> float:
        return self.around + self.warmed

    def pass_on(self, minutes: float, pump: PlantPump | None = None) -> Iterator[float]:
        for _ in range(round(minutes * 6)):
            self.inside = step(self.opened, self.inside, self.pipe, 10, pump)
            yield pressure_pa(self.opened, self.inside, self.pipe)

    def bring(self, pa: float) -> None:
        self.inside = vented(self.opened, self.inside, self.pipe, pa)

    def mend(self) -> None:
        self.opened = replace(self.opened, leak=0.0, joint="")

    def proven_tight(self) -> None:
        """Nitrogen and bubbles until it holds; what bubbles, or falls, is mended."""
        for _ in range(4):
            self.bring(NITROGEN_PA)
            rows = [(n / 6, pa / 1000) for n, pa in enumerate(self.pass_on(20))]
            seen = [kpa + self.rng.gauss(0, 0.35) for _, kpa in rows]
            pipes = [self.pipe + self.rng.gauss(0, 0.1) for _ in rows]
            found = read_stand([minute for minute, _ in rows], seen, pipes, self.litres)
            bubbles = self.opened.leak > 0 and self.rng.random() < 0.75
            if not bubbles and found.held != "leaks":
                break
            if self.opened.leak > 0 and self.rng.random() < 0.9:
                self.mend()  # looked for until it is found, nine times of ten
        self.bring(AIR_PA)

    def decayed(self, begin: float) -> Risen:
        rows = []
        for n, pa in enumerate(self.pass_on(20)):
            noisy = pa * (1 + self.scale) + self.rng.gauss(0, NOISE_PA)
            rows.append((begin + n / 6, max(noisy, 0.1), self.pipe + self.rng.gauss(0, 0.1)))
        return Risen(*(tuple(row[n] for row in rows) for n in range(3)))

    def proven_dry(self) -> tuple[bool, int]:
        """Pumped, isolated, swept and warmed as asked, until it is dry; or left open."""
        stood: list[Risen] = []
        for number in range(1, MOST_ROUNDS + 1):
            for _ in self.pass_on(40, self.pump):
                pass
            stood = [*stood[-1:], self.decayed(60.0 * number)]
            stand: Stand = read_standing(stood, NOISE_PA, GAUGE_SCALE)
            self.last = stand.found
            if stand.found == "dry":
                return True, number
            if stand.found == "leaking":
                self.proven_tight()
            self.warmed = 15.0
            self.bring(SWEPT_PA)
        return False, MOST_ROUNDS

    @property
    def water_g(self) -> float:
        return water_in(self.inside)


def water_in(inside: Inside) -> float:
    return inside.water_g + inside.vapour_mol * 18


def _with_sheet(of: Site, rng: random.Random) -> tuple[Site, Site | None]:
    """A plate and line set whose sum is right, and in one of ten the same with a wrong figure.

    Raises: ValueError, for a line set that holds more than the whole system.
    """
    length = rng.uniform(3, 30)
    plate = replace(
        of.plate,
        line_set_length_m=length,
        line_length_included_m=INCLUDED_M,
        liquid_line_mm=LIQUID_MM,
        vapour_line_mm=VAPOUR_MM,
    )
    allowance = line_allowance(plate)
    assert allowance is not None
    line_kg = (length - INCLUDED_M) * allowance.value / 1000
    wrong = rng.random() < 0.1
    off = rng.choice((rng.uniform(0.75, 0.85), rng.uniform(1.15, 1.25))) if wrong else 1.0
    sheet_kg = of.right_kg * rng.gauss(1, 0.03)
    if min(off, 1.0) * sheet_kg - line_kg < LEAST_PLATE_KG:
        raise ValueError
    right, written = (
        replace(of, plate=replace(plate, factory_charge_kg=one * sheet_kg - line_kg))
        for one in (1.0, off)
    )
    return right, written if wrong else None


def swapped(seed: int) -> Swap | None:
    """One swap; None where the plant has no such system."""
    rng = random.Random(f"repair {seed}")
    site = some_site(rng, NUMBERS, ("strange valve", "strange orifice")[seed % 2])
    try:
        of, wrong = _with_sheet(site, rng)
    except ValueError:
        return None
    circuit = _Open(rng, 4.0 * of.right_kg)
    circuit.proven_tight()
    closed, rounds = circuit.proven_dry()
    water, leaks = circuit.water_g, circuit.opened.leak > 0
    is_wet = water > WET_G_PER_L * circuit.litres
    if not closed:
        is_wrong = wrong is not None
        return Swap(
            False, leaks, water, is_wet, rounds, is_wrong, 0, False, False, circuit.last, 0.0
        )
    try:
        doses, off_k, ended, share = _trimmed(wrong or of, of, rng)
    except (NoOperatingPoint, CoreError, ValueError, ArithmeticError):
        return None
    inside, as_read = off_k <= EXACT_K, off_k <= GAP_LIMIT_K
    return Swap(
        True, leaks, water, is_wet, rounds, wrong is not None, doses, inside, as_read, ended, share
    )


def _trimmed(
    of: Site, right: Site, rng: random.Random, faults: Sequence[Present] = ()
) -> tuple[int, float, str, float]:
    """Doses, how far outside its window it stands by readings without an error [K], what was said
    last, and the charge in shares of what is right.
    """
    fill = first_fill(of.plate)
    rig = Rig(of, fill.kg / of.right_kg, rng, faults)
    in_kg, doses, days = fill.kg, 0, 1
    history = [Dosed(rig.minutes, 0.0, rig.read())]
    said = _said(rig, of, history, fill.sheet_kg - in_kg)
    for _ in range(MOST_STEPS):
        moved = _moves(said)
        if said.decision.key == "rest_of_sheet":
            moved = fill.sheet_kg - in_kg
        if said.action == "wait":
            rig.wait(said.wait_minutes)
            history[-1] = replace(
                Dosed(rig.minutes, 0.0, rig.read()), added_kg=history[-1].added_kg
            )
        elif moved and doses < MOST_DOSES:
            rig.give(moved)
            in_kg, doses = in_kg + moved, doses + 1
            rig.wait(max(said.wait_minutes, 15.0))
            history.append(Dosed(rig.minutes, moved, rig.read()))
        elif said.decision.key == "sheet_doubted" and of is not right:
            of, fill = right, first_fill(right.plate)
            rig.give(fill.kg - in_kg)  # what the sheet lacked: weighed in, not trimmed
            in_kg = fill.kg
            rig.wait(15.0)
            history = [Dosed(rig.minutes, 0.0, rig.read())]
        elif faults or not _looked(rig, said):
            if faults or said.decision.key != "first" or days > 1:
                break
            days += 1
            rig.come_again()
            history = [Dosed(rig.minutes, 0.0, rig.read())]
        said = _said(rig, of, history, fill.sheet_kg - in_kg)
    true = {point: value for point, value in rig.truth().items() if point not in NOT_READ}
    seen = _said(rig, of, [Dosed(rig.minutes, 0.0, true)], fill.sheet_kg - in_kg)
    return doses, _off_k(seen), said.decision.key, rig.charge_kg / of.right_kg


def beside(seed: int) -> tuple[str, int, float, float, str] | None:
    """A renewed system with something else wrong: what, doses, where it ends in shares of its sheet
    and of what is right, and what was said last. None where the plant has no such system.
    """
    rng, fault = random.Random(f"beside {seed}"), BESIDE[seed % len(BESIDE)]
    kind = ("strange valve", "strange orifice")[seed // len(BESIDE) % 2]
    try:
        of, _ = _with_sheet(some_site(rng, NUMBERS, kind), rng)
        faults = [Present(fault, rng.uniform(0.3, 1.0))]
        doses, _, ended, share = _trimmed(of, of, rng, faults)
    except (NoOperatingPoint, CoreError, ValueError, ArithmeticError):
        return None
    return fault, doses, share * of.right_kg / first_fill(of.plate).sheet_kg, share, ended


def _looked(rig: Rig, said: Nudge) -> bool:
    """The one look or test it asks for, done on a system that has nothing wrong besides."""
    hangs = said.decision.hangs_on
    check = CHECKS.get(hangs.key) if hangs is not None else None
    if check is None or check.look is None or not check.look.no or check.look.no in rig.seen:
        return False
    rig.seen |= {check.look.no}
    return True


def _moves(said: Nudge) -> float:
    dose = said.decision.dose or said.decision.trim
    return 0.0 if dose is None or said.action == "wait" else dose.amount_kg


def _said(rig: Rig, of: Site, history: list[Dosed], left_kg: float) -> Nudge:
    new = frozenset({"compressor"})
    past = Past(
        weighed_in=True, proven_tight=True, sheet_left_kg=left_kg, renewed=new, by_scale=True
    )
    return advise(of.plate, history, replace(rig.context, past=past))


def _off_k(said: Nudge) -> float:
    """How far outside what the deciding school asks for, by readings without an error [K]."""
    judged = said.decision.judged or "subcooling"
    value = said.assessment.case.derived.get(judged)
    target = said.assessment.targets.windows.get(judged)
    if judged not in ("subcooling", "superheat") or value is None or target is None:
        return inf
    return max(target.low - value, value - target.high, 0.0)


def harm(first: int, count: int) -> int:
    with ProcessPoolExecutor() as pool:
        found = [one for one in pool.map(beside, range(first, first + count), chunksize=2) if one]
    over = [one for one in found if one[2] > OVER_SHEET and one[3] > 1]
    print(
        f"{len(found)} renewed systems with something else wrong: dosed "
        f"{sum(doses > 0 for _, doses, *_ in found)}; ended over its sheet and over what is right "
        f"{len(over)} {over}; beyond 10 % over {sum(share > 1.1 for *_, share, _ in found)}; "
        f"ended {dict(Counter(ended for *_, ended in found).most_common(8))}"
    )
    return 0


def main(first: str = "1", swaps: str = str(SWAPS), what: str = "") -> int:
    wanted = int(swaps)
    if what == "harm":
        return harm(int(first), wanted)
    with ProcessPoolExecutor() as pool:
        seeds = range(int(first), int(first) + 2 * wanted)
        found = [one for one in pool.map(swapped, seeds, chunksize=2) if one is not None][:wanted]
    closed = [one for one in found if one.closed]
    print(
        f"{len(found)} swaps, {len(closed)} closed up in {Counter(o.rounds for o in closed)} "
        f"rounds; left open {len(found) - len(closed)} "
        f"({sum(o.leaks for o in found if not o.closed)} leaking), the last stand "
        f"{dict(Counter(o.ended for o in found if not o.closed))}"
    )
    print(
        f"  closed up leaking {sum(o.leaks for o in closed)}, wet {sum(o.is_wet for o in closed)} "
        f"(most water {max((o.water_g for o in closed), default=0):.3f} g)"
    )
    for title, kept in (
        ("all", closed),
        ("right plates", [o for o in closed if not o.wrong_plate]),
        ("wrong plates", [o for o in closed if o.wrong_plate]),
    ):
        inside = sum(o.in_window for o in kept)
        print(
            f"  {title}: {len(kept)}, charge in its window at the end {inside} "
            f"({inside / max(len(kept), 1):.0%}), to what two instruments can tell "
            f"{sum(o.as_read for o in kept)} "
            f"({sum(o.as_read for o in kept) / max(len(kept), 1):.0%}); in three doses "
            f"{sum(o.doses <= 3 for o in kept)}; within 10 % of right "
            f"{sum(abs(o.share - 1) < 0.10 for o in kept)}; "
            f"ended {dict(Counter(o.ended for o in kept).most_common(8))}"
        )
    return 0


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
