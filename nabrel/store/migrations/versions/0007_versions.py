"""Shelf items, tools, kits and decisions carry a version; no two rows of a list stand at one place."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

PLACED = ("sitter", "kit_item", "tool", "named_kit")
VERSIONED = ("kit_item", "tool", "named_kit", "decision")


def upgrade() -> None:
    connection = op.get_bind()
    for table in VERSIONED:
        op.add_column(table, sa.Column("version", sa.Integer, nullable=False, server_default="1"))
    for table in PLACED:
        rows = connection.execute(sa.text(f"SELECT id FROM {table} ORDER BY position, rowid")).scalars().all()
        for place, row in enumerate(rows, start=1):
            connection.execute(sa.text(f"UPDATE {table} SET position = :place WHERE id = :id"), {"place": place, "id": row})
        op.create_index(f"ix_{table}_position", table, ["position"], unique=True)
