"""Plans may be marked as favourites."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("sequence", sa.Column("favourite", sa.Boolean, nullable=False, server_default="0"))
