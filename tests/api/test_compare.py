"""Two visits of a system over the wire."""

from tests.temporary import WithClient


class CompareTest(WithClient):
    def at(self, one, other, system="school-lodge"):
        return self.http.get(f"/api/systems/{system}/compare?one={one}&other={other}")

    def test_two_winters_of_the_lodge(self):
        found = self.at("school-lodge-now", "school-lodge-345").json()
        self.assertEqual(
            found["then"]["id"], "school-lodge-345"
        )  # the earlier first, however asked
        self.assertTrue(found["now"]["heats"])
        rows = {row["key"]: row for row in found["rows"]}
        self.assertEqual(rows["outdoor_air_temp"]["moved"], "+3.0")  # 34 then, 37 now
        self.assertEqual(found["unlike"], [])
        drawn = next(one for one in found["drawn"] if one["frame"] == "desk")
        roles = {stroke["role"] for stroke in drawn["strokes"]}
        self.assertLessEqual({"then", "now"}, roles)
        for stroke in drawn["strokes"]:
            for x, y in stroke["points"]:
                self.assertTrue(-1 <= x <= drawn["width"] + 1, stroke)
                self.assertTrue(-1 <= y <= drawn["height"] + 1, stroke)

    def test_a_visit_of_another_system_is_not_of_this_one(self):
        self.assertEqual(self.at("school-lodge-now", "clinic-now").status_code, 404)
        self.assertEqual(self.at("school-lodge-now", "nowhere").status_code, 404)

    def test_nothing_judged_on_one_is_null(self):
        found = self.at("net-loft-now", "net-loft-1", "net-loft-heat-pump")
        self.assertEqual(found.status_code, 200)
        self.assertIsNone(found.json())

    def test_a_visit_that_is_only_planned_breaks_nothing(self):
        for pair in (("school-due", "school-1"), ("school-1", "school-due")):
            found = self.at(*pair, "school-servery")
            self.assertEqual((found.status_code, found.json()), (200, None))
        plan = {"id": "plan", "system_id": "school-lodge", "due_on": "2026-12-24"}
        self.assertLess(self.http.post("/api/visits", json=plan).status_code, 300)
        self.http.post("/api/visits/plan/callouts", json={
            "text": "ra 69 sa 92 oa 37 suct 97 liq 325 ts 36 ll 87",
            "heard_at": self.clock().isoformat(),
        })  # fmt: skip
        self.assertEqual(self.at("plan", "school-lodge-345").status_code, 200)
