"""First tables: sitters, kit, sequences and their revisions."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "sitter",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column("nickname", sa.String(60), nullable=False),
        sa.Column("position", sa.Integer, nullable=False),
        sa.Column("sitter", sa.Text, nullable=False),
        sa.Column("intent", sa.Text, nullable=False),
        sa.Column("created_at", sa.DateTime, nullable=False),
        sa.Column("changed_at", sa.DateTime, nullable=False),
    )
    op.create_index("ix_sitter_nickname", "sitter", ["nickname"])
    op.create_table(
        "kit_item",
        sa.Column("id", sa.String(60), primary_key=True),
        sa.Column("role", sa.String(30), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("position", sa.Integer, nullable=False),
        sa.Column("item", sa.Text, nullable=False),
        sa.Column("created_at", sa.DateTime, nullable=False),
    )
    op.create_index("ix_kit_item_role", "kit_item", ["role"])
    op.create_table(
        "sequence",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column("sitter_id", sa.String(32), sa.ForeignKey("sitter.id", ondelete="CASCADE"), nullable=False),
        sa.Column("title", sa.String(120), nullable=False),
        sa.Column("school", sa.String(30), nullable=False),
        sa.Column("head", sa.Integer, nullable=False),
        sa.Column("created_at", sa.DateTime, nullable=False),
        sa.Column("changed_at", sa.DateTime, nullable=False),
    )
    op.create_index("ix_sequence_sitter_id", "sequence", ["sitter_id"])
    op.create_table(
        "revision",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("sequence_id", sa.String(32), sa.ForeignKey("sequence.id", ondelete="CASCADE"), nullable=False),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("parent", sa.Integer, nullable=True),
        sa.Column("says", sa.String(300), nullable=False),
        sa.Column("document", sa.Text, nullable=False),
        sa.Column("created_at", sa.DateTime, nullable=False),
        sa.UniqueConstraint("sequence_id", "number"),
    )
    op.create_index("ix_revision_sequence_id", "revision", ["sequence_id"])
