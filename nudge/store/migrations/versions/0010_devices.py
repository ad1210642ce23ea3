"""Which device wrote each row; paired devices; every write that came with an id; indexes by visit."""

import sqlalchemy as sa
from alembic import op


revision = '0010'
down_revision = '0009'

WRITTEN = (
    'charts',
    'callouts',
    'readings',
    'observations',
    'events',
    'slips',
    'ticks',
    'checks',
    'notes',
    'photos',
    'baselines',
    'intended_changes',
    'deferred',
    'movements',
    'weighings',
    'placements',
    'overrides',
    'imports',
)


def upgrade() -> None:
    for table in WRITTEN:
        op.add_column(table, sa.Column('written_by', sa.String(), nullable=True))
    op.create_table(
        'entries',
        sa.Column('id', sa.String(), primary_key=True),
        sa.Column('digest', sa.String(), nullable=False),
    )
    op.create_table(
        'devices',
        sa.Column('id', sa.String(), primary_key=True),
        sa.Column('name', sa.String(), nullable=False),
        sa.Column('role', sa.String(), nullable=False),
        sa.Column('token_hash', sa.String(), nullable=False),
        sa.Column('paired_at', sa.DateTime(), nullable=False),
        sa.Column('seen_at', sa.DateTime(), nullable=False),
        sa.Column('revoked_at', sa.DateTime(), nullable=True),
    )
    op.create_table(
        'taken_in',
        sa.Column('id', sa.String(), primary_key=True),
        sa.Column('taken_at', sa.DateTime(), nullable=False),
        sa.Column('said', sa.String(), nullable=False),
        sa.Column('brought', sa.JSON(), nullable=False),
        sa.Column('undone_at', sa.DateTime(), nullable=True),
    )
    op.create_index('ix_movements_visit_id', 'movements', ['visit_id'])
