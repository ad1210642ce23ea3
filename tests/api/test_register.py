"""The instruments register over the wire: added, zeroed, out of calibration, retired, counted with."""

from tests.temporary import WithClient

PATH = "/api/workshop/instruments"


class RegisterTest(WithClient):
    def register(self, **query):
        answer = self.http.get(PATH, params=query)
        self.assertEqual(answer.status_code, 200)
        return {one["id"]: one for one in answer.json()["instruments"]}

    def add(self, key, sort, status=201, **more):
        units = more.pop("units", "ip")
        body = {"id": key, "name": more.pop("name", "Mine"), "sort": sort, **more}
        answer = self.http.post(PATH, params={"units": units}, json=body)
        self.assertEqual(answer.status_code, status, answer.text[:300])
        return answer.json()

    def test_the_demo_carries_some_and_one_is_out_of_calibration(self):
        found = self.register()
        self.assertEqual(found["reg-gauges"]["accuracy"], "± 0.5 psi or 1 %")
        self.assertTrue(found["reg-humidity"]["is_lapsed"])
        self.assertIn("counted twice", found["reg-humidity"]["accuracy"])
        self.assertAlmostEqual(found["reg-gauges"]["hose_years"], 900 / 365.25, delta=0.01)
        self.assertFalse(found["reg-gauges"]["hoses_are_old"])
        self.assertEqual(self.register(units="si")["reg-gauges"]["accuracy"], "± 3.5 kPa or 1 %")

    def test_its_own_sheet_is_given_in_the_units_of_who_writes(self):
        self.add("one", "gauges", fixed=0.5, calibrated_until="2039-01-01")
        self.add("same", "gauges", fixed=3.447, units="si")
        found = self.register(units="si")
        self.assertEqual(found["one"]["accuracy"], found["same"]["accuracy"])
        self.add("same", "gauges", fixed=3.447, units="si")  # sent again, it is the same one
        self.add("same", "gauges", 409, fixed=0.7)
        self.assertEqual(len(self.register()), len(found))

    def test_zeroed_and_retired(self):
        changed = self.http.patch(f"{PATH}/reg-gauges", json={"zeroed": True})
        self.assertEqual(changed.status_code, 200)
        self.assertIsNotNone(self.register()["reg-gauges"]["zeroed_at"])
        refused = self.http.patch(f"{PATH}/reg-clamps", json={"zeroed": True})
        self.assertEqual(refused.status_code, 422)
        self.http.patch(f"{PATH}/reg-clamps", json={"retired": True})
        self.assertNotIn("reg-clamps", self.register())
        gone = self.http.patch(f"{PATH}/reg-clamps", json={"zeroed": True})
        self.assertEqual(gone.status_code, 404)

    def test_every_number_of_a_visit_counts_with_it(self):
        def error():
            found = self.http.get("/api/visits/seed-library-now/workings").json()
            return found["superheat"]["uncertainty"]

        before = error()
        self.http.patch(f"{PATH}/reg-clamps", json={"fixed": 2.0})
        self.assertGreater(error(), before + 1.0)

    def test_a_closed_visit_keeps_the_instruments_of_its_own_day(self):
        def error(visit):
            found = self.http.get(f"/api/visits/{visit}/workings").json()
            return found["superheat"]["uncertainty"]

        before = error("clinic-2")
        self.http.patch(f"{PATH}/reg-clamps", json={"fixed": 2.0})
        self.assertEqual(error("clinic-2"), before)

    def test_what_cannot_be_is_refused_by_name(self):
        for more, words in (
            ({"sort": "guages"}, "gauges"),
            ({"sort": "gauges", "fixed": 900.0}, "accuracy"),
            ({"sort": "clamps", "hoses_since": "2020-01-01"}, "hoses"),
            ({"sort": "gauges", "hoses_since": "2190-01-01"}, "still to come"),
            ({"sort": "gauges", "percent": 60.0}, "60"),
            ({"sort": "gauges", "name": "  "}, "name"),
        ):
            with self.subTest(more):
                sort = more.pop("sort")
                said = self.add("bad", sort, 422, **more)["errors"][0]["message"]
                self.assertIn(words, said)
        self.assertNotIn("bad", self.register())
