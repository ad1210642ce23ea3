"""Every write that came with an id, once: sent again it is known, changed it is refused."""

from sqlalchemy import bindparam, select
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session

from nudge.store.context import sent
from nudge.store.refusals import SameIdOtherContent
from nudge.store.tables import Entry

KNOWN = "nudge_entry_is_known"


def note_entry(session: Session) -> None:
    """Write the entry that is being carried out, if it has an id.

    Raises: SameIdOtherContent, where that id stands for something else.
    """
    entry = sent()
    if entry is None:
        return
    if session.connection().execute(_NOTED, {"id": entry.key, "digest": entry.digest}).rowcount:
        return
    if session.scalar(_DIGEST, {"key": entry.key}) != entry.digest:
        raise SameIdOtherContent(entry.id)
    session.info[KNOWN] = True


_NOTED = insert(Entry).on_conflict_do_nothing()
_DIGEST = select(Entry.digest).where(Entry.id == bindparam("key"))


def is_known(session: Session) -> bool:
    """Whether this very entry was written before: it is answered again, not carried out anew."""
    return bool(session.info.get(KNOWN))
