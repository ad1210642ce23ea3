"""What a fresh machine gets: every version pinned, every picture there, nothing from elsewhere."""

import json
import re
import unittest
from pathlib import Path

from playwright.sync_api import expect

from tests.browser.support import HAND, BrowserTest, calm

ROOT = Path(__file__).parents[1]


class LocksTest(unittest.TestCase):
    def test_every_python_package_is_pinned_with_its_hashes(self):
        for name in ("requirements.lock", "requirements-dev.lock"):
            text = (ROOT / name).read_text("utf-8")
            packages = re.findall(
                r"^([\w.\[\]-]+)==\S+.*\\\n((?:\s+--hash=\S+.*\n)+)", text, re.MULTILINE
            )
            self.assertEqual(len(packages), len(re.findall(r"^[\w.\[\]-]+==", text, re.MULTILINE)))
            self.assertGreater(len(packages), 15)

    def test_the_development_lock_holds_what_the_running_one_holds(self):
        def pins(name: str) -> set[str]:
            return set(
                re.findall(r"^[\w.-]+==[\w.]+", (ROOT / name).read_text("utf-8"), re.MULTILINE)
            )

        self.assertLessEqual(pins("requirements.lock"), pins("requirements-dev.lock"))

    def test_the_front_end_lock_is_complete_for_every_platform(self):
        packages = json.loads((ROOT / "web/package-lock.json").read_text("utf-8"))["packages"]
        for name, package in packages.items():
            if name:
                self.assertIn("version", package, name)
            for wanted in package.get("optionalDependencies", {}):
                self.assertTrue(
                    any(path.endswith(f"node_modules/{wanted}") for path in packages), wanted
                )


class LicencesTest(unittest.TestCase):
    def test_every_package_that_ships_stands_on_the_paper_with_its_licence(self):
        from tools.licences import bill_of, paper_of, python_parts, script_parts

        parts = [*python_parts(ROOT / "requirements.lock"), *script_parts(ROOT / "web")]
        names = {part.name for part in parts}
        self.assertLessEqual({"fastapi", "sqlalchemy", "cryptography", "react", "radix-ui"}, names)
        self.assertFalse({"vite", "typescript", "mypy", "schemathesis"} & names)
        paper = paper_of(parts)
        for part in parts:
            self.assertIn(f"== {part.name} {part.version}", paper)
            self.assertNotIn(part.licence, ("", "None"), part.name)
        texts = sum(bool(part.texts) for part in parts)
        self.assertGreater(texts / len(parts), 0.9)
        bill = bill_of(parts)
        self.assertEqual(len(bill["components"]), len(parts))
        self.assertTrue(all(one["purl"].startswith("pkg:") for one in bill["components"]))

    def test_what_is_served_carries_both(self):
        dist = ROOT / "web/dist"
        self.assertIn("== react ", (dist / "THIRD-PARTY.txt").read_text("utf-8"))
        self.assertEqual(json.loads((dist / "sbom.json").read_text())["bomFormat"], "CycloneDX")


class PapersTest(unittest.TestCase):
    def test_every_link_of_the_papers_leads_somewhere(self):
        for paper in (ROOT / "README.md", *(ROOT / "docs").rglob("*.md")):
            for link in re.findall(r"\]\((?!https?:)([^)#]+)\)", paper.read_text("utf-8")):
                self.assertTrue((paper.parent / link).exists(), f"{paper.name}: {link}")

    def test_the_pictures_are_the_ones_the_tool_takes(self):
        from tools.shots import SHOTS

        kept = {path.stem for path in (ROOT / "docs/screenshots").glob("*.png")}
        self.assertEqual(kept, {shot.name for shot in SHOTS})
        self.assertLess(len(kept), 20)


class OwnOriginTest(BrowserTest):
    def test_nothing_is_fetched_from_anywhere_else(self):
        page = self.open("/")
        asked: list[str] = []
        page.on("request", lambda request: asked.append(request.url))
        for path in ("/", "/systems", "/systems/clinic-waiting", "/visits/clinic-now"):
            page.goto(self.nudge.url + path)
            calm(page)
        self.assertGreater(len(asked), 10)
        self.assertEqual([url for url in asked if not url.startswith(self.nudge.url)], [])
        self.assertTrue(page.evaluate("document.fonts.check('16px Hyperlegible')"))

    def test_everything_that_can_be_used_has_a_name(self):
        for path in ("/", "/systems", "/systems/clinic-waiting", "/visits/clinic-now"):
            with self.subTest(path):
                page = self.open(path, HAND)
                calm(page)
                expect(page.get_by_role("heading", level=1)).to_have_count(1)
                nameless = page.evaluate(
                    """() => [...document.querySelectorAll('button, a, input, select, [role=img]')]
                      .filter(e => !(e.textContent.trim() || e.getAttribute('aria-label')
                        || e.labels?.length))
                      .map(e => e.outerHTML.slice(0, 100))"""
                )
                self.assertEqual(nameless, [])

    def test_the_keyboard_shows_where_it_is(self):
        page = self.open("/visits/clinic-now")
        expect(page.locator("[data-verdict]")).to_be_visible()
        for _ in range(12):
            page.keyboard.press("Tab")
            outline = page.evaluate("getComputedStyle(document.activeElement).outlineWidth")
            self.assertEqual(outline, "3px", page.evaluate("document.activeElement.outerHTML")[:80])
