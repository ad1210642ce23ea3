"""The one place that asks what time it is."""

from collections.abc import Callable
from datetime import UTC, datetime

Clock = Callable[[], datetime]


def system_clock() -> datetime:
    """Now, in UTC."""
    return datetime.now(UTC)
