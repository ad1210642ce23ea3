"""The colour tokens can be read in sun and in an attic: WCAG contrast of every pair in use."""

import re
import unittest
from pathlib import Path

STYLES = Path(__file__).parents[2] / "web/src/app/styles.css"
PAIRS = (
    ("ink", "ground", 12),
    ("ink", "sheet", 12),
    ("ink-soft", "ground", 7),
    ("ink-soft", "sheet", 7),
    ("on-accent", "accent", 7),
    ("ink", "alarm-ground", 10),
    ("alarm", "alarm-ground", 4.5),
    ("low", "ground", 4.5),
    ("high", "ground", 4.5),
    ("rule-strong", "ground", 3),
)


def _luminance(colour: str) -> float:
    # WCAG 2.1, relative luminance.
    parts = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    red, green, blue = (p / 12.92 if p <= 0.04045 else ((p + 0.055) / 1.055) ** 2.4 for p in parts)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


class ContrastTest(unittest.TestCase):
    def test_both_themes(self):
        blocks = re.findall(r"\[data-theme='(\w+)'\]\s*{([^}]*)}", STYLES.read_text("utf-8"))
        self.assertEqual([name for name, _ in blocks], ["paper", "night"])
        for theme, body in blocks:
            tokens = dict(re.findall(r"--([\w-]+): (#\w{6})", body))
            for front, back, least in PAIRS:
                with self.subTest(theme, front=front, back=back):
                    light, dark = sorted(
                        (_luminance(tokens[t]) for t in (front, back)), reverse=True
                    )
                    self.assertGreaterEqual((light + 0.05) / (dark + 0.05), least)

    def test_no_colour_outside_the_tokens(self):
        for path in (STYLES.parents[1]).rglob("*.tsx"):
            self.assertNotRegex(path.read_text("utf-8"), r"#[0-9a-fA-F]{6}\b", path)
