"""Copies of everything, over the wire."""

from collections.abc import Sequence
from datetime import datetime

from pydantic import BaseModel

from nudge.services.keeping import KeptCopy


class CopyOut(BaseModel):
    """A copy that is kept on this machine."""

    name: str
    made_at: datetime
    bytes: int


def copies_out(found: Sequence[KeptCopy]) -> list[CopyOut]:
    return [
        CopyOut(name=one.path.name, made_at=one.made_at, bytes=one.path.stat().st_size)
        for one in found
    ]
