"""One protocol for whatever readings come from: the simulated kit and a log file alike."""

import tempfile
import unittest
from pathlib import Path
from random import Random

from nudge.instruments.file_look import look_at
from nudge.instruments.files import LogFile
from nudge.instruments.kit import KitSource, new_kit
from nudge.instruments.source import Sample, Source
from tests.instruments.test_kit import TRUTH


def by_point(source: Source) -> dict[str, list[Sample]]:
    """What any source gives, by the point its channels are meant for."""
    points = {info.key: info.point for info in source.channels}
    found: dict[str, list[Sample]] = {}
    for sample in source.samples():
        found.setdefault(points[sample.channel], []).append(sample)
    return found


class SourceTest(unittest.TestCase):
    def test_a_kit_gives_what_came_since_it_was_last_asked_and_nothing_twice(self):
        source = KitSource(new_kit(Random(1)), Random(2))
        self.assertEqual(by_point(source), {})
        for i in range(3):
            source.tick(TRUTH, 1.0, 1000 * i)
        found = by_point(source)
        self.assertEqual([s.at_ms for s in found["liquid_line_temp"]], [0, 1000, 2000])
        self.assertAlmostEqual(found["liquid_line_temp"][-1].value, 38.0, delta=1.0)
        self.assertNotIn("", found)
        self.assertEqual(by_point(source), {})

    def test_a_log_gives_the_same_kind_of_thing(self):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "log.csv"
            path.write_text(
                "time,ll (C),sl (C)\n2026-07-14T12:00:00Z,38,11\n2026-07-14T12:00:01Z,38.1,\n"
            )
            found = by_point(LogFile(path, look_at(path).mapping))
        self.assertEqual([s.value for s in found["liquid_line_temp"]], [38, 38.1])
        self.assertEqual(len(found["suction_line_temp"]), 1)
        times = [s.at_ms for s in found["liquid_line_temp"]]
        self.assertEqual(times[1] - times[0], 1000)
