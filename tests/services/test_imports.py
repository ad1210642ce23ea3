import asyncio
from datetime import UTC, datetime, timedelta

from sqlalchemy import func, select

from nudge.core.language.errors import CoreError
from nudge.services.errors import Closed, NotFound
from nudge.services.imports import Imports
from nudge.services.series import Series
from nudge.services.stream import Stream
from nudge.store.live_tables import Channel, Import, SampleRow
from tests.temporary import WithDatabase

START = datetime(2026, 7, 1, tzinfo=UTC)


def log(rows: int, spike_at: int = -1) -> bytes:
    lines = ["time,Suction pressure (psig),Liquid line (°F),Suction line (°F)"]
    for i in range(rows):
        at = (START + timedelta(seconds=10 * i)).isoformat()
        lines.append(f"{at},{118 + i % 7 / 10},{170 - 74 * (i != spike_at)},{52 + i % 3 / 10}")
    return "\n".join(lines).encode()


class ImportsTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.imports = Imports(self.database, self.clock, Stream(self.database))
        self.addCleanup(self.imports.close)
        self.visits.open("v", "seed-library-stacks", "A log")

    def receive(self, import_id, data, declared=None, visit="v"):
        async def body():
            for start in range(0, len(data), 4096):
                yield data[start : start + 4096]

        return asyncio.run(self.imports.receive(visit, import_id, "log.csv", declared, body(), 60))

    def finished(self, import_id):
        for thread in self.imports._threads:
            thread.join(30)
        return self.imports.one("v", import_id)

    def samples(self):
        with self.database.reading() as session:
            own = select(Channel.id).where(Channel.visit_id == "v")
            query = select(func.count()).select_from(SampleRow)
            return session.scalar(query.where(SampleRow.channel_id.in_(own)))

    def test_a_log_is_read_whole_and_its_mapping_is_remembered(self):
        seen = self.receive("i1", log(500))
        self.assertFalse(seen.remembered)
        self.imports.start("v", "i1", seen.look.mapping)
        row = self.finished("i1")
        self.assertEqual((row.state, row.readings, row.refused), ("done", 1500, 0))
        self.assertTrue(self.receive("i2", log(5)).remembered)
        found = Series(self.database).over("v", None, None, 100)
        self.assertEqual(
            [t.key for t in found.traces],
            ["superheat", "suction_pressure", "suction_line_temp", "liquid_line_temp"],
        )
        self.assertEqual(found.first_ms, START.timestamp() * 1000)

    def test_thinning_keeps_the_extremes_over_an_hour_and_a_season(self):
        for name, rows in (("hour", 360), ("season", 26_000)):
            with self.subTest(name):
                seen = self.receive(name, log(rows, spike_at=rows // 2))
                self.imports.start("v", name, seen.look.mapping)
                self.assertEqual(self.finished(name).state, "done")
                traces = Series(self.database).over("v", None, None, 80).traces
                trace = next(t for t in traces if t.key == "liquid_line_temp")
                self.assertLessEqual(len(trace.rows), 90)
                self.assertAlmostEqual(max(r[3] for r in trace.rows), (170 - 32) / 1.8, places=3)
                self.assertAlmostEqual(min(r[2] for r in trace.rows), (96 - 32) / 1.8, places=3)

    def test_cancelled_it_leaves_nothing(self):
        seen = self.receive("i", log(40_000))
        self.imports.start("v", "i", seen.look.mapping)
        self.imports.cancel("v", "i")
        row = self.finished("i")
        self.assertEqual((row.state, row.readings), ("cancelled", 0))
        self.assertEqual(self.samples(), 0)
        self.assertIn("None of it was kept", row.message)

    def test_a_server_killed_half_way_rolls_it_back_and_says_so(self):
        with self.database.writing() as session:
            session.add(
                Import(
                    id="i",
                    visit_id="v",
                    file_name="log.csv",
                    state="reading",
                    bytes_read=43,
                    bytes_in_all=100,
                    started_at=self.clock.now,
                )
            )
            channel = Channel(
                visit_id="v", key="i:sl", label="sl", source="importing", created_at=self.clock.now
            )
            session.add(channel)
            session.flush()
            session.add_all(SampleRow(channel_id=channel.id, at_ms=i, value=5.0) for i in range(50))
        self.assertEqual(Series(self.database).over("v", None, None, 50).traces, ())
        self.imports.recover()
        row = self.imports.one("v", "i")
        self.assertEqual((row.state, self.samples()), ("failed", 0))
        self.assertIn("43 %", row.message)

    def test_what_was_kept_cannot_be_deleted(self):
        seen = self.receive("i1", log(5))
        self.imports.start("v", "i1", seen.look.mapping)
        self.finished("i1")
        with self.assertRaises(Exception) as caught, self.database.writing() as session:
            session.execute(SampleRow.__table__.delete())
        self.assertIn("append-only", str(caught.exception))

    def test_a_file_too_large_or_for_a_closed_visit_is_refused_before_it_is_read(self):
        with self.assertRaises(CoreError) as caught:
            self.receive("big", b"x", declared=2_000_000_000)
        self.assertIn("500 MB", str(caught.exception))
        with self.assertRaises(CoreError):
            self.receive("junk", b"\x00\x01 not a table")
        with self.assertRaises(NotFound):
            self.receive("i", log(3), visit="nowhere")
        self.visits.close("v")
        with self.assertRaises(Closed):
            self.receive("i", log(3))
        self.assertEqual(list(self.imports._folder.glob("*")), [])
