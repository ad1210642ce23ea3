"""Samples, placements and the journal of a visit in the record: asked for all at once."""

import math
import unittest

from nudge.instruments.source import ChannelInfo
from nudge.services.instruments import Instruments
from nudge.services.samples import Given
from nudge.services.stream import Stream
from nudge.store.refusals import SameIdOtherContent
from nudge.store.repositories import live
from tests.temporary import WithDatabase

VISIT = "pottery-now"
MINUTE = live.MINUTE_MS
CHANNELS = (
    ChannelInfo("low", "Low side probe", "suction_pressure"),
    ChannelInfo("clamp-1", "Clamp 1", "suction_line_temp"),
    ChannelInfo("clamp-2", "Clamp 2", "liquid_line_temp"),
)


class LiveSamplesTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.stream = Stream(self.database)
        self.instruments = Instruments(self.database, self.clock, self.stream)
        self.instruments.know(VISIT, CHANNELS, "live")
        with self.database.reading() as session:
            self.ids = live.channel_ids(session, VISIT)
        self.began = round(self.clock().timestamp() * 1000) // MINUTE * MINUTE

    def add(self, *rows):
        """(channel, seconds from the first minute, value); how many were new."""
        with self.database.writing() as session:
            return live.add_samples(
                session, [(self.ids[key], self.began + 1000 * s, value) for key, s, value in rows]
            )

    def asked(self, what, *more):
        with self.database.reading() as session:
            return what(session, *more)

    def test_every_channel_has_a_number_by_its_key_in_the_order_they_came(self):
        self.assertEqual(list(self.ids), ["low", "clamp-1", "clamp-2"])
        rows = self.asked(live.channels, VISIT)
        self.assertEqual({row.channel.key: row.channel.id for row in rows}, self.ids)
        self.assertEqual(self.asked(live.channel_ids, "no-such-visit"), {})

    def test_what_is_there_already_is_left_and_not_counted(self):
        self.assertEqual(self.add(("low", 0, 690.0), ("low", 2, 691.0)), 2)
        self.assertEqual(self.add(("low", 2, 999.0), ("low", 4, 692.0)), 1)
        self.assertEqual(self.add(("low", 0, 1.0)), 0)
        self.assertEqual(self.add(), 0)
        rows = self.asked(live.samples_of, self.ids["low"])
        self.assertEqual([value for _, value in rows], [690.0, 691.0, 692.0])

    def test_the_last_of_each_is_the_latest_and_not_the_last_that_came(self):
        self.add(("low", 10, 700.0), ("clamp-1", 8, 11.0))
        self.add(("low", 4, 650.0))  # late, from before
        found = self.asked(live.latest, list(self.ids.values()))
        self.assertEqual(
            found,
            {
                self.ids["low"]: (self.began + 10_000, 700.0),
                self.ids["clamp-1"]: (self.began + 8_000, 11.0),
            },
        )
        self.assertEqual(self.asked(live.latest, []), {})

    def test_of_those_not_asked_for_nothing_is_said(self):
        self.add(("low", 0, 700.0), ("clamp-1", 0, 11.0))
        self.assertEqual(
            list(self.asked(live.latest, [self.ids["clamp-1"]])), [self.ids["clamp-1"]]
        )

    def test_whole_minutes_are_worked_out_for_several_channels_at_once(self):
        for minute in range(3):
            self.add(
                *(("low", 60 * minute + s, 600.0 + minute + s / 30 - 1) for s in (0, 30, 59)),
                ("clamp-1", 60 * minute, 10.0 + minute),
            )
        with self.database.writing() as session:
            live.roll_up(session, [self.ids["low"], self.ids["clamp-1"]])
            live.roll_up(session, [])
        until = self.began + 10 * MINUTE
        found = self.asked(live.bucketed, list(self.ids.values()), self.began, until, 2 * MINUTE)
        by_channel = {}
        for channel, _, mean, low, high, count in found:
            by_channel.setdefault(channel, []).append((mean, low, high, count))
        self.assertEqual(sum(row[3] for row in by_channel[self.ids["low"]]), 6)  # two whole minutes
        self.assertEqual(by_channel[self.ids["clamp-1"]][0][1:3], (10.0, 11.0))
        mean = by_channel[self.ids["low"]][0][0]
        by_hand = sum(600.0 + m + s / 30 - 1 for m in (0, 1) for s in (0, 30, 59)) / 6
        self.assertTrue(math.isclose(mean, by_hand))

    def test_a_sample_that_comes_late_throws_the_minutes_after_it_away(self):
        for minute in range(4):
            self.add(("low", 60 * minute, 600.0))
        with self.database.writing() as session:
            live.roll_up(session, [self.ids["low"]])
        self.add(("low", 61, 900.0))
        with self.database.writing() as session:
            live.roll_up(session, [self.ids["low"]])
        (first, *_) = self.asked(
            live.bucketed, [self.ids["low"]], self.began, self.began + 9 * MINUTE, 2 * MINUTE
        )
        self.assertEqual(first[4], 900.0)  # the most of its first two minutes

    def test_moving_an_instrument_is_seen_by_one_number(self):
        before = self.asked(live.last_placed, VISIT)
        self.assertGreater(before, 0)
        self.assertEqual(self.asked(live.last_placed, "clinic-2"), 0)
        self.instruments.place(VISIT, "moved", "clamp-1", "evaporator_outlet_temp")
        self.assertGreater(self.asked(live.last_placed, VISIT), before)

    def test_a_batch_of_a_channel_nobody_knew_makes_it_and_keeps_all(self):
        given = [
            Given("low", "suction_pressure", 690.0, self.clock()),
            Given("new", "discharge_line_temp", 71.0, self.clock(), label="Fourth clamp"),
        ]
        taken = self.instruments.take(VISIT, "batch", given, "si")
        self.assertEqual((taken.kept, taken.repeated, taken.refused), (2, 0, ()))
        ids = self.asked(live.channel_ids, VISIT)
        self.assertEqual(list(ids), ["low", "clamp-1", "clamp-2", "new"])
        self.assertEqual(self.instruments.points(VISIT)["new"], "discharge_line_temp")
        again = self.instruments.take(VISIT, "batch", given, "si")
        self.assertEqual((again.kept, again.repeated), (0, 2))

    def test_the_journal_takes_an_entry_once_and_follows_what_it_tells_of(self):
        end = self.stream.end_of_all()
        with self.database.writing() as session:
            self.stream.note(session, VISIT, "e1", "visit", {"by": "me"}, self.clock())
        (entry,) = self.stream.after([VISIT], end)
        self.assertEqual((entry.kind, entry.body), ("visit", {"by": "me"}))
        with self.assertRaises(SameIdOtherContent), self.database.writing() as session:
            self.stream.note(session, VISIT, "e1", "visit", {"by": "you"}, self.clock())
        self.assertEqual(len(self.stream.after([VISIT], end)), 1)


if __name__ == "__main__":
    unittest.main()
