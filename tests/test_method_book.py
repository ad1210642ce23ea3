"""docs/method.md holds every rule the code has: a rule missing from the book fails here."""

import dataclasses
import importlib
import pkgutil
import unittest
from collections.abc import Iterator, Mapping
from pathlib import Path

import nudge.core
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.language.said import Said, worded
from nudge.core.language.vocabulary.points import POINTS

DOCS = Path(__file__).parents[1] / "docs"
WORDS = ("reason", "told_apart_by", "why", "meaning")
"""What a rule's row says for itself."""


def _rows(value: object, depth: int = 0) -> Iterator[object]:
    """Every dataclass row in a table, and rows inside rows."""
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        yield value
        for field in dataclasses.fields(value):
            inner = getattr(value, field.name)
            if depth < 3 and dataclasses.is_dataclass(inner):
                yield from _rows(inner, depth + 1)
    elif isinstance(value, Mapping):
        for item in value.values():
            yield from _rows(item, depth + 1)
    elif isinstance(value, tuple) and not hasattr(value, "_fields"):
        for item in value:
            yield from _rows(item, depth + 1)


def every_rule() -> Iterator[tuple[str, str, str]]:
    """(module, key, words) of each row of every table in the core that gives its reason."""
    seen = set()
    for module in pkgutil.walk_packages(nudge.core.__path__, "nudge.core."):
        for name, table in vars(importlib.import_module(module.name)).items():
            if name.startswith("__"):
                continue
            for row in _rows(table):
                words = next((w for f in WORDS if (w := getattr(row, f, None))), None)
                key = next(
                    (k for f in ("key", "look_alike", "state") if (k := getattr(row, f, None))), ""
                )
                if isinstance(words, (str, Said)) and id(row) not in seen:
                    seen.add(id(row))
                    text = words.text("ip") if isinstance(words, Said) else worded(words, "ip")
                    yield module.name, str(key), text


class MethodBookTest(unittest.TestCase):
    def test_every_rule_is_in_the_book_with_its_reason(self):
        book = (DOCS / "method.md").read_text("utf-8")
        rules = list(every_rule())
        self.assertGreater(len(rules), 180)
        missing = [rule for rule in rules if rule[2] not in book or rule[1] not in book]
        self.assertEqual(missing, [], "run `make books`, or write them down")

    def test_every_name_is_in_the_nomenclature(self):
        names = (DOCS / "nomenclature.md").read_text("utf-8")
        for key in (*POINTS, *OBSERVATIONS):
            with self.subTest(key):
                self.assertIn(f"`{key}`", names)
