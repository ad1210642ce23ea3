"""A cold room on its visit: judged near set point by its windows, never told to take refrigerant."""

import itertools
import unittest
from dataclasses import replace

from nudge.core.behaviours.case import Context
from nudge.core.judgement.assess import assess
from nudge.core.language.units import degrees_f, fahrenheit
from nudge.core.physics.circuit.equipment import Application, MeteringDevice, Plate
from nudge.core.physics.refrigerant.table import load_table

FREEZER = Plate(
    "R-404A",
    MeteringDevice.TXV,
    Application.REFRIGERATION,
    nominal_capacity_w=2_200.0,
    box_set_point_c=fahrenheit(-5),
    coil_class_k=degrees_f(10),
    condenser_class_k=degrees_f(25),
)
"""Nobody said whether it has a receiver: its windows answer alone."""
TABLE = load_table("R-404A")


def read(boils=-15.0, box=-5.0, coil=5.0, comes=22.0, outdoor=72.0, head=97.0, liquid=None):
    """What instruments say: saturations and air in °F, superheats in °F over boiling."""
    readings = {
        "suction_pressure": TABLE.dew.pressure(fahrenheit(boils)) - 101.325,
        "liquid_pressure": TABLE.bubble.pressure(fahrenheit(head)) - 101.325,
        "box_air_temp": fahrenheit(box),
        "outdoor_air_temp": fahrenheit(outdoor),
        "evaporator_outlet_temp": fahrenheit(boils + coil),
        "liquid_line_temp": fahrenheit(head - 8 if liquid is None else liquid),
    }
    if comes is not None:
        readings["suction_line_temp"] = fahrenheit(boils + comes)
    return readings


def decided(readings, plate=FREEZER, seen=(), box=(), **context):
    about = Context(
        minutes_running=60.0,
        minutes_since_change=60.0,
        observations=frozenset(seen),
        box=box,
        **context,
    )
    return assess(plate, readings, about)


class RoomTest(unittest.TestCase):
    def test_near_set_point_by_its_design_it_is_right(self):
        found = decided(read())
        self.assertEqual(found.decision.key, "room_right")
        self.assertEqual(found.hazards, ())
        text = found.decision.reason.text("ip")
        self.assertIn("−15.0 °F by design", text)

    def test_a_freezer_near_saturation_at_its_coil_is_at_work_not_flooding(self):
        # 1.2 °F at the coil, 15 at the compressor: near its band, and nothing is told of liquid.
        found = decided(read(coil=1.2, comes=15.0))
        self.assertEqual([h.key for h, _ in found.hazards], [])
        self.assertNotEqual(found.decision.key, "room_floods")
        floods = decided(read(coil=1.2, comes=2.0))
        self.assertEqual([h.key for h, _ in floods.hazards], ["liquid_return"])
        self.assertEqual(floods.decision.key, "room_floods")
        alone = decided(read(coil=1.2, comes=None))  # only the coil's outlet is read
        self.assertEqual([h.key for h, _ in alone.hazards], [])
        self.assertEqual(alone.decision.hangs_on.key, "suction_line_temp")

    def test_far_from_set_point_it_pulls_down_and_nothing_is_judged(self):
        falls = tuple(
            (float(m), fahrenheit(-10) + 20 * 2.718281828 ** (-m / 30)) for m in range(21)
        )
        readings = read(boils=-2.0, box=13.0, coil=14.0)
        for box, words in (((), "Come back when"), (falls, "min to")):
            found = decided(readings, box=box)
            self.assertEqual(found.decision.key, "room_not_yet")
            self.assertIn("Pull-down", found.decision.headline)
            self.assertIn(words, found.decision.reason.text("ip"))
        self.assertGreater(decided(readings, box=falls).decision.ready_in, 5)

    def test_a_defrost_or_an_open_door_is_waited_out(self):
        for seen, gate in (("in_defrost", "in_defrost"), ("door_open", "door_open")):
            found = decided(read(coil=14.0), seen=[seen])
            self.assertEqual(found.decision.key, "room_not_yet", seen)
            self.assertEqual([b.gate.key for b in found.breaches if b.effect == "blocks"][-1], gate)

    def test_without_a_set_point_the_plate_is_asked_for(self):
        plate = Plate("R-404A", MeteringDevice.TXV, Application.REFRIGERATION)
        found = decided(read(), plate).decision
        self.assertIn("set point", found.headline)
        self.assertEqual(found.hangs_on.key, "plate")

    def test_a_starved_coil_is_parted_before_anybody_thinks_of_charge(self):
        starved = read(coil=16.0, boils=-22.0)
        found = decided(starved).decision
        self.assertEqual((found.key, found.hangs_on.key), ("room_starves", "read_receiver_level"))
        full = decided(starved, seen=["receiver_right"]).decision
        self.assertEqual(full.hangs_on.key, "walk_liquid_line")
        short = decided(starved, seen=["receiver_low"]).decision
        self.assertIn("leak", short.reason.text("ip"))
        self.assertFalse(short.moves_refrigerant)

    def test_boiling_low_with_the_feed_right_is_air_or_ice(self):
        found = decided(read(boils=-25.0)).decision
        self.assertEqual((found.key, found.hangs_on.key), ("room_boils_low", "see_room_fans"))
        fans = decided(read(boils=-25.0), seen=["room_fans_run"]).decision
        self.assertEqual(fans.hangs_on.key, "look_at_room_coil")

    def test_a_rung_is_off_from_five_degrees_on(self):
        # By design this box boils at −15 °F; at the coil it is fed right all the while.
        for boils, key in (
            (-19.9, "room_right"),
            (-20.1, "room_boils_low"),
            (-10.1, "room_right"),
            (-9.9, "room_boils_high"),
        ):
            with self.subTest(boils):
                self.assertEqual(decided(read(boils=boils)).decision.key, key)
        high = decided(read(boils=-9.0)).decision
        self.assertIn("−9.0 °F", high.reason.text("ip"))
        self.assertFalse(high.moves_refrigerant)

    def test_what_is_needed_and_not_read_is_named(self):
        for point, words in (
            ("evaporator_outlet_temp", "evaporator outlet"),
            ("suction_pressure", "suction pressure"),
            ("box_air_temp", "box air"),
        ):
            with self.subTest(point):
                found = decided({k: v for k, v in read().items() if k != point}).decision
                self.assertEqual((found.key, found.hangs_on.key), ("room_unread", point))
                self.assertIn(words, found.reason.text("ip"))

    def test_a_head_off_its_rung_is_said_unless_a_control_holds_it(self):
        self.assertEqual(decided(read(head=112.0)).decision.key, "room_head")
        self.assertEqual(decided(read(outdoor=40.0, head=85.0)).decision.key, "room_head")
        held = replace(FREEZER, head_pressure_control="flooded")
        self.assertEqual(decided(read(outdoor=40.0, head=85.0), held).decision.key, "room_right")

    def test_with_a_receiver_subcooling_is_asked_of_no_plant(self):
        house = Plate("R-410A", MeteringDevice.TXV, target_subcooling_k=5.0, has_receiver="yes")
        table = load_table("R-410A")
        readings = {
            "suction_pressure": table.dew.pressure(4.0) - 101.325,
            "liquid_pressure": table.bubble.pressure(40.0) - 101.325,
            "suction_line_temp": 12.0,
            "liquid_line_temp": 39.5,
            "outdoor_air_temp": 30.0,
            "return_air_temp": 25.0,
        }
        clean = ["filter_clean", "evaporator_coil_clean", "condenser_coil_clean"]
        found = decided(readings, house, clean).decision
        self.assertEqual(found.hangs_on.key, "read_receiver_level")
        self.assertFalse(found.moves_refrigerant)
        bare = Plate("R-410A", MeteringDevice.TXV, target_subcooling_k=5.0)
        self.assertEqual(decided(readings, bare, clean).decision.judged, "subcooling")

    def test_the_rooms_own_superheat_is_held_at_its_coil(self):
        own = replace(FREEZER, target_superheat_k=degrees_f(10))
        self.assertEqual(decided(read(coil=10.0, boils=-14.0), own).decision.key, "room_right")
        self.assertEqual(decided(read(coil=15.0), own).decision.key, "room_starves")
        self.assertEqual(
            decided(read(coil=10.0)).decision.key, "room_starves"
        )  # a freezer's 2 to 8

    def test_whatever_is_read_nobody_is_told_to_move_refrigerant(self):
        for boils, box, coil, comes, head in itertools.product(
            (-40.0, -22.0, -15.0, -8.0),
            (-9.0, -5.0, -1.0, 20.0),
            (-1.0, 1.0, 5.0, 20.0),
            (None, 2.0, 22.0, 50.0),
            (70.0, 97.0, 130.0),
        ):
            readings = read(boils, box, coil, comes, head=head, liquid=head - 2)
            for plate in (FREEZER, replace(FREEZER, has_receiver="yes")):
                found = decided(readings, plate).decision
                self.assertFalse(found.moves_refrigerant, found.key)
                self.assertNotIn("add refrigerant", found.reason.text("ip").lower())

    def test_a_box_in_the_other_unit_is_asked_about(self):
        # -20.6 °C is -5 °F: typed as it stood on a thermometer in °C, it would be -20.6 °F.
        celsius = decided(read(box=-20.6)).decision.reason.text("ip")
        self.assertIn("in the other unit would be −5.1 °F", celsius)
        # A plate's set point of -20.6 (°C meant) on a box at -5 °F.
        plate = replace(FREEZER, box_set_point_c=fahrenheit(-20.6))
        said = decided(read(), plate).decision.reason.text("ip")
        self.assertIn("Is the unit right?", said)
        self.assertNotIn("unit right", decided(read(box=20.0)).decision.reason.text("ip"))

    def test_a_coil_warmer_than_its_box_is_heated(self):
        readings = read() | {"evaporator_outlet_temp": fahrenheit(9)}
        found = decided(readings).decision
        self.assertEqual(found.key, "room_not_yet")
        self.assertIn("heater is on", found.reason.text("ip"))

    def test_a_set_point_over_the_day_is_doubted_aloud(self):
        plate = replace(FREEZER, box_set_point_c=fahrenheit(36))
        readings = read(boils=26.0, box=36.0, outdoor=30.0, head=75.0)
        keys = {b.gate.key: b.effect for b in decided(readings, plate).breaches}
        self.assertEqual(keys.get("set_over_outdoors"), "warns")
        held = replace(plate, head_pressure_control="flooded")
        keys = {b.gate.key for b in decided(readings, held).breaches}
        self.assertNotIn("set_over_outdoors", keys)

    def test_a_coils_or_a_doors_clock_is_waited_out(self):
        for context, words in (
            ({"minutes_clear": 0.0}, "Its coil shows a defrost"),
            ({"minutes_clear": 4.0}, "By its coil a defrost ended"),
            ({"since_door": 3.0}, "By its air a door stood open"),
        ):
            found = decided(read(), **context).decision
            self.assertEqual(found.key, "room_not_yet", context)
            self.assertIn(words, found.reason.text("ip"))
        clear = decided(read(), minutes_clear=11.0, since_door=12.0)
        self.assertEqual(clear.decision.key, "room_right")

    def test_a_compressor_that_draws_nothing_is_not_judged(self):
        # Pumped down, its pressures still stand far apart: only the amps tell.
        found = decided(read() | {"compressor_amps": 0.1}).decision
        self.assertNotEqual(found.key, "room_right")
        self.assertIn("draws nothing", found.reason.text("ip"))
        self.assertEqual(decided(read() | {"compressor_amps": 9.0}).decision.key, "room_right")

    def test_a_plate_without_a_receiver_is_not_asked_for_its_level(self):
        plate = replace(FREEZER, has_receiver="no")
        found = decided(read(coil=16.0, boils=-22.0), plate).decision
        self.assertEqual(found.hangs_on.key, "walk_liquid_line")


class RungsTest(unittest.TestCase):
    """Off a rung: by its plate it boils at −15 °F and condenses at 97 °F over air of 72 °F."""

    def test_head_far_over_its_design_looks_at_the_condenser(self):
        found = decided(read(head=97.0 + 22)).decision
        self.assertEqual(found.hangs_on.key, "look_at_condenser")
        words = found.reason.text("ip")
        self.assertIn("119.0 °F", words)
        self.assertIn("22.0 °F over its design", words)

    def test_head_far_under_its_design_asks_for_the_level_before_anything(self):
        found = decided(read(head=97.0 - 22, liquid=73.5)).decision
        self.assertIn("22.0 °F under its design", found.reason.text("ip"))
        self.assertEqual(found.hangs_on.key, "read_receiver_level")
        self.assertNotIn(found.advice, ("add", "remove"))

    def test_boiling_high_with_the_coil_fed_right_is_the_compressor(self):
        found = decided(read(boils=-6.5, box=-5.0)).decision
        words = found.reason.text("ip")
        self.assertIn("the compressor takes less than the coil gives", words)
        self.assertEqual(found.hangs_on.key, "read_compressor_amps")

    def test_a_coil_that_starves_with_the_receiver_short_is_a_leak_and_never_a_dose(self):
        found = decided(read(boils=-22.0, coil=14.0, comes=30.0), seen=("receiver_low",)).decision
        self.assertEqual(found.headline, "The receiver runs short.")
        self.assertEqual(found.hangs_on.key, "look_for_leak")
        self.assertNotIn(found.advice, ("add", "remove"))

    def test_what_gauge_and_clamp_may_err_is_no_flooding(self):
        self.assertEqual(decided(read(coil=2.4, comes=15.0)).decision.key, "room_right")
        flooded = decided(read(coil=0.5, comes=3.0)).decision
        self.assertEqual(flooded.key, "room_floods")

    def test_a_coil_overfed_without_a_clamp_at_the_compressor_asks_for_that_clamp(self):
        found = decided(read(coil=1.0, comes=None)).decision
        self.assertEqual(
            (found.hangs_on.kind, found.hangs_on.key), ("reading", "suction_line_temp")
        )


if __name__ == "__main__":
    unittest.main()
