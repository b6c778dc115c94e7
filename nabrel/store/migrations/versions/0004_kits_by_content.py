"""Kits of revisions are kept once by content; revisions refer to them. Documents stay in the version they were written."""

import hashlib
import json

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "kit_snapshot",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column("document", sa.Text, nullable=False),
    )
    with op.batch_alter_table("revision") as table:
        table.add_column(sa.Column("kit", sa.String(32), sa.ForeignKey("kit_snapshot.id", name="fk_revision_kit"), nullable=True))
        table.create_index("ix_revision_kit", ["kit"])
    connection = op.get_bind()
    known = set()
    ids = [row[0] for row in connection.execute(sa.text("SELECT id FROM revision ORDER BY id"))]
    for number in ids:
        text = connection.execute(sa.text("SELECT document FROM revision WHERE id = :id"), {"id": number}).scalar_one()
        document = json.loads(text)
        items = document.get("case", {}).pop("kit", None)
        if not items:
            continue
        kit = json.dumps({"items": items}, ensure_ascii=False, separators=(",", ":"))
        kit_id = hashlib.sha256(kit.encode()).hexdigest()[:32]
        if kit_id not in known:
            known.add(kit_id)
            connection.execute(
                sa.text("INSERT OR IGNORE INTO kit_snapshot (id, document) VALUES (:id, :document)"),
                {"id": kit_id, "document": kit},
            )
        connection.execute(
            sa.text("UPDATE revision SET document = :document, kit = :kit WHERE id = :id"),
            {"document": json.dumps(document, ensure_ascii=False, separators=(",", ":")), "kit": kit_id, "id": number},
        )


def downgrade() -> None:
    raise NotImplementedError("a kit that was taken out of revisions is not put back")
