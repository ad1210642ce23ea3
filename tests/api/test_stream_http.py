"""The stream and the import over a real server: connections dropped, the plug pulled."""

import json
import tempfile
import time
import unittest
import urllib.error
import urllib.request
from pathlib import Path

from tools.drive import RunningNudge


class RealServerTest(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.nudge = RunningNudge(Path(folder.name), "serve")
        self.nudge.start()
        self.addCleanup(self.nudge.stop)
        self.call("POST", "/api/sites", {"id": "bakery", "name": "Quay Bakery"})
        system = {"refrigerant": "R-410A", "metering_device": "txv"}
        made = self.call(
            "POST",
            "/api/systems",
            {"id": "oven", "site_id": "bakery", "name": "Proving room", **system},
        )
        self.assertNotIn("errors", made)
        self.call("POST", "/api/visits", {"id": "v", "system_id": "oven"})

    def call(self, method, path, body=None, raw=None):
        payload = (
            raw if raw is not None else json.dumps(body).encode() if body is not None else None
        )
        kind = "application/json" if raw is None else "application/octet-stream"
        headers = {"Content-Type": kind}
        request = urllib.request.Request(self.nudge.url + path, payload, headers, method=method)
        try:
            with urllib.request.urlopen(request, timeout=20) as answer:
                return json.load(answer)
        except urllib.error.HTTPError as refused:
            return json.load(refused)

    def send(self, number, value=96.0):
        at = f"2026-07-14T12:00:{number:02}Z"
        rows = [{"channel": "c", "point": "liquid_line_temp", "value": value, "at": at}]
        return self.call("POST", "/api/visits/v/readings", {"id": f"b{number}", "readings": rows})

    def events(self, count, headers=None, query=""):
        """The first events of a connection, which is then dropped."""
        request = urllib.request.Request(
            f"{self.nudge.url}/api/visits/v/stream{query}", headers=headers or {}
        )
        found, one = [], {}
        with urllib.request.urlopen(request, timeout=15) as answer:
            for raw in answer:
                name, _, rest = raw.decode().rstrip("\n").partition(": ")
                if name in ("id", "event", "data"):
                    one[name] = rest
                elif one.get("data"):
                    found.append(one)
                    one = {}
                    if len(found) == count:
                        return found
        return found

    def test_a_dropped_connection_goes_on_where_it_was(self):
        for number in range(6):
            self.send(number, 96.0 + number)
        first = self.events(4, query="?after=0&units=ip")
        self.assertEqual([e["event"] for e in first[:1]], ["hello"])
        rest = self.events(4, {"Last-Event-ID": first[-1]["id"]}, "?units=si")
        samples = [e for e in (*first, *rest) if e["event"] == "samples"]
        self.assertEqual(len(samples), 6)
        self.assertEqual(len({e["id"] for e in samples}), 6)
        values = [json.loads(e["data"])["channels"]["c"]["rows"][0][1] for e in samples]
        self.assertEqual(values[:3], [96.0, 97.0, 98.0])
        self.assertAlmostEqual(values[-1], (101 - 32) / 1.8, places=2)
        late = self.events(1)  # without an id it begins now
        self.assertEqual(late[0]["id"], rest[-1]["id"])
        for wrong in ("9" * 40, "\u00b2", "-3", "x"):  # nor does one that is no place at all
            with self.subTest(wrong):
                here = self.events(1, {"Last-Event-ID": wrong})
                self.assertEqual(here[0]["id"], rest[-1]["id"])

    def test_the_stream_survives_a_server_that_was_killed(self):
        self.send(1)
        seen = self.events(2, query="?after=0")
        self.nudge.stop()
        self.nudge.start()
        self.assertEqual(self.send(1)["repeated"], 1)
        self.send(2, 97.0)
        on = self.events(2, {"Last-Event-ID": seen[-1]["id"]})
        self.assertEqual([e["event"] for e in on], ["hello", "samples"])
        self.assertIn(",97.0]", on[1]["data"])

    def test_no_such_visit_has_no_stream(self):
        with self.assertRaises(urllib.error.HTTPError) as caught:
            urllib.request.urlopen(f"{self.nudge.url}/api/visits/none/stream", timeout=10)
        self.assertEqual(caught.exception.code, 404)

    def test_a_server_killed_in_the_middle_of_an_import_keeps_none_of_it(self):
        lines = ["time,ll (F),sl (F),oa (F)"]
        lines += [f"{1_784_030_400 + i},96.1,52.2,88.3" for i in range(150_000)]
        look = self.call(
            "PUT", "/api/visits/v/imports/i1?name=long.csv", raw="\n".join(lines).encode()
        )
        self.call("POST", "/api/visits/v/imports/i1/start", look["mapping"])
        for _ in range(200):
            row = self.call("GET", "/api/visits/v/imports")[0]
            if row["readings"] > 0:
                break
            time.sleep(0.02)
        self.assertEqual(row["state"], "reading")
        self.nudge.stop()
        self.nudge.start()
        row = self.call("GET", "/api/visits/v/imports")[0]
        self.assertEqual((row["state"], row["readings"]), ("failed", 0))
        self.assertIn("None of it was kept", row["message"])
        self.assertEqual(self.call("GET", "/api/visits/v/series")["traces"], [])
        again = self.call(
            "PUT", "/api/visits/v/imports/i2?name=long.csv", raw="\n".join(lines[:50]).encode()
        )
        self.assertTrue(again["remembered"])

    def test_two_gigabytes_are_refused_before_they_are_sent(self):
        request = urllib.request.Request(
            f"{self.nudge.url}/api/visits/v/imports/big?name=big.csv",
            b"x",
            method="PUT",
            headers={"Content-Length": "2000000000", "Content-Type": "text/csv"},
        )
        with self.assertRaises(urllib.error.HTTPError) as caught:
            urllib.request.urlopen(request, timeout=10)
        self.assertIn("500 MB", json.load(caught.exception)["errors"][0]["message"])
