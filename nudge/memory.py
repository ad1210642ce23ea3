"""Memory that many threads share, so that a server does not grow by each of them, nor stand still
while it is looked through.
"""

import ctypes
import gc
from contextlib import suppress
from threading import Timer

_ARENA_MAX, ARENAS = -8, 2
"""glibc's M_ARENA_MAX: else each of forty threads keeps what it once needed."""
AFTER_S = (0.0, 20.0, 60.0, 300.0, 1800.0)
"""When a server leaves what it holds by then in peace: tables are loaded as they are asked for."""


def share_arenas() -> None:
    """Let all threads take memory from a few places, where the C library can be told so."""
    with suppress(OSError, AttributeError):
        ctypes.CDLL(None).mallopt(_ARENA_MAX, ARENAS)


def leave_standing() -> None:
    """Keep the collector from looking through what stands for good.

    Code, rows and tables are a quarter of a million objects: to go through them takes 0.2 s in
    which nothing is answered, and finds nothing.
    """
    for seconds in AFTER_S:
        timer = Timer(seconds, gc.freeze)
        timer.daemon = True
        timer.start()
