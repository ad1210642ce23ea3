"""Taking an import out again: its own rows and nothing else, in one transaction.

The record is append-only, by triggers. They are put aside and back within the transaction, so
that either all of an import is gone and they stand, or nothing was changed.
"""

from collections.abc import Sequence

from sqlalchemy import bindparam, literal_column, select, text
from sqlalchemy.orm import Session

from nudge.store.tables import Base, TakenBundle

CHANNELS = ("rollups", "samples", "placements", "channels")
"""What an instrument of a visit left, the last written first."""
OF_VISITS = ("verdicts", "journal", "guest_links", "plants", "zone_logs")
"""What has no number of its own, but its visit's."""
DRAWN = "zone_drawings"
"""Of plants drawn by the logs an import brought: they have no number of their own either."""
MOST_NAMED = 5


def bundles(session: Session) -> list[TakenBundle]:
    # Two may share a moment: the row's number says which came later.
    query = select(TakenBundle).order_by(
        TakenBundle.taken_at.desc(), literal_column("taken_in.rowid").desc()
    )
    return list(session.scalars(query))


def written_since(session: Session, taken: TakenBundle) -> list[str]:
    """Tables with rows on what the import brought that it did not bring itself."""
    found = []
    visits, systems = (taken.brought.get(key, []) for key in ("visits", "systems"))
    for name, table in Base.metadata.tables.items():
        own = set(taken.brought.get(name, ()))
        for column, ids in (("visit_id", visits), ("system_id", systems)):
            if not ids or column not in table.c or "id" not in table.c or name in CHANNELS:
                continue
            if name in ("journal", "guest_links"):
                continue
            query = select(table.c.id).where(table.c[column].in_(ids))
            if any(str(key) not in own for key in session.scalars(query)):
                found.append(name)
    return sorted(set(found))[:MOST_NAMED]


def take_out(session: Session, taken: TakenBundle) -> None:
    """Delete the rows an import brought, and what hangs on its visits alone."""
    triggers = session.execute(
        text("SELECT name, sql FROM sqlite_master WHERE type='trigger'")
    ).fetchall()
    for name, _ in triggers:
        session.execute(text(f'DROP TRIGGER "{name}"'))
    session.execute(text("PRAGMA defer_foreign_keys=ON"))
    visits = taken.brought.get("visits", [])
    for name in CHANNELS:
        _delete_of_channels(session, name, visits)
    for name in OF_VISITS:
        _delete(session, name, "visit_id", visits)
    drawn = {*taken.brought.get("systems", ()), *taken.brought.get(DRAWN, ())}
    _delete(session, DRAWN, "system_id", sorted(drawn))
    for name in reversed([table.name for table in Base.metadata.sorted_tables]):
        if name in taken.brought and name not in (*OF_VISITS, DRAWN):
            _delete(session, name, "id", taken.brought[name])
    for _, sql in triggers:
        session.execute(text(sql))


def _delete(session: Session, table: str, column: str, ids: Sequence[str]) -> None:
    query = text(f'DELETE FROM "{table}" WHERE {column} IN :ids')
    session.execute(query.bindparams(bindparam("ids", expanding=True)), {"ids": list(ids)})


def _delete_of_channels(session: Session, table: str, visits: Sequence[str]) -> None:
    if table == "channels":
        _delete(session, table, "visit_id", visits)
        return
    query = text(
        f'DELETE FROM "{table}" WHERE channel_id IN '
        "(SELECT id FROM channels WHERE visit_id IN :ids)"
    )
    session.execute(query.bindparams(bindparam("ids", expanding=True)), {"ids": list(visits)})
