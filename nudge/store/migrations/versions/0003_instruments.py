"""Channels and their samples, placements, the journal, overrides, imports, simulated plants."""

import sqlalchemy as sa
from alembic import op


revision = '0003'
down_revision = '0002'

APPEND_ONLY = ('placements', 'journal', 'overrides')


def upgrade() -> None:
    op.create_table('channels',
    sa.Column('id', sa.Integer(), autoincrement=True, nullable=False),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('key', sa.String(), nullable=False),
    sa.Column('label', sa.String(), nullable=False),
    sa.Column('source', sa.String(), nullable=False),
    sa.Column('created_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('id'),
    sa.UniqueConstraint('visit_id', 'key')
    )
    op.create_table('placements',
    sa.Column('sequence', sa.Integer(), autoincrement=True, nullable=False),
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('channel_id', sa.Integer(), nullable=False),
    sa.Column('point', sa.String(), nullable=False),
    sa.Column('counts', sa.Boolean(), nullable=False),
    sa.Column('offset', sa.Double(), nullable=False),
    sa.Column('since_ms', sa.Integer(), nullable=False),
    sa.Column('how', sa.String(), nullable=False),
    sa.Column('recorded_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['channel_id'], ['channels.id']),
    sa.PrimaryKeyConstraint('sequence'),
    sa.UniqueConstraint('id')
    )
    op.create_index('ix_placements_channel_id', 'placements', ['channel_id'])
    op.create_table('samples',
    sa.Column('channel_id', sa.Integer(), nullable=False),
    sa.Column('at_ms', sa.Integer(), nullable=False),
    sa.Column('value', sa.Double(), nullable=False),
    sa.ForeignKeyConstraint(['channel_id'], ['channels.id']),
    sa.PrimaryKeyConstraint('channel_id', 'at_ms'),
    sqlite_with_rowid=False
    )
    op.create_table('rollups',
    sa.Column('channel_id', sa.Integer(), nullable=False),
    sa.Column('minute', sa.Integer(), nullable=False),
    sa.Column('count', sa.Integer(), nullable=False),
    sa.Column('mean', sa.Double(), nullable=False),
    sa.Column('low', sa.Double(), nullable=False),
    sa.Column('high', sa.Double(), nullable=False),
    sa.ForeignKeyConstraint(['channel_id'], ['channels.id']),
    sa.PrimaryKeyConstraint('channel_id', 'minute'),
    sqlite_with_rowid=False
    )
    op.create_table('journal',
    sa.Column('sequence', sa.Integer(), autoincrement=True, nullable=False),
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('kind', sa.String(), nullable=False),
    sa.Column('body', sa.JSON(), nullable=False),
    sa.Column('recorded_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('sequence'),
    sa.UniqueConstraint('visit_id', 'id')
    )
    op.create_index('journal_by_visit', 'journal', ['visit_id', 'sequence'])
    op.create_table('overrides',
    sa.Column('sequence', sa.Integer(), autoincrement=True, nullable=False),
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('gate', sa.String(), nullable=False),
    sa.Column('reason', sa.String(), nullable=False),
    sa.Column('given_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('sequence'),
    sa.UniqueConstraint('id')
    )
    op.create_index('ix_overrides_visit_id', 'overrides', ['visit_id'])
    op.create_table('imports',
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('file_name', sa.String(), nullable=False),
    sa.Column('state', sa.String(), nullable=False),
    sa.Column('message', sa.String(), nullable=False),
    sa.Column('readings', sa.Integer(), nullable=False),
    sa.Column('refused', sa.Integer(), nullable=False),
    sa.Column('bytes_read', sa.Integer(), nullable=False),
    sa.Column('bytes_in_all', sa.Integer(), nullable=False),
    sa.Column('started_at', sa.DateTime(), nullable=False),
    sa.Column('ended_at', sa.DateTime(), nullable=True),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_index('ix_imports_visit_id', 'imports', ['visit_id'])
    op.create_table('column_mappings',
    sa.Column('heading', sa.String(), nullable=False),
    sa.Column('mapping', sa.JSON(), nullable=False),
    sa.Column('updated_at', sa.DateTime(), nullable=False),
    sa.PrimaryKeyConstraint('heading')
    )
    op.create_table('plants',
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('scene', sa.JSON(), nullable=False),
    sa.Column('state', sa.JSON(), nullable=False),
    sa.Column('updated_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('visit_id')
    )

    op.execute(
        "CREATE TRIGGER samples_no_update BEFORE UPDATE ON samples "
        "BEGIN SELECT RAISE(ABORT, 'samples is append-only'); END"
    )
    # What an import that was cancelled or cut short had written may be taken out again.
    op.execute(
        "CREATE TRIGGER samples_no_delete BEFORE DELETE ON samples "
        "WHEN (SELECT source FROM channels WHERE id = OLD.channel_id) <> 'importing' "
        "BEGIN SELECT RAISE(ABORT, 'samples is append-only'); END"
    )
    for table in APPEND_ONLY:
        for verb in ("UPDATE", "DELETE"):
            op.execute(
                f"CREATE TRIGGER {table}_no_{verb.lower()} BEFORE {verb} ON {table} "
                f"BEGIN SELECT RAISE(ABORT, '{table} is append-only'); END"
            )
