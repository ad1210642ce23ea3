"""A cold room's plate: set point, classes, receiver, head-pressure control, defrost."""

import sqlalchemy as sa
from alembic import op


revision = '0014'
down_revision = '0013'


def upgrade() -> None:
    for number in ('box_set_point_c', 'coil_class_k', 'condenser_class_k'):
        op.add_column('systems', sa.Column(number, sa.Double(), nullable=True))
    for word in ('has_receiver', 'head_pressure_control', 'defrost_kind'):
        op.add_column('systems', sa.Column(word, sa.String(), nullable=False, server_default=''))
