"""The instruments register: what a workshop carries, its own ±, zeroed when, calibrated until."""

import sqlalchemy as sa
from alembic import op


revision = '0015'
down_revision = '0014'


def upgrade() -> None:
    op.create_table(
        'instruments',
        sa.Column('id', sa.String(), primary_key=True),
        sa.Column('name', sa.String(), nullable=False),
        sa.Column('sort', sa.String(), nullable=False),
        sa.Column('fixed', sa.Double(), nullable=True),
        sa.Column('share', sa.Double(), nullable=True),
        sa.Column('zeroed_at', sa.DateTime(), nullable=True),
        sa.Column('calibrated_until', sa.Date(), nullable=True),
        sa.Column('hoses_since', sa.Date(), nullable=True),
        sa.Column('created_at', sa.DateTime(), nullable=False),
        sa.Column('retired_at', sa.DateTime(), nullable=True),
    )
