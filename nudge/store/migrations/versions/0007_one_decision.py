"""When a change may be read again, what an event says in words, the plate's design pressures."""

import sqlalchemy as sa
from alembic import op


revision = '0007'
down_revision = '0006'


def upgrade() -> None:
    op.add_column('events', sa.Column('ready_at', sa.DateTime(), nullable=True))
    op.add_column('events', sa.Column('note', sa.String(), nullable=True))
    op.add_column('systems', sa.Column('design_pressure_low_kpa', sa.Double(), nullable=True))
    op.add_column('systems', sa.Column('design_pressure_high_kpa', sa.Double(), nullable=True))
