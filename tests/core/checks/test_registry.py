"""One registry of checks: reading, look, form, step and advice are facets of one row."""

import unittest

from nudge.core.checks.forms import FORMS
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.checks.opening_forms import OPENING_FORMS
from nudge.core.checks.table import CHECKS, LOOKS
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.settling.gates import GATES
from nudge.core.visit.facts import Facts
from nudge.core.visit.steps import STEPS, check_of


class RegistryTest(unittest.TestCase):
    def test_every_facet_a_row_names_is_there(self):
        steps, gates = {row.key for row in STEPS}, {gate.key for gate in GATES}
        for check in CHECKS.values():
            with self.subTest(check.key):
                self.assertTrue(not check.form or check.form in FORMS)
                self.assertTrue(not check.step or check.step in steps)
                self.assertLessEqual(check.doubted_by, gates)
                self.assertLessEqual(set(check.points), set(POINTS))

    def test_every_form_is_of_a_check_and_every_step_with_a_form_too(self):
        of_checks = {check.form for check in CHECKS.values()} - {""}
        own = {form.key for form in OPENING_FORMS}  # of an opened circuit: no check asks for them
        self.assertEqual(set(FORMS), of_checks | own)
        self.assertEqual(own, {row.check for row in STEPS if row.check in own})
        for row in STEPS:
            if row.check and row.check not in own:
                self.assertIn(row.check, {c.form for c in CHECKS.values() if c.step == row.key})

    def test_a_look_brings_the_facts_it_is_ticked_by(self):
        for look in LOOKS:
            with self.subTest(look.yes):
                yes = OBSERVATIONS[look.yes]
                self.assertEqual((yes.label, yes.where), (look.labels[0], look.where))
                if look.no:
                    self.assertEqual(OBSERVATIONS[look.no].opposite, look.yes)
                    self.assertEqual(yes.opposite, look.no)

    def test_the_advice_to_measure_the_blower_capacitor_has_its_form_and_its_step(self):
        row = CHECKS["test_blower_capacitor"]
        self.assertEqual(
            (row.form, row.step, row.look.yes), ("capacitor", "capacitor", "blower_capacitor_weak")
        )
        self.assertEqual(check_of("capacitor", Facts()), row.key)

    def test_of_a_step_with_two_checks_the_one_not_done_is_asked_for(self):
        seen = Facts(observations=frozenset({"condenser_coil_clean"}))
        self.assertEqual(check_of("coils", seen), "look_at_evaporator")
        self.assertEqual(check_of("coils", Facts()), "look_at_condenser")
        self.assertEqual(check_of("vacuum", Facts()), "")
