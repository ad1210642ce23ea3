"""Alembic's entry: runs migrations on the connection `store.database.migrate` hands it."""

from alembic import context

from nudge.store import live_tables, shelf_tables, visit_tables  # noqa: F401  their tables too
from nudge.store.tables import Base

context.configure(
    connection=context.config.attributes["connection"],
    target_metadata=Base.metadata,
    render_as_batch=True,
)
with context.begin_transaction():
    context.run_migrations()
