"""Photographs beside looks: in the database, so that they go with every backup and are erased with the sitter."""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "photo",
        sa.Column("key", sa.String(32), primary_key=True),
        sa.Column("wear_id", sa.Integer, sa.ForeignKey("wear.id", ondelete="CASCADE"), nullable=False),
        sa.Column("picture", sa.LargeBinary, nullable=False),
    )
    op.create_index("ix_photo_wear_id", "photo", ["wear_id"])
