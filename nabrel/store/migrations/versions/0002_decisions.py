"""What an educator decided otherwise about rules and house parameters."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "decision",
        sa.Column("about", sa.String(12), primary_key=True),
        sa.Column("name", sa.String(60), primary_key=True),
        sa.Column("document", sa.Text, nullable=False),
        sa.Column("changed_at", sa.DateTime, nullable=False),
    )
