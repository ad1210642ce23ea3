"""A box's design goes on to its sister: what was written once is not written again."""

from tests.temporary import WithClient

COOLER, FREEZER = "fish-cold-room", "fish-freezer"


class SisterBoxTest(WithClient):
    def page(self, system):
        return self.http.get(f"/api/systems/{system}").json()

    def take_over(self, system, sister):
        return self.http.post(f"/api/systems/{system}/box", json={"from_system": sister})

    def test_rooms_of_one_site_know_each_other_and_houses_do_not(self):
        sisters = [one["key"] for one in self.page(FREEZER)["sister_boxes"]]
        self.assertEqual(sisters, [COOLER])
        self.assertEqual(self.page("seed-library-stacks")["sister_boxes"], [])

    def test_the_design_is_taken_over_whole_and_nothing_else(self):
        before, sister = self.page(FREEZER)["system"], self.page(COOLER)["system"]
        answer = self.take_over(FREEZER, COOLER)
        self.assertEqual(answer.status_code, 200, answer.text[:300])
        now = answer.json()
        for key in ("box_set_point", "coil_class", "condenser_class", "target_superheat"):
            self.assertEqual(now["numbers"][key], sister["numbers"][key], key)
        self.assertEqual(now["choices"]["defrost_kind"], sister["choices"]["defrost_kind"])
        for kept in ("refrigerant", "name", "note"):
            self.assertEqual(now[kept], before[kept])
        self.assertEqual(now["numbers"]["nominal_capacity"], before["numbers"]["nominal_capacity"])

    def test_what_has_no_box_gives_and_takes_none(self):
        for system, sister in ((FREEZER, "seed-library-stacks"), ("seed-library-stacks", COOLER)):
            refused = self.take_over(system, sister)
            self.assertEqual(refused.status_code, 422)
            self.assertIn("no cold room", refused.json()["errors"][0]["message"])
        self.assertEqual(self.take_over(FREEZER, "nowhere").status_code, 404)
