"""Who writes, and under which id: set once a request, read where rows are made.

Without a request (tests, the demo, the command line) nobody is named and nothing is compared.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Sent:
    """A write as it was sent: where, under which id, and a digest of all it says."""

    path: str
    id: str
    digest: str

    @property
    def key(self) -> str:
        """An id is one's own within what it is sent to."""
        return f"{self.path}#{self.id}"


_WRITER: ContextVar[str | None] = ContextVar("writer", default=None)
_SENT: ContextVar[Sent | None] = ContextVar("sent", default=None)


def writer() -> str | None:
    """The name of the device that writes; None is this machine itself."""
    return _WRITER.get()


def sent() -> Sent | None:
    """The write that is being carried out, where it has an id."""
    return _SENT.get()


@contextmanager
def writes_as(name: str | None) -> Iterator[None]:
    """Rows made within are written by a device of this name."""
    token = _WRITER.set(name)
    try:
        yield
    finally:
        _WRITER.reset(token)


@contextmanager
def carries_out(entry: Sent | None) -> Iterator[None]:
    """What is written within is this entry, once."""
    token = _SENT.set(entry)
    try:
        yield
    finally:
        _SENT.reset(token)
