from datetime import timedelta

from sqlalchemy import func, select

from nudge.core.language.errors import CoreError, UnknownName
from nudge.services.errors import Closed, NotFound, Unsettled
from nudge.services.instruments import Instruments
from nudge.services.live_state import live_state
from nudge.services.samples import Given
from nudge.services.series import Series
from nudge.services.stream import Stream
from nudge.store.live_tables import Channel, Placement, SampleRow
from nudge.store.repositories import visits as repository
from tests.temporary import WithDatabase

STEADY = {
    "low": ("suction_pressure", 118.0),
    "high": ("liquid_pressure", 341.0),
    "c1": ("suction_line_temp", 52.0),
    "c2": ("liquid_line_temp", 96.0),
    "a1": ("outdoor_air_temp", 88.0),
    "a2": ("return_air_temp", 76.0),
}


class WithInstruments(WithDatabase):
    def setUp(self):
        super().setUp()
        self.stream = Stream(self.database)
        self.instruments = Instruments(self.database, self.clock, self.stream)
        self.visits.open("v", "seed-library-stacks", "Warm")

    def given(self, number=0, **changed):
        """One moment of a kit that reads steadily, with a little noise of its own."""
        values = {key: (point, changed.get(key, value)) for key, (point, value) in STEADY.items()}
        wobble = (number % 5 - 2) * 0.02
        return [
            Given(key, point, value + wobble, self.clock.now)
            for key, (point, value) in values.items()
        ]

    def run_for(self, minutes, every_s=4, **changed):
        start = self.clock.now
        for i in range(int(minutes * 60 / every_s)):
            self.clock.now = start + timedelta(seconds=(i + 1) * every_s)
            self.instruments.take(
                "v", f"{self.clock.now.timestamp()}", self.given(i, **changed), "ip"
            )

    def count(self):
        with self.database.reading() as session:
            own = select(Channel.id).where(Channel.visit_id == "v")
            query = select(func.count()).select_from(SampleRow)
            return session.scalar(query.where(SampleRow.channel_id.in_(own)))

    def state(self):
        with self.database.reading() as session:
            return live_state(session, repository.visit(session, "v"), self.clock.now)

    def trace(self, point):
        traces = Series(self.database).over("v", None, None, 500).traces
        return next((t for t in traces if t.key == point), None)


class TakingTest(WithInstruments):
    def test_a_batch_sent_twice_is_one_batch_and_so_is_a_moment(self):
        first = self.instruments.take("v", "b1", self.given(), "ip")
        again = self.instruments.take("v", "b1", self.given(), "ip")
        other = self.instruments.take("v", "b2", self.given(), "ip")
        self.assertEqual((first.kept, again.kept, again.repeated), (6, 0, 6))
        self.assertEqual((other.kept, other.repeated), (0, 6))
        self.assertEqual(self.count(), 6)

    def test_units_are_those_of_the_value_else_of_the_request(self):
        rows = [
            Given("p", "suction_pressure", 8.0, unit="bar"),
            Given("t", "liquid_line_temp", 36.0),
        ]
        self.instruments.take("v", "b", rows, "si")
        state = self.state()
        self.assertAlmostEqual(state.values["suction_pressure"].value, 800)
        self.assertAlmostEqual(state.values["liquid_line_temp"].value, 36)

    def test_a_value_that_cannot_be_is_refused_alone_and_by_name(self):
        rows = [
            *self.given(),
            Given("x", "suction_line_temp", 4000),
            Given("y", "suction", 118),
            Given("z", "liquid_pressure", 300, unit="furlong"),
        ]
        taken = self.instruments.take("v", "b", rows, "ip")
        self.assertEqual((taken.kept, [r.number for r in taken.refused]), (6, [6, 7, 8]))
        self.assertIn("suction_pressure", taken.refused[1].error.nearest)

    def test_a_device_whose_clock_jumps_is_set_right_and_told(self):
        for name, off in (("ahead", timedelta(hours=5)), ("behind", timedelta(days=900))):
            with self.subTest(name):
                at = self.clock.now + off if name == "ahead" else self.clock.now - off
                taken = self.instruments.take(
                    "v", name, [Given(name, "liquid_line_temp", 96, at)], "ip"
                )
                self.assertAlmostEqual(abs(taken.clock_moved_s), off.total_seconds(), delta=1)
        values = self.state().values["liquid_line_temp"]
        self.assertEqual(values.at_ms, round(self.clock.now.timestamp() * 1000))

    def test_samples_out_of_order_end_up_in_order(self):
        now = self.clock.now
        for i, seconds in enumerate((0, -8, -4, -20)):
            at = now + timedelta(seconds=seconds)
            self.instruments.take(
                "v", f"b{i}", [Given("c2", "liquid_line_temp", 96 + seconds, at)], "ip"
            )
        values = [round(row[1] * 1.8 + 32) for row in self.trace("liquid_line_temp").rows]
        self.assertEqual(values, [76, 88, 92, 96])

    def test_closed_and_unknown_visits_take_nothing(self):
        self.visits.close("v")
        with self.assertRaises(Closed):
            self.instruments.take("v", "b", self.given(), "ip")
        with self.assertRaises(NotFound):
            self.instruments.take("nowhere", "b", self.given(), "ip")
        self.assertEqual(self.count(), 0)


class PlacingTest(WithInstruments):
    def test_a_swap_relabels_what_was_read_and_keeps_every_sample(self):
        self.run_for(1, c1=96.0, c2=52.0)  # each clamp on the other's pipe
        before = self.count()
        self.assertAlmostEqual(self.state().values["suction_line_temp"].value, 35.55, delta=0.1)
        self.instruments.swap("v", "s1", "c1", "c2")
        self.instruments.swap("v", "s1", "c1", "c2")  # the same id is the same swap
        state = self.state()
        self.assertEqual(state.values["suction_line_temp"].channel, "c2")
        self.assertAlmostEqual(state.values["suction_line_temp"].value, 11.1, delta=0.1)
        self.assertEqual(self.count(), before)
        self.assertTrue(
            all(abs(row[1] - 11.1) < 0.1 for row in self.trace("suction_line_temp").rows)
        )
        with self.database.reading() as session:
            how = session.scalars(select(Placement.how)).all()
        self.assertEqual(how.count("swapped"), 2)

    def test_only_two_of_a_kind_are_swapped(self):
        self.run_for(0.2)
        with self.assertRaises(CoreError):
            self.instruments.swap("v", "s", "c1", "low")

    def test_two_probes_that_claim_one_point_are_asked_about(self):
        self.run_for(0.5)
        self.instruments.take(
            "v", "n", [Given("new", "liquid_line_temp", 70.0, self.clock.now)], "ip"
        )
        state = self.state()
        self.assertEqual(state.values["liquid_line_temp"].channel, "c2")
        newcomer = next(p for p in state.placed if p.channel.key == "new")
        self.assertEqual((newcomer.now.counts, newcomer.now.how), (False, "second"))
        with self.assertRaises(CoreError) as caught:
            self.instruments.place("v", "p1", "new", "liquid_line_temp")
        self.assertIn("swap", str(caught.exception))
        self.instruments.ignore("v", "i1", "c2", True)
        self.instruments.ignore("v", "i2", "new", False)
        self.assertEqual(self.state().values["liquid_line_temp"].channel, "new")

    def test_a_probe_that_is_moved_is_another_point_from_then_on(self):
        self.run_for(1)
        self.clock.pass_minutes(0.1)
        self.instruments.place("v", "p", "c1", "evaporator_outlet_temp")
        self.run_for(1, c1=49.0)
        self.assertLess(len(self.trace("suction_line_temp").rows), 20)
        self.assertTrue(all(row[1] < 10.6 for row in self.trace("evaporator_outlet_temp").rows))
        self.instruments.place("v", "off", "c1", "")
        self.assertNotIn("evaporator_outlet_temp", self.state().values)

    def test_a_zero_is_an_offset_from_then_on_and_only_a_small_one(self):
        self.run_for(0.2, low=0.9)
        self.instruments.zero("v", "z", "low")
        self.run_for(0.2, low=118.9)
        self.assertAlmostEqual(
            self.state().values["suction_pressure"].value, 118.0 * 6.894757, delta=0.5
        )
        for channel in ("low", "c1"):
            with self.subTest(channel), self.assertRaises(CoreError) as caught:
                self.instruments.zero("v", f"z-{channel}", channel)
            self.assertNotIn("None", str(caught.exception))

    def test_an_unknown_point_or_instrument_is_named(self):
        self.run_for(0.2)
        with self.assertRaises(UnknownName):
            self.instruments.place("v", "p", "c1", "suction_line")
        with self.assertRaises(NotFound):
            self.instruments.place("v", "p", "c7", "suction_line_temp")


class JudgingTest(WithInstruments):
    def setUp(self):
        super().setUp()
        self.visits.happened("v", "on", "system_started", self.clock.now)

    def test_a_settled_snapshot_is_what_is_judged(self):
        self.run_for(16)
        snapshot = self.visits.snapshot("v")
        self.assertEqual(snapshot.live.settling.state, "settled")
        self.assertEqual(snapshot.assessment.decision.advice, "leave")
        kept = self.visits.keep("v", "k1", "")
        again = self.visits.keep("v", "k1", "")
        rows = [r for r in kept.visit.readings if r.quality == "settled"]
        self.assertEqual((len(rows), len(again.visit.readings)), (6, len(kept.visit.readings)))
        self.assertEqual({r.source for r in rows}, {"live"})
        self.clock.pass_minutes(60)  # the instruments are packed away; what was kept still stands
        later = self.visits.snapshot("v")
        self.assertIsNone(later.live)
        self.assertEqual(later.assessment.decision.advice, "leave")

    def test_before_it_has_settled_judging_waits_or_says_why_not(self):
        self.run_for(15.5)
        self.visits.happened("v", "did", "something_changed", self.clock.now)
        self.run_for(2, c2=91.0)
        snapshot = self.visits.snapshot("v")
        self.assertIn("not_settled", [b.gate.key for b in snapshot.assessment.breaches])
        self.assertEqual(snapshot.assessment.decision.advice, "do_not_charge")
        with self.assertRaises(Unsettled) as caught:
            self.visits.keep("v", "k", "  ")
        self.assertIn("more to settle", caught.exception.text("ip"))
        kept = self.visits.keep("v", "k", "The shop closes in {5} minutes.")
        said = {b.gate.key: b.message.text("ip") for b in kept.assessment.breaches}
        self.assertIn("because: The shop closes in (5) minutes.", said["not_settled"])
        shut = [b.gate.key for b in kept.assessment.breaches if b.effect == "blocks"]
        self.assertNotIn("not_settled", shut)
        self.visits.happened(
            "v", "did2", "something_changed", self.clock.now + timedelta(seconds=1)
        )
        self.clock.pass_minutes(0.1)
        fresh = self.visits.snapshot("v").assessment.breaches
        self.assertIn("not_settled", [b.gate.key for b in fresh])

    def test_a_probe_that_dies_mid_visit_is_named_and_nothing_is_judged(self):
        self.run_for(16)
        start = self.clock.now
        for i in range(20):
            self.clock.now = start + timedelta(seconds=3 * i + 3)
            rows = [g for g in self.given(i) if g.channel != "c2"]
            self.instruments.take("v", f"late{i}", rows, "ip")
        snapshot = self.visits.snapshot("v")
        self.assertEqual(
            [(lie.check, lie.point) for lie in snapshot.live.lies], [("silent", "liquid_line_temp")]
        )
        self.assertEqual(snapshot.assessment.decision.advice, "do_not_charge")
        self.assertIn("Liquid line", snapshot.assessment.decision.reason.text("ip"))

    def test_nothing_to_keep_says_so(self):
        with self.assertRaises(CoreError) as caught:
            self.visits.keep("v", "k", "")
        self.assertIn("Type the readings", str(caught.exception))
