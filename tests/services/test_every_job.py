"""Every job that can be done to a simulated system: what it shows, puts right, writes and moves."""

import unittest
from itertools import count

from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.vocabulary.actions import ACTIONS
from nudge.core.language.vocabulary.points import POINTS
from nudge.plant.faults import FAULTS, Present
from nudge.plant.room import Weather
from nudge.services.instruments import Instruments
from nudge.services.stream import Stream
from nudge.services.yard import Yard
from nudge.services.yard_jobs import CLEAN_AFTER, JOBS
from nudge.services.yard_work import DONE
from tests.temporary import WithDatabase

LOOKS = [(job, show) for job in JOBS.values() for show in job.shows if job.mode != "heating"]
MENDS = [
    (job, fault)
    for job in JOBS.values()
    for fault in job.puts_right
    if job.mode != "heating" and job.on != "open"
]
KNOWN_EVENTS = {*ACTIONS, "system_started", "system_stopped"}


class TableTest(unittest.TestCase):
    def test_every_job_speaks_of_things_there_are(self):
        for job in JOBS.values():
            with self.subTest(job.key):
                shown = [fault for fault, _, _ in job.shows]
                self.assertLessEqual({*job.puts_right, *shown}, FAULTS.keys())
                seen = {key for _, yes, no in job.shows for key in (yes, no) if key}
                self.assertLessEqual(seen, OBSERVATIONS.keys())
                points = {point for _, point in job.places if point}
                self.assertLessEqual(points, POINTS.keys())
                self.assertTrue(job.label[0].isupper() and not job.label.endswith("."))

    def test_what_opens_a_machine_or_moves_refrigerant_says_how_not_to_be_hurt(self):
        for job in JOBS.values():
            opens = job.part in ("indoor_coil", "blower", "bulb") and not job.at_thermostat
            is_only_refixed = job.key == "refix_bulb"  # on the pipe, outside the cabinet
            if (opens and not is_only_refixed) or job.takes_amount or job.moves_all:
                with self.subTest(job.key):
                    self.assertNotEqual(job.caution, "")

    def test_liquid_always_goes_with_gloves_and_eyes(self):
        for key in ("add_charge", "remove_charge", "recover_all"):
            self.assertIn("gloves and eye protection", JOBS[key].caution)
            if key != "add_charge":
                self.assertIn("recovery cylinder", JOBS[key].caution)

    def test_whatever_is_done_in_a_way_of_its_own_is_a_job(self):
        self.assertLessEqual(DONE.keys(), JOBS.keys())


class OnAPlantTest(WithDatabase):
    """Each look and each repair by hand, on a system that has the fault and on one that has not."""

    def setUp(self):
        super().setUp()
        instruments = Instruments(self.database, self.clock, Stream(self.database))
        self.yard = Yard(self.database, self.clock, self.visits, instruments)
        self.number = count()

    def stand(self, *faults):
        """A system with some faults, on a visit of its own."""
        visit = f"v{next(self.number)}"
        self.visits.open(visit, "seed-library-stacks", "Warm")
        present = tuple(Present(fault, 0.7) for fault in faults)
        self.yard.set_up(visit, "split-3-410-valve", present, Weather(33.0), (26.5, 50.0), 3)
        return visit

    def do(self, visit, job, kg=0.0):
        return self.yard.work(visit, f"job-{next(self.number)}", job, kg)

    def seen(self, visit):
        return self.visits.snapshot(visit).observations

    def faults(self, visit):
        return {fault.key for fault in self.yard._plants[visit].scene.faults}

    def events(self, visit):
        return [e.kind for e in self.visits.snapshot(visit).visit.standing_events]

    def test_a_look_shows_what_is_there_and_what_is_not(self):
        for job, (fault, yes, no) in LOOKS:
            with self.subTest(job.key, fault=fault):
                ill, well = self.stand(fault), self.stand()
                self.do(ill, job.key)
                self.do(well, job.key)
                self.assertIn(yes, self.seen(ill))
                self.assertNotIn(no, self.seen(ill))
                self.assertNotIn(yes, self.seen(well))
                if no:
                    self.assertIn(no, self.seen(well))
                self.assertEqual(self.faults(ill), {fault})  # to look mends nothing

    def test_a_repair_ends_its_fault_alone_and_says_so_on_the_visit(self):
        for job, fault in MENDS:
            with self.subTest(job.key, fault=fault):
                visit = self.stand(fault, "undercharge")
                came = self.do(visit, job.key)
                self.assertEqual(self.faults(visit), {"undercharge"})
                self.assertNotIn("nothing wrong", came)
                if job.event is not None:
                    self.assertIn(job.event, self.events(visit))
                if fault in CLEAN_AFTER:
                    self.assertIn(CLEAN_AFTER[fault], self.seen(visit))

    def test_a_repair_of_what_is_sound_says_that_nothing_was_wrong(self):
        for job in {job.key: job for job, _ in MENDS}.values():
            with self.subTest(job.key):
                visit = self.stand("undercharge")
                self.assertIn("There was nothing wrong with it", self.do(visit, job.key))
                self.assertEqual(self.faults(visit), {"undercharge"})

    def test_every_event_a_job_writes_is_one_a_visit_knows(self):
        for job in JOBS.values():
            if job.event is not None and not job.event.startswith("circuit_"):
                self.assertIn(job.event, KNOWN_EVENTS)

    def test_started_it_runs_and_stopped_it_stands(self):
        visit = self.stand()
        self.do(visit, "start_system")
        self.clock.pass_minutes(3)
        self.yard.play(visit, 3)
        self.assertTrue(self.yard.view(visit).is_running)
        self.do(visit, "stop_system")
        self.assertFalse(self.yard.view(visit).is_running)
        self.assertEqual(self.events(visit), ["system_started", "system_stopped"])

    def test_what_is_weighed_in_and_out_is_what_it_holds(self):
        visit = self.stand("undercharge")
        before = self.yard._plants[visit].state.charge_kg
        self.do(visit, "add_charge", 0.25)
        self.clock.pass_minutes(5)
        self.yard.play(visit, 5)
        plant = self.yard._plants[visit]
        self.assertAlmostEqual(plant.state.charge_kg, before + 0.25, delta=0.002)
        self.assertAlmostEqual(plant.cylinder_kg, 9.5 - 0.25, delta=0.002)
        self.do(visit, "remove_charge", 0.1)
        self.clock.pass_minutes(5)
        self.yard.play(visit, 5)
        self.assertAlmostEqual(self.yard._plants[visit].state.charge_kg, before + 0.15, delta=0.002)
        amounts = [
            e.amount_kg for e in self.visits.snapshot(visit).visit.standing_events if e.amount_kg
        ]
        self.assertEqual(amounts, [0.25, 0.1])

    def test_no_amount_out_of_reason_is_moved(self):
        visit = self.stand()
        held = self.yard._plants[visit].state.charge_kg
        for job in ("add_charge", "remove_charge"):
            for kg in (0.0, -0.2, 2.01, float("nan")):
                with self.subTest(job, kg=kg), self.assertRaises(CoreError):
                    self.do(visit, job, kg)
        self.assertEqual(self.yard._plants[visit].state.charge_kg, held)
        self.assertEqual(self.events(visit), [])

    def test_a_job_nobody_knows_is_named_with_the_nearest(self):
        with self.assertRaises(UnknownName) as refused:
            self.do(self.stand(), "clean_condensor")
        self.assertIn("clean_condenser", refused.exception.nearest)

    def test_a_running_system_is_not_recovered_and_a_charged_one_not_opened(self):
        visit = self.stand()
        self.do(visit, "start_system")
        with self.assertRaisesRegex(CoreError, "Stop it and lock it out"):
            self.do(visit, "recover_all")
        self.do(visit, "stop_system")
        for job in JOBS.values():
            if job.on == "open":
                with self.subTest(job.key), self.assertRaises(CoreError):
                    self.do(visit, job.key)
        self.assertIn("Recovered", self.do(visit, "recover_all"))

    def test_what_is_done_in_heating_alone_is_not_offered_in_cooling(self):
        from nudge.presenters.yard import yard_out

        offered = {job.key for job in yard_out(self.yard.view(self.stand()), "ip").jobs}
        for job in JOBS.values():
            if job.mode == "heating" or job.at_thermostat or job.on == "open":
                self.assertNotIn(job.key, offered)
        self.assertLessEqual({"start_system", "change_filter", "check_bulb"}, offered)


if __name__ == "__main__":
    unittest.main()
