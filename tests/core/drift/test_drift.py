"""What moved since a baseline: named where it stands out, silent where it only wanders."""

import unittest

from nudge.core.behaviours.rows import BEHAVIOURS
from nudge.core.drift.drift import CAUSES, INTENDED, drift, is_compared, signs_kept
from nudge.core.drift.table import wander
from nudge.core.language.errors import UnknownName
from nudge.core.physics.circuit.equipment import FEEDS
from tests.core.field import case, plate

COOLING, HEATING = BEHAVIOURS["cooling"], BEHAVIOURS["heating"]
RIGHT = {
    "subcooling": 0.1,
    "superheat": 0.4,
    "condensing_over_ambient": -0.5,
    "evaporator_difference": 0.3,
    "temperature_split": 0.2,
}


def moved(**by):
    return {key: value + by.get(key, 0.0) for key, value in RIGHT.items()}


class DriftTest(unittest.TestCase):
    def test_nothing_moved_says_nothing(self):
        found = drift(COOLING, "valve", RIGHT, moved(subcooling=0.3, condensing_over_ambient=-0.3))
        self.assertFalse(found.is_flagged)
        self.assertIn("Where it was", found.said.text("ip"))

    def test_subcooling_four_kelvin_lower_is_charge_gone(self):
        found = drift(COOLING, "valve", RIGHT, moved(subcooling=-4.0, condensing_over_ambient=-0.8))
        self.assertEqual(found.causes[0].cause.key, "charge_lost")
        self.assertAlmostEqual(found.causes[0].share, 1.0, delta=0.25)  # what 10 % moves
        self.assertIn("look for the leak", found.said.text("ip"))

    def test_condensing_higher_with_the_same_subcooling_is_the_outdoor_side(self):
        found = drift(COOLING, "valve", RIGHT, moved(condensing_over_ambient=5.0))
        keys = {named.cause.key for named in found.causes}
        self.assertTrue(keys & {"condenser_fouls", "condenser_fan_slows"})
        self.assertNotIn("charge_lost", keys)

    def test_an_intended_change_takes_its_signs_out_of_the_count(self):
        slower = moved(temperature_split=2.0, evaporator_difference=2.5)
        self.assertTrue(drift(COOLING, "valve", RIGHT, slower).is_flagged)
        respected = drift(COOLING, "valve", RIGHT, slower, ["blower_slowed"])
        self.assertFalse(respected.is_flagged)
        self.assertTrue(
            all(
                one.is_intended
                for one in respected.moved
                if one.sign.key in ("temperature_split", "evaporator_difference")
            )
        )
        # But not what it does not explain: charge went all the same.
        both = moved(temperature_split=2.0, evaporator_difference=2.5, subcooling=-4.0)
        self.assertEqual(
            drift(COOLING, "valve", RIGHT, both, ["blower_slowed"]).causes[0].cause.key,
            "charge_lost",
        )
        with self.assertRaises(UnknownName):
            drift(COOLING, "valve", RIGHT, RIGHT, ["painted"])

    def test_only_what_both_visits_read_is_compared(self):
        found = drift(COOLING, "orifice", {"superheat": 0.0}, {"subcooling": 5.0})
        self.assertEqual((found.moved, found.causes), ((), ()))

    def test_every_cause_has_its_words_and_every_intended_change_real_signs(self):
        for feed in FEEDS:
            table = wander("cooling", feed)
            self.assertEqual({key for key, _ in table.causes}, set(CAUSES))
            for key in ("subcooling", "superheat", "condensing_over_ambient"):
                self.assertGreater(table.sigma(key), 0.1)
            self.assertLess(table.moves("charge_lost")["subcooling"], -2)
        kept = signs_kept(case(plate(rated_seer=14), suct=118, liq=341, sl=52, ll=96, oa=88))
        known = set(kept) | {sign for row in INTENDED.values() for sign in row.moves}
        self.assertIn("subcooling", known)

    def test_in_heating_less_air_on_purpose_excuses_the_head_it_raises_and_no_charge(self):
        warm = {"heat_delivered": 0.5, "superheat": 0.2, "condensing_over_ambient": -0.3}
        less = {"heat_delivered": 0.1, "superheat": 0.1, "condensing_over_ambient": 4.2}
        self.assertTrue(drift(HEATING, "valve", warm, less).is_flagged)
        self.assertFalse(drift(HEATING, "valve", warm, less, ["blower_slowed"]).is_flagged)
        # The same change does not excuse a cooling plant's head: outdoors is another coil there.
        found = drift(
            COOLING, "valve", RIGHT, moved(condensing_over_ambient=5.0), ["blower_slowed"]
        )
        self.assertTrue(found.is_flagged)

    def test_what_no_table_was_made_of_is_not_compared(self):
        self.assertTrue(is_compared(HEATING, "valve"))
        self.assertFalse(is_compared(HEATING, "orifice"))
        self.assertFalse(is_compared(BEHAVIOURS["vehicle"], "valve"))

    def test_weather_drops_out(self):
        # The same system, right on both days, 22 °F apart outdoors: condensing follows the air.
        cool = case(plate(rated_seer=14), suct=120, liq=280, sl=54, ll=82, oa=74, ra=76, wb=63)
        hot = case(plate(rated_seer=14), suct=132, liq=390, sl=58, ll=105, oa=96, ra=76, wb=63)
        found = drift(COOLING, "valve", signs_kept(cool), signs_kept(hot))
        over = next(one for one in found.moved if one.sign.key == "condensing_over_ambient")
        self.assertLess(abs(over.by), 2.0)


if __name__ == "__main__":
    unittest.main()
