"""What a page knows of itself: its clock, its keys, its choices, the Pocket, what is filled in.

The modules run as they are in headless Chromium; nothing answers them.
"""

import json
import unittest
from datetime import UTC, datetime, timedelta
from email.utils import format_datetime
from typing import ClassVar

from tests.web.bundled import bundled
from tools.drive import SHORT_LIVED, chromium

ORIGIN = "http://nudge.test"
ENTRY = """
import { createElement as h, useState } from 'react'
import { createRoot } from 'react-dom/client'
import { flushSync } from 'react-dom'
import * as clock from './src/state/clock'
import * as find from './src/state/find'
import * as keys from './src/state/keys'
import * as narrow from './src/state/narrow'
import * as pocket from './src/state/pocket'
import * as preferences from './src/state/preferences'
import { usePast } from './src/state/past'
import { useNow } from './src/state/now'
import { useSecondsTo } from './src/state/secondsTo'
import { useSize } from './src/state/size'
import { useFilled } from './src/state/filled'
import { NOTHING, SpokenContext, pointing, useSpoken } from './src/state/spoken'

let root
const show = (what) => {
  root ??= createRoot(document.getElementById('root'))
  flushSync(() => root.render(what))
}
const told = (id, what) => h('output', { id }, JSON.stringify(what))
const pressed = []
function Keyed({ name, of }) {
  keys.useKeys(of.map((key) => ({ key, label: name, run: () => pressed.push(name + key) })))
  return null
}
function Counted({ to }) { return told('left', useSecondsTo(to)) }
function Clocked() { return told('now', useNow().getTime()) }
function Chosen() { return told('chosen', preferences.usePreferences()) }
function Carried() { return told('carried', pocket.usePocketKept()) }
function Finds() { return told('finds', find.useFinds()) }
function Width() {
  return told('width', [narrow.useNarrow(), narrow.useStacked(), narrow.useColumns()])
}
function Sized({ px }) {
  const [at, size] = useSize({ width: 1, height: 1 })
  return h('div', null, h('div', { ref: at, style: { width: px, height: 40 } }), told('size', size))
}
function Scrolled() {
  const [at, isPast] = usePast()
  return h('div', { style: { height: 4000 } },
    h('h2', { ref: at }, 'head'), h('div', { style: { position: 'fixed', top: 200 } },
      told('past', isPast)))
}
function Form({ blanks, begun }) {
  const filled = useFilled(blanks, begun)
  window.fill = filled.set
  return told('filled', { entries: filled.entries, isWhole: filled.isWhole })
}
function Mark() { return told('spoken', useSpoken().spoken) }
function Speaking({ of }) {
  const [spoken, speakOf] = useState(NOTHING)
  return h(SpokenContext.Provider, { value: { spoken, speakOf } },
    h('button', pointing(of, speakOf), 'this'), h(Mark))
}
const parts = { Keyed, Counted, Clocked, Chosen, Carried, Finds, Width, Sized, Scrolled, Form,
  Speaking }
window.nudge = {
  ...clock, ...find, ...keys, ...pocket, ...preferences, pressed,
  show: (...shown) => show(shown.map(([name, props], n) => h(parts[name], { key: n, ...props }))),
}
keys.startKeys()
"""


class PageStateTest(unittest.TestCase):
    browser: ClassVar
    bundle: ClassVar[str]

    @classmethod
    def setUpClass(cls):
        cls.browser = cls.enterClassContext(chromium(SHORT_LIVED))
        cls.bundle = bundled(ENTRY, "iife").replace("</script>", "")

    def setUp(self):
        self.context = self.browser.new_context(viewport={"width": 1280, "height": 800})
        self.addCleanup(self.context.close)
        body = f"<div id=root></div><input id=field><script>{self.bundle}</script>"
        self.context.route(
            f"{ORIGIN}/**", lambda route: route.fulfill(content_type="text/html", body=body)
        )
        self.page = self.tab()

    def tab(self):
        page = self.context.new_page()
        page.goto(ORIGIN)
        return page

    def show(self, *parts, page=None):
        (page or self.page).evaluate("parts => nudge.show(...parts)", list(parts))

    def told(self, of, page=None):
        return json.loads((page or self.page).text_content(f"#{of}"))

    def until(self, of, wanted, page=None):
        """Wait until a part of the page says so, not for a time."""
        (page or self.page).wait_for_function(
            "([id, wanted]) => document.getElementById(id).textContent === wanted",
            arg=[of, json.dumps(wanted, separators=(",", ":"))],
        )

    def learn(self, ahead: timedelta, asked_ago_ms: int = 0) -> None:
        """An answer of a server whose clock is ahead of this page's, to the second."""
        now = datetime.fromtimestamp(self.page.evaluate("Date.now()") / 1000, UTC)
        date = format_datetime(now + ahead, usegmt=True)
        self.page.evaluate(
            "([date, ago]) => nudge.learnClock(date, Date.now() - ago)", [date, asked_ago_ms]
        )

    def off_s(self, page=None):
        return (page or self.page).evaluate("nudge.serverNow() - Date.now()") / 1000


class ClockTest(PageStateTest):
    def test_a_clock_two_days_slow_is_set_right_by_the_first_answer_and_after_a_restart(self):
        self.assertEqual(self.off_s(), 0)
        self.learn(timedelta(days=2))
        self.assertAlmostEqual(self.off_s(), 172_800, delta=2)
        self.assertAlmostEqual(self.off_s(self.tab()), 172_800, delta=2)

    def test_what_an_answer_cannot_say_to_the_second_is_no_difference(self):
        self.learn(timedelta(seconds=3))
        self.assertEqual(self.off_s(), 0)

    def test_a_difference_is_kept_until_another_is_clearly_another(self):
        self.learn(timedelta(hours=1))
        before = self.off_s()
        self.learn(timedelta(hours=1, seconds=2))
        self.assertEqual(self.off_s(), before)
        self.learn(timedelta(hours=1, seconds=30))
        self.assertAlmostEqual(self.off_s(), 3_630, delta=2)

    def test_a_clock_that_was_put_right_is_believed_again(self):
        self.learn(timedelta(hours=-5))
        self.learn(timedelta())
        self.assertEqual(self.off_s(), 0)
        self.assertEqual(self.off_s(self.tab()), 0)

    def test_a_slow_answer_is_reckoned_from_the_middle_of_its_way(self):
        self.learn(timedelta(minutes=10), asked_ago_ms=20_000)
        self.assertAlmostEqual(self.off_s(), 610, delta=2)

    def test_an_answer_without_a_date_or_with_a_broken_one_changes_nothing(self):
        self.learn(timedelta(hours=1))
        before = self.off_s()
        for date in (None, "", "soon"):
            self.page.evaluate("date => nudge.learnClock(date, Date.now())", date)
        self.assertEqual(self.off_s(), before)

    def test_with_storage_denied_it_is_learned_all_the_same(self):
        self.page.evaluate("void (Storage.prototype.setItem = () => { throw new Error('no') })")
        self.learn(timedelta(days=-1))
        self.assertAlmostEqual(self.off_s(), -86_400, delta=2)

    def test_seconds_left_are_counted_by_the_server_s_clock_and_end_at_none(self):
        self.learn(timedelta(hours=2))
        at = self.page.evaluate("new Date(nudge.serverNow() + 90_400).toISOString()")
        self.show(["Counted", {"to": at}])
        self.assertIn(self.told("left"), (90, 91))
        gone = self.page.evaluate("new Date(Date.now() + 90_000).toISOString()")  # two hours ago
        self.show(["Counted", {"to": gone}])
        self.assertEqual(self.told("left"), 0)

    def test_the_time_shown_is_the_server_s(self):
        self.learn(timedelta(days=2))
        self.show(["Clocked", {}])
        here = self.page.evaluate("Date.now()")
        self.assertAlmostEqual((self.told("now") - here) / 1000, 172_800, delta=5)


class KeysTest(PageStateTest):
    def pressed(self):
        return self.page.evaluate("nudge.pressed.splice(0)")

    def test_a_key_acts_where_it_is_shown_and_nowhere_after(self):
        self.show(["Keyed", {"name": "visit", "of": ["d", "?"]}])
        self.page.keyboard.press("d")
        self.assertEqual(self.pressed(), ["visitd"])
        self.show()
        self.page.keyboard.press("d")
        self.assertEqual(self.pressed(), [])
        self.assertEqual(self.page.evaluate("nudge.reachableActions().length"), 0)

    def test_of_two_that_take_a_key_the_one_shown_last_has_it(self):
        self.show(
            ["Keyed", {"name": "shell", "of": ["d", "g"]}], ["Keyed", {"name": "card", "of": ["d"]}]
        )
        self.page.keyboard.press("d")
        self.page.keyboard.press("g")
        self.assertEqual(self.pressed(), ["cardd", "shellg"])

    def test_typing_is_typing_and_escape_gives_the_keys_back(self):
        self.show(["Keyed", {"name": "visit", "of": ["d"]}])
        self.page.click("#field")
        self.page.keyboard.type("dd")
        self.assertEqual((self.pressed(), self.page.input_value("#field")), ([], "dd"))
        self.page.keyboard.press("Escape")
        self.page.keyboard.press("d")
        self.assertEqual((self.pressed(), self.page.input_value("#field")), (["visitd"], "dd"))

    def test_a_key_with_another_held_belongs_to_the_browser(self):
        self.show(["Keyed", {"name": "visit", "of": ["d"]}])
        for held in ("Control", "Alt", "Meta"):
            self.page.keyboard.press(f"{held}+d")
        self.assertEqual(self.pressed(), [])

    def test_a_dialog_that_asks_takes_all_keys(self):
        self.show(["Keyed", {"name": "visit", "of": ["d"]}])
        self.page.evaluate(
            "document.body.insertAdjacentHTML('beforeend', '<p role=dialog data-modal>Sure?</p>')"
        )
        self.page.keyboard.press("d")
        self.assertEqual(self.pressed(), [])

    def test_letters_can_be_let_be_and_the_card_of_keys_stays(self):
        self.show(["Keyed", {"name": "visit", "of": ["d", "?"]}])
        self.page.evaluate("nudge.setPreference('letters', false)")
        self.page.keyboard.press("d")
        self.page.keyboard.press("?")
        self.assertEqual(self.pressed(), ["visit?"])

    def test_a_slider_s_arrows_move_it_and_its_letters_still_act(self):
        self.show(["Keyed", {"name": "visit", "of": ["d"]}])
        self.page.evaluate(
            "document.body.insertAdjacentHTML('beforeend', '<input id=slider type=range value=5>')"
        )
        self.page.focus("#slider")
        self.page.keyboard.press("d")
        self.page.keyboard.press("ArrowRight")
        self.assertEqual(self.pressed(), ["visitd"])
        self.assertEqual(self.page.input_value("#slider"), "6")


class ChoicesTest(PageStateTest):
    def test_units_go_round_and_every_tab_follows(self):
        other = self.tab()
        for page in (self.page, other):
            self.show(["Chosen", {}], page=page)
        for wanted in ("si", "si_bar", "ip"):
            self.page.evaluate("nudge.nextUnits()")
            other.wait_for_function(
                "w => JSON.parse(document.getElementById('chosen').textContent).units === w",
                arg=wanted,
            )
        self.assertEqual(self.told("chosen")["units"], "ip")

    def test_the_night_is_put_on_at_once_and_kept(self):
        self.page.evaluate("nudge.toggleTheme()")
        self.assertEqual(self.page.get_attribute("html", "data-theme"), "night")
        again = self.tab()
        self.show(["Chosen", {}], page=again)
        self.assertEqual(self.told("chosen", again)["theme"], "night")
        again.evaluate("nudge.toggleTheme()")
        self.assertEqual(again.get_attribute("html", "data-theme"), "paper")

    def test_what_nobody_can_have_chosen_falls_back_to_what_is_usual(self):
        self.page.evaluate("localStorage['nudge.preferences'] = '{\"units\": \"cubits\"}'")
        again = self.tab()
        self.show(["Chosen", {}], page=again)
        self.assertEqual(self.told("chosen", again)["units"], "ip")

    def test_one_choice_leaves_the_others(self):
        self.page.evaluate("nudge.setPreference('sound', true); nudge.togglePad()")
        self.show(["Chosen", {}])
        chosen = self.told("chosen")
        self.assertEqual(
            (chosen["sound"], chosen["padOpen"], chosen["letters"]), (True, True, True)
        )


class PocketTest(PageStateTest):
    def carried(self, page=None):
        return self.told("carried", page)

    def test_what_is_filled_in_keeps_the_units_it_was_typed_in(self):
        self.page.evaluate("nudge.fillBlank('suction', '118', 'ip')")
        self.page.evaluate("nudge.fillBlank('line', '11,5', 'si')")
        again = self.tab()
        self.show(["Carried", {}], page=again)
        wanted = {
            "suction": {"text": "118", "units": "ip"},
            "line": {"text": "11,5", "units": "si"},
        }
        self.assertEqual(self.carried(again)["entries"], wanted)

    def test_a_blank_that_is_cleared_is_gone(self):
        self.page.evaluate("nudge.fillBlank('suction', '118', 'ip')")
        self.page.evaluate("nudge.fillBlank('suction', '', 'ip')")
        self.show(["Carried", {}])
        self.assertEqual(self.carried()["entries"], {})

    def test_emptying_is_taken_back_once_and_not_over_something_newer(self):
        self.page.evaluate("nudge.fillBlank('suction', '118', 'ip')")
        self.page.evaluate("nudge.emptyPocket(); nudge.emptyPocket()")
        self.show(["Carried", {}])
        self.assertEqual(self.carried()["entries"], {})
        self.page.evaluate("nudge.takeBackEmptying()")
        self.until_entries({"suction": {"text": "118", "units": "ip"}})
        self.page.evaluate("nudge.emptyPocket(); nudge.fillBlank('line', '52', 'ip')")
        self.page.evaluate("nudge.takeBackEmptying()")
        self.until_entries({"line": {"text": "52", "units": "ip"}})

    def until_entries(self, wanted):
        self.page.wait_for_function(
            """w => JSON.stringify(JSON.parse(
                document.getElementById('carried').textContent).entries) === w""",
            arg=json.dumps(wanted, separators=(",", ":")),
        )

    def test_slips_lie_in_the_order_they_were_taken_out(self):
        self.show(["Carried", {}])
        first = self.carried()["out"]
        self.page.evaluate("nudge.turnSlip('airflow')")
        self.page.evaluate(f"nudge.turnSlip('{first[0]}')")
        self.page.evaluate(f"nudge.turnSlip('{first[0]}')")
        again = self.tab()
        self.show(["Carried", {}], page=again)
        self.assertEqual(self.carried(again)["out"], [*first[1:], "airflow", first[0]])


class FormTest(PageStateTest):
    BLANKS = (
        {"key": "rated", "choices": [], "is_needed": True, "is_words": False},
        {"key": "motor", "choices": [["fan", "Fan"]], "is_needed": True, "is_words": False},
        {"key": "says", "choices": [], "is_needed": False, "is_words": True},
    )

    def fill(self, key, text):
        self.page.evaluate("([key, text]) => window.fill(key, text)", [key, text])

    def test_it_is_whole_once_what_is_needed_can_be_read(self):
        self.show(["Form", {"blanks": self.BLANKS}])
        self.assertEqual(self.told("filled"), {"entries": {}, "isWhole": False})
        self.fill("rated", "45 µF")  # a number with its unit is no number
        self.fill("motor", "fan")
        self.until("filled", {"entries": {"motor": "fan"}, "isWhole": False})
        self.fill("rated", "45,5")
        self.until("filled", {"entries": {"rated": 45.5, "motor": "fan"}, "isWhole": True})

    def test_words_are_words_even_where_they_are_figures(self):
        self.show(["Form", {"blanks": self.BLANKS, "begun": {"rated": "40", "motor": "fan"}}])
        self.fill("says", "  1234 ")
        self.until(
            "filled",
            {"entries": {"rated": 40, "motor": "fan", "says": "1234"}, "isWhole": True},
        )


class PlaceTest(PageStateTest):
    def test_the_width_says_how_many_columns_and_whether_it_is_a_hand(self):
        self.show(["Width", {}])
        for width, wanted in (
            (1280, [False, False, 3]),
            (1100, [False, False, 2]),
            (800, [False, True, 2]),
            (640, [False, True, 1]),
            (390, [True, True, 1]),
        ):
            self.page.set_viewport_size({"width": width, "height": 800})
            with self.subTest(width):
                self.until("width", wanted)

    def test_an_element_s_size_is_known_at_its_first_paint_and_followed(self):
        self.show(["Sized", {"px": 320}])
        self.assertEqual(self.told("size"), {"width": 320, "height": 40})
        self.show(["Sized", {"px": 200}])
        self.until("size", {"width": 200, "height": 40})

    def test_a_head_is_past_once_it_has_gone_out_above_and_not_below(self):
        self.show(["Scrolled", {}])
        self.until("past", False)
        self.page.evaluate("scrollTo(0, 1500)")
        self.until("past", True)
        self.page.evaluate("scrollTo(0, 0)")
        self.until("past", False)

    def test_what_is_pointed_at_by_mouse_or_key_is_marked_until_it_is_left(self):
        of = {"signs": ["superheat"], "points": ["suction_line_temp"], "suspect": None}
        nothing = {"signs": [], "points": [], "suspect": None}
        self.show(["Speaking", {"of": of}])
        self.assertEqual(self.told("spoken"), nothing)
        self.page.hover("button")
        self.until("spoken", of)
        self.page.mouse.move(900, 700)
        self.until("spoken", nothing)
        self.page.focus("button")
        self.until("spoken", of)
        self.page.focus("#field")
        self.until("spoken", nothing)

    def test_the_card_that_finds_opens_and_shuts_for_who_follows_it(self):
        self.show(["Finds", {}])
        self.page.evaluate("nudge.openFind()")
        self.until("finds", True)
        self.page.evaluate("nudge.closeFind()")
        self.until("finds", False)


if __name__ == "__main__":
    unittest.main()
