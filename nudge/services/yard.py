"""Simulated systems that visits stand at: they run in real time and can be worked on.

What a technician does to one (`JOBS`) changes its scene; its kit then reads the difference.
Readings go the same way as a real device's.
"""

from collections.abc import Collection, Mapping
from contextlib import suppress
from dataclasses import replace
from datetime import datetime, timedelta
from logging import getLogger
from random import Random
from threading import Event as Signal
from threading import RLock, Thread
from uuid import uuid4

from nudge.core.language.errors import CoreError, UnknownName
from nudge.instruments.kit import Ails, KitSource, kit_rows, new_kit
from nudge.plant.acts import standing
from nudge.plant.faults import FAULTS, Present
from nudge.plant.kept import scene_data, state_data
from nudge.plant.presets import preset_machine
from nudge.plant.room import Weather, heated_room, room_for
from nudge.plant.running import advance
from nudge.plant.scene import Scene, charged
from nudge.plant.settled import settled
from nudge.plant.wet_air import air_of
from nudge.services.clock import Clock
from nudge.services.errors import Closed, NotFound
from nudge.services.instruments import Instruments
from nudge.services.samples import Given
from nudge.services.sound import BROKEN
from nudge.services.visits import Visits
from nudge.services.yard_jobs import CLEAN_AFTER, JOBS
from nudge.services.yard_open import open_data, place_kit
from nudge.services.yard_work import (
    CYLINDER_KG,
    DONE,
    DOSE_KG_S,
    JOB_OF_STATE,
    LARGEST_DOSE_KG,
    ColdBox,
    StandingPlant,
    Winter,
    YardView,
    bring_to,
    follow,
    give_out,
    open_up,
    plant_kept,
    put_right,
    read_kit,
    take_in,
    view_of,
)
from nudge.store.database import Database
from nudge.store.live_tables import Plant
from nudge.store.repositories import live
from nudge.store.repositories import yard as repository

_LOG = getLogger(__name__)
TICK_S = 1.0
LONGEST_CATCH_UP_S = 1800.0
KEEP_EVERY_S = 15.0
LONGEST_BURST_KG = 0.2
"""A valve that nobody shuts stops pouring by itself here."""


class Yard:
    """The use cases of simulated systems."""

    def __init__(
        self, database: Database, clock: Clock, visits: Visits, instruments: Instruments
    ) -> None:
        self._database, self._clock = database, clock
        self._visits, self._instruments = visits, instruments
        self._lock = RLock()
        self._plants: dict[str, StandingPlant] = {}
        self._stopping = Signal()
        self._thread: Thread | None = None

    def set_up(
        self,
        visit_id: str,
        preset: str,
        faults: tuple[Present, ...],
        weather: Weather,
        indoor: tuple[float, float],
        seed: int,
        ails: Mapping[str, tuple[Ails, ...]] | None = None,
        low_switch: float | None = 0.0,
        opened: bool = False,
        around: Winter | ColdBox | None = None,
        has_run_minutes: float = 0.0,
    ) -> None:
        """Put a simulated system, standing, where a visit is; `indoor` is °C and %.

        `low_switch` is where it trips [kPa gauge]; `opened`: nothing is in its circuit yet;
        `around` it is a winter, or a cold box; it stands, or has run for so many minutes.
        Raises: UnknownName.
        """
        machine, air = preset_machine(preset), air_of(*indoor)
        for present in faults:
            if present.key not in FAULTS:
                raise UnknownName("fault", present.key, FAULTS)
        heats = isinstance(around, Winter)
        room = (heated_room if heats else room_for)(machine.nominal_kw, air, weather.at(0))
        scene = Scene(machine, room, weather, faults, heats, 1.0, low_switch)
        scene = scene if around is None else around.over(scene)
        if has_run_minutes:
            state = settled(scene, air, 60 * has_run_minutes)
        else:
            state = standing(scene, air, charged(machine, faults))
        state = state if around is None else around.met(state)
        kit = new_kit(Random(seed), kit_rows(heats, machine.application))
        for channel, troubles in (ails or {}).items():
            kit = kit.ail(channel, troubles)
        now = self._clock()
        with self._lock:
            self._plants[visit_id] = StandingPlant(
                preset,
                scene,
                state,
                KitSource(kit, Random(seed + 1)),
                seed,
                CYLINDER_KG,
                {},
                now,
                now,
            )
            if opened:
                open_up(self._plants[visit_id])
            self._keep(visit_id, now)
        self._instruments.know(visit_id, kit.channels, "simulated")

    def view(self, visit_id: str) -> YardView | None:
        """The system a visit stands at; None when it is a real one."""
        with self._lock:
            plant = self._found(visit_id)
            return None if plant is None else view_of(plant)

    def work(self, visit_id: str, job_id: str, job_key: str, kg: float = 0.0) -> str:
        """Do a job on the system; answers what came of it, in a sentence.

        Raises: NotFound, for a real system; UnknownName; CoreError, for an amount out of reason.
        """
        job = JOBS.get(job_key)
        if job is None:
            raise UnknownName("job", job_key, JOBS)
        if job.takes_amount and not 0 < kg <= LARGEST_DOSE_KG:
            raise CoreError("amount", "Give an amount over zero and at most 2 kg (70 oz) at once.")
        with self._lock:
            plant = self._standing(visit_id)
            now = self._clock()
            self._move_on(visit_id, plant, now)
            held = plant.state.charge_kg
            came = DONE.get(job_key, put_right)(plant, job, kg)
            there = {fault.key for fault in plant.scene.faults}
            for number, (fault, yes, no) in enumerate(job.shows):
                key = yes if fault in there else no
                if key:
                    self._visits.observe(visit_id, f"{job_id}:{number}", key, True)
            for number, fault in enumerate(job.puts_right):
                clean = CLEAN_AFTER.get(fault)
                if clean:
                    self._visits.observe(visit_id, f"{job_id}:right:{number}", clean, True)
            place_kit(self._instruments, visit_id, job_id, job.places)
            is_its_own = job.event == "system_started" and plant.scene.thermostat is not None
            if job.event is not None and not is_its_own:  # its thermostat starts it when it calls
                amount = held if job.moves_all else kg if job.takes_amount else None
                self._visits.happened(visit_id, job_id, job.event, now, amount)
            self._keep(visit_id, now)
        return came or job.label

    def turn_valve(self, visit_id: str, is_open: bool) -> None:
        """Open or shut the cylinder's valve: it pours while it is open, and the scale shows it.

        Raises: NotFound, for a real system.
        """
        with self._lock:
            plant = self._standing(visit_id)
            self._move_on(visit_id, plant, self._clock())
            plant.is_open = is_open
            to_pour = min(plant.cylinder_kg, LONGEST_BURST_KG) if is_open else 0.0
            plant.state = replace(plant.state, to_add_kg=to_pour, adding_kg_s=DOSE_KG_S)
            self._keep(visit_id, self._clock())

    def let_in(self, visit_id: str, kg: float) -> None:
        """What a dose does to a simulated system [kg, minus for out]; nothing to a real one."""
        with self._lock:
            plant = self._found(visit_id)
            if plant is not None:
                now = self._clock()
                self._move_on(visit_id, plant, now)
                if kg > 0:
                    take_in(plant, kg)
                else:
                    give_out(plant, -kg)
                self._keep(visit_id, now)

    def bring_to(
        self, visit_id: str, state: str, parts: Collection[str], brought_kg: float = 0.0
    ) -> None:
        """Do to a simulated circuit what brings it to a state; nothing to a real one."""
        with self._lock:
            plant, now = self._found(visit_id), self._clock()
            if plant is None:
                return
            self._move_on(visit_id, plant, now)
            with suppress(CoreError):  # somebody did it by hand already
                bring_to(plant, state, parts, brought_kg)
            places = JOBS[JOB_OF_STATE[state]].places if state in JOB_OF_STATE else ()
            place_kit(self._instruments, visit_id, uuid4().hex, places)
            self._keep(visit_id, now)

    def tick(self) -> None:
        """Move every simulated system of a visit under way on to now, and send its readings."""
        now = self._clock()
        with self._lock:
            with self._database.reading() as session:
                ids = repository.under_way(session)
            for visit_id in ids:
                with suppress(*BROKEN):  # one that cannot go on holds no other up
                    self._tick_one(visit_id, now)

    def _tick_one(self, visit_id: str, now: datetime) -> None:
        plant = self._found(visit_id)
        if plant is None:
            return
        passed = (now - plant.at).total_seconds()
        self._move_on(visit_id, plant, now)
        self._follow_placements(visit_id, plant)
        self._send(visit_id, read_kit(plant, now, passed))
        if (now - plant.kept_at).total_seconds() > KEEP_EVERY_S:
            self._keep(visit_id, now)

    def run(self) -> None:
        """Tick in the background until `close`."""
        self._thread = Thread(target=self._ticking, name="yard", daemon=True)
        self._thread.start()

    def forget(self) -> None:
        """What stands there is read anew: other data came into place."""
        self._plants = {}

    def close(self) -> None:
        self._stopping.set()
        if self._thread is not None:
            self._thread.join(timeout=5)
        with self._lock:
            for visit_id in list(self._plants):
                self._keep(visit_id, self._clock())

    def _ticking(self) -> None:
        while not self._stopping.wait(TICK_S):
            try:
                self.tick()
            except Exception:  # one system that cannot go on must not stop the others for good
                _LOG.exception("A simulated system could not be moved on; trying again.")

    def _move_on(self, visit_id: str, plant: StandingPlant, now: datetime) -> None:
        seconds = min((now - plant.at).total_seconds(), LONGEST_CATCH_UP_S)
        plant.at = now
        if seconds <= 0:
            return
        ran, held = plant.state.is_running, plant.state.charge_kg
        if plant.circuit is not None:
            plant.circuit = plant.circuit.later(plant.outdoors_c, seconds)
            plant.state = replace(plant.state, seconds=plant.state.seconds + seconds)
            return
        plant.state = advance(plant.scene, plant.state, seconds)
        came_in = max(plant.state.charge_kg - held, 0.0)
        plant.cylinder_kg -= came_in
        if plant.is_open:
            plant.ahead_kg += came_in
        if ran != plant.state.is_running:
            kind = "system_stopped" if ran else "system_started"
            self._visits.happened(visit_id, uuid4().hex, kind, now)

    def play(self, visit_id: str, minutes: float, every_s: float = 2.0) -> None:
        """Let time pass from when it was last moved on, reading every few seconds; for a past.

        Raises: NotFound, for a real system.
        """
        with self._lock:
            plant, given = self._standing(visit_id), list[Given]()
            self._follow_placements(visit_id, plant)
            for _ in range(round(minutes * 60 / every_s)):
                now = plant.at + timedelta(seconds=every_s)
                self._move_on(visit_id, plant, now)
                given += read_kit(plant, now, every_s)
            self._send(visit_id, given)
            self._keep(visit_id, plant.at)

    def _send(self, visit_id: str, given: list[Given]) -> None:
        if not given:
            return
        try:
            self._instruments.take(visit_id, uuid4().hex, given, "si", "simulated")
        except (Closed, NotFound):
            self._plants.pop(visit_id, None)

    def _follow_placements(self, visit_id: str, plant: StandingPlant) -> None:
        """Move the simulated probes where somebody has put them. A swap only re-labels."""
        with self._database.reading() as session:
            last = live.last_placed(session, visit_id)
            if last == plant.last_placed:
                return
            rows = live.channels(session, visit_id)
        plant.last_placed = last
        follow(plant, rows)

    def _standing(self, visit_id: str) -> StandingPlant:
        """Raises: NotFound, for a real system."""
        plant = self._found(visit_id)
        if plant is None:
            raise NotFound("simulated system", visit_id)
        return plant

    def _found(self, visit_id: str) -> StandingPlant | None:
        if visit_id in self._plants:
            return self._plants[visit_id]
        with self._database.reading() as session:
            row = session.get(Plant, visit_id)
        if row is None:
            return None
        self._plants[visit_id] = plant_kept(row.scene, row.state, row.updated_at, self._clock())
        return self._plants[visit_id]

    def _keep(self, visit_id: str, now: datetime) -> None:
        plant = self._plants[visit_id]
        plant.kept_at = now
        held = plant.source.kit.held
        state = {
            "plant": state_data(plant.state),
            "seed": plant.seed,
            "cylinder_kg": plant.cylinder_kg,
            "ahead_kg": plant.ahead_kg,
            "is_open": plant.is_open,
            "circuit": open_data(plant.circuit),
            "sits": {h.row.key: h.point for h in held},
            "ails": {h.row.key: [[a.key, a.severity] for a in h.ails] for h in held if h.ails},
            "placements": plant.seen_placements,
        }
        with self._database.writing() as session:
            scene = scene_data(plant.preset, plant.scene)
            session.merge(Plant(visit_id=visit_id, scene=scene, state=state, updated_at=plant.at))
