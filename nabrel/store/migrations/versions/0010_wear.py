"""How bases wore: looks at them, hours after."""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "wear",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("sequence_id", sa.String(32), sa.ForeignKey("sequence.id", ondelete="CASCADE"), nullable=False),
        sa.Column("key", sa.String(32), nullable=False, unique=True),
        sa.Column("worn", sa.DateTime, nullable=False),
        sa.Column("worn_from", sa.String(40), nullable=False),
        sa.Column("looks", sa.Integer, nullable=False),
        sa.Column("last_min", sa.Float, nullable=True),
        sa.Column("signs", sa.String(200), nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_index("ix_wear_sequence_id", "wear", ["sequence_id"])
    op.create_index("ix_wear_worn", "wear", ["worn"])
