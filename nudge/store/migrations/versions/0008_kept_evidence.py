"""What a verdict keeps for later judgements, in core units beside the printed answer."""

import sqlalchemy as sa
from alembic import op


revision = '0008'
down_revision = '0007'


def upgrade() -> None:
    # Verdicts are never rewritten: older ones have none, and are read from what was printed.
    op.add_column('verdicts', sa.Column('kept', sa.JSON(), nullable=True))
