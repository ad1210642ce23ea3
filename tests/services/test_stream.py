"""Followers of a visit: every entry once, in order, whatever happens to their connection."""

import asyncio
from random import Random
from threading import Thread

from tests.services.test_instruments import WithInstruments


class StreamTest(WithInstruments):
    def test_twenty_dropped_connections_lose_and_repeat_nothing(self):
        batches = 120
        done = []

        def write():
            for i in range(batches):
                self.instruments.take("v", f"b{i}", self.given(i), "ip")
                self.clock.now = self.clock.now.replace(microsecond=(i + 1) * 1000)
            done.append(True)

        writer = Thread(target=write)
        got, connections, rng = [], 0, Random(4)

        async def follow():
            nonlocal connections
            after = 0
            while len(got) < batches:
                connections += 1
                limit = rng.randint(1, 9)
                async for entries in self.stream.follow(["v"], after):
                    got.extend(e for e in entries if e.kind == "samples")
                    if entries:
                        after = entries[-1].sequence
                    limit -= 1
                    if limit <= 0 or len(got) >= batches:
                        break

        writer.start()
        asyncio.run(asyncio.wait_for(follow(), 60))
        writer.join()
        self.assertTrue(done)
        self.assertGreater(connections, 5)
        numbers = [e.sequence for e in got]
        self.assertEqual(numbers, sorted(set(numbers)))
        self.assertEqual(len(got), batches)

    def test_a_follower_that_lags_is_given_pieces_not_a_growing_queue(self):
        for i in range(450):
            self.instruments.take("v", f"b{i}", self.given(i)[:1], "ip")
            self.clock.now = self.clock.now.replace(microsecond=(i + 1) * 1000)
        sizes = []

        async def follow():
            async for entries in self.stream.follow(["v"], 0):
                sizes.append(len(entries))
                if sum(sizes) >= 450:
                    break

        asyncio.run(asyncio.wait_for(follow(), 30))
        self.assertLessEqual(max(sizes), 200)

    def test_two_windows_see_the_same_and_writes_on_a_visit_are_told_too(self):
        self.visits.set_complaint("v", "Warmer")
        self.instruments.take("v", "b", self.given(), "ip")
        self.instruments.swap("v", "s", "c1", "c2")
        kinds = [e.kind for e in self.stream.after(["v"], 0)]
        self.assertEqual(kinds, ["visit", "samples", "placement", "placement"])
        self.assertEqual(self.stream.after(["v"], 0), self.stream.after(["v"], 0))
