"""What went in or came out with an event; whether a system has a reversing valve."""

import sqlalchemy as sa
from alembic import op


revision = '0004'
down_revision = '0003'


def upgrade() -> None:
    op.add_column('events', sa.Column('amount_kg', sa.Double(), nullable=True))
    op.add_column('systems',
    sa.Column('reversing_valve', sa.String(), server_default='', nullable=False))
