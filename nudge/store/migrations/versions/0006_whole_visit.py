"""The whole visit: its kind and connection, steps, checks, notes, pictures; the system's book."""

from typing import Any

import sqlalchemy as sa
from alembic import op


revision = '0006'
down_revision = '0005'

APPEND_ONLY = ('ticks', 'checks', 'notes', 'baselines', 'intended_changes')


def upgrade() -> None:
    op.add_column('visits', sa.Column('kind', sa.String(), server_default='', nullable=False))
    op.add_column('visits', sa.Column('connection', sa.String(), server_default='', nullable=False))
    op.add_column('visits', sa.Column('drift', sa.String(), server_default='', nullable=False))
    op.add_column('systems', sa.Column('written_charge_kg', sa.Double(), nullable=True))
    op.add_column('systems', sa.Column('written_charge_at', sa.DateTime(), nullable=True))
    _rows('ticks', 'visit', ('step', 'state', 'reason'), 'ticked_at')
    op.create_table('checks', *_row('visit'),
    sa.Column('key', sa.String(), nullable=False),
    sa.Column('entries', sa.JSON(), nullable=False),
    sa.Column('checked_at', sa.DateTime(), nullable=False),
    *_row_ends('visit')
    )
    op.create_index('ix_checks_visit_id', 'checks', ['visit_id'])
    op.create_table('notes', *_row('visit'),
    sa.Column('subsystem', sa.String(), nullable=False),
    sa.Column('text', sa.String(), nullable=False),
    sa.Column('written_from', sa.String(), nullable=False),
    sa.Column('corrects', sa.String(), nullable=True),
    sa.Column('written_at', sa.DateTime(), nullable=False),
    *_row_ends('visit')
    )
    op.create_index('ix_notes_visit_id', 'notes', ['visit_id'])
    op.create_table('photos',
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('subsystem', sa.String(), nullable=False),
    sa.Column('caption', sa.String(), nullable=False),
    sa.Column('width', sa.Integer(), nullable=False),
    sa.Column('height', sa.Integer(), nullable=False),
    sa.Column('picture', sa.LargeBinary(), nullable=False),
    sa.Column('small', sa.LargeBinary(), nullable=False),
    sa.Column('taken_at', sa.DateTime(), nullable=False),
    sa.Column('removed_at', sa.DateTime(), nullable=True),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_index('ix_photos_visit_id', 'photos', ['visit_id'])
    op.create_table('baselines', *_row('system'),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('kept', sa.JSON(), nullable=True),
    sa.Column('set_at', sa.DateTime(), nullable=False),
    *_row_ends('system'),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id'])
    )
    op.create_index('ix_baselines_system_id', 'baselines', ['system_id'])
    op.create_table('intended_changes', *_row('system'),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('key', sa.String(), nullable=False),
    sa.Column('note', sa.String(), nullable=False),
    sa.Column('corrects', sa.String(), nullable=True),
    sa.Column('happened_at', sa.DateTime(), nullable=False),
    *_row_ends('system'),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id'])
    )
    op.create_index('ix_intended_changes_system_id', 'intended_changes', ['system_id'])
    op.create_table('deferred',
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('system_id', sa.String(), nullable=False),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('text', sa.String(), nullable=False),
    sa.Column('season', sa.String(), nullable=False),
    sa.Column('due_on', sa.Date(), nullable=True),
    sa.Column('created_at', sa.DateTime(), nullable=False),
    sa.Column('done_at', sa.DateTime(), nullable=True),
    sa.ForeignKeyConstraint(['system_id'], ['systems.id']),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_index('ix_deferred_system_id', 'deferred', ['system_id'])
    op.create_table('guest_links',
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('token_hash', sa.String(), nullable=False),
    sa.Column('created_at', sa.DateTime(), nullable=False),
    sa.Column('expires_at', sa.DateTime(), nullable=False),
    sa.Column('revoked_at', sa.DateTime(), nullable=True),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('id'),
    sa.UniqueConstraint('token_hash')
    )
    op.create_index('ix_guest_links_visit_id', 'guest_links', ['visit_id'])
    # What Today and a system's page ask for, with years of visits behind them.
    op.create_index('visits_by_system', 'visits', ['system_id', 'closed_at'])
    op.create_index('visits_drift', 'visits', ['drift'])
    op.create_index('visits_closed', 'visits', ['closed_at'])
    op.create_index('visits_due', 'visits', ['opened_at', 'due_on'])
    for table in APPEND_ONLY:
        for verb in ('UPDATE', 'DELETE'):
            op.execute(
                f"CREATE TRIGGER {table}_no_{verb.lower()} BEFORE {verb} ON {table} "
                f"BEGIN SELECT RAISE(ABORT, '{table} only grows'); END"
            )


def _row(of: str) -> list[sa.Column[Any]]:
    return [
        sa.Column('sequence', sa.Integer(), autoincrement=True, nullable=False),
        sa.Column('id', sa.String(), nullable=False),
        sa.Column(f'{of}_id', sa.String(), nullable=False),
    ]


def _row_ends(of: str) -> list[sa.Constraint]:
    return [
        sa.ForeignKeyConstraint([f'{of}_id'], [f'{of}s.id']),
        sa.PrimaryKeyConstraint('sequence'),
        sa.UniqueConstraint('id'),
    ]


def _rows(table: str, of: str, texts: tuple[str, ...], moment: str) -> None:
    columns = [sa.Column(name, sa.String(), nullable=False) for name in texts]
    op.create_table(table, *_row(of), *columns,
                    sa.Column(moment, sa.DateTime(), nullable=False), *_row_ends(of))
    op.create_index(f'ix_{table}_{of}_id', table, [f'{of}_id'])
