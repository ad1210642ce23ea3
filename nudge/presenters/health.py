"""Whether the server answers, which it is, and what endangers the data."""

from collections.abc import Sequence
from typing import Literal

from pydantic import BaseModel

from nudge.services.keeping import DataTrouble


class TroubleOut(BaseModel):
    """Something that endangers the data, in words."""

    key: str
    message: str


class Health(BaseModel):
    status: Literal["ok", "trouble"]
    version: str
    troubles: list[TroubleOut]


def health_out(version: str, found: Sequence[DataTrouble]) -> Health:
    return Health(
        status="trouble" if found else "ok",
        version=version,
        troubles=[TroubleOut(key=one.key, message=one.message) for one in found],
    )
