"""Cylinders say what they may take; a machine's settings are kept from visit to visit."""

import sqlalchemy as sa
from alembic import op


revision = '0012'
down_revision = '0011'


def upgrade() -> None:
    for column in (
        sa.Column('condition', sa.String(), nullable=False, server_default='clean'),
        sa.Column('takes_flammable', sa.Boolean(), nullable=False, server_default=sa.false()),
        sa.Column('rated_kpa', sa.Double(), nullable=True),
        sa.Column('tested_until', sa.Date(), nullable=True),
    ):
        op.add_column('cylinders', column)
    op.create_table(
        'machine_settings',
        sa.Column('sequence', sa.Integer(), primary_key=True, autoincrement=True),
        sa.Column('id', sa.String(), nullable=False, unique=True),
        sa.Column('visit_id', sa.String(), sa.ForeignKey('visits.id'), nullable=False),
        sa.Column('name', sa.String(), nullable=False),
        sa.Column('mode', sa.String(), nullable=False),
        sa.Column('usual', sa.String(), nullable=False),
        sa.Column('value', sa.String(), nullable=False),
        sa.Column('reason', sa.String(), nullable=False),
        sa.Column('set_at', sa.DateTime(), nullable=False),
        sa.Column('written_by', sa.String(), nullable=True),
    )
    op.create_index('ix_machine_settings_visit_id', 'machine_settings', ['visit_id'])
    for verb in ('UPDATE', 'DELETE'):
        op.execute(
            f"CREATE TRIGGER machine_settings_no_{verb.lower()} BEFORE {verb} ON machine_settings "
            "BEGIN SELECT RAISE(ABORT, 'machine_settings only grows'); END"
        )
