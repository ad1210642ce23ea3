"""What a bundle brings, and what was taken in."""

from datetime import datetime

from pydantic import BaseModel

from nudge.services.rows import TakenBundle


class TakenInOut(BaseModel):
    """What an import brought (or would bring), what was here already, and what does not fit.

    With any reason nothing was written.
    """

    systems: int
    visits: int
    already_here: int
    reasons: list[str]


class TakenBundleOut(BaseModel):
    """A bundle that was taken in; it can be taken out again while nothing was written on it."""

    id: str
    taken_at: datetime
    said: str
    is_out: bool


def taken_bundle_out(row: TakenBundle) -> TakenBundleOut:
    return TakenBundleOut(
        id=row.id, taken_at=row.taken_at, said=row.said, is_out=row.undone_at is not None
    )
