"""What the page keeps: the outbox, values shared by tabs, typed fields, the followed stream.

The modules run as they are in headless Chromium, against a server that is a function of the test.
"""

import json
import time
import unittest
from typing import ClassVar

from tests.web.bundled import bundled
from tools.drive import SHORT_LIVED, chromium

ORIGIN = "http://nudge.test"
ENTRY = """
import { createElement as h } from 'react'
import { createRoot } from 'react-dom/client'
import * as outbox from './src/state/outbox'
import { Kept } from './src/state/kept'
import { KeptMap } from './src/state/keptMap'
import { Follower } from './src/state/follower'
import * as toasts from './src/state/toasts'
import { undo } from './src/state/undo'
import { useTypedField } from './src/state/typedField'
import { setDraft, useDraft } from './src/state/drafts'
import { liveRows, useFollowing, useLink } from './src/state/live'
import { queryClient } from './src/api/queries'

const problem = (text) => new Error(text + ' is not a number.')
function Field({ stored }) {
  const typed = useTypedField({
    draft: 'f', stored,
    about: (message) => message.path === '/systems/s',
    read: (text) => (Number.isFinite(Number(text)) ? Number(text) : problem(text)),
    send: (value) => outbox.patch('/api/systems/{system_id}', { rated_seer: value },
      { units: 'ip', blanks: { system_id: 's' } }),
  })
  return h('div', null,
    h('input', { value: typed.text, onChange: (e) => typed.type(e.target.value),
      onBlur: typed.settle }),
    h('p', { id: 'problem' }, typed.problem ?? ''))
}
function Followed() {
  useFollowing('v', 'ip', true)
  return h('p', { id: 'link' }, useLink())
}
let root
const show = (what) => {
  root ??= createRoot(document.getElementById('root'))
  root.render(what)
}
window.nudge = {
  ...outbox, ...toasts, Kept, KeptMap, Follower, liveRows, setDraft, undo, useDraft,
  field: (stored) => show(h(Field, { stored })),
  follow: () => show(h(Followed)),
  stale: () => queryClient.getQueryCache().findAll({ queryKey: ['visit'] })
    .map((query) => query.state.isInvalidated),
  seed: () => queryClient.setQueryData(['visit', 'v', 'ip'], { id: 'v' }),
}
"""
KEPT = "nudge.outboxNow()"


class StateTest(unittest.TestCase):
    browser: ClassVar
    bundle: ClassVar[str]

    @classmethod
    def setUpClass(cls):
        cls.browser = cls.enterClassContext(chromium(SHORT_LIVED))
        cls.bundle = bundled(ENTRY, "iife")

    def setUp(self):
        self.context = self.browser.new_context()
        self.addCleanup(self.context.close)
        self.got: list[dict] = []
        self.answers = lambda _path, _body: (200, {"id": "v", "system": {"id": "s"}})
        self.stream = "retry: 50\nid: 1\nevent: hello\ndata: {}\n\n"
        self.context.route(f"{ORIGIN}/**", self.serve)

    def serve(self, route):
        path = route.request.url.removeprefix(ORIGIN)
        if "/stream" in path:
            route.fulfill(content_type="text/event-stream", body=self.stream)
        elif not path.startswith("/api"):
            page = f"<div id=root></div><script>{self.bundle.replace('</script>', '')}</script>"
            route.fulfill(content_type="text/html", body=page)
        else:
            body = json.loads(route.request.post_data or "null")
            found = self.answers(path, body)
            if found is None:
                route.abort()
                return
            self.got.append({"path": path, "body": body})
            route.fulfill(status=found[0], json=found[1])

    def tab(self):
        page = self.context.new_page()
        page.goto(ORIGIN)
        return page

    def write(self, page, text):
        page.evaluate(
            "t => nudge.writeOn('v', 'callouts', {text: t, heard_at: '2026-07-01T10:00:00Z'}, 'ip')",
            text,
        )

    def until(self, page, script, wanted=True, seconds=8.0):
        """Wait for a state of the page, not for a time."""
        ends = time.monotonic() + seconds
        while (found := page.evaluate(script)) != wanted and time.monotonic() < ends:
            page.wait_for_timeout(20)
        self.assertEqual(found, wanted)

    def texts(self):
        return [one["body"]["text"] for one in self.got]

    def test_a_write_is_safe_before_it_is_sent_and_goes_when_the_server_is_back(self):
        self.answers = lambda *_: None
        page = self.tab()
        self.write(page, "suct 118")
        self.write(page, "sl 52")
        self.until(page, "nudge.isSilent()")
        kept = page.evaluate(KEPT)["waiting"]
        self.assertEqual([one["body"]["text"] for one in kept], ["suct 118", "sl 52"])
        self.answers = lambda *_: (200, {"id": "v", "system": {"id": "s"}})
        self.until(page, f"{KEPT}.waiting.length", 0)
        self.assertEqual(self.texts(), ["suct 118", "sl 52"])
        self.assertEqual([one["body"]["id"] for one in self.got], [one["id"] for one in kept])
        self.assertFalse(page.evaluate("nudge.isSilent()"))

    def test_what_a_closed_page_left_behind_goes_with_the_next(self):
        self.answers = lambda *_: None
        page = self.tab()
        self.write(page, "ll 96")
        self.until(page, "nudge.isSilent()")
        page.close()
        self.answers = lambda *_: (200, {"id": "v", "system": {"id": "s"}})
        again = self.tab()
        again.evaluate("nudge.startOutbox()")
        self.until(again, f"{KEPT}.waiting.length", 0)
        self.assertEqual(self.texts(), ["ll 96"])

    def test_two_tabs_share_one_outbox(self):
        self.answers = lambda *_: None
        one, other = self.tab(), self.tab()
        self.write(one, "suct 118")
        self.until(other, f"{KEPT}.waiting.length", 1)
        other.wait_for_timeout(50)
        self.write(other, "liq 341")
        self.until(one, f"{KEPT}.waiting.length", 2)
        self.answers = lambda *_: (200, {"id": "v", "system": {"id": "s"}})
        for page in (one, other):
            self.until(page, f"{KEPT}.waiting.length", 0)
        # Sent twice it counts once: the ids are the same.
        ids = {one["body"]["id"]: one["body"]["text"] for one in self.got}
        self.assertEqual(sorted(ids.values()), ["liq 341", "suct 118"])

    def test_what_is_refused_is_set_aside_with_its_reason_and_the_rest_goes(self):
        refusal = (
            422,
            {"errors": [{"what": "call-out", "message": "No such word.", "nearest": ["sl"]}]},
        )
        self.answers = lambda _, body: (
            refusal if body["text"] == "slx 52" else (200, {"id": "v", "system": {"id": "s"}})
        )
        page = self.tab()
        self.write(page, "slx 52")
        self.write(page, "sl 52")
        self.until(page, f"{KEPT}.waiting.length", 0)
        aside = page.evaluate(KEPT)["refused"]
        self.assertEqual(aside[0]["problems"][0]["message"], "No such word.")
        self.assertEqual(aside[0]["message"]["body"]["text"], "slx 52")
        self.assertEqual(self.texts(), ["slx 52", "sl 52"])
        page.evaluate("id => nudge.dismiss(id)", aside[0]["message"]["id"])
        self.assertEqual(page.evaluate(KEPT)["refused"], [])

    def test_what_the_server_breaks_on_is_tried_a_few_times_then_set_aside(self):
        self.answers = lambda _, body: (
            (500, {}) if body["text"] == "bad" else (200, {"id": "v", "system": {"id": "s"}})
        )
        page = self.tab()
        self.write(page, "bad")
        self.write(page, "good")
        self.until(page, f"{KEPT}.waiting.length", 0, seconds=15)
        self.assertEqual(self.texts(), ["bad"] * 4 + ["good"])
        self.assertIn("Nudge broke", page.evaluate(KEPT)["refused"][0]["problems"][0]["message"])

    def test_a_kept_value_outlives_bad_and_full_storage(self):
        page = self.tab()
        for script, wanted in (
            ("localStorage['k'] = '{not json'; new nudge.Kept('k', 7).get()", 7),
            ("localStorage['k'] = 'null'; new nudge.Kept('k', 7).get()", 7),
            (
                # kept by a version that had one preference less, and one of another kind
                """localStorage['p'] = '{"theme": "night", "padOpen": "yes", "later": 1}';"""
                "new nudge.Kept('p', { theme: 'paper', units: 'ip', padOpen: false }).get()",
                {"theme": "night", "units": "ip", "padOpen": False, "later": 1},
            ),
            ("localStorage['p'] = '[1]'; new nudge.Kept('p', { units: 'ip' }).get().units", "ip"),
            (
                """localStorage['p'] = '{"units": "stone"}';"""
                "new nudge.Kept('p', { units: 'ip' }, (v) => v.units === 'ip').get().units",
                "ip",
            ),
            ("const k = new nudge.Kept('n', 1); k.set(2); new nudge.Kept('n', 1).get()", 2),
            (
                "Storage.prototype.setItem = () => { throw new Error('full') };"
                "const f = new nudge.Kept('f', 1); f.set(3); f.get()",
                3,
            ),
        ):
            with self.subTest(script):
                self.assertEqual(
                    page.evaluate(
                        f"(() => {{ {script.rpartition(';')[0]};"
                        f" return {script.rpartition(';')[2]} }})()"
                    ),
                    wanted,
                )

    def test_a_field_sends_when_typing_pauses_and_never_what_cannot_be_read(self):
        page = self.tab()
        page.evaluate("nudge.field('13')")
        page.fill("input", "fourteen")
        self.until(
            page, "document.getElementById('problem').textContent", "fourteen is not a number."
        )
        self.assertEqual((self.got, page.input_value("input")), ([], "fourteen"))
        page.fill("input", "14")
        self.until(page, f"{KEPT}.waiting.length === 0 && nudge !== null")
        page.wait_for_function("() => document.getElementById('problem').textContent === ''")
        ends = time.monotonic() + 5
        while not self.got and time.monotonic() < ends:
            page.wait_for_timeout(20)
        self.assertEqual([one["body"] for one in self.got], [{"rated_seer": 14}])
        page.evaluate("nudge.field('14')")
        self.until(page, "document.querySelector('input').value", "14")

    def test_a_refused_field_says_why_and_keeps_what_was_typed(self):
        self.answers = lambda *_: (
            422,
            {"errors": [{"what": "rated_seer", "nearest": [], "message": "SEER 99 is over 45."}]},
        )
        page = self.tab()
        page.evaluate("nudge.field('13')")
        page.fill("input", "99")
        self.until(page, "document.getElementById('problem').textContent", "SEER 99 is over 45.")
        self.assertEqual(page.input_value("input"), "99")

    def event(self, number, kind, body, visit="v"):
        data = json.dumps({**body, "visit": visit})
        self.stream += f"id: {number}\nevent: {kind}\ndata: {data}\n\n"

    def test_the_stream_brings_samples_by_the_point_they_were_read_at(self):
        rows = {
            "suction_pressure": {"point": "suction_pressure", "rows": [[1, 118.0], [2, 118.2]]},
            "odd": {"point": "", "rows": [[1, 9.0]]},
        }
        self.event(2, "samples", {"channels": rows})
        page = self.tab()
        page.evaluate("nudge.follow()")
        self.until(page, "nudge.liveRows('suction_pressure').length >= 2")
        self.assertEqual(page.evaluate("nudge.liveRows('')"), [])

    def test_ones_own_write_is_not_asked_for_again_and_somebody_elses_is(self):
        page = self.tab()
        page.evaluate("nudge.seed()")
        self.write(page, "sl 52")
        self.until(page, f"{KEPT}.waiting.length", 0)
        page.evaluate("nudge.seed()")
        self.event(2, "visit", {"by": self.got[0]["body"]["id"]})
        page.evaluate("nudge.follow()")
        self.until(page, "document.getElementById('link').textContent !== 'joining'")
        page.wait_for_timeout(200)
        self.assertEqual(page.evaluate("nudge.stale()"), [False])
        self.event(3, "visit", {"by": "somebody"})
        self.until(page, "nudge.stale()[0]")

    def test_two_tabs_on_two_visits_lose_nothing_typed_at_the_same_moments(self):
        self.answers = lambda *_: None
        tabs = {"v": self.tab(), "w": self.tab()}
        script = """([visit, n]) => nudge.writeOn(visit, 'callouts',
            {text: visit + ' ' + n, heard_at: '2026-07-01T10:00:00Z'}, 'ip')"""
        for n in range(12):
            for visit, page in tabs.items():
                page.evaluate(script, [visit, n])
        for page in tabs.values():
            self.until(page, f"{KEPT}.waiting.length", 24)
        self.answers = lambda *_: (200, {"id": "v", "system": {"id": "s"}})
        for page in tabs.values():
            self.until(page, f"{KEPT}.waiting.length", 0, seconds=20)
        ids = {one["body"]["id"]: one["body"]["text"] for one in self.got}
        wanted = sorted(f"{visit} {n}" for visit in tabs for n in range(12))
        self.assertEqual(sorted(ids.values()), wanted)
        for visit in tabs:  # each visit's lines in the order they were typed
            sent = list(dict.fromkeys(t for t in self.texts() if t.startswith(visit)))
            self.assertEqual(sent, [f"{visit} {n}" for n in range(12)])

    def test_a_clock_set_back_two_days_does_not_change_the_order(self):
        self.answers = lambda *_: None
        page = self.tab()
        self.write(page, "first")
        page.evaluate("const real = Date.now; Date.now = () => real() - 172_800_000")
        self.write(page, "second")
        kept = page.evaluate(KEPT)["waiting"]
        self.assertEqual([one["body"]["text"] for one in kept], ["first", "second"])

    def test_full_and_denied_storage_still_sends(self):
        page = self.tab()
        page.evaluate("void (Storage.prototype.setItem = () => { throw new Error('full') })")
        self.write(page, "suct 118")
        self.until(page, f"{KEPT}.waiting.length", 0)
        self.assertEqual(self.texts(), ["suct 118"])

    def test_what_an_older_page_kept_is_taken_over(self):
        page = self.tab()
        page.evaluate(
            """localStorage['nudge.outbox'] = JSON.stringify({refused: [], waiting: [{id: 'old',
            method: 'POST', path: '/visits/v/callouts', body: {id: 'old', text: 'ra 75'},
            units: 'ip', visitId: 'v'}]})"""
        )
        page.evaluate("nudge.startOutbox()")
        self.until(page, f"{KEPT}.waiting.length", 0)
        self.assertEqual(self.texts(), ["ra 75"])
        self.assertIsNone(page.evaluate("localStorage.getItem('nudge.outbox')"))

    def test_drafts_of_two_tabs_stand_beside_each_other(self):
        one, other = self.tab(), self.tab()
        one.evaluate("nudge.setDraft('line:v', 'suct 1')")
        other.evaluate("nudge.setDraft('line:w', 'liq 3')")
        one.evaluate("nudge.setDraft('line:v', 'suct 11')")
        kept = "Object.entries(localStorage).filter(([k]) => k.startsWith('nudge.draft.')).sort()"
        wanted = [["nudge.draft.line:v", '"suct 11"'], ["nudge.draft.line:w", '"liq 3"']]
        self.until(other, kept, wanted)

    def test_each_write_says_its_name_and_is_taken_back_by_its_own_kind(self):
        cases = (
            ("callouts", {"text": "suct 118"}, "Taken: suct 118", "withdrawals"),
            ("events", {"kind": "system_stopped"}, "System stopped", "withdrawals"),
            ("observations", {"key": "filter_dirty", "seen": True}, "Filter dirty", "withdrawals"),
            ("doses", {"amount": 4.5, "removes": False}, "4.5 oz given, written down",
             "dose-corrections"),
        )  # fmt: skip
        page = self.tab()
        for what, body, said, undone in cases:
            with self.subTest(what):
                self.got.clear()
                page.evaluate("([w, b]) => nudge.writeOn('v', w, b, 'ip')", [what, body])
                self.until(page, f"{KEPT}.waiting.length", 0)
                self.assertEqual(
                    page.evaluate("([w, b]) => nudge.saidOf(w, b, 'ip')", [what, body]), said
                )
                mine = json.loads(page.evaluate("localStorage['nudge.mine']"))
                self.assertEqual(mine[-1]["said"], said)
                page.evaluate("done => nudge.undo(done, 'ip')", mine[-1])
                self.until(page, f"{KEPT}.waiting.length", 0)
                back = self.got[-1]
                self.assertEqual(back["path"].split("?")[0], f"/api/visits/v/{undone}")
                wrote = self.got[0]["body"]["id"]
                self.assertIn(wrote, (back["body"].get("of"), back["body"].get("dose_id")))
                self.assertEqual(json.loads(page.evaluate("localStorage['nudge.mine']")), [])

    def test_a_follower_hands_each_page_every_event_once_over_one_connection(self):
        page = self.tab()
        found = page.evaluate(
            """async () => {
              const made = [], heard = {a: [], b: []}
              window.EventSource = class extends EventTarget {
                constructor(url) { super(); this.url = url; made.push(this) }
                close() { this.closed = true }
                say(kind, id, visit) {
                  const data = JSON.stringify({visit})
                  this.dispatchEvent(new MessageEvent(kind, {data, lastEventId: String(id)}))
                }
              }
              const follower = new nudge.Follower((to, m) => m.say === 'event' && heard[to].push(m.id))
              const soon = () => new Promise((done) => setTimeout(done, 60))
              follower.hear('a', {ask: 'follow', visit: 'v', units: 'ip', after: null})
              await soon()
              made[0].say('visit', 5, 'v')
              follower.hear('b', {ask: 'follow', visit: 'w', units: 'ip', after: null})
              await soon()
              made[1].say('visit', 5, 'v')
              made[1].say('visit', 6, 'w')
              made[1].say('visit', 7, 'v')
              follower.hear('a', {ask: 'leave', visit: 'v', units: 'ip'})
              await soon()
              follower.hear('a', {ask: 'follow', visit: 'v', units: 'ip', after: 7})
              await soon()
              return {heard, urls: made.map((one) => one.url), open: made.filter((o) => !o.closed).length}
            }"""
        )
        self.assertEqual(found["heard"], {"a": [5, 7], "b": [6]})
        self.assertEqual(found["open"], 1)
        self.assertIn("visit=v&visit=w&after=5", found["urls"][1])


if __name__ == "__main__":
    unittest.main()
