"""What was taken over from wear records, with what it rests on and when; undone ones stay listed."""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "taken_over",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("sitter_id", sa.String(32), sa.ForeignKey("sitter.id", ondelete="CASCADE"), nullable=True),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_index("ix_taken_over_sitter_id", "taken_over", ["sitter_id"])
