"""The storey plan: rooms side by side on their storeys, branch boxes before what hangs on them."""

import unittest

from nudge.core.physics.zones.parts import IndoorUnit, parts_of
from nudge.presenters.drawing.storeys import storey_plan

ROOMS = (
    IndoorUnit("2.1", "Hall", 3600, -3.0, storey=2, group="A"),
    IndoorUnit("2.2", "Loft", 7200, -3.0, storey=2, ports=2, group="B"),
    IndoorUnit("2.3", "Store", 3600, -3.0, storey=2, group="B"),
    IndoorUnit("1.1", "Shop", 3600, -6.0, storey=1),
)


def overlap(one, other):
    return (
        one.x < other.x + other.width
        and other.x < one.x + one.width
        and one.y < other.y + other.height
        and other.y < one.y + one.height
    )


class StoreysTest(unittest.TestCase):
    def test_rooms_stand_on_their_storeys_as_wide_as_their_size_and_never_over_each_other(self):
        plan = storey_plan(parts_of("R-410A", ROOMS))
        at = {box.key: box for box in plan.rooms}
        self.assertEqual(at["2.1"].y, at["2.3"].y)
        self.assertLess(at["2.1"].y, at["1.1"].y)
        self.assertGreater(at["2.2"].width, at["2.1"].width)
        for i, one in enumerate(plan.rooms):
            self.assertLessEqual(one.x + one.width, plan.width)
            for other in plan.rooms[i + 1 :]:
                self.assertFalse(overlap(one, other), (one.key, other.key))

    def test_a_branch_box_has_a_port_for_each_and_covers_no_room(self):
        plan = storey_plan(parts_of("R-410A", ROOMS))
        boxes = {box.name: box for box in plan.branches}
        self.assertEqual({name: box.ports for name, box in boxes.items()}, {"A": 1, "B": 3})
        self.assertEqual(boxes["B"].rooms, ["2.2", "2.3"])
        ceiling = {room.key: room.pipe[1][1] for room in plan.rooms}
        for box in plan.branches:
            self.assertAlmostEqual(box.y + box.height / 2, ceiling[box.rooms[0]])
            self.assertGreater(box.x, plan.riser[0][0])
            for room in plan.rooms:
                if room.key in box.rooms:
                    continue
                self.assertFalse(overlap(box, room), (box.name, room.key))

    def test_the_plant_stands_under_rooms_that_hang_higher(self):
        above = [IndoorUnit("1", "Hall", 3600, 4.0, storey=1)]
        plan = storey_plan(parts_of("R-410A", above))
        self.assertGreater(plan.plant[1], plan.rooms[0].y)
        self.assertEqual(plan.branches, [])


if __name__ == "__main__":
    unittest.main()
