"""A page of somebody else's site, in a real browser: nothing gets in, nothing gets out."""

import json
import threading
import unittest
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

from tests.browser.support import BrowserTest

EVIL = """<!doctype html><title>Elsewhere</title><body></body>"""
TRIES = """async (base) => {
  const found = {}
  const body = JSON.stringify({ id: 'evil', name: 'Evil' })
  const paths = ['/api/sites', '/api/bundles', '/api/workshop/all', '/api/visits/pottery-now/notes']
  const wait = ms => new Promise(done => setTimeout(done, ms))
  const tried = async (name, act) => {
    try { found[name] = await Promise.race([act(), wait(3000).then(() => 'silence')]) }
    catch (error) { found[name] = 'refused' }
  }
  for (const path of paths) {
    for (const kind of ['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data']) {
      await tried(`blind ${kind} to ${path}`, async () => (await fetch(base + path, { method: 'POST',
        mode: 'no-cors', credentials: 'include', headers: { 'Content-Type': kind }, body })).type)
    }
    await tried(`json to ${path}`, async () => (await fetch(base + path, { method: 'POST',
      credentials: 'include', headers: { 'Content-Type': 'application/json' }, body })).status)
    await tried(`beacon to ${path}`, async () => {
      navigator.sendBeacon(base + path, new Blob([body], { type: 'text/plain' })); return 'sent' })
  }
  for (const path of ['/api/today', '/api/visits/pottery-now', '/openapi.json']) {
    await tried(`read ${path}`, async () => (await (await fetch(base + path)).text()).length)
  }
  await tried('stream', () => new Promise(done => {
    const source = new EventSource(base + '/api/visits/radio-room-live/stream')
    source.onmessage = () => done('read'); source.onerror = () => done('refused') }))
  await tried('script', () => new Promise(done => {
    const one = document.createElement('script'); one.src = base + '/api/vocabulary'
    one.onload = () => done('ran'); one.onerror = () => done('refused'); document.body.append(one) }))
  await tried('image', () => new Promise(done => {
    const one = new Image(); one.src = base + '/api/photos/lighthouse-5-picture.jpg'
    one.onload = () => done('seen'); one.onerror = () => done('refused'); document.body.append(one) }))
  await tried('style', () => new Promise(done => {
    const one = document.createElement('link'); one.rel = 'stylesheet'
    one.href = base + '/api/ledger.csv'
    one.onload = () => done('seen'); one.onerror = () => done('refused'); document.body.append(one) }))
  await tried('frame', () => new Promise(done => {
    const one = document.createElement('iframe'); one.src = base + '/'
    one.onload = () => { try { done(one.contentDocument ? 'read' : 'refused') }
      catch { done('refused') } }
    document.body.append(one) }))
  return found
}"""
FORM = """([base, path, kind]) => {
  const form = document.createElement('form')
  form.method = 'post'; form.action = base + path; form.enctype = kind
  const field = document.createElement('input')
  field.name = '{"id":"evil","name":"Evil","x":"'; field.value = '"}'
  form.append(field); document.body.append(form); form.submit()
}"""


class _Elsewhere(BaseHTTPRequestHandler):
    def do_GET(self) -> None:
        self.send_response(200)
        self.send_header("Content-Type", "text/html")
        self.end_headers()
        self.wfile.write(EVIL.encode())

    def log_message(self, *_: object) -> None:
        pass


class StrangersTest(BrowserTest):
    def setUp(self) -> None:
        self.server = ThreadingHTTPServer(("127.0.0.1", 0), _Elsewhere)
        threading.Thread(target=self.server.serve_forever, daemon=True).start()
        self.addCleanup(self.server.server_close)
        self.addCleanup(self.server.shutdown)
        # another site by its name, the same machine underneath
        self.evil = f"http://localhost:{self.server.server_port}/"

    def stored(self) -> str:
        page = self.open("/api/sites")
        return page.inner_text("body")

    def test_none_of_thirty_tries_gets_in_or_out(self):
        page = self.open("/nowhere")
        page.goto(self.evil)
        found = page.evaluate(TRIES, self.nudge.url)
        self.assertGreaterEqual(len(found), 28)
        for name, outcome in found.items():
            with self.subTest(name):
                # an opaque answer or a beacon says nothing of what came of it: that is seen below
                self.assertIn(outcome, ("refused", "opaque", "sent", "silence"), json.dumps(found))
        self.assertNotIn("Evil", self.stored())

    def test_a_form_of_another_site_writes_nothing(self):
        for path in ("/api/sites", "/api/bundles"):
            for kind in ("text/plain", "application/x-www-form-urlencoded", "multipart/form-data"):
                with self.subTest(path, kind=kind):
                    page = self.open("/nowhere")
                    page.goto(self.evil)
                    with page.expect_response(f"**{path}") as answer:
                        page.evaluate(FORM, [self.nudge.url, path, kind])
                    self.assertIn(answer.value.status, (403, 415))
        self.assertNotIn("Evil", self.stored())

    def test_no_page_frames_it_and_none_that_opened_it_sees_it(self):
        page = self.open("/nowhere")
        page.goto(self.evil)
        with page.expect_popup() as opened:
            page.evaluate(f"window.held = window.open('{self.nudge.url}/')")
        opened.value.wait_for_load_state("load")
        page.wait_for_timeout(300)
        seen = page.evaluate(
            "(() => { try { return window.held.closed || window.held.document.title }"
            " catch { return 'refused' } })()"
        )
        self.assertIn(seen, (True, "refused"))  # cut loose, or out of reach


if __name__ == "__main__":
    unittest.main()
