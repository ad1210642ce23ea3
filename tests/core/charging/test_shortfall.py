"""The vectorised sum of hypotheses says what its plain twin says."""

import unittest
from random import Random

from nudge.core.charging.shortfall import Settled, learn
from nudge.core.physics.circuit.equipment import FEEDS
from tests.core.charging import plain_shortfall as plain


def histories() -> list[tuple[bool, str, float, float, list[Settled]]]:
    """Random visits: device, what is watched, whole charge and its spread, settled readings."""
    rng, found = Random(7), []
    for _ in range(30):
        rows = [Settled(0.0, rng.uniform(-8, 4), rng.uniform(-4, 9))]
        for _ in range(rng.randrange(4)):
            rows.append(
                Settled(
                    rng.choice((1, 1, 1, -1)) * rng.uniform(0.02, 0.4),
                    rng.choice((None, rng.uniform(-8, 6))),
                    rng.uniform(-6, 9),
                )
            )
        watched = rng.choice(("subcooling", "superheat"))
        found.append(
            (FEEDS[rng.random() >= 0.6], watched, rng.uniform(1, 7), rng.choice((0.05, 0.2)), rows)
        )
    return found


class TwinTest(unittest.TestCase):
    def test_the_same_forecasts_from_the_same_visits(self):
        for number, (feed, watched, whole, spread, rows) in enumerate(histories()):
            ours = learn(feed, watched, whole, spread, rows)  # type: ignore[arg-type]
            theirs = plain.learn(feed, watched, whole, spread, rows)  # type: ignore[arg-type]
            with self.subTest(number):
                self.assertAlmostEqual(ours.surprise, theirs.surprise, places=9)
                self.assertAlmostEqual(ours.surprise_in_all, theirs.surprise_in_all, places=9)
                self.assertAlmostEqual(ours.whole_kg(), theirs.whole_kg(), places=9)
                self.assertEqual(len(ours.guesses.weight), len(theirs.guesses))
                for dose in (0.0, 0.05, 0.3, -0.1):
                    for mark in (-2.0, 0.0, 3.0):
                        self.assertAlmostEqual(
                            ours.share_under(dose, mark), theirs.share_under(dose, mark), places=9
                        )
                    pairs = [
                        (ours.after(dose, of), theirs.after(dose, of))
                        for of in ("subcooling", "superheat")
                    ]
                    for one, other in [*pairs, (ours.missing_kg(), theirs.missing_kg())]:
                        for name in ("least", "low", "middle", "high", "most"):
                            self.assertAlmostEqual(getattr(one, name), getattr(other, name), 9)
                self.assertAlmostEqual(ours.per_kg()[0], theirs.per_kg()[0], places=6)


if __name__ == "__main__":
    unittest.main()
