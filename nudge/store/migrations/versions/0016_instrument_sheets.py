"""Every sheet an instrument ever had: a visit is judged and printed by those of its own day."""

import sqlalchemy as sa
from alembic import op


revision = '0016'
down_revision = '0015'

MOVED = ('fixed', 'share', 'zeroed_at', 'calibrated_until', 'hoses_since')


def upgrade() -> None:
    op.create_table(
        'instrument_sheets',
        sa.Column('sequence', sa.Integer(), primary_key=True),
        sa.Column('instrument_id', sa.String(), sa.ForeignKey('instruments.id'), nullable=False),
        sa.Column('since', sa.DateTime(), nullable=False),
        sa.Column('fixed', sa.Double(), nullable=True),
        sa.Column('share', sa.Double(), nullable=True),
        sa.Column('zeroed_at', sa.DateTime(), nullable=True),
        sa.Column('calibrated_until', sa.Date(), nullable=True),
        sa.Column('hoses_since', sa.Date(), nullable=True),
    )
    op.create_index(
        'instrument_sheets_by_instrument', 'instrument_sheets', ['instrument_id', 'sequence']
    )
    names = ', '.join(MOVED)
    op.execute(
        f'INSERT INTO instrument_sheets (instrument_id, since, {names}) '
        f'SELECT id, created_at, {names} FROM instruments ORDER BY created_at'
    )
    for name in MOVED:
        op.execute(f'ALTER TABLE instruments DROP COLUMN {name}')
    for kind in ('UPDATE', 'DELETE'):
        op.execute(
            f'CREATE TRIGGER instrument_sheets_no_{kind.lower()} BEFORE {kind} '
            'ON instrument_sheets BEGIN SELECT RAISE(ABORT, '
            "'instrument_sheets is append-only'); END"
        )
