"""The first tables, and the triggers that keep the record append-only."""

import sqlalchemy as sa
from alembic import op


revision = '0001'
down_revision = None

APPEND_ONLY = ('callouts', 'readings', 'observations', 'events', 'verdicts')


def upgrade() -> None:
    op.create_table('sites',
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('name', sa.String(), nullable=False),
    sa.Column('note', sa.String(), nullable=False),
    sa.Column('created_at', sa.DateTime(), nullable=False),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_table('systems',
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('site_id', sa.String(), nullable=False),
    sa.Column('name', sa.String(), nullable=False),
    sa.Column('note', sa.String(), nullable=False),
    sa.Column('refrigerant', sa.String(), nullable=False),
    sa.Column('metering_device', sa.String(), nullable=False),
    sa.Column('application', sa.String(), nullable=False),
    sa.Column('nominal_capacity_w', sa.Double(), nullable=True),
    sa.Column('rated_seer', sa.Double(), nullable=True),
    sa.Column('target_subcooling_k', sa.Double(), nullable=True),
    sa.Column('target_superheat_k', sa.Double(), nullable=True),
    sa.Column('condensing_over_ambient_k', sa.Double(), nullable=True),
    sa.Column('approach_k', sa.Double(), nullable=True),
    sa.Column('elevation_m', sa.Double(), nullable=False),
    sa.Column('line_set_length_m', sa.Double(), nullable=True),
    sa.Column('created_at', sa.DateTime(), nullable=False),
    sa.Column('updated_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['site_id'], ['sites.id']),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_index('ix_systems_site_id', 'systems', ['site_id'])

    op.create_table('visits',
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('system_id', sa.String(), nullable=False),
    sa.Column('complaint', sa.String(), nullable=False),
    sa.Column('due_on', sa.Date(), nullable=True),
    sa.Column('opened_at', sa.DateTime(), nullable=True),
    sa.Column('closed_at', sa.DateTime(), nullable=True),
    sa.Column('created_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['system_id'], ['systems.id']),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_index('ix_visits_system_id', 'visits', ['system_id'])
    op.create_index('visits_by_state', 'visits', ['closed_at', 'opened_at'])

    op.create_table('callouts',
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('text', sa.String(), nullable=False),
    sa.Column('heard_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_index('ix_callouts_visit_id', 'callouts', ['visit_id'])

    op.create_table('events',
    sa.Column('sequence', sa.Integer(), autoincrement=True, nullable=False),
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('kind', sa.String(), nullable=False),
    sa.Column('happened_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('sequence'),
    sa.UniqueConstraint('id')
    )
    op.create_index('ix_events_visit_id', 'events', ['visit_id'])

    op.create_table('observations',
    sa.Column('sequence', sa.Integer(), autoincrement=True, nullable=False),
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('key', sa.String(), nullable=False),
    sa.Column('seen', sa.Boolean(), nullable=False),
    sa.Column('noted_at', sa.DateTime(), nullable=False),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('sequence'),
    sa.UniqueConstraint('id')
    )
    op.create_index('ix_observations_visit_id', 'observations', ['visit_id'])

    op.create_table('verdicts',
    sa.Column('sequence', sa.Integer(), autoincrement=True, nullable=False),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('given_at', sa.DateTime(), nullable=False),
    sa.Column('version', sa.String(), nullable=False),
    sa.Column('request', sa.JSON(), nullable=False),
    sa.Column('answer', sa.JSON(), nullable=False),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.PrimaryKeyConstraint('sequence')
    )
    op.create_index('ix_verdicts_visit_id', 'verdicts', ['visit_id'])

    op.create_table('readings',
    sa.Column('sequence', sa.Integer(), autoincrement=True, nullable=False),
    sa.Column('id', sa.String(), nullable=False),
    sa.Column('visit_id', sa.String(), nullable=False),
    sa.Column('callout_id', sa.String(), nullable=True),
    sa.Column('point', sa.String(), nullable=False),
    sa.Column('given_value', sa.Double(), nullable=False),
    sa.Column('given_unit', sa.String(), nullable=False),
    sa.Column('source', sa.String(), nullable=False),
    sa.Column('quality', sa.String(), nullable=False),
    sa.Column('taken_at', sa.DateTime(), nullable=False),
    sa.Column('recorded_at', sa.DateTime(), nullable=False),
    sa.Column('corrects', sa.String(), nullable=True),
    sa.Column('withdraws', sa.String(), nullable=True),
    sa.ForeignKeyConstraint(['callout_id'], ['callouts.id']),
    sa.ForeignKeyConstraint(['corrects'], ['readings.id']),
    sa.ForeignKeyConstraint(['visit_id'], ['visits.id']),
    sa.ForeignKeyConstraint(['withdraws'], ['readings.id']),
    sa.PrimaryKeyConstraint('sequence'),
    sa.UniqueConstraint('id')
    )
    op.create_index('ix_readings_visit_id', 'readings', ['visit_id'])

    for table in APPEND_ONLY:
        for verb in ("UPDATE", "DELETE"):
            op.execute(
                f"CREATE TRIGGER {table}_no_{verb.lower()} BEFORE {verb} ON {table} "
                f"BEGIN SELECT RAISE(ABORT, '{table} is append-only'); END"
            )
