"""Charts of a system, settings, slips sent from the Pocket, and the plate's charge figures."""

import sqlalchemy as sa
from alembic import op


revision = '0002'
down_revision = '0001'

APPEND_ONLY = ('charts', 'slips')
NUMBERS = (
    'rated_airflow_lps', 'factory_charge_kg', 'line_length_included_m', 'charge_g_per_m',
    'liquid_line_mm', 'vapour_line_mm', 'coil_adder_g', 'drier_adder_g',
)


def upgrade() -> None:
    for name in NUMBERS:
        op.add_column('systems', sa.Column(name, sa.Double(), nullable=True))
    for name in ('indoor_unit', 'blower_tap', 'method'):
        op.add_column('systems', sa.Column(name, sa.String(), nullable=False, server_default=''))

    op.create_table('charts',
    sa.Column('sequence', sa.Integer(), autoincrement=True, nullable=False),
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('system_id', sa.String(), nullable=False),
    sa.Column('kind', sa.String(), nullable=False),
    sa.Column('text', sa.String(), nullable=False),
    sa.Column('units', sa.String(), nullable=False),
    sa.Column('recorded_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['system_id'], ['systems.id']),
    sa.PrimaryKeyConstraint('sequence'),
    sa.UniqueConstraint('id')
    )
    op.create_index('ix_charts_system_id', 'charts', ['system_id'])

    op.create_table('settings',
    sa.Column('key', sa.String(), nullable=False),
    sa.Column('value', sa.String(), nullable=False),
    sa.Column('updated_at', sa.DateTime(), nullable=False),
    sa.PrimaryKeyConstraint('key')
    )

    op.create_table('slips',
    sa.Column('sequence', sa.Integer(), autoincrement=True, nullable=False),
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('slip', sa.String(), nullable=False),
    sa.Column('entries', sa.JSON(), nullable=False),
    sa.Column('units', sa.String(), nullable=False),
    sa.Column('sent_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('sequence'),
    sa.UniqueConstraint('id')
    )
    op.create_index('ix_slips_visit_id', 'slips', ['visit_id'])

    for table in APPEND_ONLY:
        for verb in ("UPDATE", "DELETE"):
            op.execute(
                f"CREATE TRIGGER {table}_no_{verb.lower()} BEFORE {verb} ON {table} "
                f"BEGIN SELECT RAISE(ABORT, '{table} is append-only'); END"
            )
