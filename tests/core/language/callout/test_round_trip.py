"""Whatever can be said is heard as it was said: random readings, random ways of saying them."""

import random
import unittest

from nudge.core.language.callout.parser import NAMES, parse_callout
from nudge.core.language.callout.spoken_units import DEFAULT_UNIT, SPOKEN_UNITS, unit_for, value_si
from nudge.core.language.units import from_si
from nudge.core.language.vocabulary.points import POINTS, believable_range


class RoundTripTest(unittest.TestCase):
    def test_random_lines(self):
        rng = random.Random(7)
        for _ in range(400):
            rows = rng.sample(list(POINTS.values()), rng.randint(1, 8))
            number_first = rng.random() < 0.3
            said, expected = [], {}
            for row in rows:
                low, high = believable_range(row)
                name = rng.choice([n for n, r in NAMES.items() if r is row]).replace("_", " ")
                keys = [
                    k
                    for k, us in SPOKEN_UNITS.items()
                    if any(u.quantity is row.quantity for u in us)
                ]
                key = rng.choice(["", *keys])
                unit = unit_for(key, row.quantity, "ip")
                assert unit is not None
                core = rng.uniform(low + 0.02 * (high - low), high - 0.02 * (high - low))
                given = round((core - unit.offset) / unit.scale, 3)
                number = f"{given:f}".rstrip("0").rstrip(".") + key
                said.append(f"{number} {name}" if number_first else f"{name} {number}")
                expected[row.key] = unit.to_si(given)
            line = rng.choice([" ", ", ", "; ", "  "]).join(said)
            with self.subTest(line):
                heard = parse_callout(line.upper() if rng.random() < 0.2 else line, "ip")
                self.assertEqual(heard.misheard, ())
                self.assertEqual({s.point.key for s in heard.spoken}, set(expected))
                for spoken in heard.spoken:
                    self.assertAlmostEqual(spoken.value_si, expected[spoken.point.key], 6)
                    kept = value_si(spoken.given_value, spoken.unit.label, spoken.point.quantity)
                    self.assertAlmostEqual(kept, spoken.value_si, 9)

    def test_noise_never_raises_and_every_stretch_lies_in_the_text(self):
        rng = random.Random(11)
        letters = "suctliqsloar 0123456789.-+,;=:°%/\n\tßé💧fcpsibar"
        for _ in range(1500):
            text = "".join(rng.choice(letters) for _ in range(rng.randint(0, 60)))
            heard = parse_callout(text, "si")
            for stretch in (*heard.spoken, *heard.misheard):
                self.assertTrue(0 <= stretch.start < stretch.end <= len(text), repr(text))

    def test_every_point_has_a_unit_of_its_own_in_both_systems(self):
        for system in DEFAULT_UNIT:
            for row in POINTS.values():
                with self.subTest(row.key, system=system):
                    unit = unit_for("", row.quantity, system)
                    assert unit is not None
                    self.assertAlmostEqual(unit.to_si(from_si(1.0, row.quantity, system)), 1.0, 6)
