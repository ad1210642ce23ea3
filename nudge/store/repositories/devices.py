"""Paired devices."""

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from nudge.store.tables import PairedDevice


def living(session: Session) -> Sequence[PairedDevice]:
    """Those that were not let go."""
    query = select(PairedDevice).where(PairedDevice.revoked_at.is_(None))
    return session.scalars(query.order_by(PairedDevice.paired_at)).all()


def device(session: Session, device_id: str) -> PairedDevice | None:
    return session.get(PairedDevice, device_id)
