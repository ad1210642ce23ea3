"""A typed reading, measured on a running server: alone, after a dose, and twenty clients at once.

Part of `make bench`; by itself `python -m tools.bench_reading`. Each time is from sending the line
to having the whole answer (visit, order, nudge), against an empty request of the same server.
"""

import json
import statistics
import tempfile
import threading
import time
from datetime import UTC, datetime
from http.client import HTTPConnection
from pathlib import Path
from uuid import uuid4

from tools.drive import RunningNudge

READINGS, VISITS = 60, 10
"""Lines in all, on so many visits: some have a few readings, some many."""
CLIENTS, EVERY_S, FOR_S = 20, 2.0, 30.0
LINE = "suct 112 liq 333 sl {sl} ll 101 oa 90 ra 77 wb 65"


class Client:
    """One device on a visit of its own."""

    def __init__(self, port: int) -> None:
        self._http = HTTPConnection("127.0.0.1", port)
        self.visit = uuid4().hex
        self.ask("POST", "/api/visits", {"id": self.visit, "system_id": "seed-library-stacks"})
        self.write("events", {"kind": "system_started", "happened_at": _now()})

    def ask(self, method: str, path: str, body: object = None) -> float:
        """One request; how long it took [ms]. Raises: RuntimeError, when it was refused."""
        began = time.perf_counter()
        text = None if body is None else json.dumps(body)
        self._http.request(method, path, text, {"Content-Type": "application/json"})
        answer = self._http.getresponse()
        said = answer.read()
        if answer.status >= 300:
            raise RuntimeError(f"{path}: {answer.status} {said[:200]!r}")
        return (time.perf_counter() - began) * 1000

    def write(self, what: str, body: dict[str, object]) -> float:
        return self.ask("POST", f"/api/visits/{self.visit}/{what}", {"id": uuid4().hex} | body)

    def read(self, number: int) -> float:
        """Call one line out, a little different each time."""
        line = LINE.format(sl=56 + number % 40 / 10)
        return self.write("callouts", {"text": line, "heard_at": _now()})


def alone(port: int) -> None:
    """Medians of a typed line where nothing was dosed, and where something was."""
    asking = Client(port)
    empty = statistics.median(asking.ask("GET", "/api/health") for _ in range(READINGS))
    for title, doses in (("nothing dosed", 0), ("two doses given", 2)):
        times: list[float] = []
        for _ in range(VISITS):
            client = Client(port)
            client.read(0)
            for number in range(doses):
                client.write(
                    "events", {"kind": "refrigerant_added", "happened_at": _now(), "amount": 4}
                )
                client.read(number)
            times += [client.read(number) for number in range(READINGS // VISITS)]
        median = statistics.median(times)
        print(
            f"a typed reading, {title}: {median:.1f} ms, {median / empty:.0f} × an empty request "
            f"({empty:.2f} ms)"
        )


def together(port: int) -> None:
    """Twenty devices, each calling a line out every two seconds."""
    times: list[float] = []
    broken: list[Exception] = []

    def work(number: int) -> None:
        try:
            client = Client(port)
            due = time.perf_counter() + number * EVERY_S / CLIENTS
            ends = due + FOR_S
            while due < ends:
                time.sleep(max(due - time.perf_counter(), 0))
                times.append(client.read(number))
                due += EVERY_S
        except Exception as error:  # counted, and said
            broken.append(error)

    threads = [threading.Thread(target=work, args=(n,)) for n in range(CLIENTS)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    ranked = sorted(times)
    print(
        f"{CLIENTS} clients, a line every {EVERY_S:g} s: median {statistics.median(ranked):.0f} "
        f"ms, p95 {ranked[int(0.95 * len(ranked))]:.0f} ms of {len(ranked)}, "
        f"{len(broken)} broken"
    )


def _now() -> str:
    return datetime.now(UTC).isoformat()


def main() -> None:
    with tempfile.TemporaryDirectory() as data:
        nudge = RunningNudge(Path(data))
        nudge.start()
        try:
            alone(nudge.port)
            together(nudge.port)
        finally:
            nudge.stop()


if __name__ == "__main__":
    main()
