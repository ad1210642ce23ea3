"""Bundles made hostile: one good one, changed at random in the ways a file can be wrong.

`python -m tools.hostile` sends 200 of them at a running Nudge and says what came of it.
"""

import json
import random
import statistics
import tempfile
import time
from collections import Counter, deque
from copy import deepcopy
from http.client import HTTPConnection
from multiprocessing import Event as make_event
from multiprocessing import Process, Queue
from multiprocessing.synchronize import Event
from pathlib import Path
from typing import Any

from tools.drive import RunningNudge
from tools.host import Stolen

EVIL: tuple[Any, ...] = (
    None, True, -1, 0, 2**70, -(2**63), 1e308, 1e-300, "", " ", "0", "NaN", "x" * 30_000, "\u202e",
    "\x00", "\ud800", "'; DROP TABLE visits; --", "=1+1", "<script>alert(1)</script>", "../../etc",
    [], {}, [[]], {"id": {}}, "9999-12-31T23:59:59+00:00", "0001-01-01T00:00:00+00:00",
    "2026-13-45", "R-999", "°", "🧊" * 200,
)  # fmt: skip
COUNT, LONGEST_S = 200, 0.2


def changed(good: dict[str, Any], seed: int) -> bytes:
    """A bundle with one to four things wrong, the same for the same seed."""
    rng = random.Random(seed)
    bundle = deepcopy(good)
    for _ in range(rng.randint(1, 4)):
        _WAYS[rng.randrange(len(_WAYS))](bundle, rng)
    text = json.dumps(bundle, allow_nan=True)
    if rng.random() < 0.1:
        cut = rng.randrange(len(text))
        text = (
            text[:cut] + rng.choice(("", "}", "\x00", "," * 100)) + text[cut + rng.randrange(9) :]
        )
    return text.encode("utf-8", "surrogatepass")


def _rows(bundle: dict[str, Any], rng: random.Random) -> list[dict[str, Any]]:
    tables = [rows for rows in bundle.values() if isinstance(rows, list) and rows]
    return rng.choice(tables) if tables else []


def _row(bundle: dict[str, Any], rng: random.Random) -> dict[str, Any]:
    rows = [row for row in _rows(bundle, rng) if isinstance(row, dict) and row]
    return rng.choice(rows) if rows else {"none": None}


def _value(bundle: dict[str, Any], rng: random.Random) -> None:
    row = _row(bundle, rng)
    row[rng.choice(list(row))] = rng.choice(EVIL)


def _deep(bundle: dict[str, Any], rng: random.Random) -> None:
    """Inside what a verdict, a plant or a slip holds as JSON."""
    row = _row(bundle, rng)
    inner = [value for value in row.values() if isinstance(value, dict) and value]
    if inner:
        held = rng.choice(inner)
        held[rng.choice(list(held))] = rng.choice(EVIL)


def _number(bundle: dict[str, Any], rng: random.Random) -> None:
    row = _row(bundle, rng)
    numbers = [k for k, v in row.items() if isinstance(v, int | float) and not isinstance(v, bool)]
    if numbers:
        row[rng.choice(numbers)] = rng.choice((float("nan"), float("inf"), -1e300, 0, 1e12, -40.5))


def _drop(bundle: dict[str, Any], rng: random.Random) -> None:
    row = _row(bundle, rng)
    row.pop(rng.choice(list(row)))


def _twice(bundle: dict[str, Any], rng: random.Random) -> None:
    rows = _rows(bundle, rng)
    if rows:
        rows.append(deepcopy(rng.choice(rows)))


def _elsewhere(bundle: dict[str, Any], rng: random.Random) -> None:
    row = _row(bundle, rng)
    ids = [key for key in row if key.endswith("_id") or key in ("id", "corrects", "withdraws")]
    if ids:
        row[rng.choice(ids)] = rng.choice(("gone", "pottery-now", str(row.get("id"))))


def _empty(bundle: dict[str, Any], rng: random.Random) -> None:
    bundle[rng.choice(list(bundle))] = rng.choice(([], {}, None, 7))


def _many(bundle: dict[str, Any], rng: random.Random) -> None:
    rows = _rows(bundle, rng)
    if rows and isinstance(rows[0], dict):
        rows += [{**rows[0], "id": f"m{n}"} for n in range(rng.choice((50, 2_000)))]


_WAYS = (_value, _value, _value, _deep, _deep, _number, _drop, _twice, _elsewhere, _empty, _many)


def _asked(port: int, method: str, path: str, body: bytes | None = None) -> tuple[int, float]:
    connection = HTTPConnection("127.0.0.1", port, timeout=200)
    began = time.perf_counter()
    connection.request(method, path, body, {"Content-Type": "application/json"})
    answer = connection.getresponse()
    answer.read()
    return answer.status, time.perf_counter() - began


def knock(port: int, stop: Event, pauses: "Queue[list[tuple[float, float]]]") -> None:
    """Ask for its health twenty times a second, from a process of its own: what is busy making
    bundles must not be taken for a server that pauses. Each answer comes with the share of the
    processors that the host took from a second before until it was there.
    """
    found: list[tuple[float, float]] = []
    before = deque([Stolen()], maxlen=KNOCKS_A_SECOND)
    while not stop.wait(1 / KNOCKS_A_SECOND):
        waited = _asked(port, "GET", "/api/health")[1]
        found.append((waited, before[0].share))
        before.append(Stolen())
    pauses.put(found)


KNOCKS_A_SECOND = 20
ALONE = 0.02
"""A host that takes less than this of the processors leaves this machine to itself."""


PAGES = ("/api/today", "/api/sites", "/api/ledger", "/api/visits/pottery-now", "/api/cylinders")


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        nudge = RunningNudge(Path(folder))
        nudge.start()
        kept = HTTPConnection("127.0.0.1", nudge.port)
        kept.request("GET", "/api/systems/clinic-waiting/bundle.json")
        good = json.loads(kept.getresponse().read())
        waited: Queue[list[tuple[float, float]]] = Queue()
        stop = make_event()
        knocking = Process(target=knock, args=(nudge.port, stop, waited))
        knocking.start()
        found: Counter[int] = Counter()
        for seed in range(COUNT):
            data = changed(good, seed)
            found[_asked(nudge.port, "POST", "/api/bundles", data)[0]] += 1
        stop.set()
        knocks = waited.get()
        pauses = [pause for pause, _ in knocks]
        alone = [pause for pause, stolen in knocks if stolen < ALONE]
        knocking.join()
        down = [path for path in PAGES if _asked(nudge.port, "GET", path)[0] != 200]
        print(f"{COUNT} hostile bundles: answers {dict(found)}; pages down: {down or 'none'}")
        longest, middle = max(pauses) * 1000, statistics.median(pauses) * 1000
        over = sum(pause > LONGEST_S for pause in pauses)
        memory = nudge.peak_memory_mb()
        print(
            f"server pause: longest {longest:.0f} ms, median {middle:.1f} ms, over "
            f"{1000 * LONGEST_S:.0f} ms {over} of {len(pauses)}; while the host took under "
            f"{100 * ALONE:.0f} %: longest {1000 * max(alone, default=0.0):.0f} ms, over "
            f"{sum(pause > LONGEST_S for pause in alone)} of {len(alone)}; most {memory:.0f} MB"
        )
        nudge.stop()


if __name__ == "__main__":
    main()
