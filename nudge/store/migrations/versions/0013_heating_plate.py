"""A heat pump's plate in winter: its two rating points, strips, lockouts, what its house loses."""

import sqlalchemy as sa
from alembic import op


revision = '0013'
down_revision = '0012'

NUMBERS = (
    'heat_47_w',
    'heat_17_w',
    'power_47_w',
    'power_17_w',
    'lowest_outdoor_c',
    'strips_kw',
    'strips_off_over_c',
    'compressor_off_under_c',
    'house_loss_w_k',
)


def upgrade() -> None:
    for number in NUMBERS:
        op.add_column('systems', sa.Column(number, sa.Double(), nullable=True))
