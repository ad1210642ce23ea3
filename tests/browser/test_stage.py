"""The visit on one screen: what is seen without scrolling, how few acts things take, how fast."""

import gzip
import json
import re
import tempfile
import unittest
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import expect

from tests.browser.forked import ForkedNudge
from tests.browser.support import DESK, HAND, BrowserTest, browser, calm
from tools.drive import ROOT

PLACES = ("/", "/systems", "/shelf", "/pocket", "/workshop")
LAPTOP, WIDE = (1024, 768), (1920, 1080)
VISITS = (
    "net-loft-now",
    "radio-room-live",
    "ferry-hall-now",
    "seed-library-now",
    "clinic-now",
    "pottery-now",
    "fish-1",
    "lighthouse-5",
    "tickets-1",
)
LOOP = "document.querySelector('[data-loop]').getBoundingClientRect()"
FIVE = "suct 118 liq 341 sl 52 ll 96 oa 88"

SHIFTED = """(() => {
    const True = Date, off = %d
    globalThis.Date = class extends True {
        constructor(...given) { given.length ? super(...given) : super(True.now() + off) }
        static now() { return True.now() + off }
    }
})()"""
"""This device's clock, so many milliseconds off."""


class StageTest(BrowserTest):
    def test_the_loop_is_seen_whole_and_the_page_never_scrolls_on_a_desk(self):
        page = self.open("/", DESK)
        for visit in VISITS:
            page.goto(f"{self.nudge.url}/visits/{visit}")
            page.locator("[data-loop]").wait_for()
            for size, least in ((DESK, 400), (LAPTOP, 360), (WIDE, 600)):
                with self.subTest(visit, size=size):
                    page.set_viewport_size({"width": size[0], "height": size[1]})
                    page.wait_for_timeout(200)
                    box = page.evaluate(
                        f"(({{top, bottom, height}}) => [top, bottom, height])({LOOP})"
                    )
                    self.assertGreaterEqual(box[2], least)
                    self.assertGreaterEqual(box[0], 0)
                    self.assertLessEqual(box[1], size[1])
                    tall = page.evaluate("document.documentElement.scrollHeight - innerHeight")
                    self.assertLessEqual(tall, 0)

    def test_a_hand_sees_the_loop_its_four_numbers_and_the_verdict_at_once(self):
        page = self.open("/", HAND)
        for visit in VISITS:
            with self.subTest(visit):
                page.goto(f"{self.nudge.url}/visits/{visit}")
                page.locator("[data-loop]").wait_for()
                page.wait_for_timeout(200)
                line = page.get_by_label("Type readings").first.bounding_box()
                assert line is not None
                self.assertGreaterEqual(page.evaluate(f"{LOOP}.height"), 300)
                seen = ["[data-loop]", "[data-verdict], [data-look]"]
                seen += [
                    f"[data-number={key}]"
                    for key in (
                        "superheat",
                        "subcooling",
                        "evaporator_saturation",
                        "condenser_saturation",
                    )
                ]
                for what in seen:
                    box = page.locator(what).first.bounding_box()
                    assert box is not None, what
                    self.assertLessEqual(box["y"] + box["height"], line["y"] + 1, what)

    def test_while_typing_in_the_hand_the_verdict_and_both_gaps_stay(self):
        page = self.open("/visits/pottery-now", (390, 500))
        page.locator("#callout").focus()
        page.keyboard.type("suct 62")
        for what in ("[data-strip-verdict]", "[data-strip-number=superheat]",
                     "[data-strip-number=subcooling]", "#callout"):  # fmt: skip
            box = page.locator(what).bounding_box()
            assert box is not None, what
            self.assertLessEqual(box["y"] + box["height"], 500, what)
        expect(page.locator("[data-strip-number=superheat]")).to_contain_text("24.9 ↑")

    def test_text_is_never_small_and_every_target_takes_a_thumb(self):
        small = """() => [...document.querySelectorAll('body *')].filter((e) => {
            const own = [...e.childNodes].some((n) => n.nodeType === 3 && n.textContent.trim())
            const box = e.getBoundingClientRect()
            if (!own || !box.width || e.closest('.sr-only, [aria-hidden] kbd, kbd')) return false
            const scale = e.ownerSVGElement
              ? e.ownerSVGElement.getBoundingClientRect().width / e.ownerSVGElement.viewBox.baseVal.width
              : 1
            return parseFloat(getComputedStyle(e).fontSize) * scale < 13.9
          }).map((e) => e.textContent.slice(0, 30) + ' ' + getComputedStyle(e).fontSize)"""
        thumb = """() => [...document.querySelectorAll('button, input, select, [role=radio], summary')]
          .filter((e) => e.offsetParent && !e.classList.contains('sr-only'))
          .filter((e) => !['checkbox', 'radio', 'file'].includes(e.type))
          .filter((e) => { const b = e.getBoundingClientRect()
            return b.height < 43.5 || b.width < 31 })
          .map((e) => e.outerHTML.slice(0, 90))"""
        page = self.open("/", DESK)
        for path in (*PLACES, *(f"/visits/{v}" for v in VISITS[:6])):
            page.goto(self.nudge.url + path)
            page.wait_for_timeout(500)
            for size in (DESK, HAND):
                page.set_viewport_size({"width": size[0], "height": size[1]})
                page.wait_for_timeout(150)
                for tab in ("Why", "Next", "Readings", "Steps") if "visits" in path else ("",):
                    with self.subTest(path, size=size, tab=tab):
                        if tab:
                            self.tab(page, tab)
                        self.assertEqual(page.evaluate(small), [])
                        self.assertEqual(page.evaluate(thumb), [])

    def test_the_keyboard_reaches_the_line_in_two_stops_and_the_visit_in_forty(self):
        page = self.open("/visits/seed-library-now")
        calm(page)
        at = "document.activeElement.id || document.activeElement.tagName"
        stops = []
        for _ in range(60):
            page.keyboard.press("Tab")
            stops.append(page.evaluate(at))
            if stops[-1] == "BODY":
                break
        self.assertIn("callout", stops[:2])
        self.assertLessEqual(len([one for one in stops if one != "BODY"]), 40)

    def test_one_line_is_one_request_and_the_numbers_follow_at_once(self):
        page = self.open("/visits/net-loft-now")
        calm(page)
        page.fill("#callout", FIVE)
        page.wait_for_timeout(400)
        asked: list[str] = []
        page.on("request", lambda one: asked.append(one.url) if "/api/" in one.url else None)
        page.press("#callout", "Enter")
        expect(page.locator("[data-number=superheat] [data-value]")).to_have_text(
            re.compile(r"^\d+\.\d$")
        )
        page.wait_for_timeout(600)
        self.assertEqual(len(asked), 1, asked)
        self.assertIn("/callouts", asked[0])

    def test_nothing_moves_after_the_first_paint(self):
        for path in ("/visits/clinic-now", "/visits/pottery-now", "/visits/ferry-hall-now"):
            for size in (DESK, HAND):
                with self.subTest(path, size=size):
                    page = self.open("/nowhere", size, own=True)
                    page.add_init_script(
                        """window.shifts = 0; new PerformanceObserver((list) => {
                          for (const e of list.getEntries()) if (!e.hadRecentInput) shifts += e.value
                        }).observe({type: 'layout-shift', buffered: true})"""
                    )
                    page.goto(self.nudge.url + path)
                    calm(page)
                    self.assertLessEqual(page.evaluate("shifts"), 0.02)
                    page.context.close()

    def test_ten_tabs_are_all_live_and_a_write_never_waits(self):
        page = self.open("/visits/net-loft-now")
        tabs = [page] + [page.context.new_page() for _ in range(9)]
        for tab in tabs[1:]:
            tab.goto(self.nudge.url + "/visits/net-loft-now")
        for tab in tabs:
            expect(tab.locator("#callout")).to_be_visible()
        tabs[3].wait_for_timeout(1_500)
        self.take(tabs[3], "oa 91")
        for tab in tabs:
            expect(tab.locator("[data-point=outdoor_air_temp]")).to_contain_text("91.0")

    def test_what_was_written_is_named_and_taken_back_alone(self):
        page = self.open("/visits/clinic-now")
        calm(page)
        self.take(page, "sl 70")
        toast = page.locator("[data-toast]")
        expect(toast).to_contain_text("Taken: sl 70")
        other = self.open("/visits/clinic-now")
        calm(other)
        self.take(other, "oa 93")
        expect(page.locator("[data-point=outdoor_air_temp]")).to_contain_text("93.0")
        toast.get_by_role("button", name="Undo").click()
        expect(page.locator("[data-point=suction_line_temp]")).to_contain_text("60.4")
        expect(page.locator("[data-point=outdoor_air_temp]")).to_contain_text("93.0")
        page.keyboard.press("Escape")
        page.locator("#callout").blur()
        page.keyboard.press("o")
        expect(toast).to_contain_text("System stopped")
        expect(page.locator("[data-running]")).to_have_count(0)
        toast.get_by_role("button", name="Undo").click()
        expect(page.locator("[data-running]")).to_be_visible()

    def test_a_half_typed_line_stays_in_the_units_it_was_begun_in(self):
        page = self.open("/visits/seed-library-now")
        page.fill("#callout", "suct 120")
        page.get_by_role("button", name="°F psi").click()
        expect(page.locator("[data-begun-in=ip]")).to_be_visible()
        page.press("#callout", "Enter")
        expect(page.locator("[data-point=suction_pressure]")).to_contain_text("typed 120 psig")
        page.get_by_role("button", name="°C kPa").click()

    def test_a_dead_server_leaves_the_numbers_with_their_age(self):
        page = self.open("/visits/seed-library-now")
        calm(page)
        before = page.locator("[data-number=superheat] [data-value]").inner_text()
        self.nudge.stop()
        expect(page.locator("[data-age]")).to_contain_text("Last numbers known")
        self.assertEqual(page.locator("[data-number=superheat] [data-value]").inner_text(), before)
        self.nudge.start()
        expect(page.locator("[data-age]")).to_have_count(0)

    def test_it_does_not_run_for_a_reason_that_is_no_fault(self):
        page = self.open("/visits/seed-library-now")
        calm(page)
        page.keyboard.press("h")
        page.get_by_role("button", name=re.compile("float switch")).click()
        expect(page.locator("[data-stopped]")).to_contain_text("float switch is open")
        page.locator("[data-toast]").get_by_role("button", name="Undo").click()
        expect(page.locator("[data-stopped]")).to_have_count(0)

    def test_names_of_any_length_and_script_push_nothing_off_the_screen(self):
        page = self.open("/nowhere")
        for name in ("W" * 200, "מזגן חדר ההמתנה הגדול של המרפאה", "مكيف غرفة الانتظار " * 8):
            body = {"name": name, "was": {}}
            answer = page.request.patch(
                f"{self.nudge.url}/api/systems/seed-library-stacks?units=ip", data=body
            )
            self.assertEqual(answer.status, 200, answer.text())
            for size in (DESK, HAND):
                page.set_viewport_size({"width": size[0], "height": size[1]})
                page.goto(f"{self.nudge.url}/visits/seed-library-now")
                calm(page)
                expect(page.locator("h1")).to_contain_text(name[:12])
                wide = page.evaluate("document.documentElement.scrollWidth - innerWidth")
                self.assertLessEqual(wide, 0, name[:8])
                expect(page.get_by_role("button", name="More of this visit")).to_be_in_viewport()

    def test_a_phone_turned_in_mid_dose_keeps_what_was_typed(self):
        page = self.open("/visits/pottery-now", HAND)
        calm(page)
        page.locator("[data-act=dose]").click()
        page.get_by_label("Amount, oz").fill("2.5")
        page.set_viewport_size({"width": HAND[1], "height": HAND[0]})
        expect(page.get_by_label("Amount, oz")).to_have_value("2.5")
        expect(page.get_by_role("button", name="STOP")).to_be_in_viewport()
        page.set_viewport_size({"width": HAND[0], "height": HAND[1]})
        expect(page.get_by_label("Amount, oz")).to_have_value("2.5")

    def test_a_clock_two_days_off_neither_ages_what_is_there_nor_what_is_written(self):
        for days in (2, -2):
            with self.subTest(days=days):
                page = self.open("/nowhere", own=True)
                page.add_init_script(SHIFTED % (days * 86_400_000))
                page.goto(f"{self.nudge.url}/visits/clinic-now")
                calm(page)
                page.reload()  # what the clock is off by is known from the first answer on
                calm(page)
                running = page.get_by_text(re.compile(r"^Running \d+ min$"))
                expect(running).to_be_visible()
                before = running.inner_text()
                self.take(page, f"dl {165 + days}")
                self.kept(page)
                self.assertLess(int(before.split()[1]), 24 * 60)
                seen = page.request.get(f"{self.nudge.url}/api/visits/clinic-now").json()
                taken = [datetime.fromisoformat(one["taken_at"]) for one in seen["readings"]]
                self.assertLess(abs((datetime.now(UTC) - max(taken)).total_seconds()), 120)

    def test_what_is_left_is_touched_on_the_machine(self):
        page = self.open("/visits/pottery-now")
        calm(page)
        page.keyboard.press("c")
        picture = page.locator("[data-closing-left]")
        left = int(picture.get_attribute("data-closing-left") or 0)
        rows = page.locator("[data-stage-row=close] [data-step]")
        self.assertGreater(rows.count(), 6)
        ports = page.get_by_role("radio", name="Service valves and ports, must not stay open")
        ports.click()
        expect(rows).to_have_count(2)
        for step in ("Ports bubble-tested", "Caps on"):
            page.get_by_role("button", name=re.compile(f"^Done: {step}")).click()
        done = page.get_by_role("radio", name="Service valves and ports, done")
        expect(done).to_be_visible()
        expect(picture).to_have_attribute("data-closing-left", str(left - 2))
        done.press("ArrowLeft")  # arrows go from part to part
        expect(page.locator("[data-part]:focus")).not_to_have_attribute("data-part", "ports")
        done.click()
        expect(rows.first).to_be_visible()
        self.assertGreater(rows.count(), 6)

    def test_who_to_call_is_kept_as_it_is_typed(self):
        page = self.open("/")
        calm(page)
        page.get_by_role("button", name="Workshop").click()
        field = page.get_by_label("To call")
        expect(field).not_to_have_value("")
        self.nudge.stop()
        field.fill("Skerrow 300")
        field.blur()
        page.wait_for_timeout(300)
        context = page.context
        page.close()  # no network, and then a closed tab
        self.nudge.start()
        page = context.new_page()
        page.goto(f"{self.nudge.url}/workshop")
        self.kept(page)
        expect(page.get_by_label("To call")).to_have_value("Skerrow 300")
        kept = page.request.get(f"{self.nudge.url}/api/workshop").json()["card"]
        self.assertIn("Skerrow 300", [line["text"] for line in kept])

    def test_single_keys_can_be_switched_off_and_stay_so(self):
        page = self.open("/visits/seed-library-now")
        calm(page)
        page.keyboard.press("?")
        page.get_by_role("button", name="Switch single keys off").click()
        page.keyboard.press("Escape")
        page.reload()
        calm(page)
        page.keyboard.press("o")  # would stop the system
        expect(page.locator("[data-toast]")).to_have_count(0)
        expect(page.locator("[data-running]")).to_be_visible()
        page.keyboard.press("?")  # the way back stays
        page.get_by_role("button", name="Switch single keys on").click()
        page.keyboard.press("Escape")
        page.keyboard.press("e")
        expect(page.get_by_role("tab", name="Steps")).to_have_attribute("data-state", "active")

    def test_charging_the_pottery_takes_at_most_four_acts_from_today(self):
        page = self.open("/")
        page.get_by_role("link", name=re.compile("Kiln room")).first.click()  # 1
        page.locator("[data-act=dose]").click()  # 2
        page.get_by_label("Amount, oz").fill("4")  # 3: typed
        page.get_by_role("button", name="Write it down").click()  # 4
        expect(page.locator("[data-wait]")).to_be_visible()
        expect(page.locator("[data-dose]")).to_contain_text("+4.0 oz")
        page.locator("[data-toast]").get_by_role("button", name="Undo").click()
        expect(page.locator("[data-dose]")).to_have_count(0)


class FirstRunTest(unittest.TestCase):
    def test_from_nothing_to_a_verdict_in_the_hand(self):
        with tempfile.TemporaryDirectory() as folder:
            nudge = ForkedNudge(Path(folder), "serve")
            nudge.start()
            self.addCleanup(nudge.stop)
            page = browser().new_page(viewport={"width": HAND[0], "height": HAND[1]})
            self.addCleanup(page.close)
            page.goto(nudge.url)
            acts = 0
            page.get_by_role("radio", name="R-410A").click()
            acts += 1
            page.get_by_role("button", name="Expansion valve").click()
            acts += 1
            expect(page.locator("[data-loop]")).to_be_visible()
            self.assertIn("First: a clamp", page.locator("[data-loop]").inner_text())
            page.fill("#callout", FIVE)
            page.press("#callout", "Enter")
            acts += 1
            verdict = page.locator("[data-verdict]")
            expect(verdict).not_to_have_attribute("data-verdict", "none")
            self.assertLessEqual(acts, 8)
            self.assertFalse((verdict.inner_text()).startswith("Leave the charge alone"))
            expect(page.locator("[data-number=superheat] [data-value]")).to_have_text("12.2")


class ServedTest(unittest.TestCase):
    def test_the_first_script_is_small_compressed_and_never_asked_for_again(self):
        index = (ROOT / "web/dist/index.html").read_text("utf-8")
        script = re.search(r'src="(/assets/[^"]+\.js)"', index)[1]
        size = len(gzip.compress((ROOT / "web/dist" / script[1:]).read_bytes(), 5))
        self.assertLessEqual(size, 130_000)
        with tempfile.TemporaryDirectory() as folder:
            nudge = ForkedNudge(Path(folder), "serve")
            nudge.start()
            self.addCleanup(nudge.stop)
            page = browser().new_page()
            self.addCleanup(page.close)
            answer = page.request.get(nudge.url + script)
            self.assertEqual(answer.headers["content-encoding"], "gzip")
            self.assertIn("immutable", answer.headers["cache-control"])


class KeysTest(unittest.TestCase):
    def test_no_key_has_two_meanings(self):
        """The same key may stand on several screens only for the same thing."""
        found: dict[str, set[str]] = {}
        alike = {"c": 2, "/": 2, "a": 2}  # close or open again; go to the field; add one here
        for path in sorted((ROOT / "web/src").rglob("*.tsx")):
            for key, label in re.findall(
                r"key: '(.)',\s*label: ['`]([^'`]+)", path.read_text("utf-8")
            ):
                found.setdefault(key, set()).add(label)
        double = {k: v for k, v in found.items() if len(v) > alike.get(k, 1)}
        self.assertEqual(double, {}, json.dumps({k: sorted(v) for k, v in double.items()}))


if __name__ == "__main__":
    unittest.main()
