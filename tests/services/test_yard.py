from datetime import timedelta
from itertools import count

from nudge.core.judgement.decision.doses import dose_answers
from nudge.core.language.errors import CoreError
from nudge.instruments.kit import Ails
from nudge.plant.faults import Present
from nudge.plant.room import Weather
from nudge.presenters.yard import yard_out
from nudge.services.errors import NotFound
from nudge.services.instruments import Instruments
from nudge.services.series import Series
from nudge.services.stream import Stream
from nudge.services.yard import Yard
from tests.temporary import WithDatabase


class YardTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.instruments = Instruments(self.database, self.clock, Stream(self.database))
        self.yard = self.new_yard()
        self.visits.open("v", "seed-library-stacks", "Warm")

    def new_yard(self):
        return Yard(self.database, self.clock, self.visits, self.instruments)

    def set_up(self, *faults, ails=None, outdoor_c=33.0):
        present = tuple(Present(*fault) for fault in faults)
        self.yard.set_up(
            "v", "split-3-410-valve", present, Weather(outdoor_c), (26.5, 50.0), 3, ails
        )

    def play(self, minutes, yard=None):
        self.clock.now += timedelta(minutes=minutes)
        (yard or self.yard).play("v", minutes)

    def values(self):
        return {p: v.value for p, v in self.visits.snapshot("v").live.values.items()}

    def test_air_first_then_charge_and_the_readings_follow(self):
        self.set_up(("filter_dirty", 0.8), ("undercharge", 0.36))
        self.play(1)
        self.yard.work("v", "on", "start_system")
        self.play(16)
        before = self.values()
        self.yard.work("v", "look", "open_indoor_panel")
        snapshot = self.visits.snapshot("v")
        self.assertIn("filter_dirty", snapshot.observations)
        self.assertIn("evaporator_coil_clean", snapshot.observations)
        self.yard.work("v", "filter", "change_filter")
        self.play(16)
        after = self.values()
        self.assertLess(after["total_external_static"], before["total_external_static"] - 40)
        self.assertIn("filter_clean", self.visits.snapshot("v").observations)
        charged = self.visits.snapshot("v")
        low = charged.assessment.case.derived.subcooling
        self.yard.work("v", "dose", "add_charge", 0.40)
        self.play(18)
        done = self.visits.snapshot("v")
        self.assertGreater(done.assessment.case.derived.subcooling, low + 1.5)
        self.assertEqual([one.answered for one in dose_answers(done.assessment.case)], [True])
        self.assertIn("dose:0", {r.id for r in done.visit.readings})  # what it was given to
        self.assertAlmostEqual(self.yard.view("v").cylinder_kg, 9.5 - 0.40, delta=0.001)
        self.assertAlmostEqual(self.values()["cylinder_weight"], 9.1, delta=0.02)

    def test_a_restarted_server_finds_the_system_as_it_was_left(self):
        self.set_up(("undercharge", 0.3))
        self.yard.work("v", "on", "start_system")
        self.play(10)
        before, view = self.values(), self.yard.view("v")
        again = self.new_yard()
        self.assertEqual(again.view("v"), view)
        self.play(1, again)
        after = self.values()
        for point in ("suction_pressure", "liquid_pressure", "liquid_line_temp"):
            self.assertAlmostEqual(after[point], before[point], delta=12)

    def test_a_probe_moved_on_screen_is_moved_on_the_pipe_and_a_swap_is_not(self):
        self.set_up()
        self.yard.work("v", "on", "start_system")
        self.play(8)
        self.instruments.place("v", "p", "clamp-6", "drier_inlet_temp")
        self.play(1)
        values = self.values()
        self.assertAlmostEqual(values["drier_inlet_temp"], values["liquid_line_temp"], delta=1.5)
        self.instruments.swap("v", "s", "clamp-1", "clamp-2")
        self.play(0.5)
        wrong = self.values()
        self.assertAlmostEqual(wrong["suction_line_temp"], values["liquid_line_temp"], delta=1.0)

    def test_clamps_put_on_the_wrong_way_round_are_caught_and_swapped(self):
        self.set_up(ails={"clamp-1": (Ails("wrong_pipe"),), "clamp-2": (Ails("wrong_pipe"),)})
        self.yard.work("v", "on", "start_system")
        self.play(9)
        lie = self.visits.snapshot("v").live.lies[0]
        self.assertEqual(
            (lie.check, lie.point, lie.swap_with),
            ("swapped", "suction_line_temp", "liquid_line_temp"),
        )
        self.instruments.swap("v", "s", "clamp-1", "clamp-2")
        self.play(2)
        self.assertEqual(self.visits.snapshot("v").live.lies, ())

    def test_a_switch_that_opens_is_noted_on_the_visit(self):
        self.set_up(("condenser_fan", 1.0), outdoor_c=46.0)
        self.yard.work("v", "on", "start_system")
        self.play(12)
        self.assertIsNone(self.visits.snapshot("v").running_since)
        self.assertIn("high-pressure", self.yard.view("v").tripped)

    def test_amounts_out_of_reason_and_real_systems_are_refused(self):
        self.set_up()
        for kg in (0.0, -1.0, 9.0):
            with self.subTest(kg), self.assertRaises(CoreError):
                self.yard.work("v", f"d{kg}", "add_charge", kg)
        with self.assertRaises(CoreError):
            self.yard.work("v", "x", "kick_it")
        self.visits.open("real", "seed-library-stacks", "")
        with self.assertRaises(NotFound):
            self.yard.work("real", "x", "start_system")
        self.assertIsNone(self.yard.view("real"))

    def test_a_dose_on_the_simulated_system_is_written_with_its_weight(self):
        self.set_up(("undercharge", 0.4))
        self.yard.work("v", "on", "start_system")
        self.play(16)
        self.yard.work("v", "dose", "add_charge", 0.15)
        self.yard.work("v", "wash", "clean_condenser")
        events = {e.kind: e.amount_kg for e in self.visits.snapshot("v").visit.events}
        self.assertEqual(events["refrigerant_added"], 0.15)
        self.assertIsNone(events["condenser_cleaned"])
        past = self.visits.snapshot("v").context.past
        self.assertAlmostEqual(past.added_since_kg, 0.15)
        self.assertEqual(past.done_since, "condenser_cleaned")

    def test_what_pours_through_the_open_valve_is_not_let_in_twice(self):
        self.set_up(("undercharge", 0.3))
        self.play(1)
        self.yard.work("v", "on", "start_system")
        self.play(2)
        began = round(self.clock.now.timestamp() * 1000)
        self.play(0.2)
        self.yard.turn_valve("v", True)
        self.play(0.25)  # 15 s at 6 g/s
        self.yard.turn_valve("v", False)
        self.play(0.5)
        weights = Series(self.database).weights("v", began)
        self.assertAlmostEqual(weights.values[0] - weights.values[-1], 0.090, delta=0.012)
        left = self.yard.view("v").cylinder_kg
        self.yard.let_in("v", 0.090)  # the dose as it is written down
        self.play(1)
        self.assertAlmostEqual(self.yard.view("v").cylinder_kg, left, delta=0.004)
        self.yard.let_in("v", 0.050)  # one that nobody poured
        self.play(1)
        self.assertAlmostEqual(left - self.yard.view("v").cylinder_kg, 0.050, delta=0.004)


class ThermostatTest(WithDatabase):
    """The hall's control worked by hand: history, lockouts, modes, and what they start and stop."""

    HALL = "school-hall-live"

    def setUp(self):
        super().setUp()
        instruments = Instruments(self.database, self.clock, Stream(self.database))
        self.yard = Yard(self.database, self.clock, self.visits, instruments)
        self.jobs = count()

    def do(self, key):
        return self.yard.work(self.HALL, f"job-{next(self.jobs)}", key)

    def kinds(self):
        return [e.kind for e in self.visits.snapshot(self.HALL).visit.standing_events]

    def test_its_history_tells_why_somebody_chose_emergency_heat(self):
        said = self.do("read_history")
        self.assertIn("6 days ago: emergency heat chosen by hand", said)
        self.assertIn("high-pressure switch opened", said)
        self.assertIn("strips never locked out", said)
        self.assertIn("strips off over 40 °F (4 °C)", self.do("set_lockouts"))
        self.assertIn("strips off over 40 °F", self.do("read_history"))

    def test_emergency_heat_stops_the_pump_and_its_normal_mode_starts_it_again(self):
        self.assertIn("emergency", self.do("call_emergency"))
        self.clock.now += timedelta(minutes=4)
        self.assertEqual(self.kinds()[-1], "system_started")  # nothing moved it on yet
        self.assertIn("41.7 A; on its circuits 20.9, 20.9 A", self.do("clamp_circuits"))  # at 230 V
        self.assertEqual(self.kinds()[-1], "system_stopped")
        view = self.yard.view(self.HALL)
        self.assertFalse(view.is_running)
        self.assertTrue(view.is_on)
        self.assertIn("strips alone", view.thermostat)
        self.do("normal_mode")
        self.do("raise_call")
        self.clock.now += timedelta(minutes=4)
        self.do("read_history")
        self.assertTrue(self.yard.view(self.HALL).is_running)
        self.assertEqual(self.kinds()[-1], "system_started")

    def test_a_cooling_plant_has_no_thermostat_to_set(self):
        with self.assertRaises(CoreError):
            self.yard.work("radio-room-live", "no", "set_lockouts")
        jobs = {job.key for job in yard_out(self.yard.view("radio-room-live"), "ip").jobs}
        self.assertFalse({"set_lockouts", "read_history", "swap_bulb"} & jobs)
        winter = {job.key for job in yard_out(self.yard.view(self.HALL), "ip").jobs}
        self.assertTrue({"set_lockouts", "read_history", "swap_bulb", "force_defrost"} <= winter)
