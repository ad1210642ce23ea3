"""Cylinders, the ledger of movements, weighings; what stands in place of a mistyped event."""

import sqlalchemy as sa
from alembic import op


revision = '0005'
down_revision = '0004'

APPEND_ONLY = ('movements', 'weighings')


def upgrade() -> None:
    op.add_column('events', sa.Column('corrects', sa.String(), nullable=True))
    op.create_table('cylinders',
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('name', sa.String(), nullable=False),
    sa.Column('refrigerant', sa.String(), nullable=False),
    sa.Column('kind', sa.String(), nullable=False),
    sa.Column('tare_mg', sa.Integer(), nullable=False),
    sa.Column('water_mg', sa.Integer(), nullable=True),
    sa.Column('created_at', sa.DateTime(), nullable=False),
    sa.Column('retired_at', sa.DateTime(), nullable=True),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_table('movements',
    sa.Column('sequence', sa.Integer(), autoincrement=True, nullable=False),
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('kind', sa.String(), nullable=False),
    sa.Column('mg', sa.Integer(), nullable=False),
    sa.Column('cylinder_id', sa.String(), nullable=False),
    sa.Column('to_cylinder_id', sa.String(), nullable=True),
    sa.Column('system_id', sa.String(), nullable=True),
    sa.Column('visit_id', sa.String(), nullable=True),
    sa.Column('note', sa.String(), nullable=False),
    sa.Column('corrects', sa.String(), nullable=True),
    sa.Column('happened_at', sa.DateTime(), nullable=False),
    sa.Column('recorded_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['cylinder_id'], ['cylinders.id']),
    sa.ForeignKeyConstraint(['to_cylinder_id'], ['cylinders.id']),
    sa.ForeignKeyConstraint(['system_id'], ['systems.id']),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('sequence'),
    sa.UniqueConstraint('id')
    )
    op.create_index('ix_movements_cylinder_id', 'movements', ['cylinder_id'])
    op.create_index('ix_movements_system_id', 'movements', ['system_id'])
    op.create_table('weighings',
    sa.Column('sequence', sa.Integer(), autoincrement=True, nullable=False),
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('cylinder_id', sa.String(), nullable=False),
    sa.Column('visit_id', sa.String(), nullable=True),
    sa.Column('gross_mg', sa.Integer(), nullable=False),
    sa.Column('weighed_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['cylinder_id'], ['cylinders.id']),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('sequence'),
    sa.UniqueConstraint('id')
    )
    op.create_index('ix_weighings_cylinder_id', 'weighings', ['cylinder_id'])
    for table in APPEND_ONLY:
        for verb in ('UPDATE', 'DELETE'):
            op.execute(
                f"CREATE TRIGGER {table}_no_{verb.lower()} BEFORE {verb} ON {table} "
                f"BEGIN SELECT RAISE(ABORT, '{table} only grows'); END"
            )
