"""A plant’s factory charge stands on its plate alone; every plant with logs has a drawing."""

import json

import sqlalchemy as sa
from alembic import op


revision = '0019'
down_revision = '0018'

_DRAWN_BY_LOGS = """
    INSERT INTO zone_drawings (system_id, parts, updated_at)
    SELECT visits.system_id, zone_logs.parts, max(zone_logs.taken_at)
    FROM zone_logs JOIN visits ON visits.id = zone_logs.visit_id
    WHERE visits.system_id NOT IN (SELECT system_id FROM zone_drawings)
    GROUP BY visits.system_id
"""
_WRITTEN = 'UPDATE systems SET factory_charge_kg = :kg WHERE id = :id AND factory_charge_kg IS NULL'


def upgrade() -> None:
    link = op.get_bind()
    link.execute(sa.text(_DRAWN_BY_LOGS))
    drawn = link.execute(sa.text('SELECT system_id, parts FROM zone_drawings')).all()
    for system_id, text in drawn:
        if kg := json.loads(text).get('factory_charge_kg'):
            link.execute(sa.text(_WRITTEN), {'kg': kg, 'id': system_id})
    for table in ('zone_drawings', 'zone_logs'):
        link.execute(
            sa.text(f"UPDATE {table} SET parts = json_remove(parts, '$.factory_charge_kg')")
        )
