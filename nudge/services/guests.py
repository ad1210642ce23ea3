"""A second pair of eyes: a link that shows one live visit to somebody on the same network.

It can only look and leave a note, ends by itself, and can be ended at once. The token is in the
link alone; what is stored is its hash.
"""

from dataclasses import dataclass
from datetime import datetime, timedelta
from hashlib import sha256
from secrets import token_urlsafe

from sqlalchemy.orm import Session

from nudge.core.language.errors import CoreError
from nudge.services.clock import Clock
from nudge.services.errors import NotFound
from nudge.services.folder import lives
from nudge.services.snapshot import Snapshot
from nudge.services.visits import Visits
from nudge.services.work_order import LONGEST_NOTE
from nudge.store.database import Database
from nudge.store.repositories import visits as visits_repository
from nudge.store.repositories import whole_visit
from nudge.store.tables import Visit
from nudge.store.visit_tables import GuestLink, Note

HOURS, MOST_HOURS = 4.0, 48.0
MOST_NOTES = 50


class LinkEnded(NotFound):
    """The link has ended, was revoked, or never was: the three look alike from outside."""

    def __init__(self) -> None:
        CoreError.__init__(self, "link", "This link has ended. Ask for a new one.")


@dataclass(frozen=True, slots=True)
class NewLink:
    """A link as it is handed out: the only time its token is known."""

    id: str
    token: str
    expires_at: datetime


class Guests:
    """The use cases of links into a visit."""

    def __init__(self, database: Database, clock: Clock, visits: Visits) -> None:
        self._database, self._clock, self._visits = database, clock, visits

    def invite(self, visit_id: str, hours: float = HOURS) -> NewLink:
        """A new link into a visit. Raises: NotFound; CoreError, for a time out of reason."""
        if not 0 < hours <= MOST_HOURS:
            raise CoreError("hours", f"A link lives up to {MOST_HOURS:g} hours.")
        token, now = token_urlsafe(24), self._clock()
        link_id = token_urlsafe(9)
        with self._database.writing() as session:
            if visits_repository.head(session, visit_id) is None:
                raise NotFound("visit", visit_id)
            expires = now + timedelta(hours=hours)
            session.add(
                GuestLink(
                    id=link_id,
                    visit_id=visit_id,
                    token_hash=_hash(token),
                    created_at=now,
                    expires_at=expires,
                    revoked_at=None,
                )
            )
        return NewLink(link_id, token, expires)

    def links(self, visit_id: str) -> list[GuestLink]:
        """The links of a visit that still live."""
        now = self._clock()
        with self._database.reading() as session:
            return [row for row in whole_visit.links(session, visit_id) if lives(row, now)]

    def revoke(self, visit_id: str, link_id: str) -> None:
        """End a link at once. Raises: NotFound."""
        with self._database.writing() as session:
            row = session.get(GuestLink, link_id)
            if row is None or row.visit_id != visit_id:
                raise NotFound("link", link_id)
            row.revoked_at = row.revoked_at or self._clock()

    def look(self, token: str) -> tuple[Snapshot, datetime]:
        """The visit a link shows, and when the link ends. Raises: LinkEnded."""
        link = self._link(token)
        return self._visits.snapshot(link.visit_id), link.expires_at

    def notes(self, token: str) -> list[Note]:
        link = self._link(token)
        with self._database.reading() as session:
            return whole_visit.notes(session, link.visit_id)

    def leave_note(self, token: str, note_id: str, text: str) -> None:
        """Leave a note on the visit from the office. Raises: LinkEnded, Closed, CoreError."""
        link = self._link(token)
        note_id = f"guest:{link.id}:{note_id}"  # a guest's ids are never a device's
        if not text.strip() or len(text) > LONGEST_NOTE:
            raise CoreError("note", f"Write something, at most {LONGEST_NOTE:,} letters.")

        def write(session: Session, _: Visit) -> None:
            kept = whole_visit.notes(session, link.visit_id)
            if any(row.id == note_id for row in kept):
                return
            if sum(row.written_from == "office" for row in kept) >= MOST_NOTES:
                raise CoreError("note", "There are many notes already. Ring them up.")
            session.add(
                Note(
                    id=note_id,
                    visit_id=link.visit_id,
                    subsystem="site",
                    text=text.strip(),
                    written_from="office",
                    corrects=None,
                    written_at=self._clock(),
                )
            )

        self._visits.amend(link.visit_id, write, note_id)

    def _link(self, token: str) -> GuestLink:
        with self._database.reading() as session:
            row = whole_visit.link_by_hash(session, _hash(token))
        if row is None or not lives(row, self._clock()):
            raise LinkEnded
        return row


def _hash(token: str) -> str:
    return sha256(token.encode("utf-8", "replace")).hexdigest()
