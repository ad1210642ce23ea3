"""Traces over any span: what is thinned, re-labelled, shaded and marked."""

from datetime import timedelta

from sqlalchemy import func, select
from sqlalchemy.exc import IntegrityError

from nudge.services.errors import NotFound
from nudge.services.samples import Given
from nudge.services.series import Series
from nudge.store.live_tables import Channel, Placement, Rollup, SampleRow
from nudge.store.repositories import live
from tests.services.test_instruments import WithInstruments


class SeriesTest(WithInstruments):
    def setUp(self):
        super().setUp()
        self.series = Series(self.database)

    def over(self, **asked):
        given = {"since_ms": None, "until_ms": None, "width": 300} | asked
        return self.series.over("v", **given)

    def test_superheat_and_subcooling_go_beside_what_was_read(self):
        self.run_for(2)
        traces = {t.key: t for t in self.over().traces}
        # R-410A at 118 psig and 52 °F, 341 psig and 96 °F: 12.0 and 8.9 °F as the visit says it.
        visit = self.visits.snapshot("v").assessment.case.derived
        self.assertAlmostEqual(traces["superheat"].rows[-1][1], visit.superheat, delta=0.1)
        self.assertAlmostEqual(traces["subcooling"].rows[-1][1], visit.subcooling, delta=0.1)

    def test_only_the_points_asked_for_and_only_the_span(self):
        self.run_for(3)
        start = self.over().first_ms
        found = self.over(
            since_ms=start + 60_000, until_ms=start + 120_000, points=["liquid_line_temp"]
        )
        self.assertEqual([t.key for t in found.traces], ["liquid_line_temp"])
        times = [row[0] for row in found.traces[0].rows]
        self.assertTrue(start + 58_000 <= min(times) and max(times) <= start + 122_000)

    def test_steady_spans_are_shaded_and_moving_ones_are_not(self):
        self.run_for(8)
        steady = next(t for t in self.over().traces if t.key == "liquid_line_temp").steady
        self.assertTrue(steady)
        self.assertGreater(steady[-1][1] - steady[0][0], 300_000)
        start = self.clock.now
        for i in range(120):
            self.clock.now = start + timedelta(seconds=4 * (i + 1))
            self.instruments.take("v", f"m{i}", self.given(i, c2=96 + i / 4), "ip")
        moving = next(t for t in self.over().traces if t.key == "liquid_line_temp").steady
        self.assertLess(moving[-1][1], start.timestamp() * 1000 + 90_000)
        air = next(t for t in self.over().traces if t.key == "outdoor_air_temp")
        self.assertEqual(air.steady, ())

    def test_what_was_done_is_marked(self):
        self.run_for(1)
        self.visits.happened("v", "e", "something_changed", self.clock.now)
        marks = self.over().marks
        self.assertEqual(
            [(m.kind, m.at_ms) for m in marks],
            [("something_changed", round(self.clock.now.timestamp() * 1000))],
        )

    def test_a_visit_without_instruments_has_no_traces(self):
        self.visits.open("w", "seed-library-stacks", "")
        found = self.series.over("w", None, None, 100)
        self.assertEqual((found.traces, found.first_ms), ((), None))
        with self.assertRaises(NotFound):
            self.series.over("nowhere", None, None, 100)

    def test_late_samples_are_in_a_long_view_that_was_already_worked_out(self):
        start = self.clock.now
        for i in range(0, 30 * 60, 5):  # thirty hours, a value every five minutes
            at = start - timedelta(hours=30) + timedelta(minutes=i)
            self.instruments.take("v", f"h{i}", [Given("c2", "liquid_line_temp", 96.0, at)], "ip")
        first = next(t for t in self.over(width=100).traces if t.key == "liquid_line_temp")
        self.assertAlmostEqual(max(r[3] for r in first.rows), (96 - 32) / 1.8)
        late = start - timedelta(hours=20, seconds=11)
        self.instruments.take("v", "late", [Given("c2", "liquid_line_temp", 140.0, late)], "ip")
        again = next(t for t in self.over(width=100).traces if t.key == "liquid_line_temp")
        self.assertAlmostEqual(max(r[3] for r in again.rows), (140 - 32) / 1.8)
        with self.database.reading() as session:
            minutes = session.scalar(select(func.count()).select_from(Rollup))
        self.assertGreater(minutes, 300)


class KeptForGoodTest(WithInstruments):
    def test_samples_placements_and_the_journal_cannot_be_rewritten(self):
        self.run_for(0.2)
        for table, column in (("samples", "value"), ("placements", "point"), ("journal", "kind")):
            for verb in (f"UPDATE {table} SET {column} = '1'", f"DELETE FROM {table}"):
                with (
                    self.subTest(verb),
                    self.assertRaises(IntegrityError) as caught,
                    self.database.writing() as session,
                ):
                    session.connection().exec_driver_sql(verb)
                self.assertIn("append-only", str(caught.exception))

    def test_the_placement_that_holds_is_the_last_recorded_that_reaches_back(self):
        rows = [
            Placement(sequence=n, point=p, since_ms=since, counts=True, offset=0.0)
            for n, p, since in ((1, "a", 100), (2, "b", 500), (3, "c", 100))
        ]
        placed = live.Placed(Channel(id=1), tuple(rows))
        self.assertEqual([placed.at(t).point for t in (50, 100, 499, 900)], ["a", "c", "c", "c"])
        self.assertEqual(placed.now.point, "c")
        only = live.Placed(Channel(id=1), tuple(rows[:2]))
        self.assertEqual([only.at(t).point for t in (100, 499, 500)], ["a", "a", "b"])

    def test_a_sample_is_kept_as_it_came_whatever_is_said_of_its_probe_later(self):
        self.run_for(0.5, low=120.0)
        self.instruments.ignore("v", "i", "low", True)
        self.assertNotIn("suction_pressure", self.state().values)
        with self.database.reading() as session:
            own = select(Channel.id).where(Channel.visit_id == "v", Channel.key == "low")
            values = session.scalars(
                select(SampleRow.value).where(SampleRow.channel_id.in_(own))
            ).all()
        self.assertTrue(all(abs(v - 120 * 6.894757) < 1 for v in values))


class LoadAndHuntingTest(WithInstruments):
    def setUp(self):
        super().setUp()
        self.visits.happened("v", "on", "system_started", self.clock.now)

    def test_a_house_that_cools_is_said_to_be_load_and_does_not_block(self):
        start = self.clock.now
        for i in range(16 * 15):
            self.clock.now = start + timedelta(seconds=4 * (i + 1))
            self.instruments.take("v", f"b{i}", self.given(i, a2=80.0 - i * 4 / 60 * 0.25), "ip")
        state = self.state()
        self.assertEqual(state.settling.state, "settled")
        self.assertAlmostEqual(
            state.settling.load_per_minute["return_air_temp"] * 1.8, -0.25, delta=0.03
        )
        self.assertIsNone(state.unsettled)

    def test_a_hunting_valve_is_named_with_its_period_and_never_judged(self):
        start = self.clock.now
        for i in range(16 * 15):
            self.clock.now = start + timedelta(seconds=4 * (i + 1))
            swing = (0, 3, 5, 6, 5, 3, 0, -3, -5, -6, -5, -3)[i % 12]  # 48 s round
            self.instruments.take("v", f"b{i}", self.given(i, c1=54.0 + swing), "ip")
        state = self.state()
        self.assertEqual(state.settling.state, "hunting")
        self.assertAlmostEqual(state.settling.hunting.period_s, 48, delta=4)
        self.assertIn("hunts", state.unsettled.text("ip"))
        snapshot = self.visits.snapshot("v")
        self.assertEqual(snapshot.assessment.decision.advice, "do_not_charge")
        self.assertIn("K", state.unsettled.text("si"))

    def test_standing_before_the_start_a_probe_zeroed_wrong_is_named(self):
        self.visits.open("w", "seed-library-stacks", "")
        start = self.clock.now
        for i in range(300):
            self.clock.now = start + timedelta(seconds=3 * (i + 1))
            standing = i < 40
            if i == 40:
                self.visits.happened("w", "on-w", "system_started", self.clock.now)
            wobble = (i % 5 - 2) * 0.02
            values = {
                "low": 247.0 if standing else 130.0,
                "high": 235.0 if standing else 341.0,
                "c1": 80.0 if standing else 54.0,
                "c2": 80.0 if standing else 96.0,
                "a1": 80.0 if standing else 88.0,
                "a2": 80.0,
            }
            rows = [
                Given(k, STEADY_POINT[k], v + wobble, self.clock.now) for k, v in values.items()
            ]
            self.instruments.take("w", f"b{i}", rows, "ip")
        lies = self.visits.snapshot("w").live.lies
        self.assertEqual(
            [(lie.check, lie.point) for lie in lies], [("standing_zero", "suction_pressure")]
        )


STEADY_POINT = {
    "low": "suction_pressure",
    "high": "liquid_pressure",
    "c1": "suction_line_temp",
    "c2": "liquid_line_temp",
    "a1": "outdoor_air_temp",
    "a2": "return_air_temp",
}
