"""Students who practise, what they know and answered, and sets of exercises."""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "student",
        sa.Column("key", sa.String(32), primary_key=True),
        sa.Column("name", sa.String(60), nullable=False),
        sa.Column("name_key", sa.String(120), nullable=False, unique=True),
        sa.Column("group", sa.String(120), nullable=False),
        sa.Column("sitter_id", sa.String(32), sa.ForeignKey("sitter.id", ondelete="CASCADE"), nullable=True),
        sa.Column("position", sa.Integer, nullable=False),
    )
    op.create_index("ix_student_sitter_id", "student", ["sitter_id"])
    op.create_table(
        "card",
        sa.Column("student_key", sa.String(32), sa.ForeignKey("student.key", ondelete="CASCADE"), primary_key=True),
        sa.Column("judgement", sa.String(120), primary_key=True),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_table(
        "drill_set",
        sa.Column("key", sa.String(32), primary_key=True),
        sa.Column("code", sa.String(12), nullable=False, unique=True),
        sa.Column("position", sa.Integer, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_table(
        "drill_set_face",
        sa.Column("set_key", sa.String(32), sa.ForeignKey("drill_set.key", ondelete="CASCADE"), primary_key=True),
        sa.Column("sitter_id", sa.String(32), sa.ForeignKey("sitter.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("position", sa.Integer, nullable=False),
    )
    op.create_table(
        "answer",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("student_key", sa.String(32), sa.ForeignKey("student.key", ondelete="CASCADE"), nullable=False),
        sa.Column("set_key", sa.String(32), sa.ForeignKey("drill_set.key", ondelete="SET NULL"), nullable=True),
        sa.Column("place", sa.Integer, nullable=True),
        sa.Column("document", sa.Text, nullable=False),
        sa.UniqueConstraint("student_key", "set_key", "place"),
    )
    op.create_index("ix_answer_student_key", "answer", ["student_key"])
    op.create_index("ix_answer_set_key", "answer", ["set_key"])
