"""Thousands of odd histories: the advisor never gives where the judge does not open the door."""

import unittest
from random import Random

from nudge.core.behaviours.case import Context
from nudge.core.charging.advise import advise
from nudge.core.charging.dose import MOST_OF_WHOLE
from nudge.core.charging.sizing import Dosed
from nudge.core.charging.ways import KG_PER_OZ
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.language.errors import CoreError
from nudge.core.language.units import fahrenheit
from tests.core.field import plate, readings

PLATES = (
    plate(nominal_capacity_w=10_550.0, factory_charge_kg=3.0, rated_seer=14),
    plate("fixed_orifice", subcooling=None, nominal_capacity_w=8_800.0, rated_seer=12),
    plate("eev", "R-32", factory_charge_kg=1.6),
    plate("txv", "R-454B"),
)
SEEN = frozenset(
    {
        "filter_clean",
        "evaporator_coil_clean",
        "condenser_coil_clean",
        "condenser_fan_ok",
        "readings_confirmed",
    }
)
LOW = {"suct": 108, "liq": 320, "sl": 56, "ll": 97, "oa": 86, "ra": 76, "wb": 63}
SPANS = {
    "suct": (85, 135),
    "liq": (240, 420),
    "sl": (38, 75),
    "ll": (78, 112),
    "oa": (62, 104),
    "ra": (66, 82),
    "wb": (56, 70),
}


def history(rng):
    """One to four readings that wander, with doses that somebody claims went in between."""
    now = {name: rng.uniform(*span) for name, span in SPANS.items()}
    rows = []
    for number in range(rng.randint(1, 4)):
        kept = {n: v for n, v in now.items() if rng.random() < 0.95}
        dose = rng.uniform(-6, 12) * KG_PER_OZ if number else 0.0
        rows.append(Dosed(14.0 * number, dose, readings(**(kept or now))))
        now = {n: v + rng.gauss(0, 0.03 * abs(v)) for n, v in now.items()}
    return rows


class NoHarmTest(unittest.TestCase):
    def test_nothing_is_given_where_it_must_not_be(self):
        rng = Random(11)
        given = 0
        for number in range(260):
            of = rng.choice(PLATES)
            seen = frozenset(rng.sample(sorted(OBSERVATIONS), rng.randint(0, 6)))
            context = Context(rng.choice((None, 5.0, 40.0)), rng.choice((None, 3.0, 30.0)), seen)
            rows = history(rng)
            if number % 20 == 0:  # and one in twenty that may well be charged
                of, context = PLATES[0], Context(40.0, 30.0, SEEN)
                rows = [
                    Dosed(0.0, 0.0, readings(**{k: v + rng.gauss(0, 0.2) for k, v in LOW.items()}))
                ]
            try:
                said = advise(of, rows, context)
            except CoreError as error:
                self.assertTrue(error.text("ip"))
                continue
            with self.subTest(number, of=of.metering_device):
                self.check(said, rows)
            given += said.action in ("add", "remove")
        self.assertGreater(given, 5)

    def check(self, said, rows):
        assessed = said.assessment
        self.assertTrue(said.reason.text("ip"))
        if said.action in ("wait", "done", "stop"):
            self.assertEqual(said.amount_kg, 0)
        if said.action not in ("add", "remove"):
            return
        self.assertEqual([b for b in assessed.breaches if b.effect == "blocks"], [])
        self.assertEqual(assessed.doubts, ())
        self.assertLessEqual(said.amount_kg, MOST_OF_WHOLE * 3 * said.sized.whole.kg)
        if not any(row.added_kg for row in rows):
            self.assertEqual(assessed.decision.advice, said.action)
        if said.action == "add":
            self.assertGreaterEqual(
                assessed.case.readings.get("outdoor_air_temp", 99), fahrenheit(65) - 1e-9
            )
            superheat = assessed.case.derived.superheat
            self.assertTrue(superheat is None or superheat * 1.8 >= 3)


if __name__ == "__main__":
    unittest.main()
