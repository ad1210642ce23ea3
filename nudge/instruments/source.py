"""The one protocol: something with channels that can be asked for its samples."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Protocol


@dataclass(frozen=True, slots=True)
class ChannelInfo:
    """One line of numbers an instrument gives: its name, and the point it is meant for.

    `point` is a key of the vocabulary, or empty while nobody has said where it sits.
    """

    key: str
    label: str
    point: str


@dataclass(frozen=True, slots=True)
class Sample:
    """One value of a channel: milliseconds since 1970 (UTC), core unit of its point."""

    channel: str
    at_ms: int
    value: float


class Source(Protocol):
    """Whatever readings come from. Samples come in order of time within a channel."""

    @property
    def channels(self) -> Sequence[ChannelInfo]: ...

    def samples(self) -> Iterator[Sample]:
        """What there is now and was not given before."""
        ...
