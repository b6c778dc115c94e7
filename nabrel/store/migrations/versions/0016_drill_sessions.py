"""Drill sessions that outlive a restart, and the one time that a set counts for a student."""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "drill_session",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column("student_key", sa.String(32), sa.ForeignKey("student.key", ondelete="CASCADE"), nullable=True),
        sa.Column("set_key", sa.String(32), sa.ForeignKey("drill_set.key", ondelete="CASCADE"), nullable=True),
        sa.Column("account", sa.String(16), nullable=True),
        sa.Column("used_at", sa.DateTime, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_index("ix_drill_session_student_key", "drill_session", ["student_key"])
    op.create_index("ix_drill_session_set_key", "drill_session", ["set_key"])
    op.create_index("ix_drill_session_account", "drill_session", ["account"])
    op.create_table(
        "drill_asked",
        sa.Column("key", sa.String(32), primary_key=True),
        sa.Column("session_id", sa.String(32), sa.ForeignKey("drill_session.id", ondelete="CASCADE"), nullable=False),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_index("ix_drill_asked_session_id", "drill_asked", ["session_id"])
    op.create_table(
        "drill_take",
        sa.Column("set_key", sa.String(32), sa.ForeignKey("drill_set.key", ondelete="CASCADE"), primary_key=True),
        sa.Column("student_key", sa.String(32), sa.ForeignKey("student.key", ondelete="CASCADE"), primary_key=True),
        sa.Column("seed", sa.Integer, nullable=False),
        sa.Column("begun_at", sa.DateTime, nullable=True),
        sa.Column("ended", sa.Boolean, nullable=False),
    )
