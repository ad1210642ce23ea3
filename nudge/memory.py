"""Memory that many threads share, so that a server does not grow by each of them."""

import ctypes
from contextlib import suppress

_ARENA_MAX, ARENAS = -8, 2
"""glibc's M_ARENA_MAX: else each of forty threads keeps what it once needed."""


def share_arenas() -> None:
    """Let all threads take memory from a few places, where the C library can be told so."""
    with suppress(OSError, AttributeError):
        ctypes.CDLL(None).mallopt(_ARENA_MAX, ARENAS)
