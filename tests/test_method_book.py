"""docs/method.md holds every rule the code has: a rule missing from the book fails here."""

import unittest
from pathlib import Path

from nudge.core.circuit.derived_table import DERIVED
from nudge.core.judgement.cautions import CAUTIONS
from nudge.core.judgement.hazards import HAZARDS
from nudge.core.judgement.next_checks import CHECKS
from nudge.core.judgement.proof import ADD_PROOF, REMOVE_PROOF
from nudge.core.judgement.suspect_table import SUSPECTS
from nudge.core.settling.gates import GATES
from nudge.core.settling.trust import TRUST_CHECKS
from nudge.core.targets.choose import SCHOOLS
from nudge.core.vocabulary.observations import OBSERVATIONS
from nudge.core.vocabulary.points import POINTS

DOCS = Path(__file__).parents[1] / "docs"


class MethodBookTest(unittest.TestCase):
    def test_every_rule_is_in_the_book_with_its_reason(self):
        book = (DOCS / "method.md").read_text("utf-8")
        rules = [
            *((row.key, row.reason) for row in (*GATES, *TRUST_CHECKS, *HAZARDS, *SCHOOLS)),
            *((row.key, row.formula) for row in DERIVED.values()),
            *((row.look_alike, row.told_apart_by) for row in (*ADD_PROOF, *REMOVE_PROOF)),
            *((row.key, row.why) for row in CHECKS),
            *((row.key, row.text.text("ip")) for row in CAUTIONS),
            *((row.key, row.label) for row in SUSPECTS.values()),
        ]
        for key, words in rules:
            with self.subTest(key):
                self.assertIn(f"`{key}`", book)
                self.assertIn(words, book)

    def test_every_name_is_in_the_nomenclature(self):
        names = (DOCS / "nomenclature.md").read_text("utf-8")
        for key in (*POINTS, *OBSERVATIONS):
            with self.subTest(key):
                self.assertIn(f"`{key}`", names)
