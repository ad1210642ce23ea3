"""Tests with time: what each was begun with, and what was typed, noted and proven in it."""

import sqlalchemy as sa
from alembic import op


revision = '0011'
down_revision = '0010'


def upgrade() -> None:
    op.create_table(
        'test_runs',
        sa.Column('sequence', sa.Integer(), primary_key=True, autoincrement=True),
        sa.Column('id', sa.String(), nullable=False, unique=True),
        sa.Column('visit_id', sa.String(), sa.ForeignKey('visits.id'), nullable=False),
        sa.Column('key', sa.String(), nullable=False),
        sa.Column('settings', sa.JSON(), nullable=False),
        sa.Column('began_at', sa.DateTime(), nullable=False),
        sa.Column('written_by', sa.String(), nullable=True),
    )
    op.create_table(
        'test_entries',
        sa.Column('sequence', sa.Integer(), primary_key=True, autoincrement=True),
        sa.Column('id', sa.String(), nullable=False, unique=True),
        sa.Column('visit_id', sa.String(), sa.ForeignKey('visits.id'), nullable=False),
        sa.Column('run_id', sa.String(), nullable=False),
        sa.Column('kind', sa.String(), nullable=False),
        sa.Column('point', sa.String(), nullable=False),
        sa.Column('value', sa.Double(), nullable=True),
        sa.Column('note', sa.String(), nullable=False),
        sa.Column('place', sa.String(), nullable=False),
        sa.Column('proved', sa.JSON(), nullable=False),
        sa.Column('happened_at', sa.DateTime(), nullable=False),
        sa.Column('written_by', sa.String(), nullable=True),
    )
    op.create_index('ix_test_runs_visit_id', 'test_runs', ['visit_id'])
    op.create_index('ix_test_entries_visit_id', 'test_entries', ['visit_id'])
    op.create_index('ix_test_entries_run_id', 'test_entries', ['run_id'])
    for table in ('test_runs', 'test_entries'):
        for verb in ('UPDATE', 'DELETE'):
            op.execute(
                f"CREATE TRIGGER {table}_no_{verb.lower()} BEFORE {verb} ON {table} "
                f"BEGIN SELECT RAISE(ABORT, '{table} only grows'); END"
            )
