"""Accounts and their sign-ins."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "account",
        sa.Column("id", sa.String(16), primary_key=True),
        sa.Column("name", sa.String(60), nullable=False),
        sa.Column("key", sa.String(120), nullable=False, unique=True),
        sa.Column("role", sa.String(12), nullable=False),
        sa.Column("password", sa.String(200), nullable=False),
        sa.Column("made_at", sa.DateTime, nullable=False),
    )
    op.create_table(
        "sign_in",
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("account_id", sa.String(16), sa.ForeignKey("account.id", ondelete="CASCADE"), nullable=False, index=True),
        sa.Column("since", sa.DateTime, nullable=False),
        sa.Column("seen", sa.DateTime, nullable=False),
    )
