"""No system of the demo stands in another's place."""

import unittest
from collections import Counter

from nudge.demo.skerrow_repairs import REPAIRS
from nudge.demo.skerrow_story import SYSTEMS, VISITS


class NoTwoTest(unittest.TestCase):
    def test_every_system_has_an_id_and_a_name_of_its_own(self):
        for names in (
            [row.id for row in SYSTEMS],
            [(row.site_id, row.name) for row in SYSTEMS],
            [row.id for row in VISITS],
        ):
            self.assertEqual([name for name, n in Counter(names).items() if n > 1], [])
        known = {row.id for row in SYSTEMS}
        self.assertLessEqual({row.system_id for row in VISITS}, known)
        self.assertLessEqual({system for _, system, *_ in REPAIRS}, known)


if __name__ == "__main__":
    unittest.main()
