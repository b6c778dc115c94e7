"""Runs that are worked to the clock are found by a key of their own."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("run", sa.Column("key", sa.String(32), nullable=True))
    op.create_index("ix_run_key", "run", ["key"], unique=True)
