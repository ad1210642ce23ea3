"""The roll slip: two widths, large figures, the same verdict in any units, the same bytes again."""

import io

from pypdf import PdfReader

from nudge.core.language.units import degrees_f
from tests.temporary import WithClient

LIVE = "radio-room-live"


class SlipTest(WithClient):
    def slip(self, visit, **query):
        answer = self.http.get(f"/api/visits/{visit}/slip.pdf", params=query)
        self.assertEqual(answer.status_code, 200, answer.text[:300])
        return answer.content

    def words(self, visit, **query):
        pages = PdfReader(io.BytesIO(self.slip(visit, **query))).pages
        self.assertEqual(len(pages), 1)
        return " ".join(pages[0].extract_text().split())

    def test_it_is_as_wide_as_its_roll_and_no_longer_than_what_is_on_it(self):
        for width in (58, 80):
            data = self.slip("seed-library-now", width=width)
            box = PdfReader(io.BytesIO(data)).pages[0].mediabox
            self.assertAlmostEqual(float(box.width) * 25.4 / 72, width, delta=0.1)
            self.assertLess(float(box.height) * 25.4 / 72, 400)
            self.assertLess(len(data), 60_000)
        refused = self.http.get("/api/visits/seed-library-now/slip.pdf", params={"width": 70})
        self.assertEqual(refused.status_code, 422)
        self.assertIn("58 or 80 mm", refused.json()["errors"][0]["message"])

    def test_printed_again_it_is_the_same_byte_for_byte(self):
        for visit in ("seed-library-now", "school-lodge-345", "launch-van-now", "clinic-2"):
            first = self.slip(visit, units="si_bar")
            self.clock.pass_minutes(3)
            self.assertEqual(self.slip(visit, units="si_bar"), first, visit)

    def test_it_names_what_it_was_read_with_as_that_stood_then(self):
        visit = "school-lodge-345"
        words = self.words(visit, width=58)
        self.assertIn("Van’s gauge set · ± 0.5 psi or 1 % · calibrated until", words)
        self.assertNotIn("zeroed", words)  # that came later
        self.assertIn("zeroed", self.words("pottery-now"))
        self.assertNotIn("Charging scale", words)  # it read nothing here
        first = self.slip(visit)
        for key, change in (
            ("reg-gauges", {"zeroed": True, "calibrated_until": "2039-01-01"}),
            ("reg-clamps", {"fixed": 2.0}),
            ("reg-air", {"retired": True}),
        ):
            path = f"/api/workshop/instruments/{key}"
            self.assertEqual(self.http.patch(path, json=change).status_code, 200)
        self.assertEqual(self.slip(visit), first)

    def test_every_kind_of_visit_has_its_figures_and_its_verdict(self):
        for visit, said in (
            ("seed-library-now", ("Superheat", "Leave the charge alone.", "Signed")),
            ("fish-cooler-now", ("Superheat at the coil 7.5 °F", "It boils too low for this box.")),
            ("launch-van-now", ("Condenser’s drop 69.0 °F", "Too little gets through.", "weigh")),
            ("school-lodge-now", ("True suction", "No superheat: prove the reading first.")),
            ("ferry-hall-now", ("Leave the caps on.",)),
        ):
            words = self.words(visit, width=58)
            for one in said:
                self.assertIn(one, words, visit)

    def test_the_same_state_says_the_same_in_any_units(self):
        kelvin = {}
        for units, suction in (("ip", "psig"), ("si", "kPa"), ("si_bar", "bar")):
            words = self.words("pottery-now", units=units)
            self.assertIn("Add refrigerant, a little at a time.", words)
            self.assertIn(suction, words)
            after = words.partition("Superheat ")[2].split()
            value = float(after[0])
            kelvin[units] = degrees_f(value) if units == "ip" else value
        self.assertAlmostEqual(kelvin["ip"], kelvin["si"], delta=0.06)
        self.assertEqual(kelvin["si"], kelvin["si_bar"])

    def test_over_a_settled_window_mean_least_and_most_stand_together(self):
        words = self.words(LIVE, width=80)
        self.assertIn("mean, least, most", words)
        mean, unit, least, _, most = words.partition("Superheat ")[2].split()[:5]
        self.assertEqual(unit, "°F")
        self.assertLessEqual(float(least), float(mean))
        self.assertLessEqual(float(mean), float(most.rstrip(",")))
