"""Every form, filled in every way there is: what it says, and what of it goes onto the visit."""

import unittest
from itertools import product

from nudge.core.checks.forms import FORMS, SUBSYSTEMS, judge_form
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.language.vocabulary.actions import ACTIONS
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.chart.chart_text import read_chart
from tests.core.field import plate

TABLE = read_chart("blower_airflow", "static, low, high\n0.2, 1000, 1300\n0.6, 800, 1100", "ip")
MOST_WAYS = 400
CFM, INCH = 0.4719474, 249.0889
THREE_TONS = 36_000 * 0.29307
SLOW = plate(nominal_capacity_w=THREE_TONS, charts=(TABLE,), blower_tap="low")
PLATE = plate(nominal_capacity_w=THREE_TONS, charts=(TABLE,), blower_tap="high")


def ways(form):
    """Ways to fill a form: every choice with every other, its numbers at what they may be."""
    answers = []
    for blank in form.blanks:
        if blank.choices:
            given = [key for key, _ in blank.choices]
        elif blank.is_words:
            given = ["as found"]
        else:
            given = [1.0, 100.0]
        answers.append(given if blank.is_needed else [None, *given])
    for n, way in enumerate(product(*answers)):
        if n >= MOST_WAYS:
            return
        yield {b.key: v for b, v in zip(form.blanks, way, strict=True) if v is not None}


class EveryFormTest(unittest.TestCase):
    def test_each_belongs_to_a_part_and_asks_what_it_can_be_answered(self):
        for form in FORMS.values():
            with self.subTest(form.key):
                self.assertIn(form.subsystem, SUBSYSTEMS)
                keys = [blank.key for blank in form.blanks]
                self.assertEqual(len(keys), len(set(keys)))
                for blank in form.blanks:
                    kinds = [bool(blank.choices), blank.is_words, blank.quantity is not None]
                    self.assertEqual(sum(kinds), 1, blank.key)

    def test_however_it_is_filled_it_says_something_and_contradicts_nothing(self):
        for form in FORMS.values():
            filled = 0
            for entries in ways(form):
                try:
                    found = judge_form(form.key, PLATE, entries)
                except CoreError as refused:  # it says what is missing, and nothing is kept
                    self.assertTrue(refused.text("ip"), form.key)
                    continue
                filled += 1
                with self.subTest(form.key, entries=entries):
                    self.assertIn(found.state, ("good", "watch", "bad", "noted"))
                    self.assertTrue(found.said)
                    for said in found.said:
                        for units in ("ip", "si", "si_bar"):
                            self.assertNotRegex(said.text(units), r"[{}]")
                    seen = set(found.observations)
                    self.assertLessEqual(seen, OBSERVATIONS.keys())
                    self.assertFalse(seen & {OBSERVATIONS[key].opposite for key in seen})
                    self.assertLessEqual(found.readings.keys(), POINTS.keys())
                    self.assertLessEqual(set(found.events), ACTIONS.keys())
            self.assertGreater(filled, 0, form.key)

    def test_what_is_needed_is_asked_for_and_what_it_does_not_ask_is_refused(self):
        for form in FORMS.values():
            needed = [blank.key for blank in form.blanks if blank.is_needed]
            with self.subTest(form.key):
                if needed:
                    with self.assertRaises(CoreError):
                        judge_form(form.key, PLATE, {})
                with self.assertRaises(CoreError):
                    judge_form(form.key, PLATE, {"colour": "green"})

    def test_a_choice_there_is_not_is_refused(self):
        for form in FORMS.values():
            for blank in form.blanks:
                if not blank.choices:
                    continue
                whole = next(ways(form)) | {blank.key: "perhaps"}
                with self.subTest(form.key, blank=blank.key), self.assertRaises(CoreError):
                    judge_form(form.key, PLATE, whole)

    def test_no_number_no_instrument_shows_is_taken(self):
        for form in FORMS.values():
            for blank in form.blanks:
                if blank.quantity is None:
                    continue
                for number in (float("nan"), float("inf"), 1e12):
                    whole = next(ways(form)) | {blank.key: number}
                    with (
                        self.subTest(form.key, blank=blank.key, number=number),
                        self.assertRaises(CoreError),
                    ):
                        judge_form(form.key, PLATE, whole)

    def test_a_form_nobody_knows_is_named_with_the_nearest(self):
        with self.assertRaises(UnknownName) as refused:
            judge_form("capaciter", PLATE, {})
        self.assertIn("capacitor", refused.exception.nearest)


class ByHandTest(unittest.TestCase):
    """Outcomes worked out apart, form by form."""

    def judge(self, key, of=PLATE, **entries):
        return judge_form(key, of, entries)

    def words(self, found, units="ip"):
        return " ".join(said.text(units) for said in found.said)

    def test_coils_are_each_what_they_look_like(self):
        for evaporator, condenser, state, seen in (
            ("clean", "clean", "good", {"evaporator_coil_clean", "condenser_coil_clean"}),
            ("dusty", "clean", "watch", {"evaporator_coil_clean", "condenser_coil_clean"}),
            ("clean", "dirty", "bad", {"evaporator_coil_clean", "condenser_coil_dirty"}),
            ("dirty", "dusty", "bad", {"evaporator_coil_dirty", "condenser_coil_clean"}),
        ):
            found = self.judge("coils", evaporator=evaporator, condenser=condenser)
            with self.subTest(evaporator, condenser=condenser):
                self.assertEqual((found.state, set(found.observations)), (state, seen))

    def test_one_coil_alone_says_nothing_of_the_other(self):
        found = self.judge("coils", condenser="clean")
        self.assertEqual(found.observations, ("condenser_coil_clean",))

    def test_a_missing_filter_is_worse_than_a_dirty_one(self):
        self.assertIn("look at the coil", self.words(self.judge("filter", face="missing")))
        dusty = self.judge("filter", face="dusty", second="none")
        self.assertEqual((dusty.state, dusty.observations), ("watch", ("filter_clean",)))

    def test_amps_against_the_plate(self):
        # 15.6 A rated: over 16.4 too hard, under 7.0 hardly working.
        for amps, state, word in (
            (16.5, "bad", "over it"),
            (16.3, "good", "on the plate."),
            (7.1, "good", "on the plate."),
            (6.9, "watch", "hardly working"),
        ):
            found = self.judge("compressor_amps", rated=15.6, measured=amps)
            with self.subTest(amps):
                self.assertEqual(found.state, state)
                self.assertIn(word, self.words(found))
                self.assertEqual(found.readings, {"compressor_amps": amps})

    def test_amps_without_a_plate_are_kept_and_judged_by_nothing(self):
        found = self.judge("compressor_amps", measured=11.2)
        self.assertEqual((found.state, found.readings), ("noted", {"compressor_amps": 11.2}))

    def test_airflow_by_the_table_between_its_rows(self):
        # At 0.4 in. w.c. on high, half way: 1,200 CFM; three tons want 400 CFM a ton.
        found = self.judge("blower", static=0.4 * INCH)
        self.assertEqual((found.state, found.observations), ("good", ("airflow_ok",)))
        self.assertAlmostEqual(found.readings["airflow"] / CFM, 1_200, delta=0.5)
        low = self.judge("blower", static=0.4 * INCH, of=SLOW)  # 900 CFM
        self.assertEqual((low.state, low.observations), ("bad", ("airflow_low",)))
        with self.assertRaises(CoreError):
            self.judge("blower", static=0.9 * INCH)  # beyond the maker's table
        with self.assertRaisesRegex(CoreError, "No blower table"):
            self.judge("blower", of=plate(), static=0.4 * INCH)

    def test_airflow_of_a_machine_of_unknown_size_is_noted(self):
        found = self.judge("blower", of=plate(charts=(TABLE,), blower_tap="low"), static=0.2 * INCH)
        self.assertEqual((found.state, found.observations), ("noted", ()))
        self.assertIn("1000 CFM", self.words(found))

    def test_strips_by_circuit(self):
        # 4.8 kW at 240 V draw 20 A each: two on a circuit 40, one of them dead 20.
        whole = self.judge("strips", strip_kw=4.8, strips=2, volts=240.0, measured=40.0)
        self.assertEqual((whole.state, whole.readings), ("good", {"strip_amps": 40.0}))
        dead = self.judge("strips", strip_kw=4.8, strips=2, volts=240.0, measured=20.0)
        self.assertEqual(dead.state, "bad")
        with self.assertRaisesRegex(CoreError, "Measured"):
            self.judge("strips", strip_kw=4.8, strips=2, volts=240.0)

    def test_a_drain(self):
        for runs, pan, state in (
            ("no", "dry", "bad"),
            ("yes", "wet", "watch"),
            ("yes", "dry", "good"),
        ):
            self.assertEqual(self.judge("drain", runs=runs, pan=pan).state, state)

    def test_statics_want_two_halves_or_a_whole(self):
        with self.assertRaisesRegex(CoreError, "the total"):
            self.judge("statics", supply=50.0)
        both = self.judge("statics", supply=0.2 * INCH, **{"return": -0.2 * INCH})
        self.assertEqual(both.readings.keys(), {"supply_static", "return_static"})
        self.assertEqual(self.judge("statics", total=0.9 * INCH).state, "bad")
        self.assertEqual(self.judge("statics", total=0.4 * INCH).state, "good")
        self.assertEqual(self.judge("statics", total=0.6 * INCH).state, "watch")

    def test_no_static_at_all_is_no_good_static(self):
        for entries in ({"total": 0.0}, {"supply": -5.0, "return": 5.0}):
            found = self.judge("statics", **entries)
            self.assertEqual(found.state, "watch")
            self.assertIn("the blower stands", self.words(found))

    def test_a_filter_s_drop_alone_is_judged(self):
        found = self.judge("statics", filter_drop=0.1 * INCH)
        self.assertEqual(found.state, "good")
        self.assertIn("0.10 in. w.c.: it passes air", self.words(found))
        self.assertEqual(self.judge("statics", filter_drop=0.17 * INCH).state, "watch")
        self.assertEqual(self.judge("statics", filter_drop=0.25 * INCH).state, "bad")


if __name__ == "__main__":
    unittest.main()
