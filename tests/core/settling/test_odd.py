"""What cannot be is kept and said aloud; a humid house is told to run first."""

import unittest

from tests.core.field import judged, plate, settled

RIGHT = {"suct": 119, "liq": 352, "sl": 51, "ll": 97, "oa": 88, "ra": 76, "wb": 63}


def said(of=None, seen: tuple[str, ...] = (), **spoken: float) -> dict[str, str]:
    found = judged(of or plate(rated_seer=14), settled(*seen), **{**RIGHT, **spoken})
    return {breach.gate.key: breach.message.text("ip") for breach in found.breaches}


class OddTest(unittest.TestCase):
    def test_an_efficiency_nobody_built_is_kept_and_doubted(self):
        odd = plate("fixed_orifice", subcooling=None, rated_seer=24)
        self.assertIn("SEER 24", said(odd)["plate_efficiency_odd"])
        self.assertIn("It is kept", said(odd)["plate_efficiency_odd"])
        self.assertEqual(judged(odd, **RIGHT).case.plate.rated_seer, 24)
        for device, seer in (("txv", 24), ("eev", 24), ("fixed_orifice", 13)):
            self.assertNotIn("plate_efficiency_odd", said(plate(device, rated_seer=seer)))

    def test_plate_figures_that_exclude_each_other(self):
        for words, more in (
            ("liquid would leave colder than the air", {"condensing_over_ambient_k": 5.0}),
            ("would not be subcooled", {"condensing_over_ambient_k": 8.0, "approach_k": 9.0}),
            ("far from the", {"condensing_over_ambient_k": 24.0}),
        ):
            with self.subTest(words):
                found = said(plate(subcooling=10, rated_seer=14, **more))
                self.assertIn(words, found["plate_figures_odd"])
                self.assertIn("read the plate again", found["plate_figures_odd"])
        ordinary = plate(
            subcooling=10, rated_seer=14, condensing_over_ambient_k=11.0, approach_k=5.0
        )
        self.assertNotIn("plate_figures_odd", said(ordinary))

    def test_air_of_no_house(self):
        self.assertIn("Return air 104.0 °F", said(ra=104, wb=70)["house_air_odd"])
        self.assertIn("Return wet bulb 41.0 °F", said(ra=72, wb=41)["house_air_odd"])
        self.assertNotIn("house_air_odd", said())

    def test_a_humid_house_runs_an_hour_first(self):
        humid = said(ra=78, wb=73)
        self.assertIn("Humid house, wet bulb 73.0 °F: run it an hour", humid["humid_house"])
        self.assertNotIn("humid_house", said(wb=71))

    def test_a_service_valve_half_shut_keeps_charge_from_being_judged(self):
        shut = ("service_valve_not_open",)
        self.assertIn("Open it", said(seen=shut)["service_valve_not_open"])
        found = judged(plate(rated_seer=14), settled(*shut), **{**RIGHT, "suct": 105, "liq": 320})
        self.assertFalse(found.decision.moves_refrigerant)


if __name__ == "__main__":
    unittest.main()
