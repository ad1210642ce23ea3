"""Readings are addressed by part and point: which part of a plant of many they were taken on."""

import sqlalchemy as sa
from alembic import op


revision = '0009'
down_revision = '0008'


def upgrade() -> None:
    op.add_column('readings', sa.Column('part', sa.String(), nullable=True))
