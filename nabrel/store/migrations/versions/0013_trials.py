"""Trials: two ways of one plan that are worn against each other."""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "trial",
        sa.Column("key", sa.String(32), primary_key=True),
        sa.Column("sequence_id", sa.String(32), sa.ForeignKey("sequence.id", ondelete="CASCADE"), nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_index("ix_trial_sequence_id", "trial", ["sequence_id"])
