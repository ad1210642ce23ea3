"""A vehicle's second evaporator, on its plate."""

import sqlalchemy as sa
from alembic import op


revision = '0017'
down_revision = '0016'


def upgrade() -> None:
    op.add_column(
        'systems', sa.Column('second_evaporator', sa.String(), nullable=False, server_default='')
    )
