"""Servers for the browser's tests, forked off a process that has imported Nudge already.

To import it takes a server longer than most tests take. `python -m nudge` itself is started by
the tests of the command line, of durability and of the stream.
"""

import multiprocessing
import os
from multiprocessing.context import ForkServerProcess

from tools.drive import ROOT, Process, RunningNudge

_CONTEXT = multiprocessing.get_context("forkserver")
_CONTEXT.set_forkserver_preload(
    ["nudge.main", "nudge.demo.skerrow", "nudge.upkeep", "uvicorn.protocols.http.h11_impl"]
)


class ForkedNudge(RunningNudge):
    """A running Nudge in all but how its process began."""

    def begin(self, environment: dict[str, str]) -> Process:
        process = _CONTEXT.Process(target=_serve, args=(environment, self.command), daemon=True)
        process.start()
        return _Forked(process)


class _Forked:
    """A forked process, asked as any other is."""

    def __init__(self, process: ForkServerProcess) -> None:
        self._process = process

    @property
    def pid(self) -> int:
        return self._process.pid or 0

    def poll(self) -> int | None:
        return self._process.exitcode

    def kill(self) -> None:
        self._process.kill()

    def wait(self) -> int:
        self._process.join()
        return self._process.exitcode or 0


def _serve(environment: dict[str, str], command: str) -> None:
    from nudge.cli import main

    os.environ.clear()
    os.environ.update(environment)
    os.chdir(ROOT)
    os.dup2(os.open(os.devnull, os.O_WRONLY), 1)
    raise SystemExit(main([command]))
