"""A hundred pulled plugs, in the middle of whatever goes on: what was answered is still there.

`python -m tools.kills [ROUNDS]`: in turn while it is written on, copied, restored into, while a
bundle comes in, while the tables change their form, while the demo is filled. A power cut is the
files of a stopped process as they lie on the disk at a random moment.
"""

import json
import os
import random
import shutil
import signal
import sqlite3
import subprocess
import sys
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Callable
from contextlib import closing, suppress
from datetime import UTC, datetime
from http.client import HTTPConnection, HTTPException
from pathlib import Path

from nudge.store.copies import unsound
from nudge.store.database import FILE, _engine, migrate
from tools.drive import ROOT, RunningNudge

ROUNDS = 100
LONGEST_S = 1.2
"""How long after its beginning an act is cut, at most."""


class Shop:
    """A Nudge that is written on; what it answered is remembered."""

    def __init__(self, folder: Path, rng: random.Random) -> None:
        self.folder, self.rng = folder, rng
        self.nudge = RunningNudge(folder)
        self.answered: list[str] = []
        self.lost, self.torn = 0, 0
        self._next = 0

    def ask(self, method: str, path: str, body: bytes | None, kind: str) -> bool:
        connection = HTTPConnection("127.0.0.1", self.nudge.port, timeout=30)
        try:
            connection.request(method, path, body, {"Content-Type": kind})
            answer = connection.getresponse()
            answer.read()
            return answer.status < 300
        except (OSError, HTTPException):
            return False
        finally:
            connection.close()

    def write(self, stop: threading.Event) -> None:
        while not stop.is_set():
            self._next += 1
            entry = f"k{self._next}"
            body = {"id": entry, "text": f"sl {50 + self._next % 20}"}
            body["heard_at"] = datetime.now(UTC).isoformat()
            path = "/api/visits/net-loft-now/callouts"
            if self.ask("POST", path, json.dumps(body).encode(), "application/json"):
                self.answered.append(f"{entry}:0")

    def cut(self, act: Callable[[], object] | None = None) -> None:
        """Write, begin an act, and pull the plug somewhere in it."""
        self.nudge.start()
        stop = threading.Event()
        writer = threading.Thread(target=self.write, args=(stop,))
        writer.start()
        time.sleep(0.2)
        other = threading.Thread(target=act) if act is not None else None
        if other is not None:
            other.start()
        time.sleep(self.rng.uniform(0, LONGEST_S))
        self.nudge.stop()
        subprocess.run(["pkill", "-9", "-f", str(self.folder)], check=False)
        stop.set()
        writer.join()
        if other is not None:
            other.join()
        self.look(self.folder / FILE)

    def look(self, path: Path) -> None:
        with closing(sqlite3.connect(path)) as opened:
            kept = {row[0] for row in opened.execute("SELECT id FROM readings")}
        self.lost += len(set(self.answered) - kept)
        self.torn += bool(unsound(path))

    def writing(self) -> None:
        self.cut()

    def backup(self) -> None:
        target = self.folder / "out.sqlite3"
        target.unlink(missing_ok=True)
        self.cut(lambda: _nudge(self.folder, "backup", str(target)))
        if target.exists():
            self.torn += bool(unsound(target))

    def restore(self) -> None:
        """A copy put in place through the interface; it holds all that was answered before."""
        source = self.folder / "up.sqlite3"
        _nudge(self.folder, "backup", str(source))
        data, before = source.read_bytes(), len(self.answered)
        kind = "application/octet-stream"
        self.cut_silent(lambda: self.ask("PUT", "/api/workshop/all", data, kind))
        assert len(self.answered) == before

    def cut_silent(self, act: Callable[[], object]) -> None:
        """The same with nobody writing: what comes up is older than what would be written."""
        self.nudge.start()
        other = threading.Thread(target=act)
        other.start()
        time.sleep(self.rng.uniform(0, LONGEST_S))
        self.nudge.stop()
        other.join()
        self.look(self.folder / FILE)

    def bundle(self) -> None:
        given = json.loads((self.folder / "given.json").read_text())
        text = json.dumps(given).replace("clinic", f"c{self.rng.randrange(10**6)}")
        self.cut(lambda: self.ask("POST", "/api/bundles", text.encode(), "application/json"))

    def power(self) -> None:
        """The files of a process that is stopped as it stands."""
        self.nudge.start()
        stop = threading.Event()
        writer = threading.Thread(target=self.write, args=(stop,))
        writer.start()
        time.sleep(self.rng.uniform(0.1, LONGEST_S))
        process = self.nudge._process
        assert process is not None
        os.kill(process.pid, signal.SIGSTOP)
        time.sleep(0.05)
        known = list(self.answered)
        with tempfile.TemporaryDirectory() as beside:
            for file in self.folder.glob(f"{FILE}*"):
                if not file.name.endswith("-shm"):  # memory is gone with the power
                    shutil.copyfile(file, Path(beside) / file.name)
            os.kill(process.pid, signal.SIGCONT)
            answered, self.answered = self.answered, known
            self.look(Path(beside) / FILE)
            self.answered = answered
        stop.set()
        writer.join()
        self.nudge.stop()

    def migration(self) -> None:
        """An older form, brought up to date by a process that is killed at it."""
        with tempfile.TemporaryDirectory() as beside:
            folder = Path(beside)
            engine = _engine(folder / FILE)
            migrate(engine, "0009")
            engine.dispose()
            with closing(sqlite3.connect(folder / FILE)) as old:
                rows = [(f"s{n}", f"Site {n}", "", "2026-01-01") for n in range(500)]
                old.executemany(
                    "INSERT INTO sites (id, name, note, created_at) VALUES (?, ?, ?, ?)", rows
                )
                old.commit()
            opens = (
                "import sys; from pathlib import Path; from nudge.store.database import Database"
            )
            started = subprocess.Popen(
                [sys.executable, "-c", f"{opens}; Database(Path(sys.argv[1]))", beside], cwd=ROOT
            )
            with suppress(subprocess.TimeoutExpired):
                started.wait(self.rng.uniform(0.3, 2.5))
            started.kill()
            started.wait()
            subprocess.run(
                [sys.executable, "-c", f"{opens}; Database(Path(sys.argv[1]))", beside],
                cwd=ROOT, check=True,
            )  # fmt: skip
            with closing(sqlite3.connect(folder / FILE)) as opened:
                kept = opened.execute("SELECT count(*) FROM sites").fetchone()[0]
            self.lost += 500 - kept
            self.torn += bool(unsound(folder / FILE))

    def filling(self) -> None:
        """The demo, cut while it is filled: all of it or nothing, and all at the next start."""
        with tempfile.TemporaryDirectory() as beside:
            folder = Path(beside)
            cut = RunningNudge(folder)
            starting = threading.Thread(target=_quietly, args=(cut.start,))
            starting.start()
            time.sleep(self.rng.uniform(1, 9))
            cut.stop()
            starting.join()
            sites = _sites(folder / FILE)
            whole = RunningNudge(folder)
            whole.start()
            whole.stop()
            self.torn += sites not in (0, _sites(folder / FILE))


ACTS = ("writing", "backup", "restore", "bundle", "power", "migration", "writing", "filling")


def _quietly(what: Callable[[], object]) -> None:
    with suppress(RuntimeError, OSError, AttributeError):
        what()


def _sites(path: Path) -> int:
    if not path.exists():
        return 0
    with closing(sqlite3.connect(path)) as opened, suppress(sqlite3.OperationalError):
        return int(opened.execute("SELECT count(*) FROM sites").fetchone()[0])
    return 0


def _nudge(folder: Path, *arguments: str) -> None:
    environment = {**os.environ, "NUDGE_DATA": str(folder)}
    command = [sys.executable, "-m", "nudge", *arguments]
    subprocess.run(command, cwd=ROOT, env=environment, capture_output=True, check=False)


def main(rounds: str = str(ROUNDS)) -> int:
    rng, done = random.Random(5), Counter[str]()
    with tempfile.TemporaryDirectory() as folder:
        shop = Shop(Path(folder), rng)
        shop.nudge.start()
        connection = HTTPConnection("127.0.0.1", shop.nudge.port)
        connection.request("GET", "/api/systems/clinic-waiting/bundle.json")
        (Path(folder) / "given.json").write_bytes(connection.getresponse().read())
        shop.nudge.stop()
        for number in range(int(rounds)):
            act = ACTS[number % len(ACTS)]
            getattr(shop, act)()
            done[act] += 1
        print(f"{rounds} plugs pulled ({dict(done)}): {len(shop.answered)} lines answered, "
              f"{shop.lost} lost; files torn or half done: {shop.torn}")  # fmt: skip
        return 1 if shop.lost or shop.torn else 0


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
