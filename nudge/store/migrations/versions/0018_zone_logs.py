"""Logs of multi-zone plants, and the drawings of their parts."""

import sqlalchemy as sa
from alembic import op


revision = '0018'
down_revision = '0017'


def upgrade() -> None:
    op.create_table(
        'zone_drawings',
        sa.Column('system_id', sa.String(), sa.ForeignKey('systems.id'), primary_key=True),
        sa.Column('parts', sa.JSON(), nullable=False),
        sa.Column('updated_at', sa.DateTime(), nullable=False),
    )
    op.create_table(
        'zone_logs',
        sa.Column('visit_id', sa.String(), sa.ForeignKey('visits.id'), primary_key=True),
        sa.Column('files', sa.JSON(), nullable=False),
        sa.Column('parts', sa.JSON(), nullable=False),
        sa.Column('signs', sa.JSON(), nullable=False),
        sa.Column('remarks', sa.JSON(), nullable=False),
        sa.Column('data', sa.LargeBinary(), nullable=False),
        sa.Column('taken_at', sa.DateTime(), nullable=False),
    )
