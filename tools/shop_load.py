"""A shop at work: twenty clients, each a reading every two seconds, and fifty live channels.

`python -m tools.shop_load [SECONDS]`: errors, times of readings and visits, and how memory grows.
"""

import json
import statistics
import sys
import tempfile
import threading
import time
from datetime import UTC, datetime
from http.client import HTTPConnection
from pathlib import Path
from uuid import uuid4

from tools.drive import RunningNudge
from tools.host import Stolen

SECONDS, CLIENTS, EVERY_S, CHANNELS, WARM_S = 180.0, 20, 2.0, 50, 30.0
WHOLE = "suct 112 liq 333 sl 56 ll 101 oa 90 ra 77 wb 65"
ONES = ("sl 5{0:.1f}", "suct 11{0:.1f}", "ll 10{0:.1f}", "liq 33{0:.1f}")
"""The first line of a visit, and then one reading at a time."""
POINTS = ("suction_line_temp", "liquid_line_temp", "outdoor_air_temp", "return_air_temp")


class Load:
    """What the clients measure together."""

    def __init__(self, port: int, seconds: float) -> None:
        self.port, self.until = port, time.monotonic() + seconds
        self.readings: list[float] = []
        self.visits: list[float] = []
        self.errors: list[str] = []

    def ask(self, http: HTTPConnection, method: str, path: str, body: object = None) -> float:
        began = time.perf_counter()
        text = None if body is None else json.dumps(body)
        try:
            http.request(method, path, text, {"Content-Type": "application/json"})
            answer = http.getresponse()
            said = answer.read()
            if answer.status >= 300:
                self.errors.append(f"{method} {path}: {answer.status} {said[:120]!r}")
        except OSError as broken:
            self.errors.append(f"{method} {path}: {broken}")
            http.close()
        return (time.perf_counter() - began) * 1000

    def client(self, number: int) -> None:
        http = HTTPConnection("127.0.0.1", self.port, timeout=30)
        visit = uuid4().hex
        self.ask(http, "POST", "/api/visits", {"id": visit, "system_id": "seed-library-stacks"})
        started = {"id": uuid4().hex, "kind": "system_started", "happened_at": _now()}
        self.ask(http, "POST", f"/api/visits/{visit}/events", started)
        time.sleep(EVERY_S * number / CLIENTS)
        count = 0
        while time.monotonic() < self.until:
            began = time.monotonic()
            count += 1
            line = WHOLE if count == 1 else ONES[count % len(ONES)].format(count % 40 / 10)
            body = {"id": uuid4().hex, "text": line, "heard_at": _now()}
            self.readings.append(self.ask(http, "POST", f"/api/visits/{visit}/callouts", body))
            if count % 2:
                self.visits.append(self.ask(http, "GET", f"/api/visits/{visit}"))
            time.sleep(max(EVERY_S - (time.monotonic() - began), 0))

    def channels(self, of: int) -> None:
        """Instruments of one visit, a value a second from each."""
        http = HTTPConnection("127.0.0.1", self.port, timeout=30)
        visit = uuid4().hex
        self.ask(http, "POST", "/api/visits", {"id": visit, "system_id": "clinic-waiting"})
        while time.monotonic() < self.until:
            rows = [
                {
                    "channel": f"probe-{n}",
                    "point": POINTS[n % len(POINTS)],
                    "value": 55 + n % 7 / 10,
                    "at": _now(),
                }
                for n in range(of)
            ]
            body = {"id": uuid4().hex, "readings": rows}
            self.ask(http, "POST", f"/api/visits/{visit}/readings", body)
            time.sleep(1.0)


def _now() -> str:
    return datetime.now(UTC).isoformat()


def _memory_mb(pid: int) -> float:
    status = Path(f"/proc/{pid}/status").read_text("utf-8")
    line = next(one for one in status.splitlines() if one.startswith("VmRSS"))
    return int(line.split()[1]) / 1024


def main(seconds: str = str(SECONDS)) -> int:
    with tempfile.TemporaryDirectory() as folder:
        nudge = RunningNudge(Path(folder))
        nudge.start()
        process = nudge._process
        assert process is not None
        load, stolen = Load(nudge.port, float(seconds)), Stolen()
        threads = [threading.Thread(target=load.client, args=(n,)) for n in range(CLIENTS)]
        threads += [threading.Thread(target=load.channels, args=(CHANNELS // 5,)) for _ in range(5)]
        for thread in threads:
            thread.start()
        time.sleep(min(WARM_S, float(seconds) / 3))
        warm = _memory_mb(process.pid)
        for thread in threads:
            thread.join()
        grown = _memory_mb(process.pid) - warm
        nudge.stop()
    for name, times in (("readings", load.readings), ("visits", load.visits)):
        p95 = statistics.quantiles(times, n=20)[-1]
        print(f"{name}: {len(times)}, median {statistics.median(times):.0f} ms, p95 {p95:.0f} ms")
    print(f"errors {len(load.errors)}; memory after warm-up {warm:.0f} MB, grown {grown:.1f} MB")
    print(f"stolen by the host meanwhile: {100 * stolen.share:.0f} % of all processor time")
    for error in load.errors[:5]:
        print(error)
    return 1 if load.errors else 0


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
