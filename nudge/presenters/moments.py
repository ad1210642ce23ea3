"""Moments that a device sends: a day ahead at most, ten years back at most."""

from datetime import UTC, datetime, timedelta
from typing import Annotated

from pydantic import AfterValidator, AwareDatetime

AHEAD, BACK = timedelta(days=1), timedelta(days=3653)
"""A clock may be a zone off; what is older than ten years nobody saw happen."""


def _check(moment: datetime) -> datetime:
    now = datetime.now(UTC)
    if now - BACK <= moment <= now + AHEAD:
        return moment
    way = "ahead" if moment > now else "back"
    raise ValueError(
        f"{moment:%Y-%m-%d %H:%M} is too far {way}: a day ahead and ten years back are taken. "
        "Is the clock of this device right?"
    )


Moment = Annotated[AwareDatetime, AfterValidator(_check)]
"""A moment with its zone. Refused: more than a day ahead, or ten years back."""
