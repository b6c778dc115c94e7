"""Classes, and who comes to them."""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "class",
        sa.Column("key", sa.String(32), primary_key=True),
        sa.Column("sequence_id", sa.String(32), sa.ForeignKey("sequence.id", ondelete="CASCADE"), nullable=False),
        sa.Column("day", sa.Date, nullable=False),
        sa.Column("version", sa.Integer, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_index("ix_class_sequence_id", "class", ["sequence_id"])
    op.create_index("ix_class_day", "class", ["day"])
    op.create_table(
        "class_student",
        sa.Column("key", sa.String(32), primary_key=True),
        sa.Column("class_key", sa.String(32), sa.ForeignKey("class.key", ondelete="CASCADE"), nullable=False),
        sa.Column("sitter_id", sa.String(32), sa.ForeignKey("sitter.id", ondelete="CASCADE"), nullable=True),
        sa.Column("position", sa.Integer, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_index("ix_class_student_class_key", "class_student", ["class_key"])
    op.create_index("ix_class_student_sitter_id", "class_student", ["sitter_id"])
