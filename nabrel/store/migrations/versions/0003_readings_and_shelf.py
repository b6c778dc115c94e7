"""Dated readings, tools, named kits and runs; versions of a sitter's record; names of revisions."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("sitter", sa.Column("version", sa.Integer, nullable=False, server_default="1"))
    op.add_column("revision", sa.Column("name", sa.String(80), nullable=True))
    op.create_table(
        "reading",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("sitter_id", sa.String(32), sa.ForeignKey("sitter.id", ondelete="CASCADE"), nullable=False),
        sa.Column("day", sa.Date, nullable=False),
        sa.Column("place", sa.String(30), nullable=False),
        sa.Column("what", sa.String(12), nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_index("ix_reading_sitter_id", "reading", ["sitter_id"])
    op.create_table(
        "tool",
        sa.Column("id", sa.String(60), primary_key=True),
        sa.Column("kind", sa.String(30), nullable=False),
        sa.Column("position", sa.Integer, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_table(
        "named_kit",
        sa.Column("id", sa.String(60), primary_key=True),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("position", sa.Integer, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_table(
        "run",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("sequence_id", sa.String(32), sa.ForeignKey("sequence.id", ondelete="CASCADE"), nullable=False),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("day", sa.Date, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_index("ix_run_sequence_id", "run", ["sequence_id"])
